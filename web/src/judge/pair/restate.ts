import { projectAmbient, type PairJudgement, type SideFigure } from '@red-ember/core';
import { type Study } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';

/** A side's temperature restated for another air, °C; null where the part would run away. */
export function restated(side: SideFigure, roomC: number, airC: number, powerTempCo: number): number | null {
  try {
    return projectAmbient({ value: side.spotC, u: 0, dof: Infinity }, roomC, airC, { powerTempCo }).value;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

export interface WarmWord {
  side: string;
  spot: string;
  headroomK: number | null;
}

/** For each side, the spot with the least room left in the given air. */
export function tightestInAir(judgement: PairJudgement, study: Study, airC: number): WarmWord[] {
  return (['a', 'b'] as const).flatMap((key) => {
    const spots = judgement.spots.flatMap((spot) => {
      const side = spot[key];
      const definition = definitionOf(study, spot.spotId);
      if (!side || !definition) return [];
      const spotC = restated(side, judgement.roomC, airC, study.enclosure.powerTempCo);
      return [{ side: judgement[key].name, spot: definition.name, headroomK: spotC === null ? null : definition.limitC - spotC }];
    });
    const tightest = spots.sort((p, q) => (p.headroomK ?? -Infinity) - (q.headroomK ?? -Infinity))[0];
    return tightest ? [tightest] : [];
  });
}

/** A level in the middle of those at which both sides can be read, to half a decibel. */
export const middleOf = ({ leastDb, mostDb }: { leastDb: number; mostDb: number }): number =>
  Math.min(mostDb, Math.max(leastDb, Math.round(leastDb + mostDb) / 2));
