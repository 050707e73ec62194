import { columnsFor } from '../ui/tableColumns.ts';
import { Link } from 'react-router';
import { counted, duration } from '@red-ember/core';
import { goesOn, wentWrong, type RunOfBench } from '@red-ember/contract';
import { beganWords, familyOf } from '@red-ember/study';
import { useBenchRunsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { ZoneNote } from '../frame/ZoneNote.tsx';
import { signedWords, STATES } from '../run/words.ts';
import { timeOf } from '../ui/dates.ts';
import { useTagged } from './useTagged.tsx';
import { BenchList, inStudies, StudyCell } from './BenchList.tsx';

const column = columnsFor<RunOfBench>();
const signedOf = (run: RunOfBench): string => (goesOn(run) ? '' : run.purpose === 'seat-check' ? 'seat check' : signedWords(run));

const columns = [
  column.accessor((run) => `${run.studyTitle} ${familyOf(run.family).name}`, {
    id: 'study',
    header: 'Study',
    cell: ({ row: { original: run } }) => (
      <StudyCell to={`/studies/${run.studyId}/run`} title={run.studyTitle} family={familyOf(run.family).name} />
    ),
  }),
  column.accessor('number', {
    header: 'Run',
    cell: ({ row: { original: run } }) => (
      <Link to={`/studies/${run.studyId}/run/${run.id}`} className="whitespace-nowrap font-semibold">
        run {run.number}
      </Link>
    ),
  }),
  column.accessor((run) => [run.part, run.variant].filter(Boolean).join(' '), {
    id: 'variant',
    header: 'Part and variant',
    cell: ({ row: { original: run } }) => (
      <>
        {run.variant}
        <span className="block text-[0.87rem] text-soft">
          {[run.part, run.mountNumber === null ? '' : `mount ${run.mountNumber}`].filter(Boolean).join(', ')}
        </span>
      </>
    ),
  }),
  column.accessor('startedAt', {
    header: 'Started',
    cell: ({ row: { original: run } }) => beganWords(run, timeOf),
    meta: { className: 'whitespace-nowrap' },
  }),
  column.accessor('lengthS', { header: 'Length', cell: ({ getValue }) => duration(getValue()), meta: { number: true } }),
  column.accessor((run) => `${STATES[run.state]} ${run.source === 'file' ? `from ${run.sourceName}` : ''}`, {
    id: 'state',
    header: 'Ended',
    cell: ({ row: { original: run } }) => (
      <>
        <span className={wentWrong(run) ? 'text-ember-text' : goesOn(run) ? 'font-semibold' : ''}>{STATES[run.state]}</span>
        {run.source === 'file' ? <span className="block break-words text-[0.87rem] text-soft">from {run.sourceName}</span> : null}
      </>
    ),
  }),
  column.accessor((run) => `${signedOf(run)} ${run.tags}`.trim(), {
    id: 'signed',
    header: 'Signed off',
    cell: ({ row: { original: run } }) => (
      <>
        {signedOf(run)}
        {run.tags === '' ? null : <span className="block text-[0.87rem] text-soft">{run.tags}</span>}
      </>
    ),
  }),
];

/** Every run of the bench in one table, to be looked through and sorted: where was that cut-out, and which were never signed off? */
export function AllRunsPage() {
  const asked = useBenchRunsQuery();
  const open = (asked.data ?? []).filter((run) => run.purpose === 'measure' && !goesOn(run) && run.disposition === 'undecided').length;
  const { rows, narrowed, pick } = useTagged(asked.data, ({ tags }) => tags);
  const wrong = (asked.data ?? []).filter(wentWrong).length;
  return (
    <BenchList
      kind="runs"
      asked={{ ...asked, data: rows }}
      headingOf={(all) => `${inStudies('run', all)}${narrowed}`}
      none={{ heading: 'No run on this bench yet.', sentence: 'Runs appear here as they are made, on a rig or out of logs.' }}
      columns={columns}
      sorted={[{ id: 'startedAt', desc: true }]}
      filter={pick}
      margin={
        <>
          <MarginGroup title="At a glance">
            <Note>{open === 0 ? 'Every run that has ended is signed off.' : `${counted(open, 'run')} not signed off yet.`}</Note>
            {wrong > 0 ? <Note tone="caution">{counted(wrong, 'run')} cut out, interrupted or failed.</Note> : null}
            <ZoneNote />
          </MarginGroup>
          <MarginGroup title="Looking">
            <Note>
              A word is looked for in every column: a study, a kind of part, a variant, the name of a file, “cut out”, “not yet”, a tag, a
              day as 2026-03-02. Headings sort.
            </Note>
            <Note>Runs of studies in the trash are not among them.</Note>
          </MarginGroup>
        </>
      }
    />
  );
}
