import { columnsFor, type TableOf } from '../ui/tableColumns.ts';
import { counted, duration, fixed } from '@red-ember/core';
import { LONGEST_NAME } from '@red-ember/study';
import { DataTable } from '../ui/DataTable.tsx';
import type { LogEdit, LogRow } from './rows.ts';
import { shortTimeOf } from '../ui/dates.ts';

interface Acts {
  edit(ids: readonly string[], part: LogEdit): void;
  open(id: string): void;
  choose(id: string, chosen: boolean): void;
  chosen: ReadonlySet<string>;
  opened: string | null;
  variants: readonly string[];
}
const actsOf = (table: TableOf<LogRow>) => table.options.meta!.acts as Acts;
const column = columnsFor<LogRow>();
const MOST_DOUBTS = 2;
/** Signs of a variant that its field shows; a longer one stands below it, whole. */
const FITS = 14;

/** What a log went through, in a line. */
function phasesInWords({ phases, log }: LogRow): string {
  if (log.kind !== 'trace') return '';
  const loads = phases.filter(({ kind }) => kind === 'load' || kind === 'change');
  const after = phases.some(({ kind }) => kind === 'cool-down') ? ', cooling down' : '';
  const before = phases[0]?.kind === 'idle-soak' ? 'rest, ' : '';
  return loads.length === 1 ? `${before}one load${after}` : `${before}${loads.length} loads${after}`;
}

const COLUMNS = [
  column.display({
    id: 'choose',
    header: 'Pick',
    enableSorting: false,
    cell: ({ row: { original: row }, table }) => (
      <input
        type="checkbox"
        aria-label={`Choose ${row.log.fileName}`}
        checked={actsOf(table).chosen.has(row.log.id)}
        onChange={(event) => actsOf(table).choose(row.log.id, event.target.checked)}
      />
    ),
  }),
  column.accessor('use', {
    header: 'Used',
    enableSorting: false,
    cell: ({ row: { original: row }, table }) => (
      <input
        type="checkbox"
        aria-label={`Use ${row.log.fileName}`}
        checked={row.use}
        onChange={(event) => actsOf(table).edit([row.log.id], { use: event.target.checked })}
      />
    ),
  }),
  column.accessor((row) => row.log.fileName, {
    id: 'file',
    header: 'File',
    meta: { className: 'min-w-40' },
    cell: ({ row: { original: row }, table }) => (
      <>
        <button
          type="button"
          className="text-left font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
          aria-expanded={actsOf(table).opened === row.log.id}
          onClick={() => actsOf(table).open(row.log.id)}
        >
          {row.log.fileName}
        </button>
        <span className="block text-[0.83rem] text-soft">
          {row.log.kind === 'trace'
            ? `${duration(row.log.guess.lengthS)}, ${phasesInWords(row)}`
            : `${row.log.kind === 'sweep' ? 'a sweep' : 'a table of results'}, ${counted(row.log.rows, 'row')}`}
        </span>
      </>
    ),
  }),
  column.accessor('variant', {
    header: 'Variant',
    cell: ({ row: { original: row }, table }) => {
      const byRows = row.log.kind === 'results' && row.columns.some(({ role }) => role === 'factor');
      return (
        <>
          <input
            className="field-box !w-[7.8rem]"
            aria-label={`Variant of ${row.log.fileName}`}
            list="variants-of-logs"
            maxLength={LONGEST_NAME}
            value={byRows ? 'by its rows' : row.variant}
            disabled={!row.use || byRows}
            onChange={(event) => actsOf(table).edit([row.log.id], { variant: event.target.value })}
          />
          {!byRows && row.variant.length > FITS ? (
            <span className="mt-0.5 block w-[7.8rem] text-[0.83rem] leading-snug text-soft">{row.variant}</span>
          ) : null}
        </>
      );
    },
  }),
  column.accessor((row) => row.mount ?? 0, {
    id: 'mount',
    header: 'Mount',
    cell: ({ row: { original: row }, table }) => (
      <select
        className="field-box !w-[7.2rem]"
        aria-label={`Mount of ${row.log.fileName}`}
        value={row.mount ?? ''}
        disabled={!row.use}
        onChange={(event) => actsOf(table).edit([row.log.id], { mount: event.target.value === '' ? null : Number(event.target.value) })}
      >
        <option value="">unknown</option>
        {Array.from({ length: Math.max(9, row.mount ?? 0) }, (_, i) => (
          <option key={i + 1} value={i + 1}>
            {i + 1}
          </option>
        ))}
      </select>
    ),
  }),
  column.accessor((row) => row.startedAt ?? '', {
    id: 'began',
    header: 'Began',
    cell: ({ row: { original: row } }) => (row.startedAt ? shortTimeOf(row.startedAt) : <span className="text-soft">not said</span>),
    meta: { className: 'whitespace-nowrap' },
  }),
  column.accessor((row) => row.log.figures.powerW ?? -1, {
    id: 'load',
    header: 'Load',
    cell: ({ row: { original: row } }) => (
      <>
        {row.log.figures.powerW === null ? '' : `${fixed(row.log.figures.powerW, 0)} W`}
        {row.log.figures.roomC === null ? null : (
          <span className="block text-[0.83rem] text-soft">room {fixed(row.log.figures.roomC, 1)} °C</span>
        )}
      </>
    ),
    meta: { number: true, className: 'whitespace-nowrap' },
  }),
  column.accessor((row) => row.log.doubts.length, {
    id: 'odd',
    header: 'What is odd',
    cell: ({ row: { original: row } }) => {
      const all = [...(row.why ? [`Not used: ${row.why}.`] : []), ...row.log.doubts];
      // What is told of every log of a bench alike stands beside the log itself.
      const first = all.filter((doubt) => !/steps of|where on earth/.test(doubt)).slice(0, MOST_DOUBTS);
      return (
        <ul className="min-w-36 text-[0.83rem] leading-snug">
          {first.map((doubt) => (
            <li key={doubt}>{doubt}</li>
          ))}
          {all.length > first.length ? (
            <li className="text-soft">
              {first.length > 0 ? 'and ' : ''}
              {counted(all.length - first.length, 'note')}
            </li>
          ) : null}
        </ul>
      );
    },
  }),
];

/** The logs of a day, one a row, each to be put right in place. */
export function LogTable({ rows, ...acts }: { rows: LogRow[] } & Acts) {
  return (
    <>
      <datalist id="variants-of-logs">
        {acts.variants.map((variant) => (
          <option key={variant} value={variant} />
        ))}
      </datalist>
      <DataTable label="Logs that were put down" rows={rows} columns={COLUMNS} acts={acts satisfies Acts} />
    </>
  );
}
