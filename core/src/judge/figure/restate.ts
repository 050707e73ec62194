import type { Estimate } from '../../estimate.ts';
import { riseAtPower } from '../../heat/riseAtPower.ts';
import { sweepAt, type SweepPoint } from '../../series/sweepAt.ts';
import type { LoadReview } from '../../review/types.ts';
import { figureOfReading } from './reading.ts';
import type { Figure, JudgedRun, ReportingBasis, Restatement } from '../types.ts';

/** What a level says beyond its own scatter in doubt: where the meter stands and what else is heard, dB. Our own figure. */
const LEVEL_U_DB = 0.2;

/**
 * Level of one load as it was read; null where it was not, or lies so near the room's floor that the part's own cannot be told. Two runs
 * in one room that read the same are as loud as each other, so the floor is not taken off; what it hides enters the doubt.
 */
function levelOf({ noise, freedDb }: Pick<LoadReview, 'noise' | 'freedDb'>): { db: number; u: number } | null {
  if (!noise || freedDb === null) return null;
  const hidden = freedDb === undefined ? 1 : 10 ** ((noise.value - freedDb) / 10);
  return { db: noise.value, u: Math.hypot(noise.u, LEVEL_U_DB) * hidden };
}

/** Temperature against noise over the loads of one run; of loads at one level, to a tenth of a decibel, the first counts. */
export function noiseSweep(run: JudgedRun, spotId: string, basis: ReportingBasis, figure: Figure): SweepPoint[] {
  const points = run.review.loads.flatMap((load): SweepPoint[] => {
    const y = figureOfReading(load.spots.find((spot) => spot.spotId === spotId)?.reading ?? null, basis, figure);
    const level = levelOf(load);
    return y && level ? [{ x: Math.round(level.db * 10) / 10, y }] : [];
  });
  return points.filter((point, i) => points.findIndex((other) => other.x === point.x) === i);
}

/**
 * A run's figure at one spot, restated.
 *
 * At equal power the rise over room goes with power to the exponent; at equal noise it is read off the run's own sweep, which is
 * never carried beyond its ends.
 *
 * @returns null where it cannot be restated: no power or rise, no sweep, or one that does not reach the level
 */
export function restatedFigure(run: JudgedRun, spotId: string, basis: ReportingBasis, figure: Figure, by: Restatement): Estimate | null {
  if (by.kind === 'power') {
    const load = run.review.spots.find((spot) => spot.spotId === spotId)?.load ?? null;
    const rise = figureOfReading(load, 'rise', figure);
    const { power } = run.review;
    if (!rise || !power || !(power.value > 0)) return null;
    const restated = riseAtPower(rise, power, by.targetW, by.exponent);
    // A temperature in a held room moves by as much as its rise does.
    const absolute = figureOfReading(load, 'held-room', figure);
    return basis === 'rise' || !absolute ? restated : { ...restated, value: absolute.value + restated.value - rise.value };
  }
  const points = noiseSweep(run, spotId, basis, figure);
  const levels = points.map((point) => point.x);
  if (points.length < 2 || by.levelDb < Math.min(...levels) || by.levelDb > Math.max(...levels)) return null;
  const read = sweepAt(points, by.levelDb);
  return { ...read, u: Math.hypot(read.u, slopeAt(points, by.levelDb) * levelUAt(run, by.levelDb)) };
}

/** Half-width over which a sweep's slope is taken, dB. */
const SLOPE_OVER_DB = 0.5;

function slopeAt(points: readonly SweepPoint[], db: number): number {
  const levels = points.map((point) => point.x);
  const [low, high] = [Math.max(Math.min(...levels), db - SLOPE_OVER_DB), Math.min(Math.max(...levels), db + SLOPE_OVER_DB)];
  return Math.abs(sweepAt(points, high).value - sweepAt(points, low).value) / (high - low);
}

/** Doubt of the level of the load that lies nearest, dB. */
function levelUAt(run: JudgedRun, db: number): number {
  const levels = run.review.loads.flatMap((load) => levelOf(load) ?? []);
  return [...levels].sort((p, q) => Math.abs(p.db - db) - Math.abs(q.db - db))[0]?.u ?? LEVEL_U_DB;
}

/** Noise levels that every run's sweep reaches, so that all can be read at one; null where there is none in common. */
export function commonNoise(runs: readonly JudgedRun[]): { leastDb: number; mostDb: number } | null {
  const ranges = runs.flatMap((run) => {
    const levels = run.review.loads.flatMap((load) => levelOf(load)?.db ?? []);
    return levels.length < 2 ? [] : [{ least: Math.min(...levels), most: Math.max(...levels) }];
  });
  if (ranges.length === 0) return null;
  const [leastDb, mostDb] = [Math.max(...ranges.map((r) => r.least)), Math.min(...ranges.map((r) => r.most))];
  return leastDb < mostDb ? { leastDb: Math.ceil(leastDb * 10) / 10, mostDb: Math.floor(mostDb * 10) / 10 } : null;
}
