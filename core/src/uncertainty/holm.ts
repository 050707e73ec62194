/**
 * Holm's step-down correction of p-values of one family.
 *
 * @param p each 0..1, in any order
 * @returns adjusted p-values in the same order, at most 1
 * @throws RangeError a value outside 0..1
 * @see S. Holm, A simple sequentially rejective multiple test procedure, Scand. J. Statist. 6 (1979) 65
 */
export function holm(p: readonly number[]): number[] {
  for (const value of p) if (!(value >= 0 && value <= 1)) throw new RangeError(`a p-value lies between 0 and 1, got ${value}`);
  const order = p.map((value, i) => ({ value, i })).sort((x, y) => x.value - y.value);
  const adjusted = p.map(() => 1);
  let most = 0;
  order.forEach(({ value, i }, rank) => {
    most = Math.max(most, Math.min(1, value * (p.length - rank)));
    adjusted[i] = most;
  });
  return adjusted;
}
