import { Fragment, useLayoutEffect, useRef, useState, type CSSProperties, type ReactNode, type RefObject } from 'react';
import { FlexRender, useTable, type Row, type RowData, type SortingState } from '@tanstack/react-table';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Copy } from 'lucide-react';
import { Button } from './Button.tsx';
import { cellsAsText } from './copyCells.ts';
import { useRememberedSorting } from './rememberedSorting.ts';
import { Shown } from './Shown.tsx';
import { features, type CellOf, type ColumnOf, type TableOf } from './tableColumns.ts';

/** Rows from which on only those are drawn that are in sight: thousands are slow to draw and nobody reads them. */
const VIRTUAL_FROM = 200;
/** Height of a row before it was seen, pixels. */
const ROW_PX = 38;
/** Rows from which on it is worth having a field to look for one, and to take them away. */
const WORTH_LOOKING = 9;

function Heading<T extends RowData>({ table }: { table: TableOf<T> }) {
  return (
    <thead>
      {table.getHeaderGroups().map((group) => (
        <tr key={group.id}>
          {group.headers.map((header) => {
            const way = header.column.getIsSorted();
            const words = <FlexRender header={header} />;
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
  );
}

/** A cell with its temperatures in the degrees that were chosen; what it is made by is its own, hooks and all. */
function ShownCell<T extends RowData>({ cell }: { cell: CellOf<T> }) {
  const { cell: made } = cell.column.columnDef;
  return <Shown>{typeof made === 'function' ? made(cell.getContext()) : <FlexRender cell={cell} />}</Shown>;
}

const Cells = <T extends RowData>({ row }: { row: Row<typeof features, T> }) =>
  row.getAllCells().map((cell) => {
    const { meta } = cell.column.columnDef;
    return (
      <td key={cell.id} className={`${meta?.number ? 'num' : ''} ${meta?.className ?? ''}`.trim()}>
        <ShownCell cell={cell} />
      </td>
    );
  });

const Below = ({ colSpan, children }: { colSpan: number; children: ReactNode }) =>
  children ? (
    <tr>
      <td colSpan={colSpan} className="!p-0">
        {children}
      </td>
    </tr>
  ) : null;

/** Rows of which only those in sight are drawn; what is above and below keeps its height. */
function RowsInSight<T extends RowData>({ rows, box }: { rows: Row<typeof features, T>[]; box: RefObject<HTMLTableElement | null> }) {
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const place = box.current?.getBoundingClientRect();
    if (place) setTop(place.top + window.scrollY);
  }, [box]);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_PX,
    overscan: 20,
    scrollMargin: top,
    // Where nothing is laid out, rows have no height and all of them would be in sight.
    measureElement: (row) => row.getBoundingClientRect().height || ROW_PX,
  });
  const seen = virtual.getVirtualItems();
  const above = seen.length === 0 ? 0 : seen[0]!.start - top;
  const below = seen.length === 0 ? 0 : virtual.getTotalSize() - (seen.at(-1)!.end - top);
  const gap = (height: number): ReactNode =>
    height > 0 ? (
      <tr aria-hidden style={{ height }}>
        <td />
      </tr>
    ) : null;
  return (
    <tbody>
      {gap(above)}
      {seen.map(({ index }) => (
        <tr key={rows[index]!.id} ref={virtual.measureElement} data-index={index} aria-rowindex={index + 2}>
          <Cells row={rows[index]!} />
        </tr>
      ))}
      {gap(below)}
    </tbody>
  );
}

/** Everything that is found, as cells for a spreadsheet; columns that only act are left out. */
async function copy<T extends RowData>(table: TableOf<T>): Promise<void> {
  const columns = table.getAllLeafColumns().filter(({ accessorFn }) => accessorFn !== undefined);
  const names = columns.map(({ columnDef, id }) => (typeof columnDef.header === 'string' ? columnDef.header : id));
  const cells = table.getRowModel().rows.map((row) => columns.map(({ id }) => row.getValue(id)));
  await navigator.clipboard.writeText(cellsAsText([names, ...cells]));
}

function CopyButton<T extends RowData>({ table }: { table: TableOf<T> }) {
  const [said, setSaid] = useState('');
  return (
    <span className="ml-auto flex items-center gap-2">
      <span role="status" className="text-soft">
        {said}
      </span>
      <Button
        look="quiet"
        onClick={() =>
          void copy(table).then(
            () => setSaid('Copied, for a spreadsheet.'),
            () => setSaid('This browser lets no page copy here: select the cells and copy them by hand.'),
          )
        }
      >
        <Copy size={15} aria-hidden /> Copy
      </Button>
    </span>
  );
}

/** A table that is sorted by its headings, which is remembered, copied as cells and, when it grows long, looked through by a word. */
export function DataTable<T extends RowData>({
  label,
  rows,
  columns,
  sorted = [],
  acts,
  idOf,
  renderBelow,
}: {
  label: string;
  rows: readonly T[];
  columns: readonly ColumnOf<T>[];
  /** How it is sorted until a heading is pressed. */
  sorted?: SortingState;
  /** What cells can do, as `table.options.meta.acts`. */
  acts?: unknown;
  /** What a row is known by, so that one that is open stays itself when it is sorted elsewhere. */
  idOf?: (row: T) => string;
  /** What is opened beneath a row; null where nothing is. */
  renderBelow?: (row: T) => ReactNode;
}) {
  const keyOf = (column: ColumnOf<T>) => column.id ?? ('accessorKey' in column ? String(column.accessorKey) : '');
  const [sorting, setSorting] = useRememberedSorting(label, columns.map(keyOf), sorted);
  const [word, setWord] = useState('');
  const table = useTable({
    features,
    data: rows,
    meta: { acts },
    columns,
    ...(idOf ? { getRowId: idOf } : {}),
    state: { sorting, globalFilter: word },
    onSortingChange: setSorting,
    onGlobalFilterChange: setWord,
    globalFilterFn: 'includesString',
  });
  const box = useRef<HTMLTableElement>(null);
  const found = table.getRowModel().rows;
  return (
    <>
      {rows.length >= WORTH_LOOKING ? (
        <div className="no-print mb-2 flex flex-wrap items-center gap-3 text-[0.93rem]">
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
          <CopyButton table={table} />
        </div>
      ) : null}
      <div className="table-box">
        <table
          ref={box}
          className="plain-table"
          style={{ '--columns': columns.length } as CSSProperties}
          aria-label={label}
          aria-rowcount={found.length + 1}
        >
          <Heading table={table} />
          {found.length >= VIRTUAL_FROM ? (
            <RowsInSight rows={found} box={box} />
          ) : (
            <tbody>
              {found.map((row) => (
                <Fragment key={row.id}>
                  <tr>
                    <Cells row={row} />
                  </tr>
                  <Below colSpan={columns.length}>{renderBelow?.(row.original)}</Below>
                </Fragment>
              ))}
            </tbody>
          )}
        </table>
      </div>
    </>
  );
}
