import { clock } from '@red-ember/core';
import { DataTable } from '../../ui/DataTable.tsx';
import { columnsFor } from '../../ui/tableColumns.ts';

export interface TimedRow {
  id: string;
  atS: number;
  what: string;
  text: string;
  /** Where it can be taken back. */
  takeBack?: () => void;
}

const column = columnsFor<TimedRow>();
const COLUMNS = [
  column.accessor('atS', { header: 'At', meta: { number: true }, cell: ({ getValue }) => clock(getValue()) }),
  column.accessor('what', { header: 'What', meta: { className: 'whitespace-nowrap text-soft' } }),
  column.accessor('text', {
    header: 'In words',
    cell: ({ row: { original: row } }) => (
      <>
        {row.text}
        {row.takeBack ? (
          <>
            {' '}
            <button type="button" className="text-soft underline underline-offset-4" onClick={row.takeBack}>
              Take it back
            </button>
          </>
        ) : null}
      </>
    ),
  }),
];

/** What happened, in the order in which it came; it scrolls within itself where it is long. */
export const TimedTable = ({ label, rows }: { label: string; rows: TimedRow[] }) => (
  <div className="max-h-80 max-w-3xl overflow-y-auto" tabIndex={0} role="region" aria-label={label}>
    <DataTable label={label} rows={rows} columns={COLUMNS} idOf={({ id }) => id} sorted={[{ id: 'atS', desc: false }]} />
  </div>
);
