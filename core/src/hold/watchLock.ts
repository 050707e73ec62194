import { InsufficientDataError, requireFinite, requireNotNegative } from '../errors.ts';
import { rejectSpikes } from '../series/rejectSpikes.ts';
import { slice, usable, type Series, type Window } from '../series/series.ts';

export interface LockWatch {
  /** False once it stayed outside its tolerance for `holdS`. */
  held: boolean;
  /** First time from which it stayed outside, seconds on the series' clock; null where it never did. */
  leftAtS: number | null;
  /** Signed largest departure from the value, spikes left out, in the channel's unit. */
  largestOff: number;
  /** Mean over the window. */
  mean: number;
  /** Of the window's samples outside the tolerance, 0..1. */
  shareOutside: number;
}

/**
 * Whether something that was meant to be held was held: a fan duty, a power cap, a clock.
 *
 * Spikes are left out, and a short excursion does not count: it has to last `holdS`.
 *
 * @param series in the lock's own unit
 * @param lock value and half-width of its tolerance
 * @param window where it has to hold, seconds
 * @param holdS default 10
 * @throws InsufficientDataError no usable sample in the window
 * @throws RangeError value not finite, tolerance negative
 */
export function watchLock(series: Series, lock: { value: number; tolerance: number }, window: Window, holdS = 10): LockWatch {
  requireFinite(lock.value, 'value');
  requireNotNegative(lock.tolerance, 'tolerance');
  requireNotNegative(holdS, 'holdS');
  const part = slice(series, window);
  const { t, y } = usable(rejectSpikes(part, { minScale: Math.max(1e-9, lock.tolerance / 10) }).clean);
  if (t.length === 0) throw new InsufficientDataError('no sample in the window in which it was to be held');
  let outside = 0;
  let since: number | null = null;
  let leftAtS: number | null = null;
  let largestOff = 0;
  let mean = 0;
  t.forEach((time, i) => {
    const off = y[i]! - lock.value;
    mean += y[i]! / t.length;
    if (Math.abs(off) > Math.abs(largestOff)) largestOff = off;
    // A tolerance met to the last digit of a rounded reading is met.
    if (Math.abs(off) <= lock.tolerance * (1 + 1e-9) + 1e-12) {
      since = null;
      return;
    }
    outside++;
    since ??= time;
    if (leftAtS === null && time - since >= holdS) leftAtS = since;
  });
  return { held: leftAtS === null, leftAtS, largestOff, mean, shareOutside: outside / t.length };
}
