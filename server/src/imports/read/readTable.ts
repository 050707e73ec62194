import { counted, thermocoupleTemperature, toCelsius, type TemperatureUnit } from '@red-ember/core';
import { holdsReadings, isKept, isTemperature, type ColumnMapBody, type ImportRunBody, type VoltageBody } from '@red-ember/contract';
import type { CellRow } from './cellRow.ts';
import { isErrorCode, LogProblem, numberIn, numberOf } from './cells.ts';
import { Marks, type Mark } from './marks.ts';
import { RunningClock } from './runningClock.ts';
import { RowTimes, saysZone, TIME_SCALE, type TimeSpec } from './times.ts';
import type { Decimal } from './cellRow.ts';
import { GrowingColumn } from './growingColumn.ts';
import { withLog } from './readLog.ts';
import type { OpenLog } from './openLog.ts';

const DAY_S = 86_400;
const MOST_DAYS = 30;
/** Beyond these a temperature is questioned, °C. */
const ROOM_SUSPECT_C = 60;
const SPOT_SUSPECT_C = [-20, 160] as const;
/** Within these nothing is looked at twice, whatever reads it; below the coldest there is nothing, °C. */
const SURELY_C = [-100, 300] as const;
const COLDEST_C = -273.15;
/** The same for watts, turns, clocks and whatever else is read beside temperatures, each in its own unit. */
const SURELY_ELSE = [-900, 32_000] as const;
/** Of all rows; more than this left out is another kind of file. */
const MOST_SKIPPED = 0.05;

/** A temperature that looks like another unit: the tester says whether it is right. */
export class UnitQuestion extends LogProblem {
  constructor(
    message: string,
    readonly sentence: string,
  ) {
    super(message);
  }
}

/** What has to be known to read a log's columns, whatever becomes of them. */
export type TableBody = TimeSpec & Pick<ImportRunBody, 'columns' | 'acceptOddTemperatures'>;

/** The mapped columns of a log. */
export interface Table {
  names: string[];
  /** First stamp on the log's own scale, seconds. */
  startS: number;
  /** Its times say where on earth they hold. */
  zoneSaid: boolean;
  tMs: Int32Array<ArrayBuffer>;
  columns: Float64Array<ArrayBuffer>[];
  /** What was written beside the readings, each where it first stands. */
  marks: Mark[];
  skipped: Skipped[];
  /** Lines at which the clock was set back by an hour; the times go on from there. */
  setBackAt: number[];
  /** Cells in which a device wrote that it had no reading, by column. */
  unread: Unread[];
}

/** What a device wrote where it had no reading. */
export interface Unread {
  column: number;
  codes: number[];
  rows: number;
}

/** A row that was left out, and why. */
export interface Skipped {
  line: number;
  why: string;
}

/** What is the same for every row of a log that is read. */
interface Reading {
  body: TableBody;
  names: string[];
  decimal: Decimal;
}

/** Temperature from a thermocouple's voltage. @throws LogProblem with the line where it lies outside the type's range */
function readVoltage(voltage: VoltageBody, row: CellRow, column: number, { names, decimal }: Reading): number {
  const name = names[column] ?? `column ${column + 1}`;
  const millivolts = numberIn(row, column, name, decimal);
  const cold =
    voltage.coldJunctionColumn === null
      ? voltage.coldJunctionC
      : numberIn(row, voltage.coldJunctionColumn, names[voltage.coldJunctionColumn] ?? 'cold junction', decimal);
  try {
    return thermocoupleTemperature(voltage.type, millivolts, cold);
  } catch {
    throw new LogProblem(
      `Line ${row.line}, ${name}: ${millivolts} mV with the cold junction at ${cold} °C is no voltage of a type ${voltage.type} thermocouple. Is it in mV?`,
    );
  }
}

/** Times of a log in elapsed milliseconds, row by row. */
class LogClock {
  startS: number | null = null;
  /** Lines at which the clock was set back by an hour. */
  readonly setBackAt: number[] = [];
  private readonly running: RunningClock;
  private lastMs = -1;

  constructor({ timeFormat }: TableBody) {
    this.running = new RunningClock(timeFormat);
  }

  /** Milliseconds since the first row, or why the row does not follow. @throws LogProblem far too late */
  next(readS: number, line: number): number | string {
    const timeS = this.running.next(readS);
    this.startS ??= timeS;
    if (this.running.setBack > this.setBackAt.length) this.setBackAt.push(line);
    const tMs = Math.round((timeS - this.startS) * 1000);
    if (tMs <= this.lastMs) return tMs === this.lastMs ? 'repeats the time before it' : 'goes back in time';
    if (tMs > MOST_DAYS * DAY_S * 1000 || tMs > 2 ** 31 - 1)
      throw new LogProblem(`Line ${line}: more than 24 days after the first sample. Is the time written in another way?`);
    this.lastMs = tMs;
    return tMs;
  }
}

/**
 * Reads the mapped columns of a log, whole or not at all.
 *
 * @param onBytes told how much of the file has been read
 * @throws LogProblem with the line and why; UnitQuestion where a temperature looks like another unit and was not confirmed
 */
export function readTable(path: string, body: TableBody, onBytes?: (bytes: number) => void): Promise<Table> {
  return withLog(path, (log) => readOpen(log, body), onBytes);
}

async function readOpen({ shape, header, decimal, batches }: OpenLog, body: TableBody): Promise<Table> {
  const { names } = shape;
  const clock = new LogClock(body);
  const rows = new MappedRows(body, { body, names, decimal });
  const skipped: Skipped[] = [];
  let count = 0;
  let zoneSaid = false;
  const isHeader = (row: CellRow) => header !== null && header.every((cell, i) => cell === row.text(i));
  for await (const batch of batches) {
    for (const row of batch) {
      if (count++ === 0) zoneSaid = saysZone(row.text(body.timeColumn) ?? '');
      const timeS = rows.take(row, isHeader);
      if (timeS === null) {
        skipped.push({ line: row.line, why: 'repeats the header' });
        continue;
      }
      const tMs = clock.next(timeS, row.line);
      if (typeof tMs === 'string') skipped.push({ line: row.line, why: tMs });
      else rows.keep(tMs, row);
    }
  }
  const table: Table = { names, startS: clock.startS ?? 0, zoneSaid, ...rows.columns(), skipped, setBackAt: clock.setBackAt };
  refusePoor(table, count, body);
  return table;
}

/** @throws LogProblem where too much was left out, or too little is there */
function refusePoor({ names, skipped, tMs, columns }: Table, count: number, body: TableBody): void {
  const lost = skipped.filter(({ why }) => why !== 'repeats the header');
  if (lost.length > MOST_SKIPPED * count)
    throw new LogProblem(
      `Line ${lost[0]!.line} ${lost[0]!.why}, and so do ${lost.length - 1} more of ${count}: this is not one log in its order.`,
    );
  if (tMs.length < 10) throw new LogProblem(`Only ${counted(tMs.length, 'reading')}; a run needs at least ten.`);
  body.columns.forEach((map, i) => {
    if (map.role !== 'mark' && !isKept(map) && columns[i]!.every(Number.isNaN))
      throw new LogProblem(`${names[map.column] ?? 'A column'} holds no readings at all.`);
  });
}

/** A counter may be larger than anything a bench reads. */
const KEPT_MOST = 1e13;
/** Beyond this no bench reads anything; such a cell is looked at closely, which says so. */
const BEYOND = 1e6;

/** The mapped cells of row after row: those that are plainly numbers at once, any other looked at closely. */
class MappedRows {
  private readonly tMs = new GrowingColumn(Int32Array);
  private readonly kept: GrowingColumn<Float64Array<ArrayBuffer>>[];
  private readonly ranges: { least: number; most: number; unit: TemperatureUnit }[];
  /** Columns that may plainly be numbers, in the order of the file; `at` says where each mapped one stands among them, −1 where it cannot be. */
  private readonly wanted: Int32Array;
  private readonly at: Int32Array;
  /** Where the time stands; −1 where it is written in words or with a date. */
  private readonly timeAt: number;
  private readonly found: Float64Array;
  private readonly odd: Int32Array;
  private oddCells = 0;
  /** Of `wanted`: 1 where this row's cell is to be looked at closely. */
  private readonly closely: Uint8Array;
  private readonly times: RowTimes;
  private readonly marks: Marks;
  private readonly unread = new Map<number, Unread>();

  constructor(
    private readonly body: TableBody,
    private readonly reading: Reading,
  ) {
    const plainTime = TIME_SCALE[body.timeFormat] !== undefined && body.dateColumn == null;
    const plainly = body.columns.map((map) => (map.voltage || map.role === 'mark' ? -1 : map.column));
    const asked = [...plainly, plainTime ? body.timeColumn : -1];
    this.wanted = Int32Array.from(new Set(asked.filter((column) => column >= 0))).sort();
    const places = Int32Array.from(asked, (column) => (column < 0 ? -1 : this.wanted.indexOf(column)));
    this.at = places.subarray(0, -1);
    this.timeAt = places[places.length - 1]!;
    this.found = new Float64Array(this.wanted.length);
    this.odd = new Int32Array(this.wanted.length);
    this.closely = new Uint8Array(this.wanted.length);
    this.times = new RowTimes(body, reading.decimal);
    this.kept = body.columns.map(() => new GrowingColumn(Float64Array));
    this.marks = new Marks(body.columns.flatMap((map) => (map.role === 'mark' ? [map.column] : [])));
    this.ranges = body.columns.map((map) => ({ ...rangeOf(map, body.acceptOddTemperatures), unit: map.voltage ? 'C' : (map.unit ?? 'C') }));
  }

  /**
   * Takes up a row.
   *
   * @returns its time, seconds on the log's own scale; null where it is no row of readings
   * @throws LogProblem a time that is none
   */
  take(row: CellRow, isHeader: (row: CellRow) => boolean): number | null {
    const { odd, closely } = this;
    for (let j = 0; j < this.oddCells; j++) closely[odd[j]!] = 0;
    this.oddCells = row.numbers(this.wanted, this.reading.decimal, this.found, odd);
    for (let j = 0; j < this.oddCells; j++) closely[odd[j]!] = 1;
    if (this.oddCells > 0 && isHeader(row)) return null;
    const timeS = this.timeAt >= 0 && closely[this.timeAt] === 0 ? this.found[this.timeAt]! : NaN;
    if (timeS === timeS) return timeS * TIME_SCALE[this.body.timeFormat]!;
    try {
      return this.times.of(row);
    } catch (error) {
      // The header of a log in which nothing but the times tells names from numbers.
      if (isHeader(row)) return null;
      throw error;
    }
  }

  /** @throws LogProblem, UnitQuestion what a cell cannot be */
  keep(tMs: number, row: CellRow): void {
    const { kept, ranges, at, found, closely, body } = this;
    this.tMs.push(tMs);
    this.marks.take(tMs, row);
    for (let i = 0; i < kept.length; i++) {
      const { least, most, unit } = ranges[i]!;
      const map = body.columns[i]!;
      const place = at[i]!;
      const plain = place >= 0 && closely[place] === 0 && !(found[place]! > BEYOND || found[place]! < -BEYOND);
      const read = (plain ? found[place]! : this.readClosely(map, row)) * (map.factor ?? 1);
      const value = unit === 'C' ? read : toCelsius(read, unit);
      // Missing passes both: NaN is neither below nor above.
      if (!(value < least || value > most)) kept[i]!.push(value);
      else if (isErrorCode(read)) kept[i]!.push(this.noReading(map.column, read));
      else kept[i]!.push(this.checked(map, value, read, unit, row.line));
    }
  }

  columns(): Pick<Table, 'tMs' | 'columns' | 'marks' | 'unread'> {
    return {
      tMs: this.tMs.values(),
      columns: this.kept.map((column) => column.values()),
      marks: this.marks.found,
      unread: [...this.unread.values()].sort((p, q) => p.column - q.column),
    };
  }

  private nameOf({ column }: ColumnMapBody): string {
    return this.reading.names[column] ?? 'a column';
  }

  private readClosely(map: ColumnMapBody, row: CellRow): number {
    if (map.role === 'mark') return NaN;
    if (isKept(map)) return keptIn(row, map.column, this.reading.decimal);
    return map.voltage
      ? readVoltage(map.voltage, row, map.column, this.reading)
      : numberIn(row, map.column, this.nameOf(map), this.reading.decimal);
  }

  private noReading(column: number, code: number): number {
    const before = this.unread.get(column) ?? { column, codes: [], rows: 0 };
    const codes = before.codes.includes(code) ? before.codes : [...before.codes, code];
    this.unread.set(column, { column, codes, rows: before.rows + 1 });
    return NaN;
  }

  /** A temperature outside its range that may be one all the same. @throws LogProblem, UnitQuestion where it is none */
  private checked(map: ColumnMapBody, value: number, written: number, unit: TemperatureUnit, line: number): number {
    if (!this.body.acceptOddTemperatures) questionUnits(map.role, value, line, this.nameOf(map));
    if (value >= COLDEST_C || (holdsReadings(map.role) && !isTemperature(map.role))) return value;
    throw new LogProblem(`Line ${line}, ${this.nameOf(map)}: ${written} ${unit === 'K' ? 'K' : `°${unit}`} lies below absolute zero.`);
  }
}

/** A cell that nothing rests on: a number, or nothing; it never keeps a log from being read. */
function keptIn(row: CellRow, column: number, decimal: Decimal): number {
  const value = row.number(column, decimal) ?? numberOf(row.text(column) ?? '', decimal);
  return Math.abs(value) <= KEPT_MOST ? value : NaN;
}

/** What a column can hold before somebody has to be asked. */
function rangeOf({ role }: ColumnMapBody, acceptOdd: boolean): { least: number; most: number } {
  if (!holdsReadings(role)) return { least: -Infinity, most: Infinity };
  if (!isTemperature(role)) return { least: SURELY_ELSE[0], most: SURELY_ELSE[1] };
  if (acceptOdd || (role !== 'spot' && role !== 'room')) return { least: SURELY_C[0], most: SURELY_C[1] };
  return role === 'room' ? { least: SURELY_C[0], most: ROOM_SUSPECT_C } : { least: SPOT_SUSPECT_C[0], most: SPOT_SUSPECT_C[1] };
}

function questionUnits(role: string, value: number, line: number, name: string): void {
  const odd =
    role === 'room' && value > ROOM_SUSPECT_C
      ? 'A room'
      : role === 'spot' && (value < SPOT_SUSPECT_C[0] || value > SPOT_SUSPECT_C[1])
        ? 'A spot'
        : null;
  if (!odd) return;
  throw new UnitQuestion(
    `Line ${line}, ${name}: ${odd} at ${value} °C: is this °F? Convert the log, or confirm that it is °C.`,
    `${odd} at ${value} °C: is this °F?`,
  );
}
