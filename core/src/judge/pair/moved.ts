import { fixed, signed } from '../../format/measured.ts';
import { callWords } from './call.ts';
import type { PairJudgement, SpotJudgement } from '../types.ts';

export interface FigureBefore {
  spotId: string;
  before: string;
  after: string;
}

function words(spot: SpotJudgement | undefined, limitC: number | null | undefined): string {
  const comparison = spot?.comparison;
  if (!spot || !comparison) return spot?.refusal ?? 'no comparison';
  const hottest = Math.max(...[spot.a, spot.b].flatMap((side) => (side ? [side.spotC] : [])));
  const left = limitC == null ? '' : `, ${fixed(limitC - hottest, 1)} K left`;
  return `${signed(comparison.difference.value, 2)} K, ${callWords(spot.call).words}${left}`;
}

/** A judgement with the limits it was held against, by spot id. */
export interface JudgedFigures {
  judgement: PairJudgement;
  limitsC: Readonly<Record<string, number | null>>;
}

/** What a judgement says of each spot: difference, verdict, headroom. */
export function saidOfSpots({ judgement, limitsC }: JudgedFigures): { spotId: string; says: string }[] {
  return judgement.spots.map((spot) => ({ spotId: spot.spotId, says: words(spot, limitsC[spot.spotId]) }));
}

/** Figures of a comparison that moved between two judgements of it, by spot: difference, verdict, headroom. */
export function movedFigures(before: JudgedFigures, after: JudgedFigures): FigureBefore[] {
  const ids = [...new Set([...before.judgement.spots, ...after.judgement.spots].map((spot) => spot.spotId))];
  return ids.flatMap((spotId) => {
    const [old, now] = [before, after].map(({ judgement, limitsC }) =>
      words(
        judgement.spots.find((spot) => spot.spotId === spotId),
        limitsC[spotId],
      ),
    );
    return old === now ? [] : [{ spotId, before: old!, after: now! }];
  });
}
