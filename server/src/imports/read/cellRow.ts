/** The mark before the decimals. */
export type Decimal = '.' | ',';

/** One record of a log whose cells are read when they are asked for. Valid until the next one is taken. */
export interface CellRow {
  /** The line it starts on, from 1. */
  readonly line: number;
  /** How many cells it has. */
  readonly width: number;
  /** A cell's text without blanks around it; undefined beyond the last. */
  text(column: number): string | undefined;
  /** A cell that is plainly a number; undefined where it has to be looked at more closely. */
  number(column: number, decimal: Decimal): number | undefined;
  /**
   * Several cells at once, in one pass over the line.
   *
   * @param columns ascending
   * @param out filled in the same order; NaN for an empty cell
   * @param odd places in `columns` whose cells are not plainly numbers, or not there: those are to be looked at by themselves
   * @returns how many of those there are
   */
  numbers(columns: Int32Array, decimal: Decimal, out: Float64Array, odd: Int32Array): number;
}

/** `numbers` of a row whose cells are there already. */
export function numbersOneByOne(row: CellRow, columns: Int32Array, decimal: Decimal, out: Float64Array, odd: Int32Array): number {
  let count = 0;
  for (let k = 0; k < columns.length; k++) {
    const value = row.number(columns[k]!, decimal);
    if (value === undefined) odd[count++] = k;
    else out[k] = value;
  }
  return count;
}

const [PLUS, MINUS, POINT, COMMA, ZERO, NINE] = [43, 45, 46, 44, 48, 57];
/** Powers of ten that a double holds exactly. */
export const TENS = Array.from({ length: 23 }, (_, i) => 10 ** i);
/** Whole numbers of so many digits are all below 2^53. */
export const MOST_DIGITS = 15;

/**
 * Digits with one decimal mark and no exponent, up to 15 of them: those come out as exactly the double that the text means, since
 * a whole number below 2^53 divided by an exact power of ten is rounded once.
 *
 * @returns undefined where the text is anything else; NaN where there is none
 */
function numberOfDigits(text: string, decimal: Decimal): number | undefined {
  const mark = decimal === ',' ? COMMA : POINT;
  const end = text.length;
  if (end === 0) return NaN;
  let at = 0;
  const sign = text.charCodeAt(0);
  if (sign === MINUS || sign === PLUS) at++;
  let digits = 0;
  let seen = 0;
  let after = 0;
  for (; at < end; at++) {
    const code = text.charCodeAt(at);
    if (code >= ZERO && code <= NINE) {
      digits = digits * 10 + (code - ZERO);
      seen++;
    } else if (code === mark && after === 0) after = seen + 1;
    else return undefined;
  }
  if (seen === 0 || seen > MOST_DIGITS) return undefined;
  const value = after === 0 ? digits : digits / TENS[seen + 1 - after]!;
  return sign === MINUS ? -value : value;
}

export class TextRow implements CellRow {
  constructor(
    readonly line: number,
    readonly cells: readonly string[],
  ) {}

  get width(): number {
    return this.cells.length;
  }

  text(column: number): string | undefined {
    return this.cells[column];
  }

  number(column: number, decimal: Decimal): number | undefined {
    const text = this.cells[column];
    return text === undefined ? undefined : numberOfDigits(text, decimal);
  }

  numbers(columns: Int32Array, decimal: Decimal, out: Float64Array, odd: Int32Array): number {
    return numbersOneByOne(this, columns, decimal, out, odd);
  }
}

export const cellsOf = (row: CellRow): string[] => Array.from({ length: row.width }, (_, i) => row.text(i) ?? '');
