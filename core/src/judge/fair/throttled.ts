import type { ThrottleReview } from '../../review/types.ts';
import type { ThrottleEpisode } from '../../throttling/findThrottling.ts';
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

/** A probe may sit beside the hottest place: a part that slows down for no other reason this near its throttling point may have throttled, K. */
const NEAR_LIMIT_K = 10;

/**
 * Seconds from the load's beginning to the first loss by heat; null where there was none. A fast cache that runs out, a power limit and a
 * host that waits slow a part down too, and are no throttling; a loss for which nothing speaks is one only near the throttling point.
 */
export function heatOnsetS({ episodes, timeToFirstS, limitC = null }: ThrottleReview): number | null {
  const maybe = ({ limiter, temperatureAtOnsetC }: ThrottleEpisode) =>
    limiter !== 'load' &&
    limiter !== 'power' &&
    limitC !== null &&
    temperatureAtOnsetC !== null &&
    temperatureAtOnsetC > limitC - NEAR_LIMIT_K;
  const hot = episodes.find((episode) => holdsTemperature(episode) || maybe(episode));
  return hot === undefined || timeToFirstS === null ? null : timeToFirstS + hot.startS - episodes[0]!.startS;
}
