import type { JudgedSpot } from '@red-ember/core';
import type { SpotEntry } from '../definition/look.ts';

/** The spots of a study as they are judged: what of them a figure's doubt and headroom rest on. */
export function judgedSpots({ spots }: { spots: readonly SpotEntry[] }): JudgedSpot[] {
  return spots.map(({ id, name, limitC, accuracyK, resolutionK, placementK }) => ({
    id,
    name,
    limitC,
    accuracyK,
    resolutionK,
    placementK,
  }));
}
