import { InsufficientDataError, requirePositive } from '../errors.ts';
import { correlate } from './correlate.ts';
import { assertSeries, medianInterval, usable, type Series } from './series.ts';

/** By how much one clock is off another by something that both have seen, and how it was told. */
export interface ClockOffset {
  /** Add it to b's timestamps. */
  offsetS: number;
  /** The peak stands out from every rival: the two show the same thing, and show it once. */
  sure: boolean;
  /** Where one side follows the other slowly: which, and its time constant, seconds; that much is no matter of the clock. */
  lag: { side: 'a' | 'b'; tauS: number } | null;
  /** Share of the slower side's variance that the other explains at this offset, 0..1. */
  explained: number;
  /** Grid on which it was looked for: nothing is told finer than half of it, seconds. */
  stepS: number;
}

/** More points than this tell no more of where two records belong. */
const MOST_POINTS = 16_384;
const LEAST_SAMPLES = 8;
/** Time constants that a sensor may follow with, seconds. */
const LAGS_S = [3, 6, 12, 24, 48, 96];
/** By which a time constant that was found is tried finer. */
const FINER = [1.3, 1.14, 1.07, 1.03];
/** Steps over which both are smoothed before their steps are held against each other. */
const BLURS = [1, 4, 16, 64];
/** So many times that width they are smoothed before levels are held against each other. */
const SMOOTHED = 4;
/** A lag has to leave this much less unexplained than none, or it is none. */
const LAG_GAIN = 0.5;
/** A peak has to stand this much above what noise would bring somewhere, in standard deviations, and no rival may come so near. */
const CLEAR = 2;
const RIVAL = 0.8;
/** Two records that share less than this of the shorter are not held against each other. */
const LEAST_OVERLAP = 0.3;

/** Means over equal steps, straight lines where a step holds no sample. */
function gridded({ t, y }: Series, stepS: number): Float64Array {
  const n = Math.floor((t.at(-1)! - t[0]!) / stepS) + 1;
  const [sums, counts] = [new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < t.length; i++) {
    const k = Math.min(n - 1, Math.round((t[i]! - t[0]!) / stepS));
    sums[k]! += y[i]!;
    counts[k]!++;
  }
  const out = sums.map((sum, k) => (counts[k] === 0 ? NaN : sum / counts[k]!));
  let last = 0;
  for (let k = 1; k < n; k++) {
    if (Number.isNaN(out[k]!)) continue;
    for (let j = last + 1; j < k; j++) out[j] = out[last]! + ((out[k]! - out[last]!) * (j - last)) / (k - last);
    last = k;
  }
  return out;
}

/** What a sensor of this time constant makes of it. */
function followed(y: Float64Array, tauS: number, stepS: number): Float64Array {
  const share = -Math.expm1(-stepS / tauS);
  const out = new Float64Array(y.length);
  let now = y[0]!;
  for (let k = 0; k < y.length; k++) out[k] = now += share * (y[k]! - now);
  return out;
}

/** Share of q's variance that p explains by a straight line, where p[k] stands beside q[k − lag]; NaN where they share too little. */
function explainedAt(p: Float64Array, q: Float64Array, lag: number): number {
  const from = Math.max(0, lag);
  const to = Math.min(p.length, q.length + lag);
  const n = to - from;
  if (n < LEAST_OVERLAP * Math.min(p.length, q.length)) return NaN;
  let [sp, sq, pp, qq, pq] = [0, 0, 0, 0, 0];
  for (let k = from; k < to; k++) {
    const [u, v] = [p[k]!, q[k - lag]!];
    sp += u;
    sq += v;
    pp += u * u;
    qq += v * v;
    pq += u * v;
  }
  const [vp, vq, c] = [pp - (sp * sp) / n, qq - (sq * sq) / n, pq - (sp * sq) / n];
  return vp > 1e-12 * pp && vq > 1e-12 * qq ? (c * c) / (vp * vq) : 0;
}

/** Where the two agree best within so many steps of a lag, refined between grid points by a parabola. */
function bestNear(p: Float64Array, q: Float64Array, around: number, within: number): { shift: number; explained: number } {
  let [best, most] = [around, -1];
  for (let lag = around - within; lag <= around + within; lag++) {
    const here = explainedAt(p, q, lag);
    if (here > most) [best, most] = [lag, here];
  }
  const [left, right] = [explainedAt(p, q, best - 1), explainedAt(p, q, best + 1)];
  const bend = left - 2 * most + right;
  const between = bend < 0 ? Math.max(-0.5, Math.min(0.5, (left - right) / (2 * bend))) : 0;
  return { shift: best + between, explained: Math.max(0, most) };
}

/** Whether a peak of a correlation stands out from all that is not near it. */
function standsOut(at: (lag: number) => number, least: number, last: number, peak: number, near: number): boolean {
  const others: number[] = [];
  for (let lag = least; lag <= last; lag++) if (Math.abs(lag - peak) > near) others.push(at(lag));
  if (others.length < LEAST_SAMPLES) return false;
  const sorted = [...others].sort((p, q) => p - q);
  const middle = sorted[sorted.length >> 1]!;
  const spread = 1.4826 * sorted.map((value) => Math.abs(value - middle)).sort((p, q) => p - q)[sorted.length >> 1]!;
  const height = at(peak) - middle;
  return height > (Math.sqrt(2 * Math.log(others.length)) + CLEAR) * spread && sorted.at(-1)! - middle < RIVAL * height;
}

/**
 * By how much b's clock is off a's, by whatever both have seen, in units of their own.
 *
 * Where the steps of both agree is found by cross-correlation of their differences (`alignClocks`) and is sure where that peak stands out
 * from its rivals, however low it is: noise lowers a peak, and makes none. About the peak the levels themselves are held against each
 * other, one of them as a slow sensor would have followed it; what is lag is then no offset.
 *
 * @param a any unit, seconds on its own clock; NaN is skipped
 * @param b any unit, seconds on another clock
 * @param opts.maxShiftS largest shift that is looked for; half the shorter record where nothing is said
 * @throws InsufficientDataError fewer than eight usable samples on either side
 * @throws RangeError malformed series, maxShiftS not above zero
 */
export function clockOffset(a: Series, b: Series, opts: { maxShiftS?: number } = {}): ClockOffset {
  assertSeries(a, 'a');
  assertSeries(b, 'b');
  const [p, q] = [usable(a), usable(b)];
  const few = [p, q].find(({ t }) => t.length < LEAST_SAMPLES);
  if (few) throw new InsufficientDataError(`${few.t.length} usable samples; comparing clocks needs ${LEAST_SAMPLES}`);
  const lengthS = ({ t }: Series) => t.at(-1)! - t[0]!;
  const mostS = opts.maxShiftS ?? Math.min(lengthS(p), lengthS(q)) / 2;
  requirePositive(mostS, 'maxShiftS');
  const stepS = Math.max(medianInterval(p.t), medianInterval(q.t), Math.max(lengthS(p), lengthS(q)) / MOST_POINTS);
  const [ga, gb] = [gridded(p, stepS), gridded(q, stepS)];
  const none: ClockOffset = { offsetS: 0, sure: false, lag: null, explained: 0, stepS };
  const baseS = p.t[0]! - q.t[0]!;
  const [da, db] = [stepwise(ga), stepwise(gb)];
  const least = Math.max(1 - db.length, Math.ceil((-mostS - baseS) / stepS));
  const last = Math.min(da.length - 1, Math.floor((mostS - baseS) / stepS));
  if (last < least || flat(da) || flat(db)) return none;

  const seen = peakOf(ga, gb, { least, last });
  const within = (tauS: number) =>
    Math.min(Math.ceil((3 * Math.max(...LAGS_S)) / stepS), 2 * seen.blur + 2 + Math.ceil((4 * tauS) / stepS));
  // Both are smoothed alike, which moves neither: else what smooths one side would pass for a lag where there is only noise.
  const [sa, sb] = [ga, gb].map((side) => blurred(side, SMOOTHED * seen.blur + 1)) as [Float64Array, Float64Array];
  const plain = { lag: null, tauS: 0, ...bestNear(sa, sb, seen.peak, within(0)) };
  const lagged = (['a', 'b'] as const).flatMap((side) => {
    const at = (tauS: number) => {
      const [p1, q1] = side === 'b' ? [followed(sa, tauS, stepS), sb] : [sa, followed(sb, tauS, stepS)];
      return { lag: side, tauS, ...bestNear(p1, q1, seen.peak, within(tauS)) };
    };
    const coarse = LAGS_S.filter((tauS) => tauS > stepS / 2).map(at);
    if (coarse.length === 0) return [];
    // A time constant that is a little off moves the offset by as much.
    return [FINER.reduce((best, by) => mostTold([best, at(best.tauS * by), at(best.tauS / by)]), mostTold(coarse))];
  });
  const best = mostTold([plain, ...lagged]);
  const told = 1 - best.explained < (1 - LAG_GAIN) * (1 - plain.explained) ? best : plain;
  return {
    offsetS: Math.max(-mostS, Math.min(mostS, baseS + told.shift * stepS)),
    sure: seen.sure,
    lag: told.lag === null ? null : { side: told.lag, tauS: told.tauS },
    explained: told.explained,
    stepS,
  };
}

interface Tried {
  lag: 'a' | 'b' | null;
  tauS: number;
  shift: number;
  explained: number;
}
const mostTold = (tried: readonly Tried[]): Tried => tried.reduce((most, one) => (one.explained > most.explained ? one : most));

/** Where steps of both agree, looked at ever more blurred until it is sure: noise drowns a step between neighbours, not between minutes. */
function peakOf(
  a: Float64Array,
  b: Float64Array,
  { least, last }: { least: number; last: number },
): { peak: number; blur: number; sure: boolean } {
  let first: { peak: number; blur: number; sure: boolean } | null = null;
  for (const blur of BLURS) {
    if (blur > Math.min(a.length, b.length) / 8) break;
    const at = correlate(stepwise(blurred(a, blur)), stepwise(blurred(b, blur)));
    let peak = least;
    for (let lag = least + 1; lag <= last; lag++) if (at(lag) > at(peak)) peak = lag;
    const seen = { peak, blur, sure: standsOut(at, least, last, peak, Math.max(3, 4 * blur)) };
    if (seen.sure) return seen;
    first ??= seen;
  }
  return first!;
}

/** Moving means over so many steps. */
function blurred(y: Float64Array, over: number): Float64Array {
  if (over === 1) return y;
  const out = new Float64Array(y.length);
  let sum = 0;
  for (let k = 0; k < y.length + (over >> 1); k++) {
    if (k < y.length) sum += y[k]!;
    if (k >= over) sum -= y[k - over]!;
    const middle = k - (over >> 1);
    if (middle >= 0 && middle < y.length) out[middle] = sum / (Math.min(k, y.length - 1) - Math.max(0, k - over + 1) + 1);
  }
  return out;
}

const stepwise = (y: Float64Array): Float64Array => y.subarray(1).map((value, i) => value - y[i]!);
const flat = (y: Float64Array): boolean => y.every((value) => value === 0);
