import { requireFinite, requireNotNegative } from '../errors.ts';

/** A card that lay about for longer was not worked all that time, minutes. */
const MOST_MIN = 480;
/** Ticked through in less, nobody was at the bench. */
const LEAST_MIN = 0.5;

/**
 * Minutes with hands on the bench, from the first tick to the last; cure and bed-in wait by themselves.
 *
 * @param waits minutes that steps wait
 * @returns null where it cannot be what hands took
 * @throws RangeError times that are no numbers, negative waits
 */
export function handsMinutes(startedMs: number, endedMs: number, waits: readonly number[]): number | null {
  requireFinite(startedMs, 'startedMs');
  requireFinite(endedMs, 'endedMs');
  for (const wait of waits) requireNotNegative(wait, 'wait');
  const minutes = (endedMs - startedMs) / 60_000 - waits.reduce((sum, wait) => sum + wait, 0);
  return minutes > LEAST_MIN && minutes <= MOST_MIN ? minutes : null;
}
