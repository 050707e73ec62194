import { studentCoverage } from '../distributions/studentT.ts';
import { correlationFactor } from '../series/autocorrelation.ts';
import { blockMeans, lowerBound, type Series } from '../series/series.ts';
import { dot } from '../dot.ts';
import { centre } from './columns.ts';
import { amountAt, APART, Columns, CONSTANT, golden, LateSearch, meanBehind, timeTo, type Profile } from './lateSearch.ts';
import { likelyOf } from './likelyRemaining.ts';

/** How far an approach may still go. Kelvin are signed: positive where the settled value lies above the last one. */
export interface Remaining {
  /** By the curve that follows the points best. */
  bestK: number;
  /** One-sided 95 % bounds of what remains; `bestK` lies between them. */
  lowK: number;
  highK: number;
  /** Seconds until no more than the tolerance remains, by the best curve; 0 where that is so already. */
  etaS: number;
  /** Two-sided 95 % band of `etaS`. */
  etaLowS: number;
  etaHighS: number;
  /** By how much the best curve's mean over the last `readS` falls short of its last value, K. */
  meanBehindK: number;
  /** What remains in all likelihood, with its standard deviation, K: over all time constants, not at the worst of them. */
  likely: { value: number; u: number };
  /** How far means over `readS` scatter about the curve, K, with its dof: what a room that comes and goes does; null under four of them. */
  wander: { sd: number; dof: number } | null;
}

/** Heavy sinks and closed cases warm with terms of up to an hour; what is slower still is taken to be drift of the room. */
export const LONGEST_TAU_S = 3600;
/** Looks at slow time constants: evenly spaced in their logarithm, closing in on the best of them, and about it on either side. */
interface Grid {
  slow: number;
  golden: number;
  around: number;
}
const FINE: Grid = { slow: 22, golden: 12, around: 6 };
/** Enough to tell whether what is likely lies within a tolerance, not for bounds. */
const ROUGH: Grid = { slow: 14, golden: 8, around: 4 };
/** Points that are looked at: noise decides long before the shape between them. */
const POINTS = 90;
/** More than this share of neighbours differ where noise dithers the steps of a sensor. */
const DITHERED = 0.05;
/** The first part of the way says little of the last, and much of terms that are long over. */
const WAY_LEFT_OFF = 0.75;
const MOST_LEFT_OFF = 1 / 3;
/** Two starts nearer than this share of the record say the same. */
const MIN_APART = 0.08;
/** Shares of a bound's distance within which two starts agree. */
const AGREES = 0.8;

/** Standard deviations in a one-sided 95 % bound. */
export const ONE_SIDED = 1.6449;
/**
 * By how much correlation widens a variance, from the residuals of a fit of five parameters: their correlation comes out too small
 * by about (1 + 3ρ + 5(1 + ρ))/n, which is put back (Kendall 1954, Biometrika 41, for the first part).
 */
function correlatedBy(residuals: Float64Array): number {
  const n = residuals.length;
  let lagged = 0;
  for (let i = 1; i < n; i++) lagged += residuals[i]! * residuals[i - 1]!;
  const squares = dot(residuals, residuals);
  const found = squares > 0 ? Math.max(0, lagged / squares) : 0;
  const rho = Math.min(0.98, found + (1 + 3 * found + 5 * (1 + found)) / n);
  return Math.max(correlationFactor(residuals), (1 + rho) / (1 - rho));
}

/** Whether neighbours differ often enough that the means of coarse values follow what was measured. */
function dithered(y: Float64Array): boolean {
  const enough = DITHERED * y.length;
  let changes = 0;
  // A fine sensor has shown it within the first part of a long record.
  for (let i = 1; i < y.length && changes <= enough; i++) if (y[i] !== y[i - 1]) changes++;
  return changes > enough;
}

/** Index of the record from which it is looked at: most of the way is behind it, two thirds of the record are not. */
function lateStart(series: Series): { early: number; late: number } {
  const { t, y } = blockMeans(series, 2 * POINTS);
  const n = y.length;
  const from = y[0]!;
  const goal = from + WAY_LEFT_OFF * (y[n - 1]! - from);
  const rising = goal > from;
  const most = t[0]! + MOST_LEFT_OFF * (t[n - 1]! - t[0]!);
  let i = 0;
  while (i < n - 8 && t[i]! < most && (rising ? y[i]! < goal : y[i]! > goal)) i++;
  return { early: lowerBound(series.t, t[i]!), late: lowerBound(series.t, most) };
}

export interface RemainingOptions {
  /** What `etaS` counts down to, K. */
  toleranceK: number;
  /** Length of the window at the end whose mean is read, seconds; 0 for the last value itself. */
  readS?: number;
  /** Smallest step of the sensor, K; 0 where it is fine. */
  stepK?: number;
  /** Slowest time constant that is thought possible, seconds; default `LONGEST_TAU_S`. */
  longestTauS?: number;
}

/**
 * What remains of an approach at its last sample, with its bounds, by profile likelihood over a slow time constant up to a stated
 * longest, a fast one beside it and their amplitudes, all going one way.
 *
 * Slope and best fit are both blind to a slow term behind a fast one that has died; a bound over all time constants is not.
 *
 * @param series °C or K; nothing missing, ascending, at least 8 samples
 * @see Venzon & Moolgavkar 1988, Applied Statistics 37(1), for profile-likelihood bounds; Golub & Pereyra 1973 for the amplitudes
 */
export function remainingAt(series: Series, opts: RemainingOptions): Remaining {
  const { early, late } = lateStart(series);
  const whole = remainingFrom(series, early, opts);
  if (late - early < MIN_APART * series.t.length) return whole;
  return bothStarts(whole, remainingFrom(series, late, opts));
}

/** Three terms are more than two can follow: where the last two thirds by themselves say otherwise, neither is trusted alone. */
function bothStarts(whole: Remaining, rest: Remaining): Remaining {
  const apart = rest.bestK - whole.bestK;
  const agree = apart > 0 ? apart < AGREES * (rest.bestK - rest.lowK) : -apart < AGREES * (rest.highK - rest.bestK);
  if (agree) return whole;
  const [p, q] = [whole.likely, rest.likely];
  return {
    ...rest,
    likely: { value: (p.value + q.value) / 2, u: Math.hypot((p.u + q.u) / 2, (p.value - q.value) / 2) },
    lowK: Math.min(whole.lowK, rest.lowK),
    highK: Math.max(whole.highK, rest.highK),
    etaLowS: Math.min(whole.etaLowS, rest.etaLowS),
    etaHighS: Math.max(whole.etaHighS, rest.etaHighS),
  };
}

/** Whether what remains lies within a tolerance at the one-sided 95 % level. */
export const isWithin = ({ value, u }: Remaining['likely'], toleranceK: number): boolean => Math.abs(value) + ONE_SIDED * u <= toleranceK;

/**
 * `isWithin` of what `remainingAt` finds likely, by fewer time constants: for a search that asks it of moment after moment.
 *
 * @param series as of `remainingAt`
 */
export function likelyWithin(series: Series, opts: RemainingOptions): boolean {
  const { early, late } = lateStart(series);
  const whole = remainingFrom(series, early, opts, ROUGH);
  const apart = late - early >= MIN_APART * series.t.length;
  // No second start takes back what lies beyond: |p + q|/2 + |p − q|/2 is never less than |p|.
  if (!apart || Math.abs(whole.likely.value) > opts.toleranceK) return isWithin(whole.likely, opts.toleranceK);
  return isWithin(bothStarts(whole, remainingFrom(series, late, opts, ROUGH)).likely, opts.toleranceK);
}

/** Parameters that a curve has taken from the means before they are counted. */
const CURVE_TAKES = 2;

function wanderOf(residuals: Float64Array, points: number): Remaining['wander'] {
  const size = Math.max(1, Math.round(points));
  const means: number[] = [];
  for (let end = residuals.length; end - size >= 0; end -= size) {
    let mean = 0;
    for (let i = end - size; i < end; i++) mean += residuals[i]! / size;
    means.push(mean);
  }
  const dof = means.length - CURVE_TAKES;
  return dof < 2 ? null : { sd: Math.sqrt(means.reduce((sum, mean) => sum + mean * mean, 0) / dof), dof };
}

/** The work of `remainingAt` on the record from one sample on. */
function remainingFrom(series: Series, first: number, opts: RemainingOptions, grid: Grid = FINE): Remaining {
  const { toleranceK, readS = 0, stepK = 0, longestTauS = LONGEST_TAU_S } = opts;
  // Groups of one size: what is sampled evenly stays so.
  const size = Math.ceil((series.t.length - first) / POINTS);
  const from = series.t.length - size * Math.floor((series.t.length - first) / size);
  const points = blockMeans({ t: series.t.subarray(from), y: series.y.subarray(from) }, Math.floor((series.t.length - first) / size));
  const n = points.t.length;
  const x = points.t.map((t) => t - points.t[0]!);
  const end = x[n - 1]!;
  const shortest = end / (3 * n);
  const quickest = Math.max(4 * shortest, end / 40);
  const fine = longestTauS / quickest;
  let least = Infinity;
  let best = CONSTANT;
  let bestSign = 1;
  const all: { profile: Profile; search: LateSearch; sign: number }[] = [];
  const columns = new Columns(x);
  const searches = [1, -1].map((sign) => ({
    sign,
    search: new LateSearch(columns, centre(points.y.map((value) => sign * value)), shortest, longestTauS / APART),
  }));
  const rises = points.y[n - 1]! >= points.y[0]! ? 1 : -1;
  for (const { sign, search } of searches.sort((p, q) => rises * (q.sign - p.sign))) {
    const looked = (position: number) => {
      const profile = search.profile(quickest * fine ** Math.min(1, Math.max(0, position)));
      all.push({ profile, search, sign });
      if (profile.squares < least) [least, best, bestSign] = [profile.squares, profile.curve, sign];
      return profile.squares;
    };
    // An approach that goes clearly one way leaves nothing for curves of the other.
    if (sign !== rises && search.total > 3 * least && [0.3, 0.7, 1].every((position) => looked(position) > 3 * least)) continue;
    let [place, lowest] = [0, Infinity];
    for (let k = 0; k < grid.slow; k++) {
      const squares = looked(k / (grid.slow - 1));
      if (squares < lowest) [place, lowest] = [k / (grid.slow - 1), squares];
    }
    const near = 1 / (grid.slow - 1);
    place = golden(Math.max(0, place - near), Math.min(1, place + near), grid.golden, looked);
    // The nearer the best, the narrower the band that the points may allow.
    for (let k = 1; k <= grid.around; k++) for (const side of [-1, 1]) looked(place + (side * 0.3 ** k) / 4);
  }
  const residuals = searches.find(({ sign }) => sign === bestSign)!.search.residuals(best);
  const inflation = correlatedBy(residuals);
  // Steps that noise does not dither do not average out.
  const averaged = dithered(series.y) ? series.t.length / n : 1;
  const variance = Math.max(least / Math.max(1, n - 5), stepK ** 2 / 12 / averaged, 1e-12);
  const dof = Math.max(2, n / inflation - 3);
  const spread = variance * inflation;
  const oneSided = least + spread * studentCoverage(0.9, dof) ** 2;
  const twoSided = least + spread * studentCoverage(0.95, dof) ** 2;
  const bestK = bestSign * amountAt(best, end);
  const etaS = timeTo(best, end, toleranceK);
  const found: Remaining = {
    bestK,
    lowK: bestK,
    highK: bestK,
    etaS,
    etaLowS: etaS,
    etaHighS: etaS,
    meanBehindK: bestSign * meanBehind(best, end, readS),
    likely: { value: bestK, u: 0 },
    wander: readS > 0 ? wanderOf(residuals, (readS / end) * (n - 1)) : null,
  };
  const total = searches[0]!.search.total;
  if (total <= oneSided) [found.lowK, found.highK] = [Math.min(0, bestK), Math.max(0, bestK)];
  if (total <= twoSided) found.etaLowS = 0;
  for (const { profile, search, sign } of all) {
    if (profile.squares > twoSided) continue;
    const [bounding, band] = search.extremes(profile.curve, [oneSided, twoSided]);
    for (const curve of bounding!) {
      const k = sign * amountAt(curve, end);
      found.lowK = Math.min(found.lowK, k);
      found.highK = Math.max(found.highK, k);
    }
    for (const curve of band!) {
      const eta = timeTo(curve, end, toleranceK);
      found.etaLowS = Math.min(found.etaLowS, eta);
      found.etaHighS = Math.max(found.etaHighS, eta);
    }
  }
  // Doubt of few degrees of freedom is wider than a normal one; so is the variance that stands for it.
  const wide = spread * (studentCoverage(0.9, dof) / ONE_SIDED) ** 2;
  found.likely = likelyOf(all, least, wide, end, Math.abs(series.y[series.y.length - 1]! - series.y[0]!)) ?? { value: bestK, u: 0 };
  // The worst is never less than the usual.
  found.lowK = Math.min(found.lowK, found.likely.value - ONE_SIDED * found.likely.u);
  found.highK = Math.max(found.highK, found.likely.value + ONE_SIDED * found.likely.u);
  return found;
}
