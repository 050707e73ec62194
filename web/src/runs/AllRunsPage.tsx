import { columnsFor } from '../ui/tableColumns.ts';
import { Link } from 'react-router';
import { counted, duration } from '@red-ember/core';
import { goesOn, wentWrong, type RunOfBench } from '@red-ember/contract';
import { beganWords, familyOf } from '@red-ember/study';
import { sentenceOf, useBenchRunsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { DISPOSITIONS, STATES } from '../run/words.ts';
import { Button, ButtonLink } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { timeOf } from '../ui/dates.ts';

const column = columnsFor<RunOfBench>();

const columns = [
  column.accessor((run) => `${run.studyTitle} ${familyOf(run.family).name}`, {
    id: 'study',
    header: 'Study',
    cell: ({ row: { original: run } }) => (
      <>
        <Link to={`/studies/${run.studyId}/run`}>{run.studyTitle}</Link>
        <span className="block text-[0.87rem] text-soft">{familyOf(run.family).name}</span>
      </>
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
  column.accessor((run) => (goesOn(run) ? '' : run.purpose === 'seat-check' ? 'seat check' : DISPOSITIONS[run.disposition]), {
    id: 'signed',
    header: 'Signed off',
  }),
];

function headingOf(runs: readonly RunOfBench[]): string {
  if (runs.length === 0) return 'No run on this bench yet.';
  const studies = new Set(runs.map(({ studyId }) => studyId)).size;
  return `${counted(runs.length, 'run')} in ${studies === 1 ? 'one study' : `${studies} studies`}`;
}

/** Every run of the bench in one table, to be looked through and sorted: where was that cut-out, and which were never signed off? */
export function AllRunsPage() {
  const { data: runs, error, isLoading, refetch } = useBenchRunsQuery();
  const open = (runs ?? []).filter((run) => run.purpose === 'measure' && !goesOn(run) && run.disposition === 'undecided').length;
  const wrong = (runs ?? []).filter(wentWrong).length;
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="All runs"
      heading={runs ? headingOf(runs) : 'All runs'}
      margin={
        <>
          <MarginGroup title="At a glance">
            <Note>{open === 0 ? 'Every run that has ended is signed off.' : `${counted(open, 'run')} not signed off yet.`}</Note>
            {wrong > 0 ? <Note tone="caution">{counted(wrong, 'run')} cut out, interrupted or failed.</Note> : null}
          </MarginGroup>
          <MarginGroup title="Looking">
            <Note>
              A word is looked for in every column: a study, a kind of part, a variant, the name of a file, “cut out”, “not yet”, a day as
              2026-03-02. Headings sort.
            </Note>
            <Note>Runs of studies in the trash are not among them.</Note>
          </MarginGroup>
        </>
      }
    >
      {isLoading ? <Waiting what="Looking through the bench" /> : null}
      {error ? (
        <Notice tone="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Notice>
      ) : null}
      {runs && runs.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to="/">To the shelf</ButtonLink>}>
          Runs appear here as they are made, on a rig or out of logs.
        </Notice>
      ) : null}
      {runs && runs.length > 0 ? (
        <div className="overflow-x-auto" tabIndex={0}>
          <DataTable label="Runs of the bench" rows={runs} columns={columns} sorted={[{ id: 'startedAt', desc: true }]} />
        </div>
      ) : null}
    </Sheet>
  );
}
