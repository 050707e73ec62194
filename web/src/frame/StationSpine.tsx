import { NavLink } from 'react-router';
import { useMountsQuery, useRunsQuery, useStudyQuery } from '../data/api.ts';
import { STATION_NAMES, STATIONS, stationStates, type StationState } from './stations.ts';

const WORDS: Record<StationState, string> = { done: 'done', next: 'next', open: 'not done', trouble: 'needs you' };

function Diamond({ state, current }: { state: StationState; current: boolean }) {
  const fill = current ? 'var(--ember)' : state === 'trouble' ? 'var(--ochre)' : state === 'done' ? 'var(--ink)' : 'var(--paper)';
  const edge = current ? 'var(--ember)' : state === 'trouble' ? 'var(--ochre)' : state === 'open' ? 'var(--stone)' : 'var(--ink)';
  const size = current ? 6.6 : 5;
  return (
    <svg width="20" height="20" viewBox="-10 -10 20 20" aria-hidden className="relative shrink-0">
      <rect x={-size} y={-size} width={2 * size} height={2 * size} transform="rotate(45)" fill={fill} stroke={edge} strokeWidth={1.2} />
      {state === 'next' && !current ? <circle r="1.8" fill="var(--ink)" /> : null}
      {state === 'trouble' ? <rect x="-0.9" y="-4" width="1.8" height="5" fill={current ? 'var(--paper)' : 'var(--ink)'} /> : null}
    </svg>
  );
}

/** The ten stations of the work, in their order; each shows whether it is done, next, or in trouble. */
export function StationSpine({ studyId }: { studyId: string }) {
  const { data: study } = useStudyQuery(studyId);
  const { data: mounts = [] } = useMountsQuery(studyId);
  const { data: runs = [] } = useRunsQuery(studyId);
  const states = study ? stationStates(study, mounts, runs) : null;
  return (
    <nav aria-label="Stations" className="relative lg:mt-7">
      <span aria-hidden className="absolute bottom-3 left-[9.5px] top-3 hidden w-px bg-rule lg:block" />
      <ol className="flex flex-wrap gap-x-4 lg:block">
        {STATIONS.map((station) => {
          const state = states?.[station] ?? 'open';
          return (
            <li key={station}>
              <NavLink to={`/studies/${studyId}/${station}`} className="relative flex items-center gap-2 py-[0.42rem] no-underline">
                {({ isActive }) => (
                  <>
                    <Diamond state={state} current={isActive} />
                    <span className={isActive ? 'font-semibold text-ember-text' : state === 'open' ? 'text-soft' : ''}>
                      {STATION_NAMES[station]}
                    </span>
                    <span className="sr-only">, {WORDS[state]}</span>
                  </>
                )}
              </NavLink>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
