import { InsufficientDataError, requireFinite, requirePositive } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { correlationFactor } from '../series/autocorrelation.ts';
import { assertSeries, blockMeans, extremes, medianInPlace, usable, type Series } from '../series/series.ts';
import {
  AmplitudeSearch,
  curveAt,
  gradientAt,
  inverseInformation,
  parameterCount,
  refine,
  sumOfSquares,
  tauGrid,
  type Curve,
  type Problem,
} from './approachModel.ts';

export interface ApproachFit {
  /** Clock of the series. */
  t0: number;
  asymptote: Estimate;
  /** u = 0 where the start was pinned. */
  start: Estimate;
  /** Shares sum to 1, tau ascending. */
  terms: { share: number; tau: Estimate }[];
  residualSd: number;
  n: number;
  aicc: number;
  /** Seconds from the first sample until the fitted curve stays within `toleranceK` (> 0, else RangeError) of the asymptote. */
  settlesAtS(toleranceK: number): number;
  /** Fitted temperature at time t (same clock as the series). */
  at(t: number): number;
}

export interface ApproachOptions {
  terms?: 1 | 2 | 'auto';
  /** Pins the value at t0, unit of the series. */
  start?: number;
  /** Default: the first sample. */
  t0?: number;
  robust?: boolean;
  autocorrelated?: boolean;
}

/** Points used while searching for a start; the last steps always use every sample. */
const SEARCH_POINTS = 240;
/** Rounds given to each start; only the best is refined to the end. */
const SEARCH_ROUNDS = 12;

interface Fitted {
  problem: Problem;
  curve: Curve;
  squares: number;
  dof: number;
  aicc: number;
}

function search(problem: Problem, terms: 1 | 2): Curve | null {
  const few = blockMeans({ t: problem.x, y: problem.y }, SEARCH_POINTS);
  const coarse: Problem = few.t === problem.x ? problem : { ...problem, x: few.t, y: few.y, weight: null };
  const found: { curve: Curve; squares: number }[] = [];
  const grid = tauGrid(coarse, terms === 1 ? 40 : 18);
  const amplitudes = new AmplitudeSearch(coarse, grid, terms);
  const consider = (choice: number[]) => {
    const trial = amplitudes.try(choice);
    if (trial) found.push(trial);
  };
  for (let i = 0; i < grid.length; i++) {
    if (terms === 1) consider([i]);
    else for (let j = i + 1; j < grid.length; j++) consider([i, j]);
  }
  // Several starts: the sum of squares has more than one valley when two time constants are near each other.
  found.sort((p, q) => p.squares - q.squares);
  const best = found.slice(0, terms === 1 ? 2 : 4).map((trial) => refine(coarse, trial.curve, SEARCH_ROUNDS));
  best.sort((p, q) => p.squares - q.squares);
  return best[0]?.curve ?? null;
}

/** ln RSS/n of data that fit exactly would be −∞; rounding sets the floor. */
function akaike(squares: number, n: number, parameters: number, size: number): number {
  const k = parameters + 1;
  const floor = n * (1e-12 * size) ** 2;
  const correction = n - k - 1 > 0 ? (2 * k * (k + 1)) / (n - k - 1) : 0;
  return n * Math.log(Math.max(squares, floor) / n) + 2 * k + correction;
}

function fitTerms(problem: Problem, terms: 1 | 2): Fitted | null {
  const n = problem.x.length;
  const parameters = parameterCount(terms, problem.start !== null);
  if (n <= parameters) return null;
  const from = search(problem, terms);
  if (!from) return null;
  const { curve, squares } = refine(problem, from);
  const size = Math.max(...curve.terms.map((term) => Math.abs(term.c)), 1e-3);
  const degenerate = terms === 2 && curve.terms.some((term) => Math.abs(term.c) < 1e-6 * size);
  if (degenerate) return null;
  curve.terms.sort((p, q) => p.tau - q.tau);
  return { problem, curve, squares, dof: n - parameters, aicc: akaike(squares, n, parameters, size) };
}

function choose(problem: Problem, terms: 1 | 2 | 'auto'): Fitted {
  const one = terms === 2 ? null : fitTerms(problem, 1);
  // AICc needs two samples more than parameters to weigh the second term at all.
  const enoughForTwo = problem.x.length > parameterCount(2, problem.start !== null) + 2;
  const two = terms === 1 || (terms === 'auto' && !enoughForTwo) ? null : fitTerms(problem, 2);
  const best = one && two ? (two.aicc < one.aicc ? two : one) : (two ?? one);
  if (best) return best;
  const fallback = terms === 2 ? fitTerms(problem, 1) : null;
  const needed = parameterCount(terms === 2 ? 2 : 1, problem.start !== null) + 1;
  if (!fallback || problem.x.length < needed)
    throw new InsufficientDataError(`${problem.x.length} usable samples; this fit needs at least ${needed} and a change to follow`);
  return fallback;
}

/** Soft-L1: ρ(z) = 2(√(1+z) − 1), weight 1/√(1+z), z = (r/scale)²; iteratively reweighted. */
function refit(first: Fitted): Fitted {
  const { x, y } = first.problem;
  const residuals = x.map((time, i) => y[i]! - curveAt(first.curve, time));
  const centre = medianInPlace(residuals.slice());
  const scale = 1.4826 * medianInPlace(residuals.map((r) => Math.abs(r - centre)));
  if (!(scale > 0)) return first;
  let current = first;
  for (let round = 0; round < 100; round++) {
    const weight = x.map((time, i) => 1 / Math.sqrt(1 + ((y[i]! - curveAt(current.curve, time)) / scale) ** 2));
    const problem = { ...first.problem, weight };
    const { curve } = refine(problem, current.curve);
    const moved = Math.abs(curve.asymptote - current.curve.asymptote);
    current = { ...current, problem, curve, squares: sumOfSquares(problem, curve) };
    if (moved <= 1e-10 * (1 + Math.abs(curve.asymptote))) break;
  }
  current.curve.terms.sort((p, q) => p.tau - q.tau);
  return current;
}

/** x at which the curve is `distance` from its asymptote; the distance shrinks steadily with x. */
export function timeAtDistance(curve: Curve, distance: number): number {
  const away = (x: number) => curve.terms.reduce((sum, { c, tau }) => sum + Math.abs(c) * Math.exp(-x / tau), 0) - distance;
  const slowest = Math.max(...curve.terms.map((term) => term.tau));
  let low = 0;
  let high = slowest;
  while (away(low) < 0) low -= slowest;
  while (away(high) > 0) high += slowest;
  for (let i = 0; i < 200 && high - low > 1e-12 * (Math.abs(high) + slowest); i++) {
    const middle = (low + high) / 2;
    if (away(middle) > 0) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A fit with what `assessSettling` needs besides: the curve and the covariance of its parameters. */
export interface DetailedFit {
  fit: ApproachFit;
  curve: Curve;
  t0: number;
  squares: number;
  dof: number;
  /** By how much correlated residuals widen a variance; 1 when not asked for. */
  inflation: number;
  /** Standard uncertainty of Σ weights·parameters; the gradient is written by the callback. */
  uOf(gradient: (out: Float64Array) => void): number;
}

/** @internal the work of `fitApproach`, on a checked series without missing samples */
export function fitApproachDetailed(data: Series, opts: ApproachOptions & { quick?: boolean }): DetailedFit {
  const terms = opts.terms ?? 'auto';
  const n = data.t.length;
  const pinned = opts.start !== undefined;
  const needed = parameterCount(terms === 2 ? 2 : 1, pinned) + 1;
  if (n < needed) throw new InsufficientDataError(`${n} usable samples; this fit needs at least ${needed}`);
  const t0 = opts.t0 ?? data.t[0]!;
  const { low, high } = extremes(data.y);
  const reach = Math.max(high - low, pinned ? Math.abs(high - opts.start!) : 0, pinned ? Math.abs(low - opts.start!) : 0);
  if (!(reach > 1e-9 * Math.max(1, Math.abs(high))))
    throw new InsufficientDataError('the trace does not change: there is no approach to fit');
  const span = data.t[n - 1]! - data.t[0]!;
  const problem: Problem = {
    x: data.t.map((time) => time - t0),
    y: data.y,
    weight: null,
    start: opts.start ?? null,
    tauMin: span / (20 * n),
    tauMax: 1000 * span,
    quick: opts.autocorrelated === true || opts.quick === true,
  };
  const chosen = choose(problem, terms);
  const fitted = opts.robust ? refit(chosen) : chosen;
  const { curve, squares, dof } = fitted;
  const residuals = problem.x.map((x, i) => data.y[i]! - curveAt(curve, x));
  const inflation = opts.autocorrelated ? correlationFactor(residuals) : 1;
  const variance = (squares / dof) * inflation;
  const information = inverseInformation(fitted.problem, curve);
  const p = information.rows;
  const uOf = (gradient: (out: Float64Array) => void): number => {
    const g = new Float64Array(p);
    gradient(g);
    let sum = 0;
    for (let a = 0; a < p; a++) for (let b = 0; b < p; b++) sum += g[a]! * g[b]! * information.get(a, b);
    return Math.sqrt(Math.max(0, sum * variance));
  };
  const offset = pinned ? 0 : 1; // parameters: [A?, c_1, ln τ_1, …]
  const amplitude = curve.terms.reduce((sum, term) => sum + term.c, 0);
  const fit: ApproachFit = {
    t0,
    asymptote: {
      value: curve.asymptote,
      u: uOf((g) => (pinned ? curve.terms.forEach((_, i) => (g[2 * i] = 1)) : (g[0] = 1))),
      dof,
    },
    start: pinned
      ? { value: opts.start!, u: 0, dof: Infinity }
      : {
          value: curve.asymptote - amplitude,
          u: uOf((g) => {
            g[0] = 1;
            curve.terms.forEach((_, i) => (g[offset + 2 * i] = -1));
          }),
          dof,
        },
    terms: curve.terms.map(({ c, tau }, i) => ({
      share: amplitude === 0 ? 1 / curve.terms.length : c / amplitude,
      tau: { value: tau, u: tau * uOf((g) => (g[offset + 2 * i + 1] = 1)), dof },
    })),
    residualSd: Math.sqrt(squares / dof),
    n,
    aicc: fitted.aicc,
    settlesAtS(toleranceK: number): number {
      requirePositive(toleranceK, 'toleranceK');
      if (amplitude === 0) return 0;
      return Math.max(0, timeAtDistance(curve, toleranceK) - problem.x[0]!);
    },
    at: (t: number): number => curveAt(curve, t - t0),
  };
  return { fit, curve, t0, squares, dof, inflation, uOf };
}

/** u of (asymptote − curve) at time t of a detailed fit. */
export function uOfRemaining(detailed: DetailedFit, t: number, pinned: boolean): number {
  const x = t - detailed.t0;
  return detailed.uOf((g) => {
    gradientAt(detailed.curve, pinned, x, g);
    for (let a = 0; a < g.length; a++) g[a] = -g[a]!;
    if (pinned) detailed.curve.terms.forEach((_, i) => (g[2 * i] = g[2 * i]! + 1));
    else g[0] = g[0]! + 1;
  });
}

/**
 * Exponential approach to a steady state, one or two terms:
 * y(t) = asymptote − (asymptote − start)·Σ share_i·exp(−(t − t0)/τ_i).
 *
 * A heated part warms by a fast term (die and spreader) and a slow one (sink, board, enclosure). Amplitudes are eliminated by
 * variable projection while searching over time constants, then all parameters are polished by Levenberg-Marquardt on every
 * sample, with shares and time constants kept positive.
 *
 * @param series °C or K, shape [n]; NaN is skipped
 * @param opts.terms 'auto' (default) picks by AICc = n·ln(RSS/n) + 2k + 2k(k+1)/(n−k−1), k = parameters plus one for the
 *   variance (where n is too small for the correction it is left out). Where two are asked for and the data hold only one,
 *   the result has one
 * @param opts.start pins the value at t0
 * @param opts.robust soft-L1 loss, scale 1.4826·MAD of a first fit's residuals; u from the soft-L1 weights
 * @param opts.autocorrelated widens u for correlated residuals (Geyer's sequence)
 * @returns standard uncertainties by residual variance times (JᵀJ)⁻¹, dof = n − parameters
 * @throws InsufficientDataError no more samples than parameters, or no change to fit
 * @throws RangeError malformed series, start or t0 not finite
 * @see Golub & Pereyra 1973, SIAM J. Numer. Anal. 10(2); Marquardt 1963; Burnham & Anderson 2002 for AICc. Checked against
 *   NIST StRD BoxBOD and Misra1a
 */
export function fitApproach(series: Series, opts: ApproachOptions = {}): ApproachFit {
  assertSeries(series, 'series');
  if (opts.start !== undefined) requireFinite(opts.start, 'start');
  if (opts.t0 !== undefined) requireFinite(opts.t0, 't0');
  if (opts.terms !== undefined && opts.terms !== 1 && opts.terms !== 2 && opts.terms !== 'auto')
    throw new RangeError(`terms must be 1, 2 or 'auto', got ${String(opts.terms)}`);
  return fitApproachDetailed(usable(series), opts).fit;
}
