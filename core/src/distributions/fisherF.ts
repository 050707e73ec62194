import { incompleteBeta } from './studentT.ts';

/** Beyond this many degrees of freedom a variance is known as well as any. */
const MOST_DOF = 1e6;

/**
 * P(F ≥ f) of Fisher's F: how often the ratio of two variances that estimate one is as large.
 *
 * @param f ratio of variances
 * @param dof1,dof2 degrees of freedom of the upper and the lower one, above zero, need not be whole
 * @throws RangeError degrees of freedom not above zero
 * @see DLMF 8.17; Abramowitz & Stegun 26.6.2
 */
export function fisherTail(f: number, dof1: number, dof2: number): number {
  if (!(dof1 > 0) || !(dof2 > 0)) throw new RangeError(`dof must be above zero, got ${dof1} and ${dof2}`);
  if (!(f > 0)) return 1;
  const [p, q] = [Math.min(dof1, MOST_DOF), Math.min(dof2, MOST_DOF)];
  return incompleteBeta(q / (q + p * f), q / 2, p / 2);
}
