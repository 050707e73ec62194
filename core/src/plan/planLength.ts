import type { PlannedPhase } from '../conduct/plannedPhases.ts';
import { requireNotNegative } from '../errors.ts';
import { medianInPlace } from '../series/series.ts';

export interface RunLength {
  minutes: number;
  /** Mean of earlier runs of the study; loads of like parts, each as long as they took to settle; or the middle of what the recipe allows. */
  from: 'runs' | 'like' | 'recipe';
}

type Timed = Pick<PlannedPhase, 'mode' | 'durationS' | 'capS' | 'loadPercent' | 'steps'>;

/**
 * How long one run takes.
 *
 * @param earlierS lengths of finished runs like it, s
 * @param recipe its phases; a sweep counts as often as it has steps
 * @param likeS how long loads of parts of the same family took to settle, s; used for phases that wait, within their least and cap
 */
export function expectedRunLength(earlierS: readonly number[], recipe: readonly Timed[], likeS: readonly number[] = []): RunLength {
  if (earlierS.length > 0) return { minutes: earlierS.reduce((sum, s) => sum + s, 0) / earlierS.length / 60, from: 'runs' };
  const like = likeS.length === 0 ? null : medianInPlace(Float64Array.from(likeS));
  const waits = recipe.some((phase) => phase.mode !== 'fixed' && phase.loadPercent > 0);
  const lengthOf = ({ mode, durationS, capS, loadPercent }: Timed) => {
    const most = Math.max(durationS, capS);
    if (mode === 'fixed') return durationS;
    return like !== null && loadPercent > 0 ? Math.min(most, Math.max(durationS, like)) : (durationS + most) / 2;
  };
  const seconds = recipe.reduce((sum, phase) => sum + (phase.steps ?? 1) * lengthOf(phase), 0);
  return { minutes: seconds / 60, from: like !== null && waits ? 'like' : 'recipe' };
}

/**
 * Minutes a plan takes at the bench, without nights and lunch.
 *
 * @throws RangeError negative minutes or runs
 */
export function planLength(plan: { runs: number; runMin: number; cureMin: number; changeOverMin: number }): number {
  for (const [name, value] of Object.entries(plan)) requireNotNegative(value, name);
  return plan.runs * (plan.runMin + plan.cureMin) + plan.changeOverMin;
}
