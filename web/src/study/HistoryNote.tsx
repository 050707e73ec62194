import { useState } from 'react';
import type { MovedResult } from '@red-ember/contract';
import { useHistoryQuery } from '../data/api.ts';
import { Note } from '../frame/Margin.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { columnsFor } from '../ui/tableColumns.ts';
import { Dialogue } from '../ui/Dialogue.tsx';
import { timeOf } from '../ui/dates.ts';

const column = columnsFor<MovedResult>();
const COLUMNS = [
  column.accessor('what', { header: 'Result' }),
  column.accessor('before', { header: 'before' }),
  column.accessor('after', { header: 'after' }),
];

/** Changes to a study, newest first, with the results that each of them moved. */
export function HistoryNote({ studyId }: { studyId: string }) {
  const { data: entries = [] } = useHistoryQuery(studyId);
  const [open, setOpen] = useState(false);
  if (entries.length === 0) return <Note>Not changed since it was written.</Note>;
  const moving = entries.filter((entry) => entry.moved.length > 0).length;
  return (
    <>
      <Note tone={moving > 0 ? 'caution' : 'plain'}>
        Changed {entries.length === 1 ? 'once' : `${entries.length} times`}
        {moving > 0 ? `; ${moving === 1 ? 'one change' : `${moving} changes`} moved results` : ''}.{' '}
        <button type="button" className="underline hover:text-soft" onClick={() => setOpen(true)}>
          History
        </button>
      </Note>
      <Dialogue open={open} onClose={() => setOpen(false)} title="What was changed, and what it moved" wide>
        <ol className="grid gap-4">
          {entries.map((entry) => (
            <li key={entry.id} className="border-t border-rule pt-3">
              <p className="text-[0.93rem] text-soft">{[timeOf(entry.at), entry.by].filter(Boolean).join(', ')}</p>
              <p className="font-semibold">{entry.changed.length > 0 ? entry.changed.join(', ') : 'saved without a change'}</p>
              {entry.moved.length > 0 ? (
                <DataTable label={`Results that moved, ${timeOf(entry.at)}`} rows={entry.moved} columns={COLUMNS} />
              ) : (
                <p className="text-[0.93rem] text-soft">No result moved.</p>
              )}
            </li>
          ))}
        </ol>
      </Dialogue>
    </>
  );
}
