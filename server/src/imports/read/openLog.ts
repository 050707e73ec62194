import type { CellRow, Decimal } from './cellRow.ts';
import type { Encoding } from './encoding.ts';
import type { LogShape } from './shape.ts';

/** How a log is written: columns with a delimiter, or one JSON object a line. */
export interface Dialect {
  encoding: Encoding;
  /** Empty for JSON lines. */
  delimiter: string;
  /** Nothing in what was looked at needs the rules of CSV. */
  plain: boolean;
}

/** A log with its header found: how it is written, and its readings. */
export interface OpenLog extends Dialect {
  decimal: Decimal;
  shape: LogShape;
  /** The cells of the header row, where it has one. */
  header: string[] | null;
  /** Rows in batches; each row is valid until the next is taken. */
  batches: AsyncGenerator<Iterable<CellRow>>;
  /** Lets the file go, read to its end or not. */
  close: () => Promise<unknown>;
}
