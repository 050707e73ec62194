import { requireNotNegative } from '../errors.ts';
import { requireEstimate, type Estimate } from '../estimate.ts';
import { padStack, type PadStackInput } from './padStack.ts';

export interface PartBeneathInput extends Omit<PadStackInput, 'heatW'> {
  /** Heat of the part, W. */
  heat: Estimate;
  /** From the part's junction or case to the pad, K/W. */
  caseKPerW: number;
  /** Relative half-width of pad and case resistance together, 0..1; default 0.3. */
  resistanceDoubt?: number;
}

/**
 * Estimates a covered part from the surface of the sink above it: sink + heat × (pad + case resistance).
 *
 * A sink's surface is not the part beneath it (methods §10). The result is an estimate and has to be shown as one; its u takes
 * the worst case of the gap in, and a rectangular doubt of the resistances, which nobody measured.
 *
 * @param surface °C, as read on the sink
 * @returns the part in °C, and how much of that is the step from the surface; null where the pad does not touch in the worst case,
 *   because then nothing can be said
 * @throws RangeError as padStack; negative case resistance
 */
export function partBeneath(surface: Estimate, input: PartBeneathInput): { part: Estimate; stepK: number } | null {
  requireEstimate(surface, 'surface');
  requireEstimate(input.heat, 'heat');
  requireNotNegative(input.heat.value, 'heat');
  requireNotNegative(input.caseKPerW, 'caseKPerW');
  const { heat, caseKPerW, resistanceDoubt = 0.3, ...pad } = input;
  requireNotNegative(resistanceDoubt, 'resistanceDoubt');
  const stack = padStack(pad);
  if (stack.resistanceKPerW === null || stack.worstCase.resistanceKPerW === null) return null;
  const resistance = stack.resistanceKPerW + caseKPerW;
  const stepK = heat.value * resistance;
  const spread = Math.abs(stack.worstCase.resistanceKPerW - stack.resistanceKPerW) + resistanceDoubt * resistance;
  const u = Math.hypot(surface.u, resistance * heat.u, (heat.value * spread) / Math.sqrt(3));
  return { part: { value: surface.value + stepK, u, dof: Infinity }, stepK };
}
