import { thinned } from './decimate.ts';
import { assertSeries, medianInterval, usable, type Series } from './series.ts';

/** A stretch without samples longer than this many usual intervals is a gap and is drawn as one. */
const GAP_INTERVALS = 5;

/**
 * A trace thinned for drawing, with gaps kept: min/max-preserving per unbroken stretch, null at the start of each gap.
 *
 * @param series any unit, shape [n]; NaN counts as missing
 * @param maxPoints about how many points to return; each stretch gets its share and at least four
 * @throws RangeError malformed series or maxPoints under 4
 */
export function drawable(series: Series, maxPoints: number): { t: number[]; y: (number | null)[] } {
  if (!(maxPoints >= 4)) throw new RangeError(`maxPoints must be 4 or more, got ${maxPoints}`);
  assertSeries(series, 'series');
  const { t, y } = usable(series);
  const out: { t: number[]; y: (number | null)[] } = { t: [], y: [] };
  if (t.length === 0) return out;
  const gapS = GAP_INTERVALS * medianInterval(t);
  let from = 0;
  for (let i = 1; i <= t.length; i++) {
    if (i < t.length && t[i]! - t[i - 1]! <= gapS) continue;
    const share = Math.max(4, Math.floor((maxPoints * (i - from)) / t.length));
    const part = thinned({ t: t.subarray(from, i), y: y.subarray(from, i) }, share);
    if (from > 0) {
      out.t.push(t[from - 1]! + gapS);
      out.y.push(null);
    }
    out.t.push(...part.t);
    out.y.push(...part.y);
    from = i;
  }
  return out;
}
