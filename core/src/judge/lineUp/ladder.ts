import { InsufficientDataError } from '../../errors.ts';
import { mean } from '../../mean.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import type { Estimate } from '../../estimate.ts';
import { compareReadings, outcomeKind, ownOutcome } from '../outcome/outcomes.ts';
import { callOf } from '../pair/call.ts';
import { compareAt } from '../pair/compareAt.ts';
import {
  standsBetween,
  figuresAt,
  groupsBeside,
  benchBeside,
  meanOutcome,
  readingsOf,
  spotOf,
  type LineUp,
  type LineUpSide,
} from './lineUp.ts';
import type { Reach } from '../../review/reach.ts';
import type { Call, OutcomeKey } from '../types.ts';

/** What a step did to throttling. */
export type ThrottleStep = 'none' | 'ended' | 'delayed' | 'sooner' | 'unchanged' | 'began' | 'not-watched';

export interface LadderStep {
  variantId: string;
  name: string;
  /** Changed against the step before, "factor: level"; empty for the first. */
  changed: string[];
  /** Mean figure at the spot; null where it was not free or not read. */
  value: number | null;
  /** Against the step before; null for the first, and where one side has no free temperature. */
  step: Comparison | null;
  /** What may be said of the step; null for the first. */
  call: Call | null;
  /** Whether the step reaches at least or at most as far as it was read, where one of the two was not settled; null otherwise. */
  reach: Reach | null;
  /**
   * What the step would have been had the fan kept the speed of the step before, K: calculated (`changesWithin`), over the runs that went
   * through both. null where the steps are no loads of one run in their order, or where no run can tell.
   */
  fanHeld: Estimate | null;
  /** Figures that the study names itself, by their id, with what they changed against the step before; empty where none was read. */
  own: OwnAtStep[];
  /** Fan and power against the step before, in rpm and W; null where they were not read on both. */
  beside: { fanRpm: number | null; powerW: number | null };
  /** Against the first step that could be read: what all changes so far come to, compared directly and not by adding doubts. */
  sum: Comparison | null;
  /** What may be said of the sum; null for the first. */
  sumCall: Call | null;
  throttled: { runs: number; of: number; meanMin: number | null; watchedMin: number };
  throttling: ThrottleStep;
}

/** A figure of the study's own at a step. */
interface OwnAtStep {
  id: string;
  label: string;
  unit: string;
  decimals: number;
  value: number;
  step: Comparison | null;
}

function ownAt(of: LineUp, before: LineUpSide | null, side: LineUpSide): OwnAtStep[] {
  return (of.rules.own ?? []).flatMap(({ id }) => {
    const outcome = ownOutcome(id);
    const kind = outcomeKind(outcome, of.rules);
    const value = meanOutcome(side, outcome);
    if (value === null) return [];
    const beside = before && groupsBeside(of, outcome, [before, side]);
    const made =
      before && compareReadings(readingsOf(before, { outcome }), readingsOf(side, { outcome }), kind, of.rules.coverage, beside ?? []);
    return [{ id, label: kind.label, unit: kind.unit, decimals: kind.decimals, value, step: made?.comparison ?? null }];
  });
}

/** Over runs that went through both loads; a step that is not the load right after the other says nothing. */
function fanHeldOf(before: LineUpSide, side: LineUpSide, spotId: string): Estimate | null {
  const [from, to] = [before, side].map(({ variantId }) => /^(.*)#(\d+)$/.exec(variantId));
  if (!from || !to || from[1] !== to[1] || Number(to[2]) !== Number(from[2]) + 1) return null;
  const held = side.runs.flatMap(({ fanHeld }) => fanHeld[spotId] ?? []);
  if (held.length === 0) return null;
  const value = mean(held.map((one) => one.value));
  const scatter = held.length < 2 ? 0 : held.reduce((sum, one) => sum + (one.value - value) ** 2, 0) / (held.length - 1) / held.length;
  // What is assumed of the air at the intake is the same in every run: repeats do not average it away.
  const u = Math.max(Math.sqrt(scatter), mean(held.map((one) => one.u)));
  return { value, u, dof: Math.min(...held.map((one) => one.dof)) };
}

/** How much an outcome changed from one step to the next; null where it was not read on both. */
function changeOf(before: LineUpSide, now: LineUpSide, key: OutcomeKey): number | null {
  const [was, is] = [before, now].map((side) => mean(side.workRuns.flatMap((run) => run.outcomes[key]?.value ?? []))) as [number, number];
  return Number.isFinite(is - was) ? is - was : null;
}

function throttledOf(side: LineUpSide): LadderStep['throttled'] {
  const watched = side.workRuns.filter((run) => run.throttled !== null);
  const times = watched.flatMap((run) => run.outcomes['time-to-throttle']?.value ?? []);
  return {
    runs: watched.filter((run) => run.throttled).length,
    of: watched.length,
    meanMin: times.length > 0 ? mean(times) : null,
    watchedMin: watched.length > 0 ? Math.min(...watched.map((run) => run.loadMin)) : 0,
  };
}

/** Times that differ by less than this share count as the same. */
const SAME_TIME = 0.1;

function throttleStep(before: LadderStep['throttled'] | null, now: LadderStep['throttled']): ThrottleStep {
  if (now.of === 0 || (before && before.of === 0)) return 'not-watched';
  if (!before) return now.runs > 0 ? 'began' : 'none';
  if (before.runs === 0) return now.runs === 0 ? 'none' : 'began';
  if (now.runs === 0) return 'ended';
  const ratio = now.meanMin! / Math.max(1e-9, before.meanMin!);
  return ratio > 1 + SAME_TIME ? 'delayed' : ratio < 1 - SAME_TIME ? 'sooner' : 'unchanged';
}

/**
 * A ladder of changes, each compared with the one before and added up, with what it did to throttling. A step whose time to
 * throttle grows while it still throttles has only delayed (methods §§2 and 6).
 *
 * @param order variant ids from the first step on
 * @param spotId whose figure is followed
 * @throws InsufficientDataError fewer than two steps
 * @throws RangeError a variant that is not in the line-up
 */
export function ladderSteps(of: LineUp, order: readonly string[], spotId: string): LadderStep[] {
  if (order.length < 2) throw new InsufficientDataError('a ladder needs two steps');
  const sides = order.map((id) => {
    const side = of.sides.find((candidate) => candidate.variantId === id);
    if (!side) throw new RangeError(`there is no variant ${id} in this study`);
    return side;
  });
  const spot = spotOf(of, spotId);
  const between = (before: LineUpSide, after: LineUpSide): { comparison: Comparison | null; call: Call; reach: Reach | null } => {
    const read = (side: LineUpSide) => ({ name: side.name, readings: figuresAt(side, spotId) });
    const made = compareAt(read(before), read(after), spot, of.rules, benchBeside(of, spotId, [before, after]));
    return {
      comparison: made.comparison,
      reach: made.reach,
      call: callOf(made, standsBetween(of, before.variantId, after.variantId), of.rules.practicalK),
    };
  };
  const first = sides.find((side) => readingsOf(side, { spotId }).length > 0);
  return sides.map((side, i): LadderStep => {
    const before = i > 0 ? sides[i - 1]! : null;
    const readings = readingsOf(side, { spotId });
    const throttled = throttledOf(side);
    const step = before && between(before, side);
    const sum = first && first !== side ? between(first, side) : null;
    return {
      variantId: side.variantId,
      name: side.name,
      changed: before
        ? Object.entries(side.levels).flatMap(([factor, level]) => (before.levels[factor] === level ? [] : [`${factor}: ${level}`]))
        : [],
      value: readings.length > 0 ? mean(readings.map((estimate) => estimate.value)) : null,
      step: step?.comparison ?? null,
      call: step?.call ?? null,
      reach: step?.reach ?? null,
      fanHeld: before && fanHeldOf(before, side, spotId),
      own: ownAt(of, before, side),
      beside: { fanRpm: before && changeOf(before, side, 'fan'), powerW: before && changeOf(before, side, 'power') },
      sum: sum?.comparison ?? null,
      sumCall: sum?.call ?? null,
      throttled,
      throttling: throttleStep(before && throttledOf(before), throttled),
    };
  });
}
