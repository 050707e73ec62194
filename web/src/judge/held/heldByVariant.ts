import { mean, type HeldBy } from '@red-ember/core';
import type { RunHeldBack, Study, StudyHeldBack } from '@red-ember/contract';

/** What held one variant back, over its runs. */
export interface HeldVariant {
  id: string;
  name: string;
  runs: RunHeldBack[];
  /** Shares of its loads, the largest first. */
  by: { limiter: HeldBy; share: number }[];
  free: number;
  /** Work that was left undone against the best that any run kept up, 0..1; null where there is no best. */
  leftBehind: number | null;
  /** Of what is taken at the socket; null where either was not read. */
  power: { wallW: number; partW: number } | null;
}

/** The runs of a study by variant, in the study's order; variants of which nothing was watched are left out. */
export function heldByVariant(study: Pick<Study, 'variants'>, { runs, best }: StudyHeldBack): HeldVariant[] {
  return study.variants.flatMap(({ id, name }): HeldVariant[] => {
    const own = runs.filter((run) => run.variantId === id);
    if (own.length === 0) return [];
    const limiters = [...new Set(own.flatMap(({ by }) => by.map(({ limiter }) => limiter)))];
    const shareOf = (limiter: HeldBy) => mean(own.map(({ by }) => by.find((entry) => entry.limiter === limiter)?.share ?? 0));
    const both = own.flatMap(({ wallW, powerW }) => (wallW === null || powerW === null ? [] : [{ wallW, partW: powerW }]));
    return [
      {
        id,
        name,
        runs: own,
        by: limiters.map((limiter) => ({ limiter, share: shareOf(limiter) })).sort((p, q) => q.share - p.share),
        free: mean(own.map(({ free }) => free)),
        leftBehind: best === null ? null : Math.max(0, 1 - mean(own.map(({ workMean }) => workMean)) / best.value),
        power: both.length === 0 ? null : { wallW: mean(both.map(({ wallW }) => wallW)), partW: mean(both.map(({ partW }) => partW)) },
      },
    ];
  });
}
