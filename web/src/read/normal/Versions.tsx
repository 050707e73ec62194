import { Link } from 'react-router';
import { counted } from '@red-ember/core';
import type { SignatureVersion, VariantNormal } from '@red-ember/contract';
import { DataTable } from '../../ui/DataTable.tsx';
import { timeOf } from '../../ui/dates.ts';
import { Section } from '../../ui/Section.tsx';
import { columnsFor } from '../../ui/tableColumns.ts';
import { movedWords } from './featureWords.ts';

type Row = SignatureVersion & { own: boolean; words: string[]; isFirst: boolean };
const column = columnsFor<Row>();
const columns = [
  column.accessor('version', { header: 'Version', meta: { number: true } }),
  column.accessor((row) => row.study.title, {
    id: 'study',
    header: 'Learnt in',
    cell: ({ row: { original: row } }) =>
      row.own ? 'this study' : <Link to={`/studies/${row.study.id}/read/normal`}>{row.study.title}</Link>,
  }),
  column.accessor((row) => row.of.join(', '), { id: 'runs', header: 'From runs', enableSorting: false }),
  column.accessor('madeAt', { header: 'Kept', cell: ({ getValue }) => timeOf(getValue()) }),
  column.accessor((row) => row.words.join(' '), {
    id: 'moved',
    header: 'Against the version before',
    enableSorting: false,
    cell: ({ row: { original: row } }) =>
      row.words.length > 0 ? (
        <ul>
          {row.words.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      ) : (
        <span className="text-soft">{row.isFirst ? 'the first' : 'nothing changed'}</span>
      ),
  }),
];

/** What the bench knew of this part and set-up at which time, over all studies of it. */
export function Versions({ normal, studyId, nameOf }: { normal: VariantNormal; studyId: string; nameOf: (id: string) => string }) {
  const { versions, normals } = normal;
  if (versions.length === 0) return null;
  const rows = versions.map((version, i): Row => ({
    ...version,
    own: version.study.id === studyId,
    words: movedWords(version.moved, normals, nameOf),
    isFirst: i === versions.length - 1,
  }));
  return (
    <Section title="Kept on the bench">
      <p className="mb-2 text-[0.93rem] text-soft">
        What the bench has learnt of this part and set-up, in {counted(versions.length, 'version')}. Another study of the same part, cooler,
        locks and load is held against the newest until it has two clean runs of its own.
      </p>
      <div className="overflow-x-auto" tabIndex={0}>
        <DataTable label="Versions of what is normal" rows={rows} columns={columns} sorted={[{ id: 'version', desc: true }]} />
      </div>
    </Section>
  );
}
