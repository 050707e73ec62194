import { requirePositive } from '../errors.ts';
import { assertSeries, usable, type Series } from './series.ts';

/**
 * Spot minus ambient, sample by sample, the ambient interpolated linearly to the spot's own timestamps.
 *
 * Never mean minus mean: a room that drifts two degrees during an hour must not leak into the result (methods §1).
 *
 * @param spot °C, shape [n]
 * @param ambient °C, shape [m], any clock rate
 * @param opts.maxGapS an ambient sample must lie within this many seconds on both sides (default 30); one at that very
 *   time counts for both
 * @returns K, shape [n] on the spot's times; NaN where spot or ambient is missing
 * @throws RangeError malformed series or maxGapS not above zero
 */
export function riseOverAmbient(spot: Series, ambient: Series, opts: { maxGapS?: number } = {}): Series {
  const maxGapS = opts.maxGapS ?? 30;
  requirePositive(maxGapS, 'maxGapS');
  assertSeries(spot, 'spot');
  assertSeries(ambient, 'ambient');
  const air = usable(ambient);
  const rise = new Float64Array(spot.t.length).fill(NaN);
  let next = 0; // first ambient sample at or after the spot's time
  for (let i = 0; i < spot.t.length; i++) {
    const time = spot.t[i]!;
    while (next < air.t.length && air.t[next]! < time) next++;
    if (next < air.t.length && air.t[next] === time) {
      rise[i] = spot.y[i]! - air.y[next]!;
      continue;
    }
    if (next === 0 || next === air.t.length) continue;
    const before = air.t[next - 1]!;
    const after = air.t[next]!;
    if (time - before > maxGapS || after - time > maxGapS) continue;
    const share = (time - before) / (after - before);
    rise[i] = spot.y[i]! - (air.y[next - 1]! + share * (air.y[next]! - air.y[next - 1]!));
  }
  return { t: spot.t.slice(), y: rise };
}
