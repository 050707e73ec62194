import { studentCoverage } from '../distributions/studentT.ts';
import { correlationFactor } from '../series/autocorrelation.ts';
import { blockMeans, lowerBound, type Series } from '../series/series.ts';
import { evenStep } from './approachModel.ts';

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
}

/** Heavy sinks and closed cases warm with terms of an hour and more; what is slower still is taken to be drift of the room. */
export const LONGEST_TAU_S = 3600;
/** Slow time constants that are tried, evenly spaced in their logarithm, and once more around the best of them. */
const SLOW = 22;
const AROUND = 6;
/** Fast time constants that are tried beside each, before the best is refined. */
const FAST = 24;
/** A slow time constant is at least so many times the fast one. */
const APART = 1.25;
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

/** What remains after x: fast·e^{−x/τf} + bend·(x/τf)·e^{−x/τf} + slow·e^{−x/τs}; `bend` moves the fast time constant a little. */
interface Curve {
  fastTau: number;
  slowTau: number;
  fast: number;
  bend: number;
  slow: number;
}

const CONSTANT: Curve = { fastTau: 1, slowTau: 1, fast: 0, bend: 0, slow: 0 };

function amountAt({ fastTau, slowTau, fast, bend, slow }: Curve, x: number): number {
  return (fast + (bend * x) / fastTau) * Math.exp(-x / fastTau) + slow * Math.exp(-x / slowTau);
}

/** Seconds after x at which no more than `toleranceK` is left. */
function timeTo(curve: Curve, x: number, toleranceK: number): number {
  const beyond = (s: number) => Math.abs(amountAt(curve, x + s)) > toleranceK;
  if (!beyond(0)) return 0;
  let [low, high] = [0, curve.slowTau];
  while (beyond(high)) [low, high] = [high, 2 * high];
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2;
    if (beyond(middle)) low = middle;
    else high = middle;
  }
  return high;
}

/** By how much the mean over the last `readS` before x lies above the amount at x. */
function meanBehind(curve: Curve, x: number, readS: number): number {
  if (readS <= 0) return 0;
  const looks = 20;
  let total = 0;
  for (let k = 0; k < looks; k++) total += amountAt(curve, Math.max(0, x - (readS * (k + 0.5)) / looks));
  return total / looks - amountAt(curve, x);
}

function centre(values: Float64Array): Float64Array {
  let mean = 0;
  for (const value of values) mean += value / values.length;
  for (let i = 0; i < values.length; i++) values[i] = values[i]! - mean;
  return values;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** A column with the asymptote taken out: −(x/τ)^power·e^{−x/τ}. @param step of evenly spaced points, 0 where they are not */
function column(x: Float64Array, step: number, tau: number, power: 0 | 1 = 0): Float64Array {
  const values = new Float64Array(x.length);
  // From one point to the next it shrinks by one factor: far cheaper than an exponential each.
  const shrinks = Math.exp(-step / tau);
  let now = Math.exp(-x[0]! / tau);
  for (let i = 0; i < x.length; i++) {
    if (step === 0) now = Math.exp(-x[i]! / tau);
    values[i] = power === 0 ? -now : (-now * x[i]!) / tau;
    now *= shrinks;
  }
  return centre(values);
}

/** Solves a symmetric system of up to three unknowns; null where its columns cannot be told apart. */
function solve(gram: number[][], right: number[]): number[] | null {
  const n = right.length;
  const a = gram.map((row, i) => [...row, right[i]!]);
  for (let k = 0; k < n; k++) {
    if (!(a[k]![k]! > 1e-11 * gram[k]![k]!)) return null;
    for (let i = k + 1; i < n; i++) {
      const share = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= n; j++) a[i]![j] = a[i]![j]! - share * a[k]![j]!;
    }
  }
  const c = Array.from({ length: n }, () => 0);
  for (let k = n - 1; k >= 0; k--) {
    let value = a[k]![n]!;
    for (let j = k + 1; j < n; j++) value -= a[k]![j]! * c[j]!;
    c[k] = value / a[k]![k]!;
  }
  return c;
}

const sum = (p: readonly number[], q: readonly number[]) => p.reduce((total, value, i) => total + value * q[i]!, 0);

/** Golden-section search: where `f` was seen to be least, after so many looks inside the bracket. */
function golden(low: number, high: number, looks: number, f: (at: number) => number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [p, q] = [high - ratio * (high - low), low + ratio * (high - low)];
  let [left, right] = [f(p), f(q)];
  for (let k = 2; k < looks; k++) {
    if (left < right) {
      [high, q, right] = [q, p, left];
      p = high - ratio * (high - low);
      left = f(p);
    } else {
      [low, p, left] = [p, q, right];
      q = low + ratio * (high - low);
      right = f(q);
    }
  }
  return left < right ? p : q;
}

/** The best curve of one slow time constant whose parts go one way. */
interface Profile {
  squares: number;
  curve: Curve;
}

/** The best pair so far; changed in place, since there are thousands. */
interface Best {
  squares: number;
  fastTau: number;
  fast: number;
  slow: number;
}

function keep(best: Best, squares: number, fastTau: number, fast: number, slow: number): number {
  if (squares < best.squares) [best.squares, best.fastTau, best.fast, best.slow] = [squares, fastTau, fast, slow];
  return squares;
}

/** A column of a time constant with its own square and its product with the values. */
interface Part {
  tau: number;
  col: Float64Array;
  gg: number;
  r: number;
}

/** The points as they are searched: `y` turned so that the approach rises. */
class Search {
  readonly total: number;
  private readonly step: number;
  /** Fast time constants that are tried beside every slow one. */
  private readonly fast: Part[];

  constructor(
    readonly x: Float64Array,
    readonly y: Float64Array,
    shortest: number,
    longest: number,
  ) {
    this.total = dot(y, y);
    this.step = evenStep(x);
    this.fast = Array.from({ length: FAST }, (_, k) => this.part(shortest * (longest / shortest) ** (k / (FAST - 1))));
  }

  private part(tau: number): Part {
    const col = column(this.x, this.step, tau);
    return { tau, col, gg: dot(col, col), r: dot(col, this.y) };
  }

  /** Least squares with a fast and a slow part, neither below zero; what it leaves over is kept where it is less than before. */
  private tryPair(fast: Part, slow: Part, best: Best): number {
    const cross = dot(fast.col, slow.col);
    const determinant = fast.gg * slow.gg - cross * cross;
    if (determinant > 1e-11 * fast.gg * slow.gg) {
      const p = (fast.r * slow.gg - slow.r * cross) / determinant;
      const q = (slow.r * fast.gg - fast.r * cross) / determinant;
      if (p >= 0 && q >= 0) return keep(best, this.total - p * fast.r - q * slow.r, fast.tau, p, q);
    }
    const [early, late] = [Math.max(0, fast.r) / fast.gg, Math.max(0, slow.r) / slow.gg];
    const [alone, only] = [this.total - early * Math.max(0, fast.r), this.total - late * Math.max(0, slow.r)];
    return fast.gg > 0 && alone < only ? keep(best, alone, fast.tau, early, 0) : keep(best, only, fast.tau, 0, late);
  }

  profile(slowTau: number): Profile {
    const slow = this.part(slowTau);
    const longest = slowTau / APART;
    const best: Best = { squares: Infinity, fastTau: 1, fast: 0, slow: 0 };
    let [place, least] = [0, Infinity];
    for (let k = 0; k < FAST && (k === 0 || this.fast[k]!.tau <= longest); k++) {
      const squares = this.tryPair(this.fast[k]!, slow, best);
      if (squares < least) [place, least] = [k, squares];
    }
    const ends = [this.fast[Math.max(0, place - 1)]!.tau, Math.min(longest, this.fast[Math.min(FAST - 1, place + 1)]!.tau)] as const;
    if (ends[1] > ends[0]) golden(Math.log(ends[0]), Math.log(ends[1]), 8, (log) => this.tryPair(this.part(Math.exp(log)), slow, best));
    const { squares, fastTau, fast, slow: late } = best;
    return { squares, curve: { fastTau, slowTau, fast, bend: 0, slow: late } };
  }

  /**
   * Curves of a profile's time constants, the fast one moved a little, at which what remains at the end is smallest and largest among
   * those that leave no more than a level over: an ellipse cut by a line, in closed form.
   */
  extremes({ fastTau, slowTau }: Curve, levels: readonly number[]): Curve[][] {
    const end = this.x[this.x.length - 1]!;
    const e = Math.exp(-end / fastTau);
    const parts = [
      { col: column(this.x, this.step, fastTau), g: e },
      { col: column(this.x, this.step, fastTau, 1), g: (e * end) / fastTau },
      { col: column(this.x, this.step, slowTau), g: Math.exp(-end / slowTau) },
    ];
    const products = parts.map((p) => parts.map((q) => dot(p.col, q.col)));
    const along = parts.map((p) => dot(p.col, this.y));
    const found = levels.map((): Curve[] => []);
    for (const use of [[0, 1, 2], [0, 2], [0, 1], [2]]) {
      const g = use.map((k) => parts[k]!.g);
      const gram = use.map((p) => use.map((q) => products[p]![q]!));
      const right = use.map((k) => along[k]!);
      const c = solve(gram, right);
      const d = solve(gram, g);
      if (!c || !d) continue;
      const left = this.total - sum(c, right);
      const reach = sum(g, d);
      if (!(reach > 0)) continue;
      levels.forEach((level, i) => {
        if (!(level >= left)) return;
        for (const side of [-1, 1]) {
          const step = side * Math.sqrt((level - left) / reach);
          const value = (k: number) => (use.includes(k) ? c[use.indexOf(k)]! + step * d[use.indexOf(k)]! : 0);
          const curve = { fastTau, slowTau, fast: value(0), bend: value(1), slow: value(2) };
          if (curve.fast >= 0 && curve.slow >= 0 && amountAt(curve, end) >= 0) found[i]!.push(curve);
        }
      });
    }
    return found;
  }

  /** What remains at the end by least squares with one slow time constant, not held above zero, and its variance over that of the noise. */
  estimate({ fastTau, slowTau }: Curve): { squares: number; k: number; v: number } | null {
    const end = this.x[this.x.length - 1]!;
    const e = Math.exp(-end / fastTau);
    const cols = [column(this.x, this.step, fastTau), column(this.x, this.step, fastTau, 1), column(this.x, this.step, slowTau)];
    const g = [e, (e * end) / fastTau, Math.exp(-end / slowTau)];
    for (const from of [0, 2]) {
      const use = cols.slice(from);
      const gram = use.map((p) => use.map((q) => dot(p, q)));
      const right = use.map((p) => dot(p, this.y));
      const [c, d] = [solve(gram, right), solve(gram, g.slice(from))];
      if (c && d) return { squares: this.total - sum(c, right), k: sum(c, g.slice(from)), v: sum(d, g.slice(from)) };
    }
    return null;
  }

  residuals(curve: Curve): Float64Array {
    return centre(this.y.map((value, i) => value + amountAt(curve, this.x[i]!)));
  }
}

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
  let changes = 0;
  for (let i = 1; i < y.length; i++) if (y[i] !== y[i - 1]) changes++;
  return changes > DITHERED * y.length;
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
  // Three terms are more than two can follow: where the last two thirds by themselves say otherwise, neither is trusted alone.
  const rest = remainingFrom(series, late, opts);
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

/** The work of `remainingAt` on the record from one sample on. */
function remainingFrom(series: Series, first: number, opts: RemainingOptions): Remaining {
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
  const all: { profile: Profile; search: Search; sign: number }[] = [];
  const searches = [1, -1].map((sign) => ({
    sign,
    search: new Search(x, centre(points.y.map((value) => sign * value)), shortest, longestTauS / APART),
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
    for (let k = 0; k < SLOW; k++) {
      const squares = looked(k / (SLOW - 1));
      if (squares < lowest) [place, lowest] = [k / (SLOW - 1), squares];
    }
    const near = 1 / (SLOW - 1);
    place = golden(Math.max(0, place - near), Math.min(1, place + near), 12, looked);
    // The nearer the best, the narrower the band that the points may allow.
    for (let k = 1; k <= AROUND; k++) for (const side of [-1, 1]) looked(place + (side * 0.3 ** k) / 4);
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
  const amplitudeK = Math.max(1, USUAL_SHARE * Math.abs(series.y[series.y.length - 1]! - series.y[0]!));
  found.likely = likelyOf(all, least, wide, end, amplitudeK) ?? { value: bestK, u: 0 };
  return found;
}

/** How much a slow term usually carries of what a part warms by. Our own figure, and no more than a scale. */
const USUAL_SHARE = 0.25;
/** Standard deviations in a one-sided 95 % bound. */
const ONE_SIDED = 1.6449;
/** Places at which what remains is tried for each time constant. */
const PLACES = 24;

/**
 * Mean and standard deviation of what remains over all time constants, each as likely as the next before the points are seen (evenly in
 * their logarithm), with an amplitude that falls off exponentially: what the bound says of the worst, this says of the usual.
 *
 * @param variance of the noise of a point, K²
 * @param amplitudeK mean amplitude of a slow term before the points are seen
 * @returns null where nothing can be weighed
 */
function likelyOf(
  all: readonly { profile: Profile; search: Search; sign: number }[],
  least: number,
  variance: number,
  end: number,
  amplitudeK: number,
): { value: number; u: number } | null {
  const tried: { log: number; k: number }[] = [];
  for (const sign of [1, -1]) {
    const mine = all.filter((entry) => entry.sign === sign).sort((p, q) => p.profile.curve.slowTau - q.profile.curve.slowTau);
    const logTau = (i: number) => Math.log(mine[Math.max(0, Math.min(mine.length - 1, i))]!.profile.curve.slowTau);
    mine.forEach(({ profile: { curve, squares }, search }, i) => {
      const width = (logTau(i + 1) - logTau(i - 1)) / 2;
      // What cannot be the case need not be worked out.
      if (!(width > 0) || squares - least > 60 * variance) return;
      const found = search.estimate(curve);
      if (!found) return;
      const v = found.v * variance;
      const rate = Math.exp(Math.min(700, end / curve.slowTau)) / amplitudeK;
      const step = Math.min(Math.max(0, found.k) + 4 * Math.sqrt(v), 12 / rate) / PLACES;
      if (!(step > 0)) return;
      const misfit = Math.max(0, found.squares - least) / (2 * variance);
      for (let j = 0; j < PLACES; j++) {
        const k = (j + 0.5) * step;
        tried.push({ log: Math.log(width * rate * step) - misfit - (k - found.k) ** 2 / (2 * v) - rate * k, k: sign * k });
      }
    });
  }
  const peak = tried.reduce((most, { log }) => Math.max(most, log), -Infinity);
  if (!Number.isFinite(peak)) return null;
  let [weight, first, second] = [0, 0, 0];
  for (const { log, k } of tried) {
    const w = Math.exp(log - peak);
    weight += w;
    first += w * k;
    second += w * k * k;
  }
  const value = first / weight;
  return { value, u: Math.sqrt(Math.max(0, second / weight - value * value)) };
}
