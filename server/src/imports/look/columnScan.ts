import { createHash } from 'node:crypto';
import { stepOf, type Signal } from '@red-ember/core';
import type { CellRow, Decimal } from '../read/cellRow.ts';
import { isErrorCode, isMissing, LogProblem, numberOf } from '../read/cells.ts';
import { Marks, type Mark } from '../read/marks.ts';
import { RunningClock } from '../read/runningClock.ts';
import { RowTimes, TIME_SCALE, type TimeSpec } from '../read/times.ts';

/** More points tell no more about where a phase begins; when there are so many, neighbours are put together. */
const MOST_POINTS = 16_384;
/** What a wide log may take for them, all columns together; each then has fewer, and enough of them. */
const MOST_KEPT = 96 * MOST_POINTS;
/** First readings of a column by which its step is told. */
const STEP_READINGS = 3000;
/** Columns of a wider log are not looked at one by one. Loggers of whole machines write some hundred, and those of the card come last. */
const MOST_LOOKED_AT = 1000;

/** A power of two, so that neighbours can be put together. */
const pointsOf = (columns: number): number => Math.min(MOST_POINTS, 2 ** Math.floor(Math.log2(MOST_KEPT / Math.max(1, columns))));
const HASHED_AT_ONCE = 8192;

/** What a column was seen to hold, over the whole log. */
export interface ColumnSeen {
  /** Cells that hold a number, and cells that hold something else. */
  numbers: number;
  texts: number;
  least: number;
  most: number;
  /** Smallest difference between two of its readings; null where they are all alike. */
  step: number | null;
  /** What a device wrote where it had no reading, and in how many rows; none of it is among the numbers. */
  codes: number[];
  unread: number;
}

/** A log looked through: what its columns hold, thinned for finding its phases. */
export interface LogSeen {
  /** Time of the first reading on the log's own scale, seconds; NaN where no time can be read. */
  startS: number;
  lengthS: number;
  columns: ColumnSeen[];
  signal(column: number): Signal;
  /** Texts of a column that holds more of them than numbers; null where they are too many to be marks. */
  marks: { column: number; marks: Mark[] | null }[];
  /** The same for the same readings, however they are written. */
  content: string;
}

/** Follows every column of a log, row by row, in memory that does not grow with it. */
export class ColumnScan {
  private readonly mostPoints: number;
  private readonly t: Float64Array;
  private readonly y: Float64Array[];
  private readonly sums: Float64Array;
  private readonly counts: Float64Array;
  private readonly first: Float64Array[];
  /** What is seldom met; numbers are followed in columns of their own. */
  private readonly seen: Pick<ColumnSeen, 'texts' | 'codes' | 'unread'>[];
  private readonly marks = new Map<number, Marks | null>();
  private readonly hash = createHash('sha256');
  private readonly toHash = new Float64Array(HASHED_AT_ONCE);
  private hashed = 0;
  private points = 0;
  private every = 1;
  private inGroup = 0;
  private groupS = 0;
  private startS = NaN;
  private lastS = NaN;
  private readable = true;
  private readonly running: RunningClock | null;
  private readonly times: RowTimes | null;
  /** Columns that hold times in words or dates; −1 where they hold none. */
  private readonly written: readonly number[];
  private readonly asked: Int32Array;
  private readonly found: Float64Array;
  private readonly odd: Int32Array;
  /** Smallest and largest number of each column. */
  private readonly least: Float64Array;
  private readonly most: Float64Array;
  private readonly numbers: Int32Array;
  /** The last text of each column that was looked at closely, and what came of it: most stand for a while. */
  private readonly texts: string[];
  private readonly meant: Float64Array;
  /** Texts that are still to be hashed, before the numbers. */
  private toHashTexts = '';

  constructor(
    width: number,
    private readonly time: TimeSpec | null,
    private readonly decimal: Decimal,
  ) {
    const n = Math.min(width, MOST_LOOKED_AT);
    this.mostPoints = pointsOf(n);
    this.t = new Float64Array(this.mostPoints);
    this.y = Array.from({ length: n }, () => new Float64Array(this.mostPoints));
    this.first = Array.from({ length: n }, () => new Float64Array(STEP_READINGS));
    this.sums = new Float64Array(n);
    this.counts = new Float64Array(n);
    this.seen = Array.from({ length: n }, () => ({ texts: 0, codes: [], unread: 0 }));
    this.asked = Int32Array.from({ length: n }, (_, i) => i);
    this.found = new Float64Array(n);
    this.odd = new Int32Array(n);
    this.least = new Float64Array(n).fill(Infinity);
    this.most = new Float64Array(n).fill(-Infinity);
    this.numbers = new Int32Array(n);
    this.texts = Array.from({ length: n }, () => '');
    this.meant = new Float64Array(n).fill(NaN);
    this.running = time && new RunningClock(time.timeFormat);
    this.times = time && new RowTimes(time, decimal);
    const inWords = time !== null && TIME_SCALE[time.timeFormat] === undefined;
    this.written = inWords ? [time.timeColumn, time.dateColumn ?? -1] : [];
  }

  take(row: CellRow): void {
    const { asked, found, odd, least, most, numbers, sums, counts, time } = this;
    const atS = this.elapsed(row);
    const oddCells = row.numbers(asked, this.decimal, found, odd);
    const [timeColumn, dateColumn] = [time?.timeColumn ?? -1, time?.dateColumn ?? -1];
    this.hashNumber(atS);
    let j = 0;
    for (let i = 0; i < asked.length; i++) {
      let value = found[i]!;
      if (j < oddCells && odd[j] === i) {
        value = this.cell(row, i, atS);
        j++;
      } else if (value !== value && this.texts[i] !== '') {
        // Nothing is written any more.
        this.texts[i] = '';
        this.mark(row, i, atS);
      }
      // The clock's own cells are hashed as the time that they are.
      if (i !== timeColumn && i !== dateColumn) this.hashNumber(value);
      if (value !== value) continue;
      if (isErrorCode(value)) {
        const seen = this.seen[i]!;
        if (!seen.codes.includes(value)) seen.codes.push(value);
        seen.unread++;
        continue;
      }
      if (numbers[i]! < STEP_READINGS) this.first[i]![numbers[i]!] = value;
      numbers[i]!++;
      if (value < least[i]!) least[i] = value;
      if (value > most[i]!) most[i] = value;
      sums[i]! += value;
      counts[i]!++;
    }
    if (this.inGroup++ === 0) this.groupS = atS;
    if (this.inGroup === this.every) this.close();
  }

  /** Seconds since the first reading. A time that cannot be read ends the looking; the import itself will say what is wrong with it. */
  private elapsed(row: CellRow): number {
    if (!this.readable || this.time === null) return NaN;
    try {
      const timeS = this.running!.next(this.times!.of(row));
      if (Number.isNaN(this.startS)) this.startS = timeS;
      this.lastS = timeS;
      return timeS - this.startS;
    } catch (error) {
      if (!(error instanceof LogProblem)) throw error;
      this.readable = false;
      return NaN;
    }
  }

  private cell(row: CellRow, i: number, atS: number): number {
    if (this.written.includes(i)) return NaN;
    const text = row.text(i) ?? '';
    if (text !== '' && text === this.texts[i]) {
      const before = this.meant[i]!;
      // A text that stands on says nothing new, but is there once more.
      if (before !== before && !isMissing(text)) this.countText(i, text);
      return before;
    }
    this.texts[i] = text;
    return (this.meant[i] = this.lookedAt(row, text, i, atS));
  }

  /** The number that a cell means; NaN where it holds something else, which is counted and marked. */
  private lookedAt(row: CellRow, text: string, i: number, atS: number): number {
    if (isMissing(text)) {
      this.mark(row, i, atS);
      return NaN;
    }
    const value = numberOf(text, this.decimal);
    if (!Number.isNaN(value)) return Math.abs(value) <= 1e13 ? value : NaN;
    if (i === this.time?.timeColumn || i === this.time?.dateColumn) return NaN;
    this.countText(i, text);
    this.mark(row, i, atS);
    return NaN;
  }

  private countText(i: number, text: string): void {
    this.seen[i]!.texts++;
    this.toHashTexts += text;
  }

  private mark(row: CellRow, i: number, atS: number): void {
    if (Number.isNaN(atS)) return;
    if (!this.marks.has(i)) this.marks.set(i, new Marks([i]));
    const marks = this.marks.get(i);
    if (!marks) return;
    try {
      marks.take(Math.round(1000 * atS), row);
    } catch (error) {
      if (!(error instanceof LogProblem)) throw error;
      this.marks.set(i, null);
    }
  }

  private hashNumber(value: number): void {
    // Written with one more nought it is the same reading.
    this.toHash[this.hashed++] = Number.isNaN(value) ? NaN : Math.round(value * 1e6) / 1e6;
    if (this.hashed === HASHED_AT_ONCE) this.flush();
  }

  private flush(): void {
    if (this.toHashTexts !== '') this.hash.update(this.toHashTexts);
    this.toHashTexts = '';
    this.hash.update(new Uint8Array(this.toHash.buffer, 0, 8 * this.hashed));
    this.hashed = 0;
  }

  private close(): void {
    if (this.points === this.mostPoints) this.halve();
    this.t[this.points] = this.groupS;
    for (let i = 0; i < this.y.length; i++) {
      this.y[i]![this.points] = this.counts[i] === 0 ? NaN : this.sums[i]! / this.counts[i]!;
      this.sums[i] = 0;
      this.counts[i] = 0;
    }
    this.points++;
    this.inGroup = 0;
  }

  /** Puts neighbours together, so that there is room again. */
  private halve(): void {
    const half = this.mostPoints / 2;
    for (let k = 0; k < half; k++) this.t[k] = this.t[2 * k]!;
    for (const y of this.y)
      for (let k = 0; k < half; k++) {
        const [p, q] = [y[2 * k]!, y[2 * k + 1]!];
        y[k] = p !== p ? q : q !== q ? p : (p + q) / 2;
      }
    this.points = half;
    this.every *= 2;
    // What is open belongs to a group twice as long from now on.
  }

  end(): LogSeen {
    if (this.inGroup > 0) this.close();
    this.flush();
    const n = this.points;
    // Where a stamp goes back, the order that phases are looked for in is lost: those points are left out.
    const kept: number[] = [];
    for (let k = 0; k < n; k++) if (this.t[k]! > (kept.length === 0 ? -Infinity : this.t[kept.at(-1)!]!)) kept.push(k);
    const t = Float64Array.from(kept, (k) => this.t[k]!);
    const columns = this.seen.map((seen, i): ColumnSeen => ({
      ...seen,
      numbers: this.numbers[i]!,
      least: this.least[i]!,
      most: this.most[i]!,
      step: stepOf(this.first[i]!.subarray(0, Math.min(this.numbers[i]!, STEP_READINGS))),
    }));
    return {
      startS: this.readable ? this.startS : NaN,
      lengthS: this.readable && t.length > 0 ? this.lastS - this.startS : 0,
      columns,
      signal: (column) => ({ t, y: Float64Array.from(kept, (k) => this.y[column]?.[k] ?? NaN) }),
      marks: [...this.marks].flatMap(([column, marks]) => {
        const { texts, numbers } = columns[column]!;
        return texts > 0 && texts >= numbers ? [{ column, marks: marks?.found ?? null }] : [];
      }),
      content: this.hash.digest('hex'),
    };
  }
}
