import { clock, duration } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { DataTable } from '../../ui/DataTable.tsx';
import { Section } from '../../ui/Section.tsx';
import { columnsFor } from '../../ui/tableColumns.ts';

const ENDINGS: Record<string, string> = {
  time: 'its time was over',
  settled: 'settled',
  read: 'known where it settles',
  cap: 'reached its cap',
  stopped: 'stopped by hand',
  'cut-out': 'cut out',
  'rig-lost': 'rig lost',
  interrupted: 'the load went off',
  intervention: 'something was changed',
  paused: 'paused',
  resumed: 'gone on',
  'by-hand': 'ended by hand',
  file: 'as mapped at import',
};

const column = columnsFor<{ phase: Run['phases'][number]; endS: number }>();
const COLUMNS = [
  column.accessor(({ phase }) => phase.name, { id: 'name', header: 'Phase' }),
  column.accessor(({ phase }) => phase.startS, {
    id: 'from',
    header: 'From',
    meta: { number: true },
    cell: ({ getValue }) => clock(getValue()),
  }),
  column.accessor(({ phase, endS }) => endS - phase.startS, {
    id: 'length',
    header: 'Length',
    meta: { number: true },
    cell: ({ getValue }) => duration(getValue()),
  }),
  column.accessor(({ phase }) => ENDINGS[phase.endedBy ?? ''] ?? phase.endedBy ?? '', { id: 'endedBy', header: 'Ended by' }),
];

/** The phases of a run as they went, and what ended each. */
export function PhasesTable({ run }: { run: Run }) {
  const rows = run.phases.map((phase) => ({ phase, endS: phase.endS ?? run.lengthS }));
  return (
    <Section title="Phases">
      <div className="max-w-2xl">
        <DataTable label="Phases" rows={rows} columns={COLUMNS} />
      </div>
    </Section>
  );
}
