import type { Estimate } from '../../estimate.ts';
import type { PhaseReading } from '../../review/types.ts';
import { leftBySteps } from '../../series/leftBySteps.ts';
import { unreachable } from '../../errors.ts';
import type { Figure, JudgedRun, ReportingBasis } from '../types.ts';

/** What was read of a spot under load; null where nothing could be. */
export function loadReading(run: JudgedRun, spotId: string): PhaseReading | null {
  return run.review.spots.find((spot) => spot.spotId === spotId)?.load ?? null;
}

/** The reading that a house rule asks for; null where the room was not recorded and a rise is asked for. */
export function figureOfReading(reading: PhaseReading | null, basis: ReportingBasis, figure: Figure): Estimate | null {
  const window = reading && (basis === 'rise' ? reading.rise : reading.absolute);
  if (!window) return null;
  switch (figure) {
    case 'peak':
      return { ...window.mean, value: window.max };
    case 'settled-mean':
    case 'hottest':
      return window.mean;
    case 'settled-value':
      return { ...window.mean, value: window.mean.value + (reading.toGo?.likely.value ?? 0) };
    default:
      return unreachable(figure);
  }
}

/**
 * What the sensor's steps leave in doubt of a figure, K: those that were seen, or as stated where they are coarser. A peak is one value,
 * and takes all of a step.
 */
export function resolutionU(reading: PhaseReading | null, statedK: number, figure: Figure): number {
  const steps = reading?.steps;
  return leftBySteps(Math.max(statedK, steps?.stepK ?? 0), figure === 'peak' || !steps ? 0 : steps.scatterK);
}

/** What remained when a spot was read: what its figure is likely to fall short by, and how well that is known, K. */
export interface Remained {
  byK: number;
  u: number;
}

/** A settled value has what is likely on top already; every other figure falls short by it. */
export function remained(reading: PhaseReading | null, figure: Figure): Remained {
  const toGo = reading?.toGo;
  if (!toGo) return { byK: 0, u: 0 };
  return { byK: figure === 'settled-value' ? 0 : toGo.likely.value, u: toGo.likely.u };
}

/** What a mean over a window that counts as settled likely still lacked (`atItsEnd`); null for any other figure, and where it was not settled: then a bound is said. */
export function lacks(reading: PhaseReading | null, figure: Figure): Remained | null {
  if (figure !== 'settled-mean' || reading?.bound !== 'settled' || !reading.toGo) return null;
  return remained(reading, figure);
}
