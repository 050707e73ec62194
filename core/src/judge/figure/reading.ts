import type { Estimate } from '../../estimate.ts';
import type { PhaseReading } from '../../review/types.ts';
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
    default:
      return unreachable(figure);
  }
}
