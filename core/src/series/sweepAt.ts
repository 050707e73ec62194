import { InsufficientDataError, requireFinite } from '../errors.ts';
import { requireEstimate, type Estimate } from '../estimate.ts';

export interface SweepPoint {
  x: number;
  y: Estimate;
}

function linear(xs: readonly number[], ys: readonly number[], i: number, x: number): number {
  const share = (x - xs[i]!) / (xs[i + 1]! - xs[i]!);
  return ys[i]! + share * (ys[i + 1]! - ys[i]!);
}

/** Slopes at the points, limited so that no interval overshoots (Fritsch & Carlson 1980, with the circle of radius 3). */
function monotoneSlopes(xs: readonly number[], ys: readonly number[]): number[] {
  const secants = xs.slice(1).map((x, i) => (ys[i + 1]! - ys[i]!) / (x - xs[i]!));
  const slopes = xs.map((_, i) => {
    const [before, after] = [secants[i - 1], secants[i]];
    if (before === undefined) return after!;
    if (after === undefined) return before;
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  secants.forEach((secant, i) => {
    if (secant === 0) {
      slopes[i] = 0;
      slopes[i + 1] = 0;
      return;
    }
    const size = Math.hypot(slopes[i]! / secant, slopes[i + 1]! / secant);
    if (size <= 3) return;
    slopes[i] = (3 / size) * slopes[i]!;
    slopes[i + 1] = (3 / size) * slopes[i + 1]!;
  });
  return slopes;
}

function monotoneCubic(xs: readonly number[], ys: readonly number[], i: number, x: number): number {
  const slopes = monotoneSlopes(xs, ys);
  const width = xs[i + 1]! - xs[i]!;
  const s = (x - xs[i]!) / width;
  return (
    ys[i]! * (1 + 2 * s) * (1 - s) ** 2 +
    width * slopes[i]! * s * (1 - s) ** 2 +
    ys[i + 1]! * s * s * (3 - 2 * s) +
    width * slopes[i + 1]! * s * s * (s - 1)
  );
}

/** How the interpolated value moves with each y, by central differences of the size of the doubts. */
function propagated(xs: readonly number[], ys: readonly number[], us: readonly number[], i: number, x: number): number {
  const parts = ys.map((_, j) => {
    const u = us[j]!;
    if (u === 0) return 0;
    const moved = (by: number) =>
      monotoneCubic(
        xs,
        ys.map((y, k) => (k === j ? y + by : y)),
        i,
        x,
      );
    return (moved(u) - moved(-u)) / 2;
  });
  return Math.hypot(...parts);
}

/**
 * Value of a sweep at x: temperature against noise, noise against turns. Monotone cubic between the points, never beyond them.
 *
 * @param points in any order, each y with its own doubt
 * @returns u: that of the points propagated, and half of what linear and monotone-cubic interpolation differ by; dof of the
 *   nearer point
 * @throws InsufficientDataError no point
 * @throws RangeError x outside the sweep, two points with one x, a value that is not a number
 * @see F. N. Fritsch and R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer. Anal. 17 (1980) 238
 */
export function sweepAt(points: readonly SweepPoint[], x: number): Estimate {
  requireFinite(x, 'x');
  if (points.length === 0) throw new InsufficientDataError('a sweep needs at least one point');
  for (const point of points) {
    requireFinite(point.x, 'x of a point');
    requireEstimate(point.y, 'y of a point');
  }
  const sorted = [...points].sort((p, q) => p.x - q.x);
  const xs = sorted.map((point) => point.x);
  if (xs.some((value, i) => i > 0 && value === xs[i - 1])) throw new RangeError('two points of the sweep share an x: average them first');
  const [low, high] = [xs[0]!, xs.at(-1)!];
  if (x < low || x > high)
    throw new RangeError(`${x} lies outside the sweep (${low} to ${high}), and a sweep is not carried beyond its ends`);
  const exact = sorted.find((point) => point.x === x);
  if (exact) return { ...exact.y };
  const i = xs.findIndex((value) => value > x) - 1;
  const ys = sorted.map((point) => point.y.value);
  const us = sorted.map((point) => point.y.u);
  const value = monotoneCubic(xs, ys, i, x);
  const between = Math.abs(value - linear(xs, ys, i, x)) / 2;
  const nearer = x - xs[i]! <= xs[i + 1]! - x ? sorted[i]! : sorted[i + 1]!;
  return { value, u: Math.hypot(propagated(xs, ys, us, i, x), between), dof: nearer.y.dof };
}
