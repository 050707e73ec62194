import { studentCdf } from '../distributions/studentT.ts';
import type { Estimate } from '../estimate.ts';

/** Two-sided p of a difference against zero, by Student's t. */
export function pOf({ value, u, dof }: Estimate): number {
  if (value === 0) return 1;
  if (u === 0) return 0;
  return Math.min(1, Math.max(0, 2 * (1 - studentCdf(Math.abs(value) / u, dof))));
}
