import type { TimeFormat } from '@red-ember/contract';
import type { CellRow, Decimal } from './cellRow.ts';

/** A log that cannot be read, with a sentence that says where and why. */
export class LogProblem extends Error {}

const MISSING = /^(|n\/?a|nan|null|none|-+|\.+|\?)$/i;
/** Thousands are set apart by blanks, apostrophes, or the mark that is not the decimal one. */
const GROUPED: Record<Decimal, RegExp> = {
  '.': /^[+-]?\d{1,3}([ \u00a0\u202f'’,]\d{3})+(\.\d+)?$/,
  ',': /^[+-]?\d{1,3}([ \u00a0\u202f'’.]\d{3})+(,\d+)?$/,
};
const PLAIN: Record<Decimal, RegExp> = { '.': /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i, ',': /^[+-]?(\d+,?\d*|,\d+)(e[+-]?\d+)?$/i };

export const isMissing = (text: string) => MISSING.test(text.trim());

/** A number as it is written, or NaN. */
export function numberOf(cell: string, decimal: Decimal): number {
  const text = cell.trim().replace('−', '-');
  const other = decimal === ',' ? /[ \u00a0\u202f'’.]/g : /[ \u00a0\u202f'’,]/g;
  if (!PLAIN[decimal].test(text) && !GROUPED[decimal].test(text)) return NaN;
  return Number(text.replace(other, '').replace(',', '.'));
}

/** A reading, NaN where the log says there is none. @throws LogProblem with line and column */
export function readNumber(cell: string | undefined, line: number, column: string, decimal: Decimal = '.'): number {
  const text = (cell ?? '').trim();
  if (isMissing(text)) return NaN;
  const value = numberOf(text, decimal);
  if (Number.isNaN(value)) throw new LogProblem(`Line ${line}, ${column}: “${text.slice(0, 30)}” is not a number.`);
  if (!(Math.abs(value) <= 1e6)) throw new LogProblem(`Line ${line}, ${column}: ${text.slice(0, 30)} is beyond anything a bench reads.`);
  return value;
}

/** A reading in a row: plain numbers as they stand, anything else looked at closely. @throws LogProblem with line and column */
export function numberIn(row: CellRow, column: number, name: string, decimal: Decimal): number {
  const plain = row.number(column, decimal);
  if (plain === undefined) return readNumber(row.text(column), row.line, name, decimal);
  if (Math.abs(plain) > 1e6) throw new LogProblem(`Line ${row.line}, ${name}: ${row.text(column)} is beyond anything a bench reads.`);
  return plain;
}

const CLOCK = /^(\d{1,3}):(\d\d):(\d\d(?:[.,]\d+)?)$/;
const DATED = /^(\d{4})[-/.](\d\d)[-/.](\d\d)[T ](\d\d):(\d\d)(?::(\d\d(?:[.,]\d+)?))?\s*(Z|[+-]\d\d:?\d\d)?$/;
/** Day first, with dots: nobody writes the month first that way. */
const DAY_FIRST = /^(\d{1,2})\.(\d{1,2})\.(\d{4})[T ,]+(\d\d):(\d\d)(?::(\d\d(?:[.,]\d+)?))?$/;

function dated(text: string): number {
  const day = DAY_FIRST.exec(text);
  const two = (part: string) => part.padStart(2, '0');
  const [, y, mo, d, h, mi, s = '0', zone = ''] = day
    ? ['', day[3]!, two(day[2]!), two(day[1]!), day[4]!, day[5]!, day[6]]
    : (DATED.exec(text) ?? []);
  if (y === undefined) return NaN;
  // Without an offset only differences matter, so any fixed one will do.
  const ms = Date.parse(
    `${y}-${mo}-${d}T${h}:${mi}:00${zone ? (zone.includes(':') || zone === 'Z' ? zone : `${zone.slice(0, 3)}:${zone.slice(3)}`) : 'Z'}`,
  );
  return ms / 1000 + Number(s.replace(',', '.'));
}

const WHAT: Record<TimeFormat, string> = {
  'elapsed-s': 'a time in seconds',
  'elapsed-min': 'a time in minutes',
  clock: 'a time such as 14:05:00',
  iso: 'a date and time such as 2026-03-01T14:05:00',
  'epoch-s': 'a number of seconds since 1970',
  'epoch-ms': 'a number of milliseconds since 1970',
};

/** A time in seconds on the log's own scale; a clock starts anew at midnight. @throws LogProblem with the line */
export function readTime(cell: string | undefined, format: TimeFormat, line: number, decimal: Decimal = '.'): number {
  const text = (cell ?? '').trim();
  const clock = CLOCK.exec(text);
  const number = format === 'clock' || format === 'iso' ? NaN : numberOf(text, decimal);
  const scaled = TIME_SCALE[format] ?? 1;
  const value =
    format === 'clock'
      ? clock
        ? Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3]!.replace(',', '.'))
        : NaN
      : format === 'iso'
        ? dated(text)
        : number * scaled;
  if (!Number.isFinite(value)) throw new LogProblem(`Line ${line}: “${text.slice(0, 30)}” is not ${WHAT[format]}.`);
  return value;
}

/** Seconds of one unit, where a time is written as a plain number. */
export const TIME_SCALE: Partial<Record<TimeFormat, number>> = { 'elapsed-s': 1, 'elapsed-min': 60, 'epoch-s': 1, 'epoch-ms': 1e-3 };

/** A time in a row, as `readTime`. @throws LogProblem with the line */
export function timeOf(row: CellRow, column: number, format: TimeFormat, decimal: Decimal): number {
  const scale = TIME_SCALE[format];
  const plain = scale === undefined ? undefined : row.number(column, decimal);
  return plain === undefined || Number.isNaN(plain) ? readTime(row.text(column), format, row.line, decimal) : plain * scale!;
}

/** What a time looks like, by a few of its cells and the name of its column. */
export function timeFormatOf(cells: readonly string[], name: string, decimal: Decimal): TimeFormat {
  const first = (cells.find((cell) => cell.trim() !== '') ?? '').trim();
  if (DATED.test(first) || DAY_FIRST.test(first)) return 'iso';
  if (CLOCK.test(first)) return 'clock';
  const value = numberOf(first, decimal);
  if (value > 1e11) return 'epoch-ms';
  if (value > 1e8) return 'epoch-s';
  return /\bmin(ute)?s?\b/i.test(name) ? 'elapsed-min' : 'elapsed-s';
}

/** A cell that a row of readings could hold, whichever the decimal mark. */
export function isDatum(cell: string): boolean {
  const text = cell.trim();
  return (
    isMissing(text) ||
    !Number.isNaN(numberOf(text, '.')) ||
    !Number.isNaN(numberOf(text, ',')) ||
    CLOCK.test(text) ||
    DATED.test(text) ||
    DAY_FIRST.test(text)
  );
}
