import { InsufficientDataError } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { correlationFactor, worthOfMean } from './autocorrelation.ts';
import { assertSeries, assertWindow, slice, usable, type Series, type Window } from './series.ts';

/** `nEffective` is at most n, and under 1 where noise lasts longer than the window; dof is at least 3 where there are samples for it. */
export interface WindowReading {
  /** u allows for autocorrelation. */
  mean: Estimate;
  n: number;
  nEffective: number;
  min: number;
  max: number;
  /** Linear interpolation between order statistics (type 7). */
  p95: number;
}

const LEAST_DOF = 3;

/** Quantile by linear interpolation between order statistics (type 7 of Hyndman & Fan 1996). `sorted` ascending, not empty. */
export function quantileOfSorted(sorted: ArrayLike<number>, share: number): number {
  const position = (sorted.length - 1) * share;
  const below = Math.floor(position);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below]! + (position - below) * (sorted[above]! - sorted[below]!);
}

/**
 * Mean of a window with the doubt of a mean of correlated samples: u = s/√n_eff, s with n − 1; n_eff is the lesser of what the window's
 * autocovariances and its groups say (`worthOfMean`), dof = n_eff − 1, and no less than 3: what few groups leave unsure is in n_eff.
 *
 * Spikes are not removed here: pass `rejectSpikes(...).clean`.
 *
 * @param series any unit, shape [n]; NaN is skipped
 * @param window half-open, seconds on the series' clock
 * @throws InsufficientDataError fewer than two usable samples in the window
 * @throws RangeError malformed series or window
 * @see Geyer 1992, Statistical Science 7(4)
 */
export function readWindow(series: Series, window: Window): WindowReading {
  assertSeries(series, 'series');
  assertWindow(window, 'window');
  const { y } = usable(slice(series, window));
  const n = y.length;
  if (n < 2) throw new InsufficientDataError(`${n} usable samples between ${window.startS} s and ${window.endS} s; a reading needs two`);
  const first = y[0]!;
  let shift = 0; // centred on the first sample before squaring
  for (let i = 0; i < n; i++) shift += (y[i]! - first) / n;
  const mean = first + shift;
  let squares = 0;
  for (let i = 0; i < n; i++) squares += (y[i]! - mean) ** 2;
  const sd = Math.sqrt(squares / (n - 1));
  const nEffective = Math.min(n, n / correlationFactor(y), worthOfMean(y));
  const sorted = y.slice().sort();
  return {
    mean: { value: mean, u: sd / Math.sqrt(nEffective), dof: Math.max(Math.min(LEAST_DOF, n - 1), nEffective - 1) },
    n,
    nEffective,
    min: sorted[0]!,
    max: sorted[n - 1]!,
    p95: quantileOfSorted(sorted, 0.95),
  };
}
