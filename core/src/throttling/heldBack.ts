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

/** A part that takes this share of what it may is at its limit, whether or not anything was lost against a minute before. */
const AT_CAP = 0.98;
/** A load comes up within so many seconds. */
const RAMP_S = 30;
/** A load once it has come up: before, everything moves at once. */
export const onceUp = ({ startS, endS }: Window): Window => ({ startS: Math.min(startS + RAMP_S, endS), endS });
/** A part that is busy for less of the time waits for what feeds it, percent. */
const BUSY_PERCENT = 90;

/** What may stand all along, so that nothing is lost against what was done before; each null where nobody says. */
export interface Standing {
  cap: { powerW: number; power: Series } | null;
  utilisation: Series | null;
}

/** Share of a load's samples of which something is true, those left out in which something else was found to hold the part; 0..1. */
function shareWhere({ t, y }: Series, losses: readonly Window[], holds: (value: number) => boolean): number {
  let [n, at] = [0, 0];
  for (let i = 0; i < t.length; i++) {
    if (Number.isNaN(y[i]!)) continue;
    n++;
    if (holds(y[i]!) && !losses.some(({ startS, endS }) => t[i]! >= startS && t[i]! < endS)) at++;
  }
  return n === 0 ? 0 : at / n;
}

/**
 * Shares of a load by what held the part back: of what comes and goes, only the time spent below. A part that waits for its host or stands
 * at its power limit all along loses nothing against what it did before, and is held all the same.
 *
 * @param work NaN where the part did not answer
 * @param report of the same work over the same load
 * @param standing what may hold it without a loss
 */
export function heldBackIn(
  work: Series,
  load: Window,
  report: Pick<LossReport, 'episodes' | 'heldBack' | 'reference'>,
  { cap, utilisation }: Standing = { cap: null, utilisation: null },
): HeldBack {
  const loadS = load.endS - load.startS;
  const shares = new Map<HeldBy, number>();
  const losses = [...report.episodes, ...report.heldBack];
  const waits = utilisation ? shareWhere(slice(utilisation, onceUp(load)), losses, (busy) => busy < BUSY_PERCENT) : 0;
  // A part that waits may draw what it may all the same: the two are not counted twice.
  const atCap = cap ? shareWhere(slice(cap.power, load), losses, (powerW) => powerW >= AT_CAP * cap.powerW) : 0;
  if (waits > 0) shares.set('load', waits);
  if (Math.min(atCap, 1 - waits) > 0) shares.set('power', Math.min(atCap, 1 - waits));
  for (const { startS, endS, duty, limiter } of losses) {
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
