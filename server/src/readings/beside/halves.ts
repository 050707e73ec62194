import type { LoadReview, RunReview } from '@red-ember/core';
import type { ReviewInputs } from '../inputs.ts';

/** With fewer spots what both halves read twice, the room and the work, costs more than is won. */
const LEAST_SPOTS = 4;
export const HALVES = 2;
const isSpot = ({ role }: ReviewInputs['channels'][number]) => role === 'spot' || role === 'hand';

/**
 * One run as two tasks that together read what it says: every other spot, and all else in both. The first has the spot that throttles the
 * part, so that its account of everything but the spots is the whole run's.
 *
 * @returns the input itself where there is nothing to be won
 */
export function halves(inputs: ReviewInputs): ReviewInputs[] {
  const spots = inputs.channels.filter(isSpot);
  if (inputs.figures || spots.length < LEAST_SPOTS) return [inputs];
  const throttling = spots.findIndex(({ spotId }) => spotId === inputs.throttle?.spotId);
  return Array.from({ length: HALVES }, (_, half) => ({
    ...inputs,
    channels: inputs.channels.filter((channel) => !isSpot(channel) || (spots.indexOf(channel) + Math.max(0, throttling)) % HALVES === half),
  }));
}

/** What the tasks of `halves` read, as one review of the run. @param inputs of the whole run, by which its spots are in order */
export function joined(inputs: ReviewInputs, reviews: readonly RunReview[]): RunReview {
  const [first, ...others] = reviews;
  if (!first) throw new RangeError('nothing was read');
  const order = inputs.channels.filter(isSpot).map(({ spotId }) => spotId);
  const inOrder = <T extends { spotId: string }>(of: (review: RunReview) => readonly T[]): T[] =>
    reviews.flatMap(of).sort((p, q) => order.indexOf(p.spotId) - order.indexOf(q.spotId));
  return others.length === 0
    ? first
    : {
        ...first,
        spots: inOrder(({ spots }) => spots),
        loads: first.loads.map((load, i): LoadReview => ({ ...load, spots: inOrder(({ loads }) => loads[i]?.spots ?? []) })),
      };
}
