import { partBeneath, typeB, type Estimate } from '@red-ember/core';
import type { SpotEntry } from '../definition/look.ts';

/** Relative standard uncertainty of a heat that was written down and not measured. */
const HEAT_DOUBT = 0.1;

/**
 * The part beneath a spot's surface, °C: an estimate.
 *
 * @param surface °C with the doubt of the reading's own noise; the sensor's stated accuracy is added here
 * @returns null where the pad may not touch, or nothing is known of it
 */
export function estimateBeneath(spot: Pick<SpotEntry, 'beneath' | 'accuracyK'>, surface: Estimate): Estimate | null {
  if (!spot.beneath) return null;
  const { heatW, ...pad } = spot.beneath;
  const read = { ...surface, u: Math.hypot(surface.u, typeB(spot.accuracyK, 'rectangular')) };
  return partBeneath(read, { ...pad, heat: { value: heatW, u: HEAT_DOUBT * heatW, dof: Infinity } })?.part ?? null;
}
