import { requireFinite, requireNotNegative } from './errors.ts';

/** A value with its standard uncertainty (one sigma) and degrees of freedom (Infinity where known for certain). */
export interface Estimate {
  value: number;
  u: number;
  dof: number;
}

/** Throws RangeError unless the estimate has a finite value, u >= 0 and dof > 0. */
export function requireEstimate(estimate: Estimate, name: string): void {
  requireFinite(estimate.value, `${name}.value`);
  requireNotNegative(estimate.u, `${name}.u`);
  if (!(estimate.dof > 0)) throw new RangeError(`${name}.dof must be above zero, got ${estimate.dof}`);
}

/**
 * Effective degrees of freedom of a sum of independent contributions (Welch-Satterthwaite, JCGM 100:2008 G.4), not truncated.
 *
 * @param parts contributions to the result's standard uncertainty, already multiplied by their sensitivities
 * @returns Infinity where every contribution is zero or known for certain
 */
export function welchSatterthwaite(parts: readonly { u: number; dof: number }[]): number {
  // Scaled by the largest part: u⁴ of a very small contribution would underflow.
  const largest = Math.max(0, ...parts.map((part) => Math.abs(part.u)));
  if (largest === 0) return Infinity;
  let variance = 0;
  let weighted = 0;
  for (const part of parts) {
    const square = (part.u / largest) ** 2;
    variance += square;
    weighted += square ** 2 / part.dof;
  }
  return weighted === 0 ? Infinity : variance ** 2 / weighted;
}
