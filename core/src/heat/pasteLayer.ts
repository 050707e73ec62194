import { requireNotNegative, requirePositive } from '../errors.ts';

export interface PasteLayer {
  /** Between the faces when it has settled, mm³. */
  layerMm3: number;
  /** What is put on, mm³: the rest is pressed out at the edges. */
  appliedMm3: number;
  appliedG: number;
  /** How well this part tells pastes apart: kelvin for each mm²·K/W by which two differ. */
  kelvinPerMm2KPerW: number | null;
}

/** Twice the layer: what a thin even film comes to before the sink presses it out. */
const PRESSED_OUT = 2;

/**
 * Paste on a die or lid: how much to put on, and what a difference between two pastes would show as. ΔT = q″·R″ with q″ = heat
 * over area, so a small die with much heat separates pastes better than a large one (methods §9).
 *
 * @param input.areaMm2 of the die or lid
 * @param input.bondLineMm thickness when it has settled
 * @param input.heatW through the joint; without it nothing is said of how well pastes are told apart
 * @throws RangeError area, bond line or density not above zero, heat negative
 */
export function pasteLayer(input: { areaMm2: number; bondLineMm: number; densityGPerCm3: number; heatW?: number }): PasteLayer {
  requirePositive(input.areaMm2, 'areaMm2');
  requirePositive(input.bondLineMm, 'bondLineMm');
  requirePositive(input.densityGPerCm3, 'densityGPerCm3');
  if (input.heatW !== undefined) requireNotNegative(input.heatW, 'heatW');
  const layerMm3 = input.areaMm2 * input.bondLineMm;
  const appliedMm3 = PRESSED_OUT * layerMm3;
  return {
    layerMm3,
    appliedMm3,
    appliedG: (appliedMm3 / 1000) * input.densityGPerCm3,
    kelvinPerMm2KPerW: input.heatW === undefined ? null : input.heatW / input.areaMm2,
  };
}
