import { isMissing } from './cells.ts';
import { isDatum } from './times.ts';
import type { Decimal } from './cellRow.ts';

/** One record with the line it starts on, from 1. */
export interface LogRow {
  line: number;
  cells: string[];
}

/** Where the readings of a log begin, and what its columns are called. */
export interface LogShape {
  names: string[];
  /** As written beside the name or in a row of its own; empty where nothing is said. */
  units: string[];
  /** null where the log has no such row. */
  headerLine: number | null;
  unitsLine: number | null;
  /** Index among the records of the first reading. */
  dataIndex: number;
}

const UNIT =
  /^[[(]?\s*(°|º|deg(rees?)?\s*)?(c|f|k|celsius|fahrenheit|kelvin|s|sec|seconds|ms|min|h|w|watts?|v|mv|a|ma|%|rpm|1\/min|mb\/s|mhz|db(\(a\))?|-)\s*[\])]?$/i;

const looksLikeReadings = (cells: readonly string[]): boolean => {
  const filled = cells.filter((cell) => !isMissing(cell));
  return cells.length > 1 && filled.length > 0 && filled.filter(isDatum).length >= 0.6 * filled.length;
};
const looksLikeUnits = (cells: readonly string[]): boolean => {
  const filled = cells.filter((cell) => cell.trim() !== '');
  return filled.length > 0 && filled.filter((cell) => UNIT.test(cell.trim())).length >= 0.5 * filled.length;
};

/**
 * Finds the header among the first records: the row before the first that looks like readings, or the one before that where a row
 * of units stands between. What stands above is a preamble.
 */
export function findShape(head: readonly LogRow[]): LogShape {
  const dataIndex = head.findIndex(
    (row, i) => looksLikeReadings(row.cells) && (head[i + 1] === undefined || Math.abs(head[i + 1]!.cells.length - row.cells.length) <= 1),
  );
  // Nothing that looks like readings: the first row is called the header, and the import will say what is wrong with the others.
  const at = dataIndex < 0 ? Math.min(1, head.length) : dataIndex;
  const before = head[at - 1];
  const above = head[at - 2];
  const hasUnits =
    before !== undefined && above !== undefined && looksLikeUnits(before.cells) && above.cells.length >= before.cells.length - 1;
  const header = hasUnits ? above : before;
  const width = Math.max(header?.cells.length ?? 0, head[at]?.cells.length ?? 0);
  const names = Array.from({ length: width }, (_, i) => header?.cells[i]?.trim() || `column ${i + 1}`);
  return {
    names,
    units: names.map((_, i) => (hasUnits ? (before.cells[i] ?? '').trim() : '')),
    headerLine: header?.line ?? null,
    unitsLine: hasUnits ? before.line : null,
    dataIndex: at,
  };
}

/**
 * Why rows with more cells than there are names are asked about and not guessed: which name belongs to which cell nobody can say. Most
 * often decimals are written with a comma in a file whose columns commas separate too.
 *
 * @returns a sentence with the cure; null where names and cells agree
 */
export function moreCellsThanNames({ headerLine, dataIndex }: LogShape, head: readonly LogRow[], delimiter: string): string | null {
  const header = head.find((row) => row.line === headerLine);
  if (!header) return null;
  const filled = (cells: readonly string[]) => cells.findLastIndex((cell) => !isMissing(cell)) + 1;
  const named = filled(header.cells);
  const rows = head.slice(dataIndex, dataIndex + 20);
  const wider = rows.filter((row) => filled(row.cells) > named);
  if (named < 2 || wider.length === 0 || wider.length < 0.8 * rows.length) return null;
  const cells = filled(wider[0]!.cells);
  const halves = delimiter === ',' && cells >= 2 * named - 1;
  return halves
    ? `Line ${wider[0]!.line} has ${cells} cells under ${named} names: are decimals written with a comma in a file that commas separate? Write them with a point, put such numbers in quotes, or separate columns by semicolons.`
    : `Line ${wider[0]!.line} has ${cells} cells under ${named} names, so nobody can say which name belongs to which. Name every column in line ${header.line}, or remove the one that has no name.`;
}

const COMMA = /^[+-]?\d{1,3}(\.\d{3})*,\d+$|^[+-]?\d+,\d+$/;
const POINT = /^[+-]?\d+\.\d+$/;

/** A comma that sets thousands apart leaves three figures behind it. */
const THOUSANDS = /^[+-]?\d{1,3}(,\d{3})+$/;

/**
 * Which mark stands before the decimals: a comma where more cells are written with one than with a point. Where commas separate columns
 * too, such cells stand in quotes; those of them that may as well set thousands apart tell nothing.
 */
export function decimalOf(delimiter: string, rows: readonly LogRow[]): Decimal {
  const cells = rows.flatMap((row) => row.cells.map((cell) => cell.trim()));
  const commas = cells.filter((cell) => COMMA.test(cell) && !(delimiter === ',' && THOUSANDS.test(cell))).length;
  const points = cells.filter((cell) => POINT.test(cell)).length;
  return commas > points ? ',' : '.';
}
