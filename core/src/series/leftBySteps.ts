import { requireNotNegative } from '../errors.ts';
import { typeB } from '../uncertainty/typeB.ts';

/**
 * What the steps of a sensor leave in doubt of a mean that noise dithers: s/√12·e^{−2π²σ²/s²}, all of a step's own doubt where nothing
 * moves and next to nothing from a third of a step of noise on, since the mean then lies between the steps.
 *
 * @param stepK smallest step, K; 0 where it is fine
 * @param scatterK standard deviation of the values as they were given, K, slow drift apart: what the steps themselves add to it is taken off
 * @returns standard uncertainty, K
 * @see Widrow & Kollár 2008, Quantization Noise, 4.4: the first term of the error of a quantised Gaussian mean
 */
export function leftBySteps(stepK: number, scatterK: number): number {
  requireNotNegative(stepK, 'stepK');
  requireNotNegative(scatterK, 'scatterK');
  if (stepK === 0) return 0;
  const noise = Math.max(0, (scatterK / stepK) ** 2 - 1 / 12);
  return typeB(stepK / 2, 'rectangular') * Math.exp(-2 * Math.PI ** 2 * noise);
}
