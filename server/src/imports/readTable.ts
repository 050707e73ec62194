import { thermocoupleTemperature, toCelsius } from '@red-ember/core';
import type { ColumnMapBody, ImportRunBody, VoltageBody } from '@red-ember/contract';
import { LogProblem, readNumber, readTime, type Decimal } from './cells.ts';
import { openLog } from './readLog.ts';

const DAY_S = 86_400;
/** Beyond these a temperature is questioned, °C. */
const ROOM_SUSPECT_C = 60;
const SPOT_SUSPECT_C = [-20, 160] as const;
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

/** The mapped columns of a log. */
export interface Table {
  names: string[];
  /** First stamp on the log's own scale, seconds. */
  startS: number;
  tMs: number[];
  columns: number[][];
  skipped: Skipped[];
}

/** A row that was left out, and why. */
export interface Skipped {
  line: number;
  why: string;
}

/** Temperature from a thermocouple's voltage. @throws LogProblem with the line where it lies outside the type's range */
function readVoltage(voltage: VoltageBody, cells: string[], names: string[], line: number, column: number, decimal: Decimal): number {
  const name = names[column] ?? `column ${column + 1}`;
  const millivolts = readNumber(cells[column], line, name, decimal);
  const cold =
    voltage.coldJunctionColumn === null
      ? voltage.coldJunctionC
      : readNumber(cells[voltage.coldJunctionColumn], line, names[voltage.coldJunctionColumn] ?? 'cold junction', decimal);
  try {
    return thermocoupleTemperature(voltage.type, millivolts, cold);
  } catch {
    throw new LogProblem(
      `Line ${line}, ${name}: ${millivolts} mV with the cold junction at ${cold} °C is no voltage of a type ${voltage.type} thermocouple. Is it in mV?`,
    );
  }
}

/**
 * Reads the mapped columns of a log, whole or not at all.
 *
 * @param onBytes told how much of the file has been read
 * @throws LogProblem with the line and why; UnitQuestion where a temperature looks like another unit and was not confirmed
 */
export async function readTable(path: string, body: ImportRunBody, onBytes?: (bytes: number) => void): Promise<Table> {
  const { shape, header, decimal, rows } = await openLog(path, onBytes);
  const { names } = shape;
  const table: Table = { names, startS: 0, tMs: [], columns: body.columns.map(() => []), skipped: [] };
  let startS: number | null = null;
  /** Midnights that a clock has passed. */
  let days = 0;
  let count = 0;
  for await (const { line, cells } of rows) {
    count++;
    if (header?.every((cell, i) => cell === cells[i])) {
      table.skipped.push({ line, why: 'repeats the header' });
      continue;
    }
    let timeS = readTime(cells[body.timeColumn], body.timeFormat, line, decimal) + days * DAY_S;
    startS ??= timeS;
    const last = table.tMs.at(-1);
    // A clock that falls back by more than half a day has passed midnight.
    if (body.timeFormat === 'clock' && last !== undefined && timeS - startS < last / 1000 - DAY_S / 2) {
      days++;
      timeS += DAY_S;
    }
    if (table.tMs.length === 0) table.startS = timeS;
    const tMs = Math.round((timeS - startS) * 1000);
    if (last !== undefined && tMs <= last) {
      table.skipped.push({ line, why: tMs === last ? 'repeats the time before it' : 'goes back in time' });
      continue;
    }
    if (tMs > 30 * DAY_S * 1000 || tMs > 2 ** 31 - 1)
      throw new LogProblem(`Line ${line}: more than 24 days after the first sample. Is the time written in another way?`);
    table.tMs.push(tMs);
    body.columns.forEach((map, i) => table.columns[i]!.push(readCell(map, cells, names, line, decimal, body)));
  }
  const lost = table.skipped.filter(({ why }) => why !== 'repeats the header');
  if (lost.length > MOST_SKIPPED * count)
    throw new LogProblem(
      `Line ${lost[0]!.line} ${lost[0]!.why}, and so do ${lost.length - 1} more of ${count}: this is not one log in its order.`,
    );
  if (table.tMs.length < 10) throw new LogProblem(`Only ${table.tMs.length} readings; a run needs at least ten.`);
  body.columns.forEach((map, i) => {
    if (table.columns[i]!.every(Number.isNaN)) throw new LogProblem(`${names[map.column] ?? 'A column'} holds no readings at all.`);
  });
  return table;
}

function readCell(map: ColumnMapBody, cells: string[], names: string[], line: number, decimal: Decimal, body: ImportRunBody): number {
  const name = names[map.column] ?? `column ${map.column + 1}`;
  const isTemperature = map.role === 'spot' || map.role === 'room';
  const written = map.voltage
    ? readVoltage(map.voltage, cells, names, line, map.column, decimal)
    : readNumber(cells[map.column], line, name, decimal);
  if (!isTemperature || Number.isNaN(written)) return written;
  const unit = map.voltage ? 'C' : (map.unit ?? 'C');
  const value = toCelsius(written, unit);
  if (!body.acceptOddTemperatures) questionUnits(map.role, value, line, name);
  if (value < -273.15)
    throw new LogProblem(`Line ${line}, ${name}: ${written} ${unit === 'K' ? 'K' : `°${unit}`} lies below absolute zero.`);
  return value;
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
