import { Plus } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { counted } from '@red-ember/core';
import type { PartOfBench } from '@red-ember/contract';
import { useBenchPartsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { BenchList } from '../runs/BenchList.tsx';
import { useTagged } from '../runs/useTagged.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { KeptPartDialog } from './KeptPartDialog.tsx';
import { belowPart, idOf, partColumn, partColumns, wordsOfPart } from './partColumns.tsx';

const NEW = 'new';

/** The address of this page with that part open, or none, beside its tag. */
function withPart(search: URLSearchParams, id: string): string {
  const next = new URLSearchParams(search);
  if (id === '') next.delete('part');
  else next.set('part', id);
  return `?${next}`;
}

function NameCell({ entry }: { entry: PartOfBench }) {
  const [search] = useSearchParams();
  const [first] = entry.kept?.photos ?? [];
  return (
    <>
      {first ? (
        <img src={`/api/v1/part-photos/${first.id}`} alt="" loading="lazy" className="float-left mr-3 h-10 w-12 object-cover" />
      ) : null}
      <Link className="font-semibold underline" to={withPart(search, idOf(entry))}>
        {entry.part.name}
      </Link>
      <span className="block text-[0.87rem] text-soft">{belowPart(entry)}</span>
    </>
  );
}

const columns = [
  partColumn.accessor(wordsOfPart, { id: 'name', header: 'Part', cell: ({ row: { original } }) => <NameCell entry={original} /> }),
  ...partColumns.filter(({ id }) => id !== 'name'),
  partColumn.accessor(({ studies }) => studies.map(({ title }) => title).join(' '), {
    id: 'studies',
    header: 'Put on in',
    cell: ({ row: { original } }) =>
      original.studies.length === 0 ? (
        <span className="text-soft">no study yet</span>
      ) : (
        <ul>
          {original.studies.map(({ id, title }) => (
            <li key={id}>
              <Link to={`/studies/${id}/plan/parts`}>{title}</Link>
            </li>
          ))}
        </ul>
      ),
  }),
];

/** Every cooler, pad, paste and fan that some study puts on or that is kept on the bench, once. */
export function AllPartsPage() {
  const asked = useBenchPartsQuery();
  const [search, setSearch] = useSearchParams();
  const partId = search.get('part') ?? '';
  const open = (id: string) => setSearch(withPart(search, id));
  const entry = asked.data?.find((one) => idOf(one) === partId) ?? null;
  const { rows, narrowed, pick } = useTagged(asked.data, ({ part }) => part.tags);
  return (
    <>
      <BenchList
        kind="parts"
        asked={{ ...asked, data: rows }}
        headingOf={(all) => `${counted(all.length, 'part')} to put on${narrowed}`}
        none={{
          heading: 'No part is written down yet.',
          sentence: 'Coolers, sinks, pads, pastes and fans appear here as studies put them on, or as they are written down here.',
        }}
        columns={columns}
        sorted={[{ id: 'name', desc: false }]}
        action={
          <div className="mb-3">
            <Button onClick={() => open(NEW)}>
              <Plus size={16} aria-hidden /> Write a part down
            </Button>
            {partId !== '' && partId !== NEW && !entry && asked.data && !asked.isFetching ? (
              <Notice tone="hint">The part of this address is not on the bench any longer.</Notice>
            ) : null}
          </div>
        }
        filter={pick}
        margin={
          <MarginGroup title="Where they stand">
            <Note>
              Parts are written down in studies, at Plan, or here, whether a study puts them on or not. Two speak of one part where its
              name, kind, size and serial number are the same; what else is said of it is what was written down last.
            </Note>
            <Note>“From the bench”, at Plan, takes them into another study. A part that is kept here can be photographed.</Note>
          </MarginGroup>
        }
      />
      {partId === NEW || entry ? (
        <KeptPartDialog key={partId} entry={partId === NEW ? null : entry} onClose={() => open('')} onKept={open} />
      ) : null}
    </>
  );
}
