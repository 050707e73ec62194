import type { Estimate } from '../../estimate.ts';
import type { PhaseReading } from '../../review/types.ts';
import { unreachable } from '../../errors.ts';
import type { Figure, JudgedRun, ReportingBasis } from '../types.ts';

/** Standard deviations in a one-sided 95 % bound. */
const ONE_SIDED = 1.645;

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
      return { ...window.mean, value: window.mean.value + (reading.toGo?.bestK ?? 0) };
    default:
      return unreachable(figure);
  }
}

/**
 * Standard uncertainty for what remained when a spot was read, K: from the bound that is farther from the figure. A settled value has
 * the best of it on top already; every other figure has none.
 */
export function remainingU(reading: PhaseReading | null, figure: Figure): number {
  const toGo = reading?.toGo;
  if (!toGo) return 0;
  const from = figure === 'settled-value' ? toGo.bestK : 0;
  return Math.max(toGo.highK - from, from - toGo.lowK, 0) / ONE_SIDED;
}
