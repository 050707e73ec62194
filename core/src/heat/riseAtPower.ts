import { requireNotNegative, requirePositive } from '../errors.ts';
import { requireEstimate, welchSatterthwaite, type Estimate } from '../estimate.ts';

/**
 * A rise restated for another power: rise · (target / power)^exponent.
 *
 * @param rise K
 * @param power W at which it was measured, above zero
 * @param targetW W, not negative
 * @param exponent 1 for forced flow (default), about 0.8 for a passive sink, above zero
 * @returns K; u by propagation of both, dof by Welch-Satterthwaite
 * @throws RangeError a value outside its domain
 * @see JCGM 100:2008, 5.1.2 and G.4
 */
export function riseAtPower(rise: Estimate, power: Estimate, targetW: number, exponent = 1): Estimate {
  requireEstimate(rise, 'rise');
  requireEstimate(power, 'power');
  requirePositive(power.value, 'power');
  requireNotNegative(targetW, 'targetW');
  requirePositive(exponent, 'exponent');
  const scale = (targetW / power.value) ** exponent;
  const value = rise.value * scale;
  const parts = [
    { u: rise.u * scale, dof: rise.dof },
    { u: Math.abs((exponent * value) / power.value) * power.u, dof: power.dof },
  ];
  return { value, u: Math.hypot(parts[0]!.u, parts[1]!.u), dof: welchSatterthwaite(parts) };
}
