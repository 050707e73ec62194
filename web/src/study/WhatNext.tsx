import { capital, duration, fixed, type NextAct } from '@red-ember/core';
import { useNextQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';

/** So many acts are worth reading between two runs. */
const SHOWN = 3;

function actWords({ kind, minutes, decides }: NextAct): string {
  const time = minutes > 0 ? `about ${duration(60 * minutes)}` : 'no time at the bench';
  return kind !== 'stop' && decides !== null ? `${time}, decides it with ${fixed(100 * decides, 0)} % chance` : time;
}

/** What to do next about a comparison, most decided for an hour at the bench first. */
export function WhatNext({ studyId, query = {} }: { studyId: string; query?: Omit<Parameters<typeof useNextQuery>[0], 'studyId'> }) {
  const { text } = useDegrees();
  const { data: next } = useNextQuery({ studyId, ...query });
  if (!next) return null;
  const acts = next.acts.filter(({ kind }) => kind !== 'stop').slice(0, SHOWN);
  return (
    <MarginGroup title="What to do next">
      <Note tone={next.acts[0]?.kind === 'stop' ? 'cool' : 'plain'}>{text(next.sentence)}</Note>
      {acts.length > 1
        ? acts.map((act) => (
            <Note key={act.what} lead={`${capital(act.what)}:`}>
              {actWords(act)}.
            </Note>
          ))
        : acts.filter(({ minutes }) => minutes > 0).map((act) => <Note key={act.what}>It takes {actWords(act)}.</Note>)}
    </MarginGroup>
  );
}
