import { columnsFor } from '../ui/tableColumns.ts';
import { Link } from 'react-router';
import { fixed } from '@red-ember/core';
import type { PracticeAttempt, PracticeExercise } from '@red-ember/contract';
import { usePutPracticeAwayMutation } from '../data/api.ts';
import { DataTable } from '../ui/DataTable.tsx';
import { CALL_MARKS } from './words.ts';
import { timeOf } from '../ui/dates.ts';

interface Acts {
  again: (attempt: PracticeAttempt) => void;
  away: (studyId: string) => void;
  /** Exercises that there are: a try at another, or at a study, cannot be drawn again. */
  known: ReadonlySet<string>;
}

const column = columnsFor<PracticeAttempt>();

function trapWords({ marks }: PracticeAttempt): string {
  if (!marks) return '';
  const parts = [
    ...(marks.missed.length > 0 ? ['missed'] : marks.found.length > 0 ? ['found'] : ['nothing to find']),
    ...(marks.imagined.length > 0 ? [`${marks.imagined.length} imagined`] : []),
  ];
  return parts.join(', ');
}

const columns = [
  column.accessor('title', {
    header: 'Exercise',
    cell: ({ row: { original: attempt } }) => <Link to={`/studies/${attempt.studyId}/practice`}>{attempt.title}</Link>,
  }),
  column.accessor('begunAt', {
    header: 'Begun',
    cell: ({ getValue }) => timeOf(getValue()),
    meta: { className: 'whitespace-nowrap' },
  }),
  column.accessor('seed', { header: 'Seed', meta: { number: true } }),
  column.accessor((attempt) => (attempt.marks ? CALL_MARKS[attempt.marks.call] : 'not handed in'), { id: 'call', header: 'Call' }),
  column.accessor(trapWords, { id: 'trap', header: 'What was wrong' }),
  column.accessor((attempt) => attempt.marks?.hours ?? null, {
    id: 'hours',
    header: 'Bench hours',
    cell: ({ row: { original: attempt } }) =>
      attempt.marks ? `${fixed(attempt.marks.hours, 1)} of ${fixed(attempt.marks.goodHours, 1)}` : '',
    meta: { number: true },
  }),
  column.accessor('hints', { header: 'Hints', meta: { number: true } }),
  column.display({
    id: 'acts',
    header: '',
    cell: ({ row: { original: attempt }, table }) => {
      const { again, away, known } = table.options.meta!.acts as Acts;
      return (
        <span className="flex flex-wrap gap-x-3 text-[0.87rem]">
          {known.has(attempt.exercise) ? (
            <button
              type="button"
              className="underline"
              aria-label={`Draw ${attempt.title} with seed ${attempt.seed} again`}
              onClick={() => again(attempt)}
            >
              Same again
            </button>
          ) : null}
          <button
            type="button"
            className="underline"
            aria-label={`Put ${attempt.title} with seed ${attempt.seed} away`}
            onClick={() => away(attempt.studyId)}
          >
            Put away
          </button>
        </span>
      );
    },
  }),
];

/** Tries at exercises, and what came of them. */
export function Attempts({
  attempts,
  exercises,
  onAgain,
}: {
  attempts: PracticeAttempt[];
  exercises: readonly PracticeExercise[];
  onAgain: (attempt: PracticeAttempt) => void;
}) {
  const [putAway] = usePutPracticeAwayMutation();
  const acts: Acts = { again: onAgain, away: (studyId) => void putAway(studyId), known: new Set(exercises.map(({ key }) => key)) };
  return (
    <div className="overflow-x-auto" tabIndex={0}>
      <DataTable label="Tries at exercises" rows={attempts} columns={columns} sorted={[{ id: 'begunAt', desc: true }]} acts={acts} />
    </div>
  );
}
