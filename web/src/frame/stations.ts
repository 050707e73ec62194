import { goesOn, wentWrong, type Mount, type Run, type Study } from '@red-ember/contract';

export const STATIONS = ['ask', 'look', 'equip', 'hold', 'plan', 'mount', 'run', 'read', 'judge', 'report'] as const;
export type Station = (typeof STATIONS)[number];

export const STATION_NAMES: Record<Station, string> = {
  ask: 'Ask',
  look: 'Look',
  equip: 'Equip',
  hold: 'Hold',
  plan: 'Plan',
  mount: 'Mount',
  run: 'Run',
  read: 'Read',
  judge: 'Judge',
  report: 'Report',
};

export type StationState = 'done' | 'next' | 'open' | 'trouble';

const ended = (run: Run) => !goesOn(run);

/** How far each station is: the first that is not done is next; trouble is something that needs the tester. Checks of the seat are no runs. */
export function stationStates(study: Study, mounts: readonly Mount[], all: readonly Run[]): Record<Station, StationState> {
  const runs = all.filter((run) => run.purpose === 'measure');
  const done: Record<Station, boolean> = {
    ask: study.question.trim() !== '' && study.claims.length > 0,
    look: study.spots.length > 0,
    equip: study.spots.length > 0 && study.spots.every((spot) => spot.channel !== '' && spot.sensor !== ''),
    hold: study.locks.length > 0,
    plan:
      study.variants.length >= 2 &&
      study.recipe.some((phase) => phase.kind === 'load' || phase.kind === 'sweep' || phase.kind === 'change'),
    mount:
      study.variants.length > 0 &&
      study.variants.every(
        (variant) => mounts.some((mount) => mount.variantId === variant.id) || runs.some((run) => run.variantId === variant.id),
      ),
    run: study.variants.length >= 2 && study.variants.every((variant) => runs.some((run) => run.variantId === variant.id && ended(run))),
    read: runs.some(ended),
    judge:
      study.variants.length >= 2 &&
      study.variants.every((variant) => runs.some((run) => run.variantId === variant.id && run.state === 'finished')),
    report: false,
  };
  const states = Object.fromEntries(STATIONS.map((station) => [station, done[station] ? 'done' : 'open'])) as Record<Station, StationState>;
  if (runs.some((run) => wentWrong(run) && run.disposition === 'undecided')) states.run = 'trouble';
  const next = STATIONS.find((station) => states[station] === 'open');
  if (next) states[next] = 'next';
  return states;
}
