import { tTestPower } from '../distributions/noncentralT.ts';
import { requireNotNegative, requirePositive, requireProbability } from '../errors.ts';

export interface RepeatsInput {
  /** Deviation between runs, K; that of the paired differences in the paired design. */
  sd: number;
  /** True difference to be found, K. */
  detect: number;
  /** Two-sided, default 0.05. */
  alpha?: number;
  /** Default 0.8. */
  power?: number;
  /** Default two-sample. */
  design?: 'two-sample' | 'paired';
}

/**
 * Smallest number of runs per side (or pairs) whose two-sided t test finds a true difference with the asked power.
 *
 * By the noncentral t distribution, not the normal approximation, which promises too much for the small numbers of runs that
 * benches afford.
 *
 * @throws RangeError detect not above zero, sd negative, alpha or power outside 0..1, or a number too large to count
 * @see Cohen 1988, Statistical Power Analysis, ch. 2
 */
export function repeatsNeeded(input: RepeatsInput): number {
  const { sd, detect, alpha = 0.05, power = 0.8, design = 'two-sample' } = input;
  requireNotNegative(sd, 'sd');
  requirePositive(detect, 'detect');
  requireProbability(alpha, 'alpha');
  requireProbability(power, 'power');
  if (design !== 'two-sample' && design !== 'paired') throw new RangeError(`unknown design ${String(design)}`);
  if (sd === 0) return 2;
  const reached = (n: number) => {
    const noncentrality = (detect / sd) * Math.sqrt(design === 'paired' ? n : n / 2);
    return tTestPower(noncentrality, design === 'paired' ? n - 1 : 2 * n - 2, alpha) >= power;
  };
  let enough = 2;
  while (!reached(enough)) {
    enough *= 2;
    if (enough > 2 ** 50) throw new RangeError('the difference is too small against the scatter for any number of runs');
  }
  let tooFew = enough === 2 ? 1 : enough / 2;
  while (enough - tooFew > 1) {
    const middle = Math.floor((enough + tooFew) / 2);
    if (reached(middle)) enough = middle;
    else tooFew = middle;
  }
  return enough;
}
