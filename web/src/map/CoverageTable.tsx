import { fixed, type CoveredPart, type Coverage } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import { DataTable } from '../ui/DataTable.tsx';
import { columnsFor } from '../ui/tableColumns.ts';

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

interface Row {
  part: BoardMapBody['parts'][number];
  heat: Coverage['parts'][number];
  /** How each cover meets it, in words. */
  met: string;
}
const TONES = { touched: '', trapped: 'text-ember-text', bare: 'text-ochre-text' };
const column = columnsFor<Row>();
const COLUMNS = [
  column.accessor(({ part }) => part.name, { id: 'part', header: 'Part', meta: { className: 'font-semibold' } }),
  column.accessor(({ part }) => (part.face === 'top' ? 'upper' : 'under'), {
    id: 'face',
    header: 'face',
    meta: { className: 'text-soft' },
  }),
  column.accessor(({ heat }) => heat.heatW, {
    id: 'heat',
    header: 'heat',
    meta: { number: true },
    cell: ({ getValue }) => `${fixed(getValue(), 2)} W`,
  }),
  column.accessor(({ heat }) => heat.fluxWPerCm2, {
    id: 'density',
    header: 'density',
    meta: { number: true },
    cell: ({ getValue }) => `${fixed(getValue(), 2)} W/cm²`,
  }),
  column.accessor(({ heat }) => STATES[heat.state], {
    id: 'state',
    header: 'state',
    cell: ({ row: { original: row }, getValue }) => <span className={TONES[row.heat.state]}>{getValue()}</span>,
  }),
  column.accessor('met', { header: 'how the covers meet it', meta: { className: 'text-soft' } }),
];

/** Part by part: how dense its heat is, and what each cover does for it. Hottest first. */
export function CoverageTable({ map, coverage }: { map: BoardMapBody; coverage: Coverage }) {
  const rows = coverage.parts.map((heat): Row => {
    const met = coverage.meetings
      .filter((meeting) => meeting.partId === heat.partId)
      .map((meeting) => `${map.covers.find((cover) => cover.id === meeting.coverId)?.name}: ${meetingWords(meeting)}`);
    return { part: map.parts.find((candidate) => candidate.id === heat.partId)!, heat, met: met.join('; ') };
  });
  return <DataTable label="What the covers do" rows={rows} columns={COLUMNS} sorted={[{ id: 'density', desc: true }]} />;
}
