import { createHash } from 'node:crypto';
import { stepOf, type Signal } from '@red-ember/core';
import type { CellRow, Decimal } from '../read/cellRow.ts';
import { isErrorCode, isMissing, LogProblem, numberOf } from '../read/cells.ts';
import { Marks, type Mark } from '../read/marks.ts';
import { RunningClock } from '../read/runningClock.ts';
import { timeOf, type TimeSpec } from '../read/times.ts';

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
  private readonly seen: ColumnSeen[];
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
  private readonly asked: Int32Array;
  private readonly found: Float64Array;

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
    this.seen = Array.from({ length: n }, () => ({
      numbers: 0,
      texts: 0,
      least: Infinity,
      most: -Infinity,
      step: null,
      codes: [],
      unread: 0,
    }));
    this.asked = Int32Array.from({ length: n }, (_, i) => i);
    this.found = new Float64Array(n);
    this.running = time && new RunningClock(time.timeFormat);
  }

  take(row: CellRow): void {
    const atS = this.elapsed(row);
    const plain = row.width >= this.asked.length && row.numbers(this.asked, this.decimal, this.found);
    this.hashNumber(atS);
    for (let i = 0; i < this.asked.length; i++) {
      const value = plain ? this.found[i]! : this.cell(row, i, atS);
      // The clock's own cells are hashed as the time that they are.
      if (i !== this.time?.timeColumn && i !== this.time?.dateColumn) this.hashNumber(value);
      if (value !== value) continue;
      const seen = this.seen[i]!;
      if (isErrorCode(value)) {
        if (!seen.codes.includes(value)) seen.codes.push(value);
        seen.unread++;
        continue;
      }
      if (seen.numbers < STEP_READINGS) this.first[i]![seen.numbers] = value;
      seen.numbers++;
      if (value < seen.least) seen.least = value;
      if (value > seen.most) seen.most = value;
      this.sums[i]! += value;
      this.counts[i]!++;
    }
    if (this.inGroup++ === 0) this.groupS = atS;
    if (this.inGroup === this.every) this.close();
  }

  /** Seconds since the first reading. A time that cannot be read ends the looking; the import itself will say what is wrong with it. */
  private elapsed(row: CellRow): number {
    if (!this.readable || this.time === null) return NaN;
    try {
      const timeS = this.running!.next(timeOf(row, this.time, this.decimal));
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
    const text = row.text(i) ?? '';
    if (isMissing(text)) {
      this.mark(row, i, atS);
      return NaN;
    }
    const value = numberOf(text, this.decimal);
    if (!Number.isNaN(value)) return Math.abs(value) <= 1e13 ? value : NaN;
    if (i === this.time?.timeColumn || i === this.time?.dateColumn) return NaN;
    this.seen[i]!.texts++;
    this.hash.update(text);
    this.mark(row, i, atS);
    return NaN;
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
    const columns = this.seen.map((seen, i) => ({
      ...seen,
      step: stepOf(this.first[i]!.subarray(0, Math.min(seen.numbers, STEP_READINGS))),
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
