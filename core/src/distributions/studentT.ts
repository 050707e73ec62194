import { requireProbability } from '../errors.ts';
import { logGamma } from './gamma.ts';
import { normalCdf, normalQuantile } from './normal.ts';

/** Beyond this many degrees of freedom the t distribution is taken as normal: they differ by less than 1e-8. */
const AS_NORMAL = 1e8;

/** Regularised incomplete beta function I_x(a, b), continued fraction by Lentz's method (DLMF 8.17.22). */
export function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x)) / a;
  const tiny = 1e-300;
  let c = 1;
  let d = 1 / Math.max(Math.abs(1 - ((a + b) * x) / (a + 1)), tiny);
  if (1 - ((a + b) * x) / (a + 1) < 0) d = -d;
  let h = d;
  // The fraction needs about √max(a, b) steps.
  const steps = 200 + 10 * Math.ceil(Math.sqrt(Math.max(a, b)));
  for (let m = 1; m <= steps; m++) {
    for (const numerator of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 + numerator * d;
      if (Math.abs(d) < tiny) d = tiny;
      c = 1 + numerator / c;
      if (Math.abs(c) < tiny) c = tiny;
      d = 1 / d;
      h *= d * c;
    }
    if (Math.abs(d * c - 1) < 1e-16) break;
  }
  return front * h;
}

/** P(T <= t) of Student's t with `dof` degrees of freedom (not necessarily whole; Infinity is the normal distribution). */
export function studentCdf(t: number, dof: number): number {
  if (dof >= AS_NORMAL) return normalCdf(t);
  const tail = 0.5 * incompleteBeta(dof / (dof + t * t), dof / 2, 0.5);
  return t > 0 ? 1 - tail : tail;
}

/**
 * Two-sided quantile: the k for which a share `coverage` of the distribution lies within ±k.
 *
 * @param coverage 0 < coverage < 1
 * @param dof above zero, need not be whole (JCGM 100:2008 table G.2 for whole ones)
 */
export function studentCoverage(coverage: number, dof: number): number {
  requireProbability(coverage, 'coverage');
  if (!(dof > 0)) throw new RangeError(`dof must be above zero, got ${dof}`);
  const tail = (1 - coverage) / 2;
  const z = -normalQuantile(tail);
  if (dof >= AS_NORMAL) return z;
  const upperTail = (t: number) => 0.5 * incompleteBeta(dof / (dof + t * t), dof / 2, 0.5);
  let low = 0;
  let high = Math.max(1, z);
  while (upperTail(high) > tail) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-13 * high; i++) {
    const middle = (low + high) / 2;
    if (upperTail(middle) > tail) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
