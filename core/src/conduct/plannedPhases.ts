import { requireFinite } from '../errors.ts';
import type { ControlSetting, PhaseEndMode, PhaseKind, RecipePhase } from './recipe.ts';

/** A phase as it is planned: also a change by hand under load, or a sweep of the load in steps. */
export interface PlannedPhase {
  kind: PhaseKind | 'change' | 'sweep';
  name: string;
  mode: PhaseEndMode;
  durationS: number;
  capS: number;
  loadPercent: number;
  /** First and last step of a sweep of a control, in the control's unit; of the load, percent, where no control is named. */
  sweepOf?: string;
  from?: number;
  to?: number;
  /** Load of a load sweep's last step, percent. */
  toPercent?: number;
  /** Steps of a sweep, both ends counted. */
  steps?: number;
  /** What is done when the phase starts, in words. */
  opensWith?: string;
  /** What the rig sets when the phase starts. */
  set?: readonly ControlSetting[];
  /** Minutes of the phase at which something is read by hand. */
  marksMin?: readonly number[];
}

const round1 = (value: number) => Math.round(10 * value) / 10;

/** Values evenly apart, both ends counted. */
function evenly(name: string, from: number, to: number | undefined, count: number): number[] {
  requireFinite(from, `${name}: first step`);
  requireFinite(to ?? NaN, `${name}: last step`);
  if (!Number.isInteger(count) || count < 2) throw new RangeError(`${name}: a sweep has two steps or more, got ${count}`);
  return Array.from({ length: count }, (_, k) => round1((from * (count - 1 - k) + to! * k) / (count - 1)));
}

/**
 * The phases that a run goes through. A change is a load phase that opens with what is done by hand or set on the rig; a sweep is
 * as many load phases as it has steps, its loads, or the values of its control, evenly apart, each as long as the sweep says of one
 * step.
 *
 * @throws RangeError a sweep of fewer than two steps, or without an end
 */
export function phasesOf(planned: readonly PlannedPhase[]): RecipePhase[] {
  return planned.flatMap((phase): RecipePhase[] => {
    const { kind, sweepOf, from, to, toPercent, steps, opensWith, marksMin, set, ...rest } = phase;
    const marks = marksMin && marksMin.length > 0 ? { marksMin: [...marksMin].sort((a, b) => a - b) } : {};
    const given = set && set.length > 0 ? { set: [...set] } : {};
    if (kind === 'change') return [{ ...rest, kind: 'load', opensWith: opensWith ?? phase.name, ...given, ...marks }];
    if (kind !== 'sweep') return [{ ...rest, kind, ...given, ...marks }];
    if (sweepOf)
      return evenly(phase.name, from ?? NaN, to, steps ?? 0).map((value): RecipePhase => ({
        ...rest,
        kind: 'load',
        name: `${phase.name}, ${value}`,
        set: [...(set ?? []), { control: sweepOf, value }],
        ...marks,
      }));
    return evenly(phase.name, phase.loadPercent, toPercent, steps ?? 0).map((loadPercent): RecipePhase => ({
      ...rest,
      kind: 'load',
      name: `${phase.name}, ${loadPercent} %`,
      loadPercent,
      ...given,
      ...marks,
    }));
  });
}
