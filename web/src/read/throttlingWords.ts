import { duration, fixed, heatOnsetS, LIMITER_WORDS, type ThrottleReview } from '@red-ember/core';

/** Whether a run throttled, in a sentence: losses by heat, and what else held it back. */
export function throttlingWords(report: ThrottleReview): string {
  const lost = `${fixed(100 * report.performanceLost, 1)} % of the work lost`;
  const heat = heatOnsetS(report);
  if (heat !== null) return `Throttled after ${duration(heat)}; ${lost}.`;
  const [first] = report.episodes;
  if (!first) return 'Never throttled.';
  return `Never throttled by heat. Held back after ${duration(report.timeToFirstS!)} by ${LIMITER_WORDS[first.limiter]}; ${lost}.`;
}
