import { fisherTail } from '../../distributions/fisherF.ts';
import type { Estimate } from '../../estimate.ts';
import { pooledRepeatability } from '../../uncertainty/pooledRepeatability.ts';
import type { KnownScatter, Scatter } from '../types.ts';

/** Scatter between mounts assumed where the bench has no history yet; a finding says so (methods §5). */
export const ASSUMED_REPEATABILITY: Scatter = { sd: 0.6, dof: 4 };

/** With so many degrees of freedom of its own a comparison needs no assumption. Our own figure. */
const ENOUGH_DOF = 4;

/** A ratio of two scatters that chance brings about less often than this says that they are not one. Our own figure. */
const CONTRADICTS = 0.05;

/** Pooled, weighted by degrees of freedom. What is known for certain stays as it is. */
function pooled(p: Scatter, q: Scatter): Scatter {
  for (const sure of [p, q]) if (sure.dof === Infinity) return sure;
  const dof = p.dof + q.dof;
  return { sd: Math.sqrt((p.dof * p.sd ** 2 + q.dof * q.sd ** 2) / dof), dof };
}

/** Of fewer the scatter of one side is luck: two that agree to a hundredth say nothing. Our own figure. */
const TELLS_DOF = 3;

/** How often chance alone makes p's scatter look so much larger than q's: F test, one-sided. */
function chance(p: Scatter, q: Scatter): number {
  if (p.sd === 0) return 1;
  return q.sd === 0 ? 0 : fisherTail((p.sd / q.sd) ** 2, p.dof, q.dof);
}

const scatterOf = (groups: readonly (readonly Estimate[])[]): Scatter | null =>
  pooledRepeatability(groups.map((group) => group.map((estimate) => estimate.value)));

/**
 * Scatter that is known beforehand with that of further groups of equal readings pooled in, weighted by degrees of freedom: of a
 * comparison these are the study's other variants, which repeat on the same bench by the same hands.
 *
 * @param groups readings that were meant to be equal, one list a group
 */
export function withScatterOf(known: Scatter | null | undefined, groups: readonly (readonly Estimate[])[]): Scatter | null {
  const own = scatterOf(groups);
  return own && known ? pooled(own, known) : (own ?? known ?? null);
}

/** A scatter with what is known pooled in, where it is no larger than that allows; by itself where it is. */
export function withKnown(own: Scatter, known: Scatter | null): Scatter {
  return known && chance(own, known) >= CONTRADICTS ? pooled(own, known) : own;
}

/** How a comparison comes by its scatter. */
export interface ScatterRule {
  /** What is pooled with both sides' own; null where nothing is. */
  lent: KnownScatter | null;
  /** The sides' own scatters are one: they do not contradict each other. */
  shared: boolean;
}

/**
 * The scatter of a comparison of two sets of readings. What is known beside them is lent unless they scatter more than it allows; where they
 * and it come to little, a stated assumption is lent as well. The sides share one scatter unless they contradict each other, and then
 * each stands on its own.
 *
 * The one rule for pairs, rankings, steps, retests and outcomes.
 *
 * @param a,b one entry a reading
 * @param known the bench's pooled scatter and that of the study's other variants (`withScatterOf`), in the unit of the readings
 * @param assumed what stands in
 */
export function scatterFor(
  a: readonly Estimate[],
  b: readonly Estimate[],
  known: Scatter | null | undefined,
  assumed: Scatter = ASSUMED_REPEATABILITY,
): ScatterRule {
  const [ofA, ofB, own] = [scatterOf([a]), scatterOf([b]), scatterOf([a, b])];
  if (ofA && ofB && Math.min(ofA.dof, ofB.dof) >= TELLS_DOF && Math.min(chance(ofA, ofB), chance(ofB, ofA)) < CONTRADICTS / 2)
    return { lent: null, shared: false };
  // Readings that lie closer than the bench repeats are luck as often as skill: only more scatter contradicts.
  const fits = (scatter: Scatter) => !own || chance(own, scatter) >= CONTRADICTS;
  const lent = known && fits(known) ? known : null;
  if ((own?.dof ?? 0) + (lent?.dof ?? 0) >= ENOUGH_DOF || (own && !fits(assumed)))
    return { lent: lent && { ...lent, assumed: false }, shared: true };
  return { lent: { ...(lent ? pooled(lent, assumed) : assumed), assumed: true }, shared: true };
}
