import { InsufficientDataError, requireFinite } from '../errors.ts';
import { welchSatterthwaite, type Estimate } from '../estimate.ts';
import { inverse } from '../inverse.ts';
import type { PowerPoint } from './safePower.ts';

/** rise = r0 + a·P + c·P², none of them below zero: what a part sheds at no load, in proportion to it, and by its resistance. */
export interface GrowingLosses {
  r0: number;
  a: number;
  c: number;
  /** Of r0, a and c before they are held above zero, K, K/W, K/W². */
  covariance: number[][];
}

/** Powers nearer to each other than this share of the highest are one. */
const ONE_POWER = 0.05;

/** How many powers points lie at: each term of a law needs one. */
export function distinctPowers(points: readonly PowerPoint[]): number {
  const sorted = points.map(({ powerW }) => powerW.value).sort((p, q) => p - q);
  const apart = ONE_POWER * (sorted.at(-1) ?? 0);
  return sorted.filter((power, i) => i === 0 || power - sorted[i - 1]! > apart).length;
}

/** Powers are counted in the highest of them while solving: the columns then are of one size. */
interface Problem {
  columns: number[][];
  y: number[];
  weights: number[];
}

function gramOf({ columns, weights }: Problem, use: readonly number[]): number[][] {
  return use.map((p) => use.map((q) => columns[p]!.reduce((sum, value, i) => sum + weights[i]! * value * columns[q]![i]!, 0)));
}

function solved(problem: Problem, use: readonly number[]): { values: number[]; misfit: number } | null {
  const { columns, y, weights } = problem;
  const turned = inverse(gramOf(problem, use));
  if (!turned) return null;
  const right = use.map((p) => columns[p]!.reduce((sum, value, i) => sum + weights[i]! * value * y[i]!, 0));
  const values = [0, 0, 0];
  use.forEach((p, i) => (values[p] = turned[i]!.reduce((sum, value, j) => sum + value * right[j]!, 0)));
  const misfit = y.reduce(
    (sum, value, i) => sum + weights[i]! * (value - columns.reduce((at, col, p) => at + values[p]! * col[i]!, 0)) ** 2,
    0,
  );
  return { values, misfit };
}

/**
 * Least squares of rise over power with losses that may grow faster than it, weighted by the doubt of every point.
 *
 * @param points three powers or more, an idle one among them or not; W and K
 * @throws InsufficientDataError fewer than three powers
 * @see Lawson & Hanson 1974, Solving Least Squares Problems, 23, for coefficients that are held above zero
 */
export function growingLosses(points: readonly PowerPoint[]): GrowingLosses {
  if (distinctPowers(points) < 3) throw new InsufficientDataError('losses that grow are told from three powers or more');
  const top = Math.max(...points.map(({ powerW }) => powerW.value));
  const steepest = Math.max(...points.map(({ powerW, rise }) => (powerW.value > 0 ? rise.value / powerW.value : 0)));
  const variances = points.map(({ powerW, rise }) => rise.u ** 2 + (steepest * powerW.u) ** 2);
  const least = Math.max(...variances) * 1e-6 || 1e-12;
  const problem: Problem = {
    columns: [0, 1, 2].map((power) => points.map(({ powerW }) => (powerW.value / top) ** power)),
    y: points.map(({ rise }) => rise.value),
    weights: variances.map((variance) => 1 / Math.max(variance, least)),
  };
  const tried = [[0, 1, 2], [0, 1], [0, 2], [1, 2], [1], [2], [0]]
    .flatMap((use) => solved(problem, use) ?? [])
    .filter(({ values }) => values.every((value) => value >= 0))
    .sort((p, q) => p.misfit - q.misfit);
  const best = tried[0]?.values ?? [0, 0, 0];
  const turned = inverse(gramOf(problem, [0, 1, 2]));
  if (!turned) throw new InsufficientDataError('losses that grow are told from three powers or more');
  // Points that lie off the curve by more than their doubt say that it is too small.
  const spread = Math.max(1, (tried[0]?.misfit ?? 0) / Math.max(1, points.length - 3));
  return {
    r0: best[0]!,
    a: best[1]! / top,
    c: best[2]! / top ** 2,
    covariance: turned.map((row, i) => row.map((value, j) => (spread * value) / top ** (i + j))),
  };
}

/** Rise at a power, K. */
export const riseByLosses = ({ r0, a, c }: GrowingLosses, powerW: number): number => r0 + a * powerW + c * powerW ** 2;

/**
 * Power at which a rise is reached, W, with the doubt of the curve there.
 *
 * @throws RangeError nothing is allowed beyond what the part sheds at no load, or the rise does not grow with power
 */
export function powerByLosses(losses: GrowingLosses, allowedK: number, points: readonly PowerPoint[]): Estimate {
  requireFinite(allowedK, 'allowedK');
  const { r0, a, c, covariance } = losses;
  const left = allowedK - r0;
  if (left <= 0) throw new RangeError('without any load the part is as warm as it may become already');
  if (a <= 0 && c <= 0) throw new RangeError('the rise does not grow with power in these points: something else changed between them');
  // In a form that does not cancel where c is next to nothing.
  const value = (2 * left) / (a + Math.sqrt(a * a + 4 * c * left));
  const gradient = [1, value, value ** 2];
  const variance = gradient.reduce((sum, p, i) => sum + gradient.reduce((row, q, j) => row + p * q * covariance[i]![j]!, 0), 0);
  return {
    value,
    u: Math.sqrt(Math.max(0, variance)) / (a + 2 * c * value),
    dof: welchSatterthwaite(points.map(({ rise }) => ({ u: rise.u, dof: rise.dof }))),
  };
}
