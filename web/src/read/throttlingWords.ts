import { clock, fixed, LIMITER_WORDS, type ThrottleReview } from '@red-ember/core';

/** Whether a run throttled, in a sentence: losses by heat, and what else held it back. */
export function throttlingWords({ timeToFirstS, performanceLost, heldBack, of }: ThrottleReview): string {
  const seen = of === 'clock' ? ' Seen in the clock, since no work was recorded.' : '';
  // That a part was gone is said by itself.
  const first = heldBack.find(({ limiter }) => limiter !== 'vanished');
  const other = first
    ? ` Held back from ${clock(first.startS)} on by ${LIMITER_WORDS[first.limiter]}, by ${fixed(100 * first.depth, 0)} %.`
    : '';
  if (timeToFirstS !== null)
    return `Throttled after ${fixed(timeToFirstS / 60, 1)} min; ${fixed(100 * performanceLost, 1)} % of the work lost by it.${other}${seen}`;
  return `${first ? 'Never throttled by heat.' : 'Never throttled.'}${other}${seen}`;
}
