import type { JudgedRun, JudgedSide } from '../types.ts';

/**
 * On which fitting a run was made; null where nobody knows. Of a table of figures every row stands for itself: what lay behind it
 * cannot be asked any more.
 */
export function mountOf(run: JudgedRun, side: Pick<JudgedSide, 'variantId'>): string | null {
  if (run.mountId !== undefined) return run.mountId;
  if (run.mountNo !== null) return `${side.variantId} ${run.mountNo}`;
  return run.review.asGiven ? run.id : null;
}

/** Mounts that are known of; runs of which nobody knows on which they were made may all have been made on one. */
export function countMounts(side: Pick<JudgedSide, 'runs' | 'variantId'>): number {
  const known = new Set(side.runs.flatMap((run) => mountOf(run, side) ?? []));
  return Math.max(Math.min(1, side.runs.length), known.size);
}
