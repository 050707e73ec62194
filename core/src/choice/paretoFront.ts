import { InsufficientDataError, requireFinite } from '../errors.ts';

export type Better = 'low' | 'high';

/**
 * The choices that nothing beats: no other is at least as good on every criterion and better on one.
 *
 * @param choices a row of criteria for each choice
 * @param better for each criterion whether a low or a high value is the better one
 * @returns indices in ascending order; equal choices all stay
 * @throws InsufficientDataError no choice or no criterion
 * @throws RangeError a row of another length, or a value that is not a number
 */
export function paretoFront(choices: readonly (readonly number[])[], better: readonly Better[]): number[] {
  if (choices.length === 0 || better.length === 0) throw new InsufficientDataError('there is nothing to choose between');
  for (const row of choices) {
    if (row.length !== better.length) throw new RangeError(`a choice has ${row.length} criteria where ${better.length} were named`);
    for (const value of row) requireFinite(value, 'criterion');
  }
  for (const way of better) if (way !== 'low' && way !== 'high') throw new RangeError('say low or high for every criterion');
  // From here on low is better throughout.
  const rows = choices.map((row) => row.map((value, i) => (better[i] === 'low' ? value : -value)));
  const beats = (p: number[], q: number[]) => p.every((value, i) => value <= q[i]!) && p.some((value, i) => value < q[i]!);
  return rows.flatMap((row, i) => (rows.some((other) => beats(other, row)) ? [] : [i]));
}
