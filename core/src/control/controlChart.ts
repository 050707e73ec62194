import { mean } from '../mean.ts';

/** One repeat of something that should come out the same each time. */
export interface ControlPoint {
  /** Names the run. */
  id: string;
  value: number;
  /** False for one that is shown and taken for no evidence of what is usual. */
  counts: boolean;
}

/** Why a point is said to be off. */
export type OffWhy = 'beyond' | 'drifts' | 'one-side';

export interface ControlledPoint extends ControlPoint {
  /** Exponentially weighted mean up to and with this point, and how far it may lie from the centre; null for one that does not count. */
  smoothed: number | null;
  smoothedWithin: number | null;
  off: OffWhy[];
}

export interface ControlChart {
  centre: number;
  /** From one repeat to the next, by the mean moving range of the points that set the limits. */
  sd: number;
  /** A single point lies within centre ± this, 3 sd. */
  within: number;
  /** So many points set centre and limits: the first ones. */
  base: number;
  points: ControlledPoint[];
}

/** From fewer repeats no limit can be told from luck. */
export const LEAST_POINTS = 6;
/** Limits are set by the first so many; what comes later is held against them and does not move them. */
const MOST_BASE = 20;
/** Mean moving range of two normal values over their deviation, d2 for n = 2. */
const D2 = 1.128;
const LAMBDA = 0.3;
const L = 3;
/** So many in a row on one side of the centre are no luck. */
const RUN = 9;

/**
 * Individuals chart with an exponentially weighted mean beside it: the one finds a jump, the other a drift. A point is off beyond 3 sd of the
 * centre, where the weighted mean leaves its own limits, or as the ninth in a row on one side.
 *
 * @param points in the order in which they were measured
 * @param resolution smallest step of the values; the deviation is never taken for less than what it leaves
 * @returns null with fewer than six that count
 * @see NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.2 (individuals), 6.3.2.4 (EWMA); ISO 7870-2; the ninth on one side: ISO 7870-2, test 2
 */
export function controlChart(points: readonly ControlPoint[], resolution = 0): ControlChart | null {
  const counted = points.filter(({ counts }) => counts);
  if (counted.length < LEAST_POINTS) return null;
  const { base, centre, sd } = limitsOf(
    counted.slice(0, MOST_BASE).map(({ value }) => value),
    resolution,
  );
  // Equal values have no scatter, and a mean of them that differs in its last digit.
  const rounding = 1e-9 * (1 + Math.abs(centre));
  let smoothed = centre;
  let t = 0;
  let side = 0;
  let row = 0;
  return {
    centre,
    sd,
    within: L * sd,
    base: base.length,
    points: points.map((point): ControlledPoint => {
      const beyond: OffWhy[] = Math.abs(point.value - centre) > L * sd + rounding ? ['beyond'] : [];
      if (!point.counts) return { ...point, smoothed: null, smoothedWithin: null, off: beyond };
      t++;
      smoothed = LAMBDA * point.value + (1 - LAMBDA) * smoothed;
      const smoothedWithin = L * sd * Math.sqrt((LAMBDA / (2 - LAMBDA)) * (1 - (1 - LAMBDA) ** (2 * t)));
      const now = Math.sign(point.value - centre);
      row = now !== 0 && now === side ? row + 1 : 1;
      side = now;
      const drifts: OffWhy[] = Math.abs(smoothed - centre) > smoothedWithin + rounding ? ['drifts'] : [];
      const oneSide: OffWhy[] = now !== 0 && row >= RUN ? ['one-side'] : [];
      return { ...point, smoothed, smoothedWithin, off: [...beyond, ...drifts, ...oneSide] };
    }),
  };
}

/** Centre and deviation of the points that set the limits. One that lies beyond them sets none, and they are set once more without it. */
function limitsOf(values: readonly number[], resolution: number): { base: readonly number[]; centre: number; sd: number } {
  const of = (base: readonly number[]) => {
    const ranges = base.slice(1).map((value, i) => Math.abs(value - base[i]!));
    return { base, centre: mean(base), sd: Math.max(mean(ranges) / D2, resolution / Math.sqrt(12)) };
  };
  const first = of(values);
  const within = values.filter((value) => Math.abs(value - first.centre) <= L * first.sd);
  return within.length < values.length && within.length >= LEAST_POINTS ? of(within) : first;
}

/** What a chart says of its newest point, in a sentence; that it is in order where it is. */
export function controlSentence(chart: ControlChart): { off: boolean; text: string } {
  const last = chart.points.findLast(({ counts }) => counts)!;
  const way = (last.smoothed ?? last.value) > chart.centre ? 'higher' : 'lower';
  if (last.off.includes('beyond'))
    return { off: true, text: `The newest run lies beyond what the bench scatters by, ${last.value > chart.centre ? 'higher' : 'lower'}.` };
  if (last.off.includes('drifts')) return { off: true, text: `It drifts: the last runs together lie ${way} than they should.` };
  if (last.off.includes('one-side')) return { off: true, text: `The last nine runs and more all lie ${way} than the mean.` };
  return { off: false, text: 'The bench is still the bench it was.' };
}
