import { fixed, type Coverage } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import { Note } from '../frame/Margin.tsx';

/** The shares of heat in one sentence each, for the margin. */
export function CoverageNotes({ coverage, map }: { coverage: Coverage; map: BoardMapBody }) {
  const percent = (share: number) => `${fixed(100 * share, 0)} %`;
  if (map.covers.length === 0)
    return <Note>No cover on this map yet. Add one to see what it would touch and what it would leave bare.</Note>;
  const uneven = coverage.meetings.filter((meeting) => meeting.meeting === 'pad' && meeting.pad!.worstCase.contact === 'none');
  const hits = coverage.meetings.filter((meeting) => meeting.meeting === 'collides');
  const nameOf = (id: string) => map.parts.find((part) => part.id === id)?.name ?? '';
  return (
    <>
      <Note tone="cool" lead={`${percent(coverage.touchedHeatShare)} of the heat`}>
        comes from parts that a cover touches.
      </Note>
      {coverage.bareHeatShare > 0.005 ? (
        <Note tone="caution" lead={`${percent(coverage.bareHeatShare)} is left bare:`}>
          {coverage.parts
            .filter((part) => part.state === 'bare' && part.heatW > 0)
            .slice(0, 4)
            .map((part) => nameOf(part.partId))
            .join(', ')}
          .
        </Note>
      ) : null}
      {coverage.trappedHeatShare > 0 ? (
        <Note tone="heat" lead={`${percent(coverage.trappedHeatShare)} is trapped:`}>
          under a cover that does not touch it, so its air stands still.
        </Note>
      ) : null}
      {uneven.length > 0 ? (
        <Note tone="caution" lead="Uneven heights.">
          At the far end of its tolerance the pad loses{' '}
          {uneven
            .map((meeting) => nameOf(meeting.partId))
            .slice(0, 3)
            .join(', ')}
          .
        </Note>
      ) : null}
      {hits.length > 0 ? (
        <Note tone="heat" lead="Does not fit.">
          {hits
            .map((meeting) => nameOf(meeting.partId))
            .slice(0, 3)
            .join(', ')}{' '}
          {hits.length === 1 ? 'stands' : 'stand'} higher than the cover.
        </Note>
      ) : null}
      {coverage.unplacedHeatShare > 0.005 ? (
        <Note>{percent(coverage.unplacedHeatShare)} is given to no part: it spreads over the board.</Note>
      ) : null}
    </>
  );
}
