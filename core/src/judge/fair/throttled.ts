import type { ThrottleEpisode, ThrottleReport } from '../../throttling/findThrottling.ts';
import type { JudgedRun } from '../types.ts';

/** A part that throttled is still recovering for so long, seconds; one that goes in and out of it never settles. Our own figure. */
const RECOVERY_S = 600;

/**
 * Whether the part held its own temperature while it was read: an episode of thermal throttling reaches into the window, or nearly
 * so. One whose temperature was not seen counts too, unless power or a lack of work explains it: a part that slows down for another
 * reason holds no temperature.
 */
export function throttledInReading(run: JudgedRun): boolean {
  const window = run.review.spots.find((spot) => spot.load)?.load?.window;
  if (!window) return false;
  const reaches = (episode: ThrottleEpisode) => episode.endS > window.startS - RECOVERY_S && holdsTemperature(episode);
  return (run.review.throttle?.episodes ?? []).some(reaches);
}

export function holdsTemperature({ limiter, temperatureAtOnsetC }: ThrottleEpisode): boolean {
  return limiter === 'thermal' || (temperatureAtOnsetC === null && limiter !== 'load' && limiter !== 'power');
}

/**
 * Seconds from the load's beginning to the first loss by heat; null where there was none. A fast cache that runs out, a power limit and a
 * host that waits slow a part down too, and are no throttling.
 */
export function heatOnsetS({ episodes, timeToFirstS }: ThrottleReport): number | null {
  const hot = episodes.find(holdsTemperature);
  return hot === undefined || timeToFirstS === null ? null : timeToFirstS + hot.startS - episodes[0]!.startS;
}
