import type { Estimate } from '../../estimate.ts';
import { pooledRepeatability } from '../../uncertainty/pooledRepeatability.ts';
import type { KnownScatter, Scatter } from '../types.ts';

/** Scatter between runs assumed where the bench has no history yet; a finding says so (methods §5). */
export const ASSUMED_REPEATABILITY: Scatter = { sd: 0.6, dof: 4 };

/**
 * Scatter that is known beforehand with that of further groups of equal runs pooled in, weighted by degrees of freedom: of a
 * comparison these are the study's other variants, which repeat on the same bench by the same hands.
 *
 * @param groups readings of runs that were meant to be equal, one list a group
 */
export function withScatterOf(known: Scatter | null | undefined, groups: readonly (readonly Estimate[])[]): Scatter | null {
  const own = pooledRepeatability(groups.map((group) => group.map((estimate) => estimate.value)));
  if (!own || !known) return own ?? known ?? null;
  if (known.dof === Infinity) return known;
  const dof = own.dof + known.dof;
  return { sd: Math.sqrt((own.dof * own.sd ** 2 + known.dof * known.sd ** 2) / dof), dof };
}

/**
 * The scatter between runs that is lent to a comparison of two sets of readings: what is known beside them where anything is; a stated
 * assumption where a side has a single reading and so no scatter of its own; none otherwise, and each side stands on its own.
 * The one rule for pairs, rankings, steps, retests and outcomes. It counts readings, not runs: a run that lacks the spot says nothing.
 *
 * @param a,b one entry a reading
 * @param history the bench's pooled scatter and that of the study's other variants (`withScatterOf`), in the unit of the readings
 * @param assumed what stands in
 */
export function scatterFor(
  a: readonly unknown[],
  b: readonly unknown[],
  history: Scatter | null | undefined,
  assumed: Scatter = ASSUMED_REPEATABILITY,
): KnownScatter | null {
  if (history) return { sd: history.sd, dof: history.dof, assumed: false };
  return a.length === 1 || b.length === 1 ? { ...assumed, assumed: true } : null;
}
