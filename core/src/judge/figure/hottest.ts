import type { PhaseReading } from '../../review/types.ts';
import type { JudgedRun, JudgedSide, JudgedSpot } from '../types.ts';

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
    placementK: Math.max(...spots.map((spot) => spot.placementK)),
  };
}

/** The hottest of what was read at one time; undefined where nothing was. */
function hottestOf<T extends { spotId: string }>(
  read: readonly T[],
  spots: readonly JudgedSpot[],
  of: (entry: T) => PhaseReading | null,
): T | undefined {
  const there = read.filter((entry) => of(entry) && spots.some((candidate) => candidate.id === entry.spotId));
  return [...there].sort((p, q) => of(q)!.absolute.mean.value - of(p)!.absolute.mean.value)[0];
}

/** Id of the spot that came out hottest in a run; null where none was read. */
export function hottestIn(run: JudgedRun, spots: readonly JudgedSpot[]): string | null {
  return hottestOf(run.review.spots, spots, (spot) => spot.load)?.spotId ?? null;
}

function addHottest(run: JudgedRun, spots: readonly JudgedSpot[]): JudgedRun {
  const hottest = hottestOf(run.review.spots, spots, (spot) => spot.load);
  if (!hottest) return run;
  const sensor = run.sensors[hottest.spotId];
  const loads = run.review.loads.map((load) => {
    const there = hottestOf(load.spots, spots, (spot) => spot.reading);
    return there ? { ...load, spots: [...load.spots, { ...there, spotId: HOTTEST_SPOT_ID }] } : load;
  });
  return {
    ...run,
    // Where another spot is hottest on the other side, another sensor read it, and nothing cancels: the sensors say so.
    sensors: sensor === undefined ? run.sensors : { ...run.sensors, [HOTTEST_SPOT_ID]: sensor },
    review: { ...run.review, loads, spots: [...run.review.spots, { ...hottest, spotId: HOTTEST_SPOT_ID }] },
  };
}

/** Adds a row for the hottest of several sensors before the spots themselves; as it was where there are fewer than two. */
export function withHottest(sides: readonly JudgedSide[], spots: readonly JudgedSpot[]): { sides: JudgedSide[]; spots: JudgedSpot[] } {
  if (spots.length < 2) return { sides: [...sides], spots: [...spots] };
  return {
    sides: sides.map((of) => ({ ...of, runs: of.runs.map((run) => addHottest(run, spots)) })),
    spots: [hottestSpot(spots), ...spots],
  };
}
