import { counted, fixed } from '@red-ember/core';
import type { Mount, Run, Study } from '@red-ember/contract';
import { sentenceOf, useTakeMountBackMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { columnsFor } from '../ui/tableColumns.ts';
import { timeOf } from '../ui/dates.ts';

interface MountRow {
  mount: Mount;
  variant: string;
  runs: number;
}
const column = columnsFor<MountRow>();
const COLUMNS = [
  column.accessor('variant', { header: 'Variant' }),
  column.accessor(({ mount }) => mount.number, { id: 'number', header: 'Mount' }),
  column.accessor(({ mount }) => mount.madeAt, { id: 'madeAt', header: 'Made', cell: ({ getValue }) => timeOf(getValue()) }),
  column.accessor(({ mount }) => mount.by, { id: 'by', header: 'By' }),
  column.accessor(({ mount }) => mount.handsMin, {
    id: 'hands',
    header: 'Hands',
    meta: { number: true },
    cell: ({ getValue }) => (getValue() === null ? '' : `${fixed(getValue()!, 0)} min`),
  }),
  column.accessor('runs', { header: 'Runs', meta: { number: true } }),
  column.accessor(
    ({ mount }) =>
      [
        mount.note,
        mount.skipped.length > 0 ? `left out: ${mount.skipped.join('; ')}` : '',
        mount.photos.length > 0 ? counted(mount.photos.length, 'photograph') : '',
      ]
        .filter(Boolean)
        .join(' · '),
    { id: 'note', header: 'Note', meta: { className: 'text-soft' } },
  ),
];

/** Every mount of the study, the newest first; the last one can be taken back while nothing rests on it. */
export function MountsTable({ study, mounts, runs }: { study: Study; mounts: Mount[]; runs: Run[] }) {
  const [takeBack, taking] = useTakeMountBackMutation();
  if (mounts.length === 0) return null;
  const nameOf = (id: string) => study.variants.find((variant) => variant.id === id)?.name ?? '';
  const ofMount = (id: string) => runs.filter((run) => run.mountId === id);
  const last = mounts.at(-1)!;
  const rows = mounts.map((mount) => ({ mount, variant: nameOf(mount.variantId), runs: ofMount(mount.id).length }));
  return (
    <Section
      title="Mounts so far"
      action={
        ofMount(last.id).length === 0 ? (
          <Button look="quiet" disabled={taking.isLoading} onClick={() => void takeBack(last.id)}>
            Take the last one back
          </Button>
        ) : undefined
      }
    >
      {taking.error ? <Notice tone="error">{sentenceOf(taking.error)}</Notice> : null}
      <DataTable label="Mounts so far" rows={rows} columns={COLUMNS} sorted={[{ id: 'madeAt', desc: true }]} />
    </Section>
  );
}
