import type { JudgedRun } from '../types.ts';

/** A part that throttled is still recovering for so long, seconds; one that goes in and out of it never settles. Our own figure. */
const RECOVERY_S = 600;

/**
 * Whether the part held its own temperature while it was read: a loss by heat, or one of which nobody could see that it was not, reaches
 * into the window, or nearly so.
 */
export function throttledInReading(run: JudgedRun): boolean {
  const window = run.review.spots.find((spot) => spot.load)?.load?.window;
  return window !== undefined && (run.review.throttle?.episodes ?? []).some((episode) => episode.endS > window.startS - RECOVERY_S);
}
