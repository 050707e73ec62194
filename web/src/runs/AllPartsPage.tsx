import { Link } from 'react-router';
import { counted } from '@red-ember/core';
import { useBenchPartsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
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
  return (
    <BenchList
      kind="parts"
      asked={asked}
      headingOf={(all) => `${counted(all.length, 'part')} to put on`}
      none={{
        heading: 'No study puts anything on yet.',
        sentence: 'Coolers, sinks, pads, pastes and fans appear here as studies put them on.',
      }}
      columns={columns}
      sorted={[{ id: 'name', desc: false }]}
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
