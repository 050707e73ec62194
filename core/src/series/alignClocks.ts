import { InsufficientDataError, requirePositive } from '../errors.ts';
import { correlate } from './correlate.ts';
import { assertSeries, medianInterval, usable, type Series } from './series.ts';

/** By how much one clock is off another, and how sure that is. */
export interface ClockAlignment {
  /** Add it to b's timestamps. */
  offsetS: number;
  /** Peak of the normalised cross-correlation, 0..1; 0 where either side is flat. */
  confidence: number;
}

/** More points than a day at ten a second would be no record of a run. */
const MOST_POINTS = 4_000_000;

/** Differences from step to step on a regular grid, by straight lines between usable samples. */
function differences({ t, y }: Series, stepS: number): Float64Array {
  const n = Math.floor((t[t.length - 1]! - t[0]!) / stepS) + 1;
  if (n > MOST_POINTS) throw new RangeError(`the record is ${n} steps of ${stepS} s long; more than ${MOST_POINTS} cannot be aligned`);
  const out = new Float64Array(Math.max(0, n - 1));
  let i = 0;
  let before = y[0]!;
  for (let k = 1; k < n; k++) {
    const time = t[0]! + k * stepS;
    while (i < t.length - 2 && t[i + 1]! < time) i++;
    const share = (time - t[i]!) / (t[i + 1]! - t[i]!);
    const value = y[i]! + share * (y[i + 1]! - y[i]!);
    out[k - 1] = value - before;
    before = value;
  }
  return out;
}

const energy = (values: Float64Array) => values.reduce((sum, value) => sum + value * value, 0);

/**
 * Shift that brings `b` onto `a`'s clock, from the load step that both have seen (methods §3).
 *
 * Both are put on a grid of the coarser of their median intervals and differenced, so that levels, slow drifts and units do not
 * count; the shift is where the two agree best, refined between grid points by a parabola through the peak.
 *
 * @param a any unit, seconds on its own clock; NaN is skipped
 * @param b any unit, seconds on another clock
 * @param opts.maxShiftS largest shift that is looked for; half the shorter record where nothing is said
 * @returns `offsetS` is good to half the coarser interval
 * @throws InsufficientDataError fewer than eight usable samples on either side
 * @throws RangeError malformed series, maxShiftS not above zero
 * @see Knapp & Carter 1976, IEEE Trans. ASSP 24(4), cross-correlation without weighting
 */
export function alignClocks(a: Series, b: Series, opts: { maxShiftS?: number } = {}): ClockAlignment {
  assertSeries(a, 'a');
  assertSeries(b, 'b');
  const [p, q] = [usable(a), usable(b)];
  for (const [name, { t }] of [
    ['a', p],
    ['b', q],
  ] as const)
    // prettier-ignore
    if (t.length < 8) throw new InsufficientDataError(`${t.length} usable samples in ${name}; aligning needs eight`);
  const stepS = Math.max(medianInterval(p.t), medianInterval(q.t));
  const lengthS = ({ t }: Series) => t[t.length - 1]! - t[0]!;
  const mostS = opts.maxShiftS ?? Math.min(lengthS(p), lengthS(q)) / 2;
  requirePositive(mostS, 'maxShiftS');
  const [da, db] = [differences(p, stepS), differences(q, stepS)];
  const scale = Math.sqrt(energy(da) * energy(db));
  // The first grid points stand apart by this much on the two clocks.
  const baseS = p.t[0]! - q.t[0]!;
  if (!(scale > 0)) return { offsetS: 0, confidence: 0 };
  const at = correlate(da, db);
  const least = Math.max(1 - db.length, Math.ceil((-mostS - baseS) / stepS));
  const last = Math.min(da.length - 1, Math.floor((mostS - baseS) / stepS));
  if (last < least) return { offsetS: 0, confidence: 0 };
  let best = least;
  for (let lag = least + 1; lag <= last; lag++) if (at(lag) > at(best)) best = lag;
  const [left, peak, right] = [at(best - 1), at(best), at(best + 1)];
  const bend = left - 2 * peak + right;
  const between = bend < 0 ? Math.max(-0.5, Math.min(0.5, (left - right) / (2 * bend))) : 0;
  const offsetS = Math.max(-mostS, Math.min(mostS, baseS + (best + between) * stepS));
  return { offsetS, confidence: Math.max(0, Math.min(1, peak / scale)) };
}
