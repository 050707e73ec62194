import type { JudgeInput } from './judgePair.ts';
import type { JudgedRun, JudgedSide, JudgedSpot } from './types.ts';

/** Id of the row that stands for whichever spot came out hottest. */
export const HOTTEST_SPOT_ID = 'hottest';

/** What is said of the hottest of several sensors: the nearest limit and the least accurate sensor among them. */
export function hottestSpot(spots: readonly JudgedSpot[]): JudgedSpot {
  const limits = spots.flatMap((spot) => (spot.limitC === null ? [] : [spot.limitC]));
  return {
    id: HOTTEST_SPOT_ID,
    name: `Hottest of ${spots.length} spots`,
    limitC: limits.length > 0 ? Math.min(...limits) : null,
    accuracyK: Math.max(...spots.map((spot) => spot.accuracyK)),
    resolutionK: Math.max(...spots.map((spot) => spot.resolutionK)),
  };
}

function addHottest(run: JudgedRun, spots: readonly JudgedSpot[]): JudgedRun {
  const read = run.review.spots.filter((spot) => spot.load && spots.some((candidate) => candidate.id === spot.spotId));
  const hottest = [...read].sort((p, q) => q.load!.absolute.mean.value - p.load!.absolute.mean.value)[0];
  if (!hottest) return run;
  const sensor = run.sensors[hottest.spotId];
  return {
    ...run,
    // Where another spot is hottest on the other side, another sensor read it, and nothing cancels: the sensors say so.
    sensors: sensor === undefined ? run.sensors : { ...run.sensors, [HOTTEST_SPOT_ID]: sensor },
    review: { ...run.review, spots: [...run.review.spots, { ...hottest, spotId: HOTTEST_SPOT_ID }] },
  };
}

/** Adds a row for the hottest of several sensors before the spots themselves; as it was where there are fewer than two. */
export function withHottest(input: JudgeInput): JudgeInput {
  if (input.spots.length < 2) return input;
  const side = (of: JudgedSide): JudgedSide => ({ ...of, runs: of.runs.map((run) => addHottest(run, input.spots)) });
  return { ...input, a: side(input.a), b: side(input.b), spots: [hottestSpot(input.spots), ...input.spots] };
}
