import type { Window } from '../series/series.ts';
import { slice, usable, type Series } from '../series/series.ts';
import { riseOverAmbient } from '../series/riseOverAmbient.ts';
import { quantileOfSorted, type WindowReading } from '../series/readWindow.ts';
import type { BoundedSettling } from '../settling/boundSettling.ts';

/** What was read by hand towards the end of a stretch. */
export interface HandRead {
  window: Window;
  absolute: WindowReading;
  rise: WindowReading | null;
  settling: BoundedSettling;
  peakC: number;
}

/** Readings by hand come minutes apart: the last three count, none older than this before the last. Our own rule. */
const LAST = 3;
const WITHIN_S = 900;
/** An infrared reading in somebody's hand repeats to about this, K; less than it is no movement. Our own figure. */
const HAND_NOISE_K = 0.5;

function windowReading(values: Float64Array, leastU: number): WindowReading {
  const n = values.length;
  const mean = values.reduce((sum, value) => sum + value / n, 0);
  const sd = n > 1 ? Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (n - 1)) : 0;
  const sorted = values.slice().sort();
  return {
    mean: { value: mean, u: Math.max(leastU, sd / Math.sqrt(n)), dof: n > 1 ? n - 1 : Infinity },
    n,
    nEffective: n,
    min: sorted[0]!,
    max: sorted[n - 1]!,
    p95: quantileOfSorted(sorted, 0.95),
  };
}

function settlingOf({ t, y }: Series, toleranceK: number, windowS: number): BoundedSettling {
  const n = t.length;
  const middle = t.reduce((sum, time) => sum + time / n, 0);
  const mean = y.reduce((sum, value) => sum + value / n, 0);
  const tt = t.reduce((sum, time) => sum + (time - middle) ** 2, 0);
  const slope = tt > 0 ? t.reduce((sum, time, i) => sum + (time - middle) * (y[i]! - mean), 0) / tt : 0;
  const settled = n >= LAST && Math.abs(slope) * windowS <= toleranceK + HAND_NOISE_K;
  return {
    settled,
    atS: settled ? t[0]! : null,
    slopeKPerMin: { value: 60 * slope, u: tt > 0 ? (60 * HAND_NOISE_K) / Math.sqrt(tt) : HAND_NOISE_K, dof: Math.max(1, n - 2) },
    remainingK: null,
    etaS: settled ? 0 : null,
    confirmedInS: settled ? 0 : null,
    slowTauS: null,
    remains: null,
  };
}

/**
 * Reads a spot that was read by hand: the mean of its last readings in a stretch, with their scatter or, for a single one, the
 * instrument's resolution. Whether it was settled is said only of three readings or more.
 *
 * @param points °C at the times at which they were typed, seconds on the run's clock
 * @param resolutionK smallest step of the instrument
 * @returns null where nothing was read in the stretch
 */
export function readByHand(
  points: Series,
  room: Series | null,
  stretch: Window,
  rule: { toleranceK: number; windowS: number },
  resolutionK: number,
): HandRead | null {
  const all = usable(slice(points, stretch));
  const n = all.t.length;
  if (n === 0) return null;
  const fromS = Math.max(all.t[Math.max(0, n - LAST)]!, all.t[n - 1]! - WITHIN_S);
  const window = { startS: fromS, endS: stretch.endS };
  const taken = usable(slice(all, window));
  const leastU = Math.max(resolutionK, 0.01) / Math.sqrt(12);
  const over = room ? usable(slice(riseOverAmbient(all, room), window)) : null;
  return {
    window,
    absolute: windowReading(taken.y, leastU),
    rise: over && over.y.length > 0 ? windowReading(over.y, leastU) : null,
    settling: settlingOf(over && over.y.length === taken.y.length ? over : taken, rule.toleranceK, rule.windowS),
    peakC: all.y.reduce((p, q) => Math.max(p, q), -Infinity),
  };
}
