import { useState } from 'react';
import {
  flexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type RowData,
  type SortingState,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { Button } from './Button.tsx';

declare module '@tanstack/react-table' {
  interface ColumnMeta<TData extends RowData, TValue> {
    /** Figures stand at the right. */
    number?: boolean;
    className?: string;
    /** Never there: it keeps the two parameters that the library's own declaration has. */
    readonly of?: [TData, TValue];
  }
  interface TableMeta<TData extends RowData> {
    /** What cells can do; read when they do it, so that columns need not be made anew. */
    acts?: unknown;
    readonly of?: TData;
  }
}

/** Rows that are shown until more are asked for: a page of thousands is slow to draw and nobody reads it. */
const SHOWN = 200;
/** Rows from which on it is worth having a field to look for one. */
const WORTH_LOOKING = 9;

/** A table that can be sorted by its headings and, when it grows long, looked through by a word. */
export function DataTable<T>({
  label,
  rows,
  columns,
  sorted = [],
  acts,
}: {
  label: string;
  rows: T[];
  // Columns of one table hold values of different kinds.
  // eslint-disable-next-line typescript/no-explicit-any
  columns: ColumnDef<T, any>[];
  /** How it is sorted until a heading is pressed. */
  sorted?: SortingState;
  /** What cells can do, as `table.options.meta.acts`. */
  acts?: unknown;
}) {
  const [sorting, setSorting] = useState<SortingState>(sorted);
  const [word, setWord] = useState('');
  const table = useReactTable({
    data: rows,
    meta: { acts },
    columns,
    state: { sorting, globalFilter: word },
    onSortingChange: setSorting,
    onGlobalFilterChange: setWord,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    globalFilterFn: 'includesString',
  });
  const [most, setMost] = useState(SHOWN);
  const found = table.getRowModel().rows;
  const shown = found.slice(0, most);
  return (
    <>
      {rows.length >= WORTH_LOOKING ? (
        <div className="mb-2 flex items-center gap-3 text-[0.93rem]">
          <input
            type="search"
            className="field-box !w-64"
            aria-label={`Look for in ${label}`}
            placeholder="Look for a word"
            value={word}
            onChange={(event) => setWord(event.target.value)}
          />
          {word ? (
            <span className="text-soft" role="status">
              {found.length} of {rows.length}
            </span>
          ) : null}
        </div>
      ) : null}
      <table className="plain-table" aria-label={label}>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => {
                const way = header.column.getIsSorted();
                const words = flexRender(header.column.columnDef.header, header.getContext());
                return (
                  <th
                    key={header.id}
                    className={header.column.columnDef.meta?.number ? 'num' : ''}
                    aria-sort={way === 'asc' ? 'ascending' : way === 'desc' ? 'descending' : 'none'}
                  >
                    {header.column.getCanSort() ? (
                      <button
                        type="button"
                        className="inline-flex items-center gap-1 text-left hover:text-ink"
                        onClick={header.column.getToggleSortingHandler()}
                      >
                        {words}
                        {way === 'asc' ? <ArrowUp size={12} aria-hidden /> : way === 'desc' ? <ArrowDown size={12} aria-hidden /> : null}
                      </button>
                    ) : (
                      words
                    )}
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr key={row.id}>
              {row.getVisibleCells().map((cell) => {
                const { meta } = cell.column.columnDef;
                return (
                  <td key={cell.id} className={`${meta?.number ? 'num' : ''} ${meta?.className ?? ''}`.trim()}>
                    {flexRender(cell.column.columnDef.cell, cell.getContext())}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {found.length > most ? (
        <p className="mt-3 flex items-center gap-3 text-[0.93rem] text-soft">
          {most} of {found.length} are shown.
          <Button look="quiet" onClick={() => setMost(most + SHOWN)}>
            Show more
          </Button>
        </p>
      ) : null}
    </>
  );
}
