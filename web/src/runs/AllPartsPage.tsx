import { Link, useSearchParams } from 'react-router';
import { counted } from '@red-ember/core';
import { tagsOf } from '@red-ember/study';
import { useBenchPartsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Pick } from '../ui/Pick.tsx';
import { BenchList } from './BenchList.tsx';
import { partColumn, partColumns } from '../plan/partColumns.tsx';

const columns = [
  ...partColumns,
  partColumn.accessor(({ studies }) => studies.map(({ title }) => title).join(' '), {
    id: 'studies',
    header: 'Put on in',
    cell: ({ row: { original } }) => (
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

/** Every cooler, pad, paste and fan that some study puts on, once. */
export function AllPartsPage() {
  const asked = useBenchPartsQuery();
  const [search, setSearch] = useSearchParams();
  const tags = tagsOf({ tags: asked.data?.map(({ part }) => part.tags ?? '').join(',') ?? '' }).sort((p, q) => p.localeCompare(q));
  // A tag that was taken off the last part since this address was written narrows nothing down.
  const tag = tags.find((known) => known === search.get('tag')) ?? '';
  const rows = asked.data?.filter(({ part }) => tag === '' || tagsOf(part).some((own) => own.toLowerCase() === tag.toLowerCase()));
  return (
    <BenchList
      kind="parts"
      asked={{ ...asked, data: rows }}
      headingOf={(all) => `${counted(all.length, 'part')} to put on${tag === '' ? '' : `, tagged ${tag}`}`}
      none={{
        heading: 'No study puts anything on yet.',
        sentence: 'Coolers, sinks, pads, pastes and fans appear here as studies put them on.',
      }}
      columns={columns}
      sorted={[{ id: 'name', desc: false }]}
      filter={
        tags.length > 0 ? (
          <p className="mb-3">
            <Pick
              label="Tag"
              value={tag}
              options={[{ value: '', label: 'any' }, ...tags.map((known) => ({ value: known, label: known }))]}
              onChange={(chosen) => setSearch(chosen === '' ? {} : { tag: chosen }, { replace: true })}
            />
          </p>
        ) : null
      }
      margin={
        <MarginGroup title="Where they stand">
          <Note>
            Parts are written down in studies, at Plan. Two studies speak of one part where its name, kind, size and serial number are the
            same; what else is said of it is what the study says that was changed last.
          </Note>
          <Note>“From the bench”, at Plan, takes them into another study.</Note>
        </MarginGroup>
      }
    />
  );
}
