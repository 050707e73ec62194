import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { RowData, SortingState } from '@tanstack/react-table';
import { counted } from '@red-ember/core';
import { sentenceOf } from '../data/api.ts';
import { Sheet } from '../frame/Sheet.tsx';
import { Button, ButtonLink } from '../ui/Button.tsx';
import { DataTable } from '../ui/DataTable.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import type { ColumnOf } from '../ui/tableColumns.ts';
import { BenchTabs } from './BenchTabs.tsx';

interface Asked<T> {
  data?: readonly T[] | undefined;
  error?: Parameters<typeof sentenceOf>[0] | undefined;
  isLoading: boolean;
  refetch: () => unknown;
}

/** “12 runs in 3 studies”. */
export const inStudies = (one: string, entries: readonly { studyId: string }[]): string => {
  const studies = new Set(entries.map(({ studyId }) => studyId)).size;
  return `${counted(entries.length, one)} in ${studies === 1 ? 'one study' : `${studies} studies`}`;
};

/** One list of the whole bench: all there is of a kind, to be looked through and sorted. */
export function BenchList<T extends RowData>({
  kind,
  asked,
  headingOf,
  none,
  columns,
  sorted,
  action,
  filter,
  margin,
}: {
  /** As in "All runs". */
  kind: string;
  asked: Asked<T>;
  headingOf: (rows: readonly T[]) => string;
  /** Where they come from, where there is none yet. */
  none: { heading: string; sentence: string };
  columns: readonly ColumnOf<T>[];
  sorted: SortingState;
  /** What can be added here, where anything can. */
  action?: ReactNode;
  /** What narrows the rows down, where there is something to choose from. */
  filter?: ReactNode;
  margin: ReactNode;
}) {
  const { data: rows, error, isLoading, refetch } = asked;
  const title = `All ${kind}`;
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle={title}
      heading={!rows ? title : rows.length === 0 ? none.heading : headingOf(rows)}
      margin={margin}
    >
      <BenchTabs />
      {action}
      {isLoading ? <Waiting what="Looking through the bench" /> : null}
      {error ? (
        <Notice tone="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Notice>
      ) : null}
      {rows?.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to="/">To the shelf</ButtonLink>}>
          {none.sentence}
        </Notice>
      ) : null}
      {rows && rows.length > 0 ? filter : null}
      {rows && rows.length > 0 ? (
        <div className="overflow-x-auto" tabIndex={0}>
          <DataTable label={`${kind[0]!.toUpperCase()}${kind.slice(1)} of the bench`} rows={rows} columns={columns} sorted={sorted} />
        </div>
      ) : null}
    </Sheet>
  );
}

/** The study of a row, and the kind of part that it is about. */
export function StudyCell({ to, title, family }: { to: string; title: string; family: string }) {
  return (
    <>
      <Link to={to}>{title}</Link>
      <span className="block text-[0.87rem] text-soft">{family}</span>
    </>
  );
}
