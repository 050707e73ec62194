/** A sensor that gives more different values than this is not coarse. */
const MOST_VALUES = 500;
/** Closer than this two values are one, in the unit of the series. */
const SAME = 1e-9;

/**
 * The smallest step in which values are given: the resolution of what read them, as far as the values themselves show it.
 *
 * @param values any unit; NaN is skipped
 * @returns 0 where they are given so finely that nothing rests on it, null where all of them are alike
 */
export function stepOf(values: ArrayLike<number>): number | null {
  const distinct = new Set<number>();
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value === value) distinct.add(value);
    if (distinct.size > MOST_VALUES) return 0;
  }
  const sorted = [...distinct].sort((p, q) => p - q);
  let least = Infinity;
  for (let i = 1; i < sorted.length; i++) {
    const apart = sorted[i]! - sorted[i - 1]!;
    if (apart > SAME && apart < least) least = apart;
  }
  return Number.isFinite(least) ? Number(least.toPrecision(6)) : null;
}
