import { requireFinite } from '../errors.ts';
import type { PhaseEndMode, PhaseKind, RecipePhase } from './recipe.ts';

/** A phase as it is planned: also a change by hand under load, or a sweep of the load in steps. */
export interface PlannedPhase {
  kind: PhaseKind | 'change' | 'sweep';
  name: string;
  mode: PhaseEndMode;
  durationS: number;
  capS: number;
  loadPercent: number;
  /** Load of a sweep's last step, percent. */
  toPercent?: number;
  /** Steps of a sweep, both ends counted. */
  steps?: number;
  /** What is done by hand when the phase starts. */
  opensWith?: string;
  /** Minutes of the phase at which something is read by hand. */
  marksMin?: readonly number[];
}

/**
 * The phases that a run goes through. A change is a load phase that opens with what is done by hand; a sweep is as many load
 * phases as it has steps, its loads evenly apart, each as long as the sweep says of one step.
 *
 * @throws RangeError a sweep of fewer than two steps, or without an end
 */
export function phasesOf(planned: readonly PlannedPhase[]): RecipePhase[] {
  return planned.flatMap((phase): RecipePhase[] => {
    const { kind, toPercent, steps, opensWith, marksMin, ...rest } = phase;
    const marks = marksMin && marksMin.length > 0 ? { marksMin: [...marksMin].sort((a, b) => a - b) } : {};
    if (kind === 'change') return [{ ...rest, kind: 'load', opensWith: opensWith ?? phase.name, ...marks }];
    if (kind !== 'sweep') return [{ ...rest, kind, ...marks }];
    const count = steps ?? 0;
    requireFinite(toPercent ?? NaN, `${phase.name}: toPercent`);
    if (!Number.isInteger(count) || count < 2) throw new RangeError(`${phase.name}: a sweep has two steps or more, got ${count}`);
    return Array.from({ length: count }, (_, k): RecipePhase => {
      const loadPercent = Math.round((10 * (phase.loadPercent * (count - 1 - k) + toPercent! * k)) / (count - 1)) / 10;
      return { ...rest, kind: 'load', name: `${phase.name}, ${loadPercent} %`, loadPercent, ...marks };
    });
  });
}
