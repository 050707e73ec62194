import { requireFinite } from '../errors.ts';

/** One channel's record. `t` in seconds, strictly ascending, same length as `y`; NaN in `y` marks a missing sample. */
export interface Series {
  readonly t: Float64Array;
  readonly y: Float64Array;
}

/** Half-open interval [startS, endS) in seconds. */
export interface Window {
  startS: number;
  endS: number;
}

/**
 * Checks a series at a public door, so that the code behind it may trust its input.
 *
 * @throws RangeError lengths differ, a time is not finite or not ascending, a value is infinite
 */
export function assertSeries(series: Series, name: string): void {
  const { t, y } = series;
  if (t.length !== y.length) throw new RangeError(`${name}: ${t.length} times but ${y.length} values`);
  let before = -Infinity;
  for (let i = 0; i < t.length; i++) {
    const time = t[i]!;
    // One comparison for the usual case: NaN and infinities fail it too.
    if (!(time > before && time < Infinity)) {
      if (!Number.isFinite(time)) throw new RangeError(`${name}: time ${i} is not a finite number`);
      throw new RangeError(`${name}: times must ascend, but sample ${i} is at ${time} s after ${before} s`);
    }
    before = time;
    const value = y[i]!;
    if (value === Infinity || value === -Infinity) throw new RangeError(`${name}: value ${i} is infinite`);
  }
}

/** @throws RangeError when a bound is not finite or the window ends before it starts */
export function assertWindow(window: Window, name: string): void {
  requireFinite(window.startS, `${name}.startS`);
  requireFinite(window.endS, `${name}.endS`);
  if (window.endS < window.startS) throw new RangeError(`${name} ends (${window.endS} s) before it starts (${window.startS} s)`);
}

/** The samples that are present, missing ones left out. The input itself where nothing is missing. */
export function usable(series: Series): Series {
  const { t, y } = series;
  let count = 0;
  // Counted by index: these run over hundreds of thousands of samples, where an iterator costs several times as much.
  for (let i = 0; i < y.length; i++) if (y[i] === y[i]) count++;
  if (count === y.length) return series;
  const kept = { t: new Float64Array(count), y: new Float64Array(count) };
  let j = 0;
  for (let i = 0; i < y.length; i++) {
    if (y[i] !== y[i]) continue;
    kept.t[j] = t[i]!;
    kept.y[j++] = y[i]!;
  }
  return kept;
}

/** First index whose time is at or after `time` (the length where there is none). */
export function lowerBound(t: ArrayLike<number>, time: number): number {
  let low = 0;
  let high = t.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (t[middle]! < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The part of a series inside [startS, endS); a view, nothing is copied. */
export function slice(series: Series, window: Window): Series {
  const from = lowerBound(series.t, window.startS);
  const to = Math.max(from, lowerBound(series.t, window.endS));
  return { t: series.t.subarray(from, to), y: series.y.subarray(from, to) };
}

/** The same with the sample before it and the one after, so that a line through it reaches both edges. */
export function sliceToEdges({ t, y }: Series, { startS, endS }: Window): Series {
  const from = Math.max(0, lowerBound(t, startS) - 1);
  const to = Math.max(from, Math.min(t.length, lowerBound(t, endS) + 1));
  return { t: t.subarray(from, to), y: y.subarray(from, to) };
}

/**
 * Means over consecutive groups of equally many usable samples: at most `maxBlocks` points with far less noise.
 * Meant for fits, where only the slow shape matters; the input itself where it is small already.
 */
export function blockMeans(series: Series, maxBlocks: number): Series {
  const { t, y } = series;
  const n = t.length;
  if (n <= maxBlocks) return series;
  const means = { t: new Float64Array(maxBlocks), y: new Float64Array(maxBlocks) };
  for (let block = 0; block < maxBlocks; block++) {
    const from = Math.floor((block * n) / maxBlocks);
    const to = Math.floor(((block + 1) * n) / maxBlocks);
    const start = t[from]!;
    let sumT = 0;
    let sumY = 0;
    for (let i = from; i < to; i++) {
      sumT += t[i]! - start;
      sumY += y[i]!;
    }
    means.t[block] = start + sumT / (to - from);
    means.y[block] = sumY / (to - from);
  }
  return means;
}

/** Median of the values, which are sorted in place. NaN for an empty list: callers check first. */
export function medianInPlace(values: Float64Array): number {
  const n = values.length;
  values.sort();
  return n % 2 === 1 ? values[(n - 1) / 2]! : (values[n / 2 - 1]! + values[n / 2]!) / 2;
}

/** Steps that are looked at for the usual one; of a longer record every so manieth. */
const MOST_STEPS = 20_000;

/** Lowest and highest of y[from, to); infinities of the other sign where nothing is there. NaN is passed over. */
export function extremes(y: Float64Array, from = 0, to = y.length): { low: number; high: number } {
  let low = Infinity;
  let high = -Infinity;
  for (let i = from; i < to; i++) {
    const value = y[i]!;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return { low, high };
}

/** Smallest step between neighbouring samples would be misled by jitter; this is the middle one. */
export function medianInterval(t: Float64Array): number {
  const every = Math.max(1, Math.floor((t.length - 1) / MOST_STEPS));
  const steps = new Float64Array(Math.max(0, Math.floor((t.length - 1) / every)));
  for (let i = 0; i < steps.length; i++) steps[i] = t[i * every + 1]! - t[i * every]!;
  return steps.length === 0 ? 0 : medianInPlace(steps);
}
