import { assertSeries, usable, type Series } from './series.ts';

/**
 * Reduction for drawing that keeps what the eye looks for: each bucket gives its lowest and its highest sample.
 *
 * @param series any unit, shape [n]
 * @param maxPoints most points to return, 4 or more
 * @returns at most `maxPoints` of the input's own samples, the first, the last and the global extremes among them; missing
 *   samples are left out, except where the series is small enough already and comes back unchanged
 * @throws RangeError malformed series or maxPoints under 4
 */
export function decimate(series: Series, maxPoints: number): Series {
  if (!(maxPoints >= 4)) throw new RangeError(`maxPoints must be 4 or more, got ${maxPoints}`);
  assertSeries(series, 'series');
  if (series.t.length <= maxPoints) return { t: series.t.slice(), y: series.y.slice() };
  return thinned(usable(series), maxPoints);
}

/** As `decimate`, of a series that has been checked and misses nothing. */
export function thinned({ t, y }: Series, maxPoints: number): Series {
  const n = t.length;
  if (n <= maxPoints) return { t: t.slice(), y: y.slice() };
  const kept: number[] = [0];
  const buckets = Math.floor((maxPoints - 2) / 2);
  const inner = n - 2;
  for (let bucket = 0; bucket < buckets; bucket++) {
    const from = 1 + Math.floor((bucket * inner) / buckets);
    const to = 1 + Math.floor(((bucket + 1) * inner) / buckets);
    if (to <= from) continue;
    let low = from;
    let high = from;
    let least = y[from]!;
    let most = least;
    for (let i = from + 1; i < to; i++) {
      const value = y[i]!;
      if (value < least) {
        least = value;
        low = i;
      } else if (value > most) {
        most = value;
        high = i;
      }
    }
    kept.push(Math.min(low, high));
    if (low !== high) kept.push(Math.max(low, high));
  }
  kept.push(n - 1);
  return { t: Float64Array.from(kept, (i) => t[i]!), y: Float64Array.from(kept, (i) => y[i]!) };
}
