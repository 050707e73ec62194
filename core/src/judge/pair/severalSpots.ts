import { holm } from '../../uncertainty/holm.ts';
import { pOf } from '../../uncertainty/pOf.ts';
import { HOTTEST_SPOT_ID } from '../figure/hottest.ts';
import { namesASide } from './call.ts';
import type { Evidence, SpotJudgement } from '../types.ts';

/**
 * Marks calls that rest on one spot's own interval and not on all that were looked at: of many spots that do not differ one in twenty
 * is called by chance, so that a sentence about several has to be paid for (Holm). The hottest of them is one figure, and asks nothing.
 *
 * @param evidence 'usual' asks nothing for several: every spot speaks by itself
 */
export function acrossSpots(spots: readonly SpotJudgement[], coverage: number, evidence: Evidence = 'strict'): SpotJudgement[] {
  if (evidence === 'usual') return [...spots];
  const family = spots.filter((spot) => spot.spotId !== HOTTEST_SPOT_ID && spot.comparison !== null);
  const adjusted = holm(family.map((spot) => pOf(spot.comparison!.difference)));
  return spots.map((spot) => {
    const at = family.indexOf(spot);
    if (at < 0 || !namesASide(spot.call) || adjusted[at]! < 1 - coverage) return spot;
    return { ...spot, call: { ...spot.call, byItself: true } };
  });
}
