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

/** An instrument over its range says 9.9 · 10³⁷, or 10³⁸. */
const isOverload = (value: number) => Math.abs(value) >= 9e37 && Math.abs(value) <= 1e38;

/**
 * Whether a number stands for no reading, as devices commonly write it: runs of nines, the ends of whole numbers of two bytes with their
 * decimal mark anywhere, and what a one-wire probe that is off its wire says. None of them is a temperature of a bench.
 */
export function isErrorCode(value: number): boolean {
  const size = Math.abs(value);
  if (!(size > 120)) return false;
  // Asked of every reading of a log: comparing is far cheaper than looking a number up.
  switch (size) {
    case 999:
    case 9999:
    case 99_999:
    case 999.9:
    case 9999.9:
    case 999.99:
    case 32_767:
    case 32_768:
    case 65_535:
    case 3276.7:
    case 3276.8:
    case 6553.5:
    case 327.67:
    case 327.68:
    case 655.35:
      return true;
    default:
      return value === -127 || isOverload(value);
  }
}

export const isMissing = (text: string) => MISSING.test(text.trim());

/** A unit that stands within the cell, behind the number. */
const CELL_UNIT = /(?<=\d)\s*(°\s?[cfk]|°|%|rpm|1\/min|k?w|[mkg]?hz|m?v|m?a|db(\(a\))?|[kmg]?i?b\/s|fps|s|ms|min|h|[cfk])$/i;

/** A number as it is written, with its unit behind it or without, or NaN. */
export function numberOf(cell: string, decimal: Decimal): number {
  const text = cell.trim().replace('−', '-').replace(CELL_UNIT, '');
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
  if (isOverload(value)) return NaN;
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
