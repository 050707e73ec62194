import { clock, fixed, whichFirst, type Onset } from '@red-ember/core';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Run, Study } from '@red-ember/contract';
import { sentenceOf, useReactionsQuery } from '../data/api.ts';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';

const WHY: Record<Exclude<Onset['why'], null>, string> = {
  still: 'did not move',
  moving: 'still on its way from before',
  'too-few': 'too few readings',
};

function OnsetCell({ onset }: { onset: Onset | undefined }) {
  if (!onset) return <td />;
  const { afterS, goes, why } = onset;
  return afterS ? (
    <td className="num whitespace-nowrap">
      {fixed(afterS.value, 0)} ± {fixed(Math.max(1, 2 * afterS.u), 0)} s, {goes}
    </td>
  ) : (
    <td className="num text-[0.87rem] text-soft">{WHY[why ?? 'still']}</td>
  );
}

/** When each spot began to move after each change of a run, and which of them was first. */
export function Reactions({ study, run }: { study: Study; run: Run }) {
  const readable = run.phases.length > 1 && run.channels.filter(({ role }) => role === 'spot').length > 1;
  const { data, error } = useReactionsQuery(readable ? run.id : skipToken);
  if (!readable) return null;
  const nameOf = (spotId: string) => study.spots.find((spot) => spot.id === spotId)?.name ?? spotId;
  const shown = data?.runId === run.id ? data : undefined;
  const ids = shown?.reactions[0]?.spots.map(({ spotId }) => spotId) ?? [];
  return (
    <Section title="Which reacts first" hint="from the change to when a spot begins to move; ± at 95 %">
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {!shown && !error ? <Waiting what="Looking" /> : null}
      {shown ? (
        <>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Which reacts first">
            <table className="plain-table">
              <thead>
                <tr>
                  <th>Change</th>
                  <th className="num">at</th>
                  {ids.map((spotId) => (
                    <th key={spotId} className="num">
                      {nameOf(spotId)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {shown.reactions.map((reaction) => (
                  <tr key={reaction.atS}>
                    <td className="min-w-48">
                      {reaction.name}
                      <span className="block text-[0.87rem] text-soft">{whichFirst(reaction, nameOf)}</span>
                    </td>
                    <td className="num">{clock(reaction.atS)}</td>
                    {ids.map((spotId) => (
                      <OnsetCell key={spotId} onset={reaction.spots.find((spot) => spot.spotId === spotId)?.onset} />
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="mt-2 max-w-3xl text-[0.93rem] text-soft">
            First is not yet the cause: a sensor’s own lag is in its time. Change one part’s load alone to see whether it heats another.
            {shown.leftOut.changes + shown.leftOut.spots > 0
              ? ` Left out: ${shown.leftOut.changes} more changes, ${shown.leftOut.spots} more spots.`
              : ''}
          </p>
        </>
      ) : null}
    </Section>
  );
}
