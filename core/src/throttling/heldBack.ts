import { mean } from '../mean.ts';
import { slice, type Series, type Window } from '../series/series.ts';
import type { LossReport } from './findLosses.ts';
import type { HeldBy } from './whyHeld.ts';

/** What held a part back over a load, and what it did. */
export interface HeldBack {
  loadS: number;
  /** Shares of the load, 0..1, the largest first; what is left of it ran free. */
  by: { limiter: HeldBy; share: number }[];
  free: number;
  /** Mean over the whole load, unit of the work; while it was gone it did nothing. */
  workMean: number;
  /** Level that it kept up without a loss. */
  keptUp: number;
}

/**
 * Shares of a load by what held the part back: of what comes and goes, only the time spent below.
 *
 * @param work NaN where the part did not answer
 * @param report of the same work over the same load
 */
export function heldBackIn(work: Series, load: Window, report: Pick<LossReport, 'episodes' | 'heldBack' | 'reference'>): HeldBack {
  const loadS = load.endS - load.startS;
  const shares = new Map<HeldBy, number>();
  for (const { startS, endS, duty, limiter } of [...report.episodes, ...report.heldBack]) {
    const within = Math.max(0, Math.min(endS, load.endS) - Math.max(startS, load.startS));
    shares.set(limiter, (shares.get(limiter) ?? 0) + (duty * within) / loadS);
  }
  const by = [...shares].map(([limiter, share]) => ({ limiter, share })).sort((p, q) => q.share - p.share);
  const did = Array.from(slice(work, load).y, (value) => (Number.isNaN(value) ? 0 : value));
  return {
    loadS,
    by,
    free: Math.max(0, 1 - by.reduce((sum, { share }) => sum + share, 0)),
    workMean: mean(did),
    keptUp: report.reference,
  };
}

/** Two series against each other over a window: means of both over equal stretches that hold some of each. */
export function cloudOf(x: Series, y: Series, { startS, endS }: Window, points: number): { x: number; y: number }[] {
  const over = (endS - startS) / points;
  const means = (series: Series) => {
    const [sums, counts] = [new Float64Array(points), new Float64Array(points)];
    const { t, y: values } = slice(series, { startS, endS });
    for (let i = 0; i < t.length; i++) {
      if (Number.isNaN(values[i]!)) continue;
      const k = Math.min(points - 1, Math.floor((t[i]! - startS) / over));
      sums[k]! += values[i]!;
      counts[k]!++;
    }
    return sums.map((sum, k) => sum / counts[k]!);
  };
  const [across, up] = [means(x), means(y)];
  return Array.from(across, (value, k) => ({ x: value, y: up[k]! })).filter((point) => Number.isFinite(point.x + point.y));
}
