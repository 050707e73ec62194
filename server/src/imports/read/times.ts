import { tzOffset } from '@date-fns/tz';
import { WRITTEN_FORMATS, type ImportRunBody, type TimeFormat } from '@red-ember/contract';
import { isMissing, LogProblem, numberOf } from './cells.ts';
import type { CellRow, Decimal } from './cellRow.ts';

/** Where a log's times stand and how they are written. */
export type TimeSpec = Pick<ImportRunBody, 'timeColumn' | 'timeFormat' | 'dateColumn'>;

const CLOCK = /^(\d{1,3}):(\d\d)(?::(\d\d(?:[.,]\d+)?))?\s*([ap]\.?m\.?)?$/i;
const DAY = String.raw`(?:(?<y>\d{4})([-/.])(?<mo>\d{1,2})\2(?<d>\d{1,2})|(?<p>\d{1,2})([-/.])(?<q>\d{1,2})\6(?<y2>\d{4}|\d\d))`;
const TIME = String.raw`(?<h>\d{1,2}):(?<mi>\d\d)(?::(?<s>\d\d(?:[.,]\d+)?))?\s*(?<half>[ap]\.?m\.?)?`;
const STAMP = new RegExp(`^${DAY}[T ,]+${TIME}\\s*(?<zone>Z|UTC|GMT|[+-]\\d\\d:?\\d\\d)?$`, 'i');
const DATE_ALONE = new RegExp(`^${DAY}$`);

/** Which of two numbers is the day where a date begins with neither year nor dots. */
type Order = 'iso' | 'day-month' | 'month-day';

/** Hours and minutes of a zone, seconds; null where none is said. */
function offsetS(zone: string | undefined): number | null {
  if (zone === undefined) return null;
  const found = /^([+-])(\d\d):?(\d\d)$/.exec(zone);
  return found ? (found[1] === '-' ? -1 : 1) * (Number(found[2]) * 3600 + Number(found[3]) * 60) : 0;
}

/** Afternoon hours as the day counts them. */
function hourOf(hour: number, half: string | undefined): number {
  if (half === undefined) return hour;
  return (hour % 12) + (half.toLowerCase().startsWith('p') ? 12 : 0);
}

/** Seconds since 1970 of a date and time as written; without a zone as if it were UTC. NaN where it is none. */
function stampOf(text: string, order: Order): { timeS: number; zoneSaid: boolean } {
  const part = STAMP.exec(text)?.groups;
  if (!part) return { timeS: NaN, zoneSaid: false };
  const monthFirst = order === 'month-day' && part.y === undefined;
  const year = Number(part.y ?? (part.y2!.length === 2 ? `20${part.y2}` : part.y2));
  const month = Number(part.mo ?? (monthFirst ? part.p : part.q));
  const day = Number(part.d ?? (monthFirst ? part.q : part.p));
  const offset = offsetS(part.zone);
  const hour = hourOf(Number(part.h), part.half);
  const minute = Number(part.mi);
  const ms = Date.UTC(year, month - 1, day, hour, minute);
  // A thirteenth month would be counted on into the next year.
  const valid = new Date(ms).getUTCMonth() === month - 1 && new Date(ms).getUTCDate() === day && hour < 24 && minute < 60;
  const timeS = ms / 1000 + Number((part.s ?? '0').replace(',', '.')) - (offset ?? 0);
  return { timeS: valid ? timeS : NaN, zoneSaid: offset !== null };
}

/** When a date and time as written in a zone was, seconds since 1970. @param zone as Europe/Berlin; UTC where it is unknown */
export function inZone(writtenS: number, zone: string): number {
  const offset = (at: number) => 60 * (tzOffset(zone, new Date(1000 * at)) || 0);
  // The offset belongs to the moment that is looked for: once more where the clocks were changed in between.
  const first = writtenS - offset(writtenS);
  return writtenS - offset(first);
}

/** Whether a zone is known by this name. */
export const isZone = (zone: string): boolean => Number.isFinite(tzOffset(zone, new Date(0)));

const WHAT: Record<TimeFormat, string> = {
  'elapsed-s': 'a time in seconds',
  'elapsed-ms': 'a time in milliseconds',
  'elapsed-us': 'a time in microseconds',
  'elapsed-min': 'a time in minutes',
  'elapsed-h': 'a time in hours',
  clock: 'a time such as 14:05:00',
  iso: 'a date and time such as 2026-03-01T14:05:00',
  'day-month': 'a date and time with the day first, such as 31/01/2026 14:05:00',
  'month-day': 'a date and time with the month first, such as 01/31/2026 14:05:00',
  'epoch-s': 'a number of seconds since 1970',
  'epoch-ms': 'a number of milliseconds since 1970',
};

/** Seconds of one unit, where a time is written as a plain number. */
export const TIME_SCALE: Partial<Record<TimeFormat, number>> = {
  'elapsed-s': 1,
  'elapsed-ms': 1e-3,
  'elapsed-us': 1e-6,
  'elapsed-min': 60,
  'elapsed-h': 3600,
  'epoch-s': 1,
  'epoch-ms': 1e-3,
};

const isWritten = (format: TimeFormat): format is Order => WRITTEN_FORMATS.includes(format);

/** A time in seconds on the log's own scale; a clock starts anew at midnight. @throws LogProblem with the line */
export function readTime(cell: string | undefined, format: TimeFormat, line: number, decimal: Decimal = '.'): number {
  const text = (cell ?? '').trim();
  let value = NaN;
  if (format === 'clock') {
    const clock = CLOCK.exec(text);
    if (clock) value = hourOf(Number(clock[1]), clock[4]) * 3600 + Number(clock[2]) * 60 + Number((clock[3] ?? '0').replace(',', '.'));
  } else value = isWritten(format) ? stampOf(text, format).timeS : numberOf(text, decimal) * TIME_SCALE[format]!;
  if (!Number.isFinite(value)) throw new LogProblem(`Line ${line}: “${text.slice(0, 30)}” is not ${WHAT[format]}.`);
  return value;
}

/** Seconds that end a written time; minutes must stand before them. */
const SECONDS_LAST = /:\d\d:(\d\d(?:[.,]\d+)?)$/;
const SECONDS_ALONE = /^\d\d(?:[.,]\d+)?$/;

/** Reads the times of a log, row after row: of written ones, what goes on within a minute is not looked through anew. */
export class RowTimes {
  private upToMinute = '';
  private minuteS = NaN;

  constructor(
    private readonly spec: TimeSpec,
    private readonly decimal: Decimal,
  ) {}

  /** Seconds on the log's own scale, as `readTime`. @throws LogProblem with the line */
  of(row: CellRow): number {
    const { timeColumn, timeFormat, dateColumn = null } = this.spec;
    if (dateColumn !== null) return this.written(`${row.text(dateColumn) ?? ''} ${row.text(timeColumn) ?? ''}`, row.line);
    const scale = TIME_SCALE[timeFormat];
    if (scale === undefined) return this.written(row.text(timeColumn) ?? '', row.line);
    const plain = row.number(timeColumn, this.decimal);
    return plain === undefined || Number.isNaN(plain) ? readTime(row.text(timeColumn), timeFormat, row.line, this.decimal) : plain * scale;
  }

  private written(text: string, line: number): number {
    const { upToMinute } = this;
    if (upToMinute !== '' && text.startsWith(upToMinute)) {
      const seconds = text.slice(upToMinute.length);
      if (SECONDS_ALONE.test(seconds)) return this.minuteS + Number(seconds.replace(',', '.'));
    }
    const timeS = readTime(text, this.spec.timeFormat, line, this.decimal);
    const seconds = SECONDS_LAST.exec(text)?.[1];
    this.upToMinute = seconds === undefined ? '' : text.slice(0, -seconds.length);
    this.minuteS = seconds === undefined ? NaN : Math.round(timeS - Number(seconds.replace(',', '.')));
    return timeS;
  }
}

/** Whether a written time says its zone. */
export const saysZone = (cell: string): boolean => stampOf(cell.trim(), 'iso').zoneSaid || stampOf(cell.trim(), 'month-day').zoneSaid;

export const isDateAlone = (cell: string): boolean => DATE_ALONE.test(cell.trim());
export const isClock = (cell: string): boolean => CLOCK.test(cell.trim());

/** Of dates that begin with neither year nor dots: which number is the day; null where every one of them could be either. */
function orderOf(cells: readonly string[]): { order: Order; sure: boolean } {
  const pairs = cells.flatMap((cell) => {
    const found = /^(\d{1,2})([-/.])(\d{1,2})\2(\d{4}|\d\d)\b/.exec(cell.trim());
    return found ? [{ p: Number(found[1]), q: Number(found[3]), dots: found[2] === '.' }] : [];
  });
  if (pairs.length === 0) return { order: 'iso', sure: true };
  // Nobody writes the month first with dots.
  if (pairs.every(({ dots }) => dots) || pairs.some(({ p }) => p > 12)) return { order: 'day-month', sure: true };
  if (pairs.some(({ q }) => q > 12)) return { order: 'month-day', sure: true };
  return { order: 'day-month', sure: pairs.every(({ p, q }) => p === q) };
}

/** What is said of a time's unit. */
const UNITS: [RegExp, TimeFormat][] = [
  [/\b(ms|msec|milliseconds?)\b/i, 'elapsed-ms'],
  [/(\b(us|usec|microseconds?)\b|µs|μs)/i, 'elapsed-us'],
  [/\bmin(ute)?s?\b/i, 'elapsed-min'],
  [/\b(h|hrs?|hours?)\b/i, 'elapsed-h'],
  [/\b(s|secs?|seconds?)\b/i, 'elapsed-s'],
];

/** How the times of a log are written, and what is not sure about it. */
export interface TimeSeen {
  format: TimeFormat;
  /** A sentence where it had to be guessed. */
  doubt: string | null;
}

/**
 * What a time looks like, by its cells and the name of its column.
 *
 * @param cells some of its cells, from the beginning and, where they are known, from the end
 * @param dates cells of the column of dates, where the two stand apart
 */
export function timeFormatOf(cells: readonly string[], name: string, decimal: Decimal, dates: readonly string[] | null = null): TimeSeen {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  const first = filled[0] ?? '';
  const sure = (format: TimeFormat): TimeSeen => ({ format, doubt: null });
  if (dates || STAMP.test(first)) {
    const { order, sure: known } = orderOf(dates ?? filled);
    const shown = (dates ?? filled)[0]?.trim().split(/[T ]/)[0];
    if (known) return sure(order);
    // Who counts hours to twelve writes the month first, nearly always.
    const toTwelve = filled.some((cell) => /\d\s*[ap]\.?m\b/i.test(cell));
    const read = toTwelve ? 'the month first, as its hours go to twelve' : 'the day first';
    return {
      format: toTwelve ? 'month-day' : order,
      doubt: `${shown}: is the day or the month written first? It is read with ${read}.`,
    };
  }
  if (CLOCK.test(first)) return sure('clock');
  const value = numberOf(first, decimal);
  if (value > 1e11) return sure('epoch-ms');
  if (value > 1e8 && value < 1e10 && !/\b(us|ms)\b|µs/i.test(name)) return sure('epoch-s');
  const said = UNITS.find(([pattern]) => pattern.test(name))?.[1];
  if (said) return sure(said);
  return byPlausibility(filled.map((cell) => numberOf(cell, decimal)));
}

/** A time of which nothing is said: a bench logs from ten times a second to once a minute, and not for weeks. */
function byPlausibility(values: readonly number[]): TimeSeen {
  const step = values.length > 1 ? values[1]! - values[0]! : NaN;
  const guess = (format: TimeFormat, unit: string): TimeSeen => ({
    format,
    doubt: `The time says no unit and steps by ${Number(step.toPrecision(3))}: it is read as ${unit}.`,
  });
  if (step >= 100) return guess('elapsed-ms', 'milliseconds');
  const whole = (scale: number) => step > 0 && step < 0.5 && Math.abs(step * scale - Math.round(step * scale)) < 0.02 * step * scale;
  // A tenth of a second is usual, a tenth of a minute is not.
  if (step > 0 && step < 0.09 && whole(60)) return guess('elapsed-min', 'minutes');
  if (step > 0 && step < 0.002 && whole(3600)) return guess('elapsed-h', 'hours');
  return { format: 'elapsed-s', doubt: null };
}

/** A cell that a row of readings could hold, whichever the decimal mark. */
export function isDatum(cell: string): boolean {
  const text = cell.trim();
  return (
    isMissing(text) ||
    !Number.isNaN(numberOf(text, '.')) ||
    !Number.isNaN(numberOf(text, ',')) ||
    CLOCK.test(text) ||
    STAMP.test(text) ||
    DATE_ALONE.test(text)
  );
}
