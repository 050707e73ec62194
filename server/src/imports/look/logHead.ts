import type { Decimal } from '../read/cellRow.ts';

/** The head of a log: names, units, and the first cells of each column. */
export interface LogHead {
  names: readonly string[];
  units: readonly string[];
  /** By column. */
  samples: readonly string[][];
  decimal: Decimal;
}
