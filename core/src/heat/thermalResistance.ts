import { requirePositive } from '../errors.ts';
import { requireEstimate, welchSatterthwaite, type Estimate } from '../estimate.ts';

/**
 * Thermal resistance from a spot to the air it is referred to: rise over that air, divided by the heat that flows.
 *
 * Referred to intake air it describes the cooler, to room air the cooler and its enclosure together (methods §1).
 *
 * @param rise K over room or over intake
 * @param power W, above zero
 * @returns K/W; u by propagation of a quotient, dof by Welch-Satterthwaite
 * @throws RangeError power not above zero, u negative, dof not above zero
 * @see JCGM 100:2008, 5.1.2 and G.4
 */
export function thermalResistance(rise: Estimate, power: Estimate): Estimate {
  requireEstimate(rise, 'rise');
  requireEstimate(power, 'power');
  requirePositive(power.value, 'power');
  const value = rise.value / power.value;
  const parts = [
    { u: rise.u / power.value, dof: rise.dof },
    { u: Math.abs(value / power.value) * power.u, dof: power.dof },
  ];
  return { value, u: Math.hypot(parts[0]!.u, parts[1]!.u), dof: welchSatterthwaite(parts) };
}
