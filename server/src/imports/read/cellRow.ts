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
   * @returns false where one of them is not plainly a number: then each is to be looked at by itself
   */
  numbers(columns: Int32Array, decimal: Decimal, out: Float64Array): boolean;
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

  /** Text is always looked at closely. */
  number(): undefined {
    return undefined;
  }

  numbers(): false {
    return false;
  }
}

export const cellsOf = (row: CellRow): string[] => Array.from({ length: row.width }, (_, i) => row.text(i) ?? '');
