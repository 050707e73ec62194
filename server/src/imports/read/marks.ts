import { withoutUnseen } from '@red-ember/contract';
import type { CellRow } from './cellRow.ts';
import { isMissing, LogProblem } from './cells.ts';

/** A text that was written beside the readings, where it first stands. */
export interface Mark {
  tMs: number;
  text: string;
}

/** More than this is a column of something else: a state that changes all the time, or a number in words. */
const MOST_MARKS = 200;
const LONGEST = 200;

/** Follows columns of texts: each text counts where it begins to stand, however many rows it stands in. */
export class Marks {
  readonly found: Mark[] = [];
  private readonly last: string[];
  /** The same as they stand in the log: what stays as it is need not be looked at. */
  private readonly cells: string[];

  constructor(private readonly columns: readonly number[]) {
    this.last = columns.map(() => '');
    this.cells = columns.map(() => '');
  }

  /** @throws LogProblem where there are too many for marks */
  take(tMs: number, row: CellRow): void {
    for (let i = 0; i < this.columns.length; i++) {
      const cell = row.text(this.columns[i]!) ?? '';
      if (cell === this.cells[i]) continue;
      this.cells[i] = cell;
      const text = isMissing(cell) ? '' : withoutUnseen(cell).trim().slice(0, LONGEST);
      if (text === this.last[i]) continue;
      this.last[i] = text;
      if (text === '') continue;
      if (this.found.length >= MOST_MARKS)
        throw new LogProblem(`Line ${row.line}: more than ${MOST_MARKS} texts in a column of marks. Choose “not used” for it.`);
      this.found.push({ tMs, text });
    }
  }
}
