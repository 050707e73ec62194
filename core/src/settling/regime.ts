import { medianInPlace, type Series } from '../series/series.ts';
import { fitApproachDetailed } from './fitApproach.ts';
import { AmplitudeSearch, tauGrid, type Problem } from './approachModel.ts';

/** A stretch shorter than this many points cannot carry a fit of its own. */
const FEWEST = 8;
/** Two stretches must explain the record this much better than one approach before a change of regime is believed. */
const CLEARLY_BETTER = 4;

/** Residual squares of the best single-term approach over part of the points: quick, for scanning many places. */
function quickSquares(points: Series, from: number, to: number): number {
  const t = points.t.subarray(from, to);
  const y = points.y.subarray(from, to);
  const mean = y.reduce((sum, value) => sum + value, 0) / y.length;
  let best = y.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  if (y.length < 5) return best;
  const span = t[t.length - 1]! - t[0]!;
  const problem: Problem = { x: t.map((time) => time - t[0]!), y, weight: null, start: null, tauMin: 0, tauMax: 1000 * span };
  const grid = tauGrid(problem, 14);
  const amplitudes = new AmplitudeSearch(problem, grid, 1);
  for (let k = 0; k < grid.length; k++) best = Math.min(best, amplitudes.try([k])?.squares ?? Infinity);
  return best;
}

/** Variance of the noise from differences between neighbours, which a slow trace leaves almost untouched. */
function noiseVariance(y: Float64Array): number {
  const steps = Float64Array.from({ length: y.length - 1 }, (_, i) => Math.abs(y[i + 1]! - y[i]!));
  return (1.4826 * medianInPlace(steps)) ** 2 / 2;
}

/**
 * Index of the point from which one approach describes the rest of the record: after the last step or knee, 0 where there is
 * none. A knee is believed only where two stretches leave a quarter of the squared residual, so that correlated noise does not
 * break a record into pieces.
 *
 * @param points at most a few hundred, nothing missing
 * @param smallestK misfits below this do not matter
 */
export function lastRegimeStart(points: Series, smallestK: number): number {
  let start = 0;
  for (let round = 0; round < 4; round++) {
    const n = points.t.length;
    if (n - start < 2 * FEWEST + 4) return start;
    const rest = { t: points.t.subarray(start), y: points.y.subarray(start) };
    const noise = noiseVariance(rest.y) * (n - start);
    const followed = (squares: number) => squares <= 2 * noise || Math.sqrt(squares / (n - start)) < 0.1 * smallestK;
    let whole: number;
    try {
      // One term is a fraction of the work of two, and enough wherever it follows the record.
      whole = fitApproachDetailed(rest, { quick: true, terms: 1 }).squares;
      if (followed(whole)) return start;
      whole = fitApproachDetailed(rest, { quick: true }).squares;
    } catch {
      return start; // a flat record has no regime to find
    }
    if (followed(whole)) return start;
    let best = Infinity;
    let at = -1;
    const scan = (from: number, to: number, step: number) => {
      for (let k = Math.max(start + 2, from); k <= Math.min(n - FEWEST, to); k += step) {
        const squares = quickSquares(points, start, k) + quickSquares(points, k, n);
        if (squares < best) {
          best = squares;
          at = k;
        }
      }
    };
    const stride = Math.max(1, Math.floor((n - start) / 32));
    scan(start + 2, n - FEWEST, stride);
    if (stride > 1) scan(at - stride + 1, at + stride - 1, 1);
    if (at < 0 || best * CLEARLY_BETTER > whole) return start;
    start = at;
  }
  return start;
}
