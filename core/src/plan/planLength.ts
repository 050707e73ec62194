import { requireNotNegative } from '../errors.ts';

export interface RunLength {
  minutes: number;
  /** Mean of earlier runs, or the middle between what the recipe allows. */
  from: 'runs' | 'recipe';
}

/**
 * How long one run takes.
 *
 * @param earlierS lengths of finished runs like it, s
 * @param recipe least and most that the recipe allows, s
 */
export function expectedRunLength(earlierS: readonly number[], recipe: { leastS: number; mostS: number }): RunLength {
  if (earlierS.length > 0) return { minutes: earlierS.reduce((sum, s) => sum + s, 0) / earlierS.length / 60, from: 'runs' };
  return { minutes: (recipe.leastS + recipe.mostS) / 120, from: 'recipe' };
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
