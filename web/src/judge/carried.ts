import {
  ASSUMED_REPEATABILITY_K,
  carry,
  dutyNeeded,
  InsufficientDataError,
  minutesToLimit,
  riseAtPower,
  riseByLaw,
  type Carry,
  type Field,
  type FieldSide,
  type SpotCarry,
} from '@red-ember/core';
import type { CarriedLoadBody, StudyBody } from '@red-ember/contract';
import { sweptAt } from './sweptAt.ts';

/** Without a room record nothing can be said of a rise; the bench is taken at this. */
const USUAL_ROOM_C = 22;

/** What each component of a variant allows in some air, by every load of its runs. */
export function carryOf(body: StudyBody, field: Field, side: FieldSide, airC: number, marginK: number): Carry {
  return carry({
    airC,
    marginK,
    coverage: body.rules.coverage,
    spots: body.spots.map((spot) => ({
      id: spot.id,
      name: spot.name,
      limitC: spot.limitC,
      limitSource: spot.limitSource,
      points: side.workRuns.flatMap((run) => run.points[spot.id] ?? []),
      accuracyK: field.spots.find((judged) => judged.id === spot.id)?.accuracyK ?? spot.accuracyK,
      scatterK: field.history[spot.id]?.sd ?? ASSUMED_REPEATABILITY_K,
    })),
  });
}

export const roomOf = (side: FieldSide) => {
  const rooms = side.workRuns.flatMap((run) => run.roomC ?? []);
  return rooms.length > 0 ? rooms.reduce((sum, value) => sum + value / rooms.length, 0) : USUAL_ROOM_C;
};

/** How long a load that is too much may run from cold before the binding component passes its limit; null where that cannot be said. */
export function minutesOf(load: CarriedLoadBody, binding: SpotCarry, side: FieldSide, airC: number): number | null {
  const taus = side.workRuns.flatMap((run) => run.slowTauS[binding.id] ?? []);
  if (!binding.law || taus.length === 0) return null;
  const tauS = taus.reduce((sum, value) => sum + value / taus.length, 0);
  return minutesToLimit(riseByLaw(binding.law, load.powerW), tauS, binding.limitC - airC);
}

/** Least setting of a variant's own fan sweep at which every spot stays below its limit under a load; null where there is no sweep. */
export function fanNeeded(
  body: StudyBody,
  side: FieldSide,
  load: CarriedLoadBody,
  airC: number,
  marginK: number,
): { what: string; duty: number | null } | null {
  const run = side.workRuns[0];
  if (!run || !(load.powerW > 0)) return null;
  const needs = body.spots.flatMap((spot) => {
    const swept = (run.points[spot.id] ?? []).flatMap((point) => {
      const x = sweptAt(point.load);
      return x === null ? [] : [{ x, y: riseAtPower(point.rise, point.powerW, load.powerW), load: point.load }];
    });
    if (swept.length < 3 || new Set(swept.map((point) => point.x)).size < swept.length) return [];
    const what = swept[0]!.load.slice(0, swept[0]!.load.lastIndexOf(','));
    try {
      return [{ what, duty: dutyNeeded(swept, spot.limitC - marginK - airC) }];
    } catch (error) {
      if (error instanceof InsufficientDataError || error instanceof RangeError) return [];
      throw error;
    }
  });
  if (needs.length === 0) return null;
  return needs.find((need) => need.duty === null) ?? needs.reduce((p, q) => (q.duty! > p.duty! ? q : p));
}
