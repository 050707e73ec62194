import { fixed, type CoveredPart, type Coverage } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';

const STATES = { touched: 'touched', trapped: 'under a cover, not touched', bare: 'bare' };
const CONTACTS = { none: 'no contact', light: 'light contact', good: 'good contact', 'over-compressed': 'crushed' };

function meetingWords(meeting: CoveredPart): string {
  const gap = `gap ${fixed(meeting.gapMm, 2)} mm`;
  switch (meeting.meeting) {
    case 'collides':
      return `stands ${fixed(-meeting.gapMm, 2)} mm into it`;
    case 'direct':
      return 'metal on part';
    case 'air':
      return meeting.pad ? `${gap}, pad does not reach` : `${gap}, no pad`;
    case 'pad': {
      const worst = meeting.pad!.worstCase.contact;
      const drop = meeting.pad!.dropK;
      return `${gap}, ${CONTACTS[meeting.contact!]}${worst === meeting.contact ? '' : `, at worst ${CONTACTS[worst]}`}${drop === null ? '' : `, costs ${fixed(drop, 1)} K`}`;
    }
  }
}

/** Part by part: how dense its heat is, and what each cover does for it. Hottest first. */
export function CoverageTable({ map, coverage }: { map: BoardMapBody; coverage: Coverage }) {
  const parts = [...coverage.parts].sort((p, q) => q.fluxWPerCm2 - p.fluxWPerCm2);
  return (
    <table className="plain-table">
      <thead>
        <tr>
          <th>Part</th>
          <th>face</th>
          <th className="num">heat</th>
          <th className="num">density</th>
          <th>state</th>
          <th>how the covers meet it</th>
        </tr>
      </thead>
      <tbody>
        {parts.map((heat) => {
          const part = map.parts.find((candidate) => candidate.id === heat.partId)!;
          const meetings = coverage.meetings.filter((meeting) => meeting.partId === heat.partId);
          return (
            <tr key={heat.partId}>
              <td className="font-semibold">{part.name}</td>
              <td className="text-soft">{part.face === 'top' ? 'upper' : 'under'}</td>
              <td className="num">{fixed(heat.heatW, 2)} W</td>
              <td className="num">{fixed(heat.fluxWPerCm2, 2)} W/cm²</td>
              <td className={heat.state === 'touched' ? '' : heat.state === 'trapped' ? 'text-ember-text' : 'text-ochre-text'}>
                {STATES[heat.state]}
              </td>
              <td className="text-soft">
                {meetings
                  .map((meeting) => `${map.covers.find((cover) => cover.id === meeting.coverId)?.name}: ${meetingWords(meeting)}`)
                  .join('; ')}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
