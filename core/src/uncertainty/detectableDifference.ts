import { tTestPower } from '../distributions/noncentralT.ts';
import { requireNotNegative, requireProbability } from '../errors.ts';

/**
 * Smallest true difference that a two-sided t test with `runs` a side (or pairs) finds with the asked power: the inverse of
 * `repeatsNeeded`.
 *
 * @param input.sd deviation between runs, K; of paired differences in the paired design
 * @param input.runs 2 or more
 * @returns K
 * @throws RangeError fewer than two runs, sd negative, alpha or power outside 0..1
 * @see Cohen 1988, Statistical Power Analysis, ch. 2
 */
export function detectableDifference(input: {
  sd: number;
  runs: number;
  alpha?: number;
  power?: number;
  design?: 'two-sample' | 'paired';
}): number {
  const { sd, runs, alpha = 0.05, power = 0.8, design = 'two-sample' } = input;
  requireNotNegative(sd, 'sd');
  requireProbability(alpha, 'alpha');
  requireProbability(power, 'power');
  if (!Number.isInteger(runs) || runs < 2) throw new RangeError(`runs must be a whole number of 2 or more, got ${runs}`);
  const dof = design === 'paired' ? runs - 1 : 2 * runs - 2;
  const reached = (noncentrality: number) => tTestPower(noncentrality, dof, alpha) >= power;
  let high = 1;
  while (!reached(high)) high *= 2;
  let low = 0;
  while (high - low > 1e-9 * high) {
    const middle = (low + high) / 2;
    if (reached(middle)) high = middle;
    else low = middle;
  }
  return (high * sd) / Math.sqrt(design === 'paired' ? runs : runs / 2);
}
