import { typeB } from '../uncertainty/typeB.ts';
import type { Calibration } from './calibrate.ts';

/**
 * What a calibration leaves in doubt at an indicated temperature: its own fit, and the references it was taken at.
 *
 * @param referenceAccuracyK half-width of the references, K
 * @returns standard uncertainty, K, with the degrees of freedom of the fit; Infinity where the points leave no residual
 */
export function calibrationDoubt(calibration: Calibration, referenceAccuracyK: number, indicatedC: number): { u: number; dof: number } {
  const fit = calibration.correctionAt(indicatedC);
  return { u: Math.hypot(fit.u, typeB(referenceAccuracyK, 'rectangular')), dof: fit.dof > 0 ? fit.dof : Infinity };
}

/** Half-width of the rectangle that has a standard uncertainty, K: what a maker would have to state for it. */
export function rectangularHalfWidth(u: number): number {
  return Math.sqrt(3) * u;
}
