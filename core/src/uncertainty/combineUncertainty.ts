import { studentCoverage } from '../distributions/studentT.ts';
import { InsufficientDataError, requireFinite, requireNotNegative, requireProbability } from '../errors.ts';
import { welchSatterthwaite } from '../estimate.ts';

export interface UncertaintyComponent {
  name: string;
  u: number;
  /** Default Infinity. */
  dof?: number;
  /** Default 1. */
  sensitivity?: number;
}

export interface UncertaintyBudget {
  u: number;
  /** Welch-Satterthwaite, not truncated. */
  dof: number;
  /** Coverage factor for the asked coverage. */
  k: number;
  expanded: number;
  /** Of variance, sum 1. */
  shares: { name: string; share: number }[];
}

/**
 * Uncertainty budget: u_c² = Σ(c_i u_i)², effective dof, expanded uncertainty by Student's t.
 *
 * @param components independent contributions, each in its own unit times its sensitivity
 * @param opts.coverage default 0.95
 * @returns equal shares where every contribution is zero
 * @throws InsufficientDataError no components
 * @throws RangeError negative u, dof not above zero, coverage outside 0..1
 * @see JCGM 100:2008, 5.1.2 and G.4
 */
export function combineUncertainty(components: UncertaintyComponent[], opts: { coverage?: number } = {}): UncertaintyBudget {
  const coverage = opts.coverage ?? 0.95;
  requireProbability(coverage, 'coverage');
  if (components.length === 0) throw new InsufficientDataError('an uncertainty budget needs at least one line');
  const parts = components.map(({ name, u, dof = Infinity, sensitivity = 1 }) => {
    requireNotNegative(u, `u of "${name}"`);
    requireFinite(sensitivity, `sensitivity of "${name}"`);
    if (!(dof > 0)) throw new RangeError(`dof of "${name}" must be above zero, got ${dof}`);
    return { name, u: Math.abs(sensitivity) * u, dof };
  });
  const u = Math.hypot(...parts.map((part) => part.u));
  const dof = welchSatterthwaite(parts);
  const k = studentCoverage(coverage, dof);
  const shares = parts.map((part) => ({ name: part.name, share: u > 0 ? (part.u / u) ** 2 : 1 / parts.length }));
  return { u, dof, k, expanded: k * u, shares };
}
