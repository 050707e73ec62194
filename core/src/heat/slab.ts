import { requireNotNegative, requirePositive } from '../errors.ts';

/**
 * Resistance of an even layer to heat that goes straight through: R = t/(k·A) (methods §9).
 *
 * @param mm thickness, not negative
 * @returns K/W
 * @throws RangeError a thickness below zero, conductivity or area not above zero
 */
export function slabKPerW(mm: number, conductivityWPerMK: number, areaMm2: number): number {
  requireNotNegative(mm, 'thickness');
  requirePositive(conductivityWPerMK, 'conductivityWPerMK');
  requirePositive(areaMm2, 'areaMm2');
  // mm over W/(m·K)·mm² is 1000 K/W.
  return (1000 * mm) / (conductivityWPerMK * areaMm2);
}
