import { InsufficientDataError } from '../../errors.ts';
import { carry, dutyNeeded, minutesToLimit, riseOf, type Carry, type SpotCarry } from '../../heat/carry.ts';
import { riseAtPower } from '../../heat/riseAtPower.ts';
import type { CarriedWatts } from '../claim/claimWatts.ts';
import { ASSUMED_REPEATABILITY } from '../figure/scatter.ts';
import { mean } from '../../mean.ts';
import type { LineUp, LineUpSide } from './lineUp.ts';
import { sweptAt } from './sweep.ts';

/** Without a room record nothing can be said of a rise; the bench is taken at this, °C. */
const USUAL_ROOM_C = 22;

/** A component with its limit, as the study has it. */
export interface LimitedSpot {
  id: string;
  name: string;
  limitC: number;
  limitSource: string;
  accuracyK: number;
}

/** Air of the bench over a side's runs, °C. */
export function roomOfSide(side: LineUpSide): number {
  const rooms = side.workRuns.flatMap((run) => run.roomC ?? []);
  return rooms.length > 0 ? mean(rooms) : USUAL_ROOM_C;
}

/** What each component of a variant allows in some air, by every load of its runs: `carry` with the bench's scatter and the sensors' accuracy. */
export function carryOfSide(of: LineUp, side: LineUpSide, spots: readonly LimitedSpot[], airC: number, marginK: number): Carry {
  return carry({
    airC,
    marginK,
    coverage: of.rules.coverage,
    spots: spots.map(({ id, name, limitC, limitSource, accuracyK }) => ({
      id,
      name,
      limitC,
      limitSource,
      points: side.workRuns.flatMap((run) => run.points[id] ?? []),
      idle: side.workRuns.flatMap((run) => run.atRest[id] ?? []),
      accuracyK: of.spots.find((judged) => judged.id === id)?.accuracyK ?? accuracyK,
      scatterK: of.history[id]?.sd ?? ASSUMED_REPEATABILITY.sd,
    })),
  });
}

/** What binds a side in some air, as a claim about watts is held against; null where nothing could be worked out. */
export function wattsOfSide(
  of: LineUp,
  side: LineUpSide,
  spots: readonly LimitedSpot[],
  airC: number,
  marginK: number,
): CarriedWatts | null {
  const { binding } = carryOfSide(of, side, spots, airC, marginK);
  if (!binding?.maxW) return null;
  const points = side.workRuns.flatMap((run) => run.points[binding.id] ?? []);
  return {
    side: side.name,
    component: binding.name,
    maxW: binding.maxW,
    far: binding.far,
    measuredW: Math.max(...points.map((point) => point.powerW.value)),
    rising: points.some((point) => !point.settled),
  };
}

/**
 * Minutes that a load may run from cold before the binding component passes its limit.
 *
 * @returns null where it never does, or where no slow time constant is known
 */
export function minutesOfLoad(powerW: number, binding: SpotCarry, side: LineUpSide, airC: number): number | null {
  const taus = side.workRuns.flatMap((run) => run.slowTauS[binding.id] ?? []);
  const rise = riseOf(binding, powerW);
  if (rise === null || taus.length === 0) return null;
  return minutesToLimit(rise, mean(taus), binding.limitC - airC);
}

/**
 * Least setting of a variant's own sweep at which every spot stays below its limit under a load.
 *
 * @returns what is swept, and the setting (null where even the last of the sweep is too little); null where there is no sweep
 */
export function fanNeeded(
  side: LineUpSide,
  spots: readonly LimitedSpot[],
  powerW: number,
  airC: number,
  marginK: number,
): { what: string; duty: number | null } | null {
  const run = side.workRuns[0];
  if (!run || !(powerW > 0)) return null;
  const needs = spots.flatMap((spot) => {
    const swept = (run.points[spot.id] ?? []).flatMap((point) => {
      const at = sweptAt(point.load);
      return at ? [{ x: at.value, what: at.what, y: riseAtPower(point.rise, point.powerW, powerW) }] : [];
    });
    if (swept.length < 3 || new Set(swept.map((point) => point.x)).size < swept.length) return [];
    try {
      return [{ what: swept[0]!.what, duty: dutyNeeded(swept, spot.limitC - marginK - airC) }];
    } catch (error) {
      if (error instanceof InsufficientDataError || error instanceof RangeError) return [];
      throw error;
    }
  });
  if (needs.length === 0) return null;
  return needs.find((need) => need.duty === null) ?? needs.reduce((p, q) => (q.duty! > p.duty! ? q : p));
}
