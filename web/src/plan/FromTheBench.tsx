import { PackageOpen } from 'lucide-react';
import { useState } from 'react';
import type { PartOfBench } from '@red-ember/contract';
import { takenPart, type FittedPartEntry } from '@red-ember/study';
import { sentenceOf, useBenchPartsQuery } from '../data/api.ts';
import { partColumn, partColumns } from '../parts/partColumns.tsx';
import { Button } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';

interface Of {
  have: readonly FittedPartEntry[];
  /** In which this study counts. */
  currency: string;
  onTake: (part: FittedPartEntry) => void;
}
type Take = (taken: PartOfBench) => void;

const columns = [
  partColumn.display({
    id: 'take',
    header: '',
    cell: ({ row: { original }, table }) => (
      <Button aria-label={`Take ${original.part.name}`} onClick={() => (table.options.meta!.acts as Take)(original)}>
        Take
      </Button>
    ),
  }),
  ...partColumns.filter(({ id }) => id !== 'sound'),
];

/** Parts of the bench, to be taken into this study as they are known there. */
function Choice({ have, currency, onTake }: Of) {
  const { data: parts, error } = useBenchPartsQuery();
  const [said, setSaid] = useState('');
  if (error) return <Notice tone="error">{sentenceOf(error)}</Notice>;
  if (!parts) return <Waiting what="Looking through the bench" />;
  const names = new Set(have.map(({ name }) => name.trim().toLowerCase()));
  const others = parts.filter(({ part }) => !names.has(part.name.trim().toLowerCase()));
  const take: Take = ({ part, currency: priced }) => {
    const foreign = part.price > 0 && priced !== currency;
    onTake(takenPart(crypto.randomUUID(), foreign ? { ...part, price: 0 } : part));
    const without = foreign ? ` Without its price, which is in ${priced}: this study counts in ${currency}.` : '';
    setSaid(`${part.name} is taken. It belongs to all variants until you say to which.${without}`);
  };
  return (
    <>
      <p role="status" className="mb-2 min-h-[1.4em] text-soft">
        {said}
      </p>
      {others.length === 0 ? (
        <Notice tone="hint">The bench has no part that this study has not.</Notice>
      ) : (
        <DataTable label="Parts of the bench" rows={others} columns={columns} sorted={[{ id: 'name', desc: false }]} acts={take} />
      )}
    </>
  );
}

export function FromTheBench({ have, currency, onTake }: Of) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <PackageOpen size={16} aria-hidden /> From the bench
      </Button>
      <Dialogue wide open={open} onClose={() => setOpen(false)} title="Which part of the bench?">
        {open ? <Choice have={have} currency={currency} onTake={onTake} /> : null}
      </Dialogue>
    </>
  );
}
