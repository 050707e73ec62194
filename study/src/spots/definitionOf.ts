import { HOTTEST_SPOT_ID } from '@red-ember/core';
import type { SpotEntry } from '../definition/look.ts';
import type { StudyDefinition } from '../definition/study.ts';

/** Definition of a judged row: the spot itself, or what stands for the hottest of several, with the nearest limit among them. */
export function definitionOf(study: Pick<StudyDefinition, 'spots'>, spotId: string): SpotEntry | undefined {
  if (spotId !== HOTTEST_SPOT_ID) return study.spots.find((spot) => spot.id === spotId);
  const nearest = [...study.spots].sort((p, q) => p.limitC - q.limitC)[0];
  return nearest && { ...nearest, id: HOTTEST_SPOT_ID, name: `Hottest of ${study.spots.length} spots`, sensor: 'whichever was hottest' };
}

/** The spot that all variants are ranked and chosen by where nothing is said: the hottest of several where the house rules say so, else the first. */
export const usualSpotId = ({ rules, spots }: Pick<StudyDefinition, 'rules' | 'spots'>): string =>
  rules.figure === 'hottest' && spots.length > 1 ? HOTTEST_SPOT_ID : (spots[0]?.id ?? HOTTEST_SPOT_ID);
