import type { Estimate } from '../../estimate.ts';
import { riseAtPower } from '../../heat/riseAtPower.ts';
import { sweepAt, type SweepPoint } from '../../series/sweepAt.ts';
import { figureOfReading } from './reading.ts';
import type { Figure, JudgedRun, ReportingBasis, Restatement } from '../types.ts';

/** Temperature against noise over the loads of one run; of loads at one level, to a tenth of a decibel, the first counts. */
export function noiseSweep(run: JudgedRun, spotId: string, basis: ReportingBasis, figure: Figure): SweepPoint[] {
  const points = run.review.loads.flatMap((load): SweepPoint[] => {
    const y = figureOfReading(load.spots.find((spot) => spot.spotId === spotId)?.reading ?? null, basis, figure);
    return y && load.noise ? [{ x: Math.round(load.noise.value * 10) / 10, y }] : [];
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
  return sweepAt(points, by.levelDb);
}

/** Noise levels that every run's sweep reaches, so that all can be read at one; null where there is none in common. */
export function commonNoise(runs: readonly JudgedRun[]): { leastDb: number; mostDb: number } | null {
  const ranges = runs.flatMap((run) => {
    const levels = run.review.loads.flatMap((load) => (load.noise ? [load.noise.value] : []));
    return levels.length < 2 ? [] : [{ least: Math.min(...levels), most: Math.max(...levels) }];
  });
  if (ranges.length === 0) return null;
  const [leastDb, mostDb] = [Math.max(...ranges.map((r) => r.least)), Math.min(...ranges.map((r) => r.most))];
  return leastDb < mostDb ? { leastDb: Math.ceil(leastDb * 10) / 10, mostDb: Math.floor(mostDb * 10) / 10 } : null;
}
