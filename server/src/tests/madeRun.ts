import type { Run } from '@red-ember/contract';
import { rigChannels } from '../rigs/channels.ts';
import { frozenAt } from '../runs/service.ts';
import type { TestBench } from './testBench.ts';

const OFFERED = ['room', 'throughput', 'power', 'level', 'fan', 'utilisation', 'whine'];
/** Two loads after an idle: at the second the power is higher and the fan louder. */
const MADE_PHASES = [
  { kind: 'idle-soak', name: 'Idle', fromS: 0, toS: 600 },
  { kind: 'load', name: 'Quiet', fromS: 600, toS: 1800 },
  { kind: 'load', name: 'Loud', fromS: 1800, toS: 3000 },
] as const;

/** What a made run shows in its three phases, by channel; spots two kelvin apart, the rest as a quiet bench has it. */
export interface Shown {
  /** Rise of the first spot at the two loads, K. */
  top: [number, number];
  /** Instead of what is usual, or channels beside it. */
  more?: Record<string, [number, number, number]>;
  /** Goes on: so many seconds of the first load are there. */
  goesOnAtS?: number;
  /** Of a rig that measures in earnest. */
  real?: boolean;
  /** Made otherwise than a clean run is. */
  made?: Partial<Pick<Run, 'faults' | 'settings' | 'purpose'>> & { ended?: 'finished' | 'stopped' };
}

/** A finished run of constant readings with a wobble, in its phases. */
export function madeRun(
  bench: TestBench,
  studyId: string,
  variantId: string,
  startedAt: string,
  { top, more = {}, goesOnAtS, real = false, made: { ended = 'finished', ...made } = {} }: Shown,
): string {
  const { runs, samples } = bench.services.stores;
  const study = bench.services.studies.get(studyId);
  const offered = [...new Set([...OFFERED, ...Object.keys(more)])];
  const channels = rigChannels(
    study,
    offered.map((key) => ({ key, unit: '' })),
  );
  const id = runs.insert({
    studyId,
    variantId,
    mountId: null,
    source: 'rig',
    sourceName: 'fake',
    simulated: !real,
    state: goesOnAtS === undefined ? 'finished' : 'recording',
    startedAt,
    timeScale: 1,
    ...frozenAt(study, variantId),
    confirmedLocks: [],
    recipe: [],
    armed: [],
    seed: 1,
    channels,
    ...made,
  });
  const lengthS = goesOnAtS === undefined ? 3000 : 600 + goesOnAtS;
  const tMs = Array.from({ length: lengthS / 2 }, (_, i) => 2000 * (i + 1));
  const at = (values: [number, number, number]) =>
    tMs.map((ms, i) => values[ms <= 600_000 ? 0 : ms <= 1_800_000 ? 1 : 2]! + 0.02 * Math.sin(i));
  const shown: Record<string, [number, number, number]> = {
    tc1: [30, 22 + top[0], 22 + top[1]],
    tc2: [30, 20 + top[0], 20 + top[1]],
    room: [22, 22, 22],
    throughput: [0, 60, 60],
    power: [10, 100, 120],
    level: [28, 32, 38],
    fan: [900, 1200, 2000],
    utilisation: [1, 99, 99],
    whine: [20, 20, 20],
    ...more,
  };
  for (const { key } of channels.filter(({ role }) => role !== 'hand')) samples.append(id, key, tMs, at(shown[key]!));
  MADE_PHASES.filter(({ fromS }) => fromS < lengthS).forEach(({ kind, name, fromS, toS }, i) => {
    runs.startPhase(id, i, { kind, name }, fromS * 1000);
    if (toS < lengthS || goesOnAtS === undefined) runs.endPhase(id, i, toS * 1000, 'time');
  });
  runs.setProgress(id, 1, 1000 * lengthS);
  if (goesOnAtS === undefined) runs.setState(id, ended, startedAt, '');
  return id;
}
