import type { JudgedSpot } from '@red-ember/core';
import type { SpotEntry } from '../definition/look.ts';
import type { Family } from '../families.ts';
import { isOfNeighbour } from './anothers.ts';

/** The spots of a study as they are judged: what of them a figure's doubt and headroom rest on. */
export function judgedSpots({ spots, family }: { spots: readonly SpotEntry[]; family: Family }): JudgedSpot[] {
  return spots.map(({ id, name, limitC, accuracyK, resolutionK, placementK, componentClass }) => ({
    id,
    name,
    limitC,
    accuracyK,
    resolutionK,
    placementK,
    ...(isOfNeighbour({ name, componentClass }, family) ? { ofNeighbour: true } : {}),
  }));
}
