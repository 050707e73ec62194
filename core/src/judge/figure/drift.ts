import type { KnownDrift } from '../types.ts';
import { ASSUMED_REPEATABILITY } from './scatter.ts';

/** What a bench may drift by as a standard deviation where nothing is known of it, K an hour. Our own figure. */
export const DRIFT_K_PER_H = 0.35;

/** A bench that is left alone over a night does not go on drifting all through it: a pause counts for no more than this, h. */
const LONGEST_PAUSE_H = 2;

/** Hours at the bench since the first of these moments, each at its place. @param atMs milliseconds since the epoch */
export function benchHours(atMs: readonly number[]): number[] {
  const order = atMs.map((_, i) => i).sort((p, q) => atMs[p]! - atMs[q]!);
  const hours = atMs.map(() => 0);
  for (let k = 1; k < order.length; k++) {
    const [before, now] = [order[k - 1]!, order[k]!];
    hours[now] = hours[before]! + Math.min(LONGEST_PAUSE_H, (atMs[now]! - atMs[before]!) / 3_600_000);
  }
  return hours;
}

/** A figure of a run, and when it was made. */
export interface TimedFigure {
  atMs: number;
  value: number;
}

/** The stated figure counts for as much as so many studies that tell the rate well. Our own figure. */
const STATED_FOR = 4;
/** No bench is quieter than this share of it. Our own figure. */
const LEAST_SHARE = 0.25;
/** With fewer degrees of freedom the scatter about a drift is not known either. */
const ENOUGH_DOF = 4;

interface Sitting {
  tt: number;
  ty: number;
  rest: number;
  dof: number;
}

/** One study's common rate over its groups, each about its own middle. */
function sittingOf(groups: readonly (readonly TimedFigure[])[]): Sitting {
  const all = groups.flat();
  const hours = benchHours(all.map(({ atMs }) => atMs));
  let at = 0;
  let [tt, ty, yy, dof] = [0, 0, 0, -1];
  for (const group of groups) {
    const mine = group.map(({ value }, i) => ({ h: hours[at + i]!, value }));
    at += group.length;
    const middle = (of: (entry: { h: number; value: number }) => number) => mine.reduce((sum, entry) => sum + of(entry) / mine.length, 0);
    const [h, y] = [middle((entry) => entry.h), middle((entry) => entry.value)];
    for (const entry of mine) {
      tt += (entry.h - h) ** 2;
      ty += (entry.h - h) * (entry.value - y);
      yy += (entry.value - y) ** 2;
    }
    dof += mine.length - 1;
  }
  return { tt, ty, rest: tt > 0 ? Math.max(0, yy - ty ** 2 / tt) : yy, dof: Math.max(0, dof) };
}

/**
 * What a bench drifts by, from the rates that its studies show: their mean square, freed of what their scatter alone makes of a rate
 * (moments), each weighed by how well it tells, with the stated figure beside them.
 *
 * @param studies of each, groups of figures that were meant to be equal
 * @returns null where none has two equal figures at two times
 */
export function learnDrift(studies: readonly (readonly (readonly TimedFigure[])[])[]): KnownDrift | null {
  const sittings = studies.map((groups) => sittingOf(groups.filter(({ length }) => length > 1))).filter(({ tt }) => tt > 0);
  if (sittings.length === 0) return null;
  const dof = sittings.reduce((sum, sitting) => sum + sitting.dof, 0);
  const own = sittings.reduce((sum, sitting) => sum + sitting.rest, 0);
  const known = dof >= ENOUGH_DOF ? 0 : ASSUMED_REPEATABILITY.dof;
  const variance = (own + known * ASSUMED_REPEATABILITY.sd ** 2) / (dof + known);
  const stated = DRIFT_K_PER_H ** 2;
  let [weights, squares] = [STATED_FOR, STATED_FOR * stated];
  for (const { tt, ty } of sittings) {
    const ofScatter = variance / tt;
    const weight = (stated / (stated + ofScatter)) ** 2;
    weights += weight;
    squares += weight * ((ty / tt) ** 2 - ofScatter);
  }
  return { kPerH: Math.sqrt(Math.max((LEAST_SHARE * DRIFT_K_PER_H) ** 2, squares / weights)), studies: sittings.length };
}
