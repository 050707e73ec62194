import { requireNotNegative, requirePositive } from '../errors.ts';
import { stepOf } from './stepOf.ts';
import { assertSeries, extremes, lowerBound, medianInPlace, usable, type Series } from './series.ts';

export interface SpikeReport {
  /** The series with spikes as NaN; nothing is interpolated over. */
  clean: Series;
  spikes: { t: number; y: number }[];
}

/** Sorted values with insertion and removal by binary search: the window slides by one sample at a time. */
class SortedWindow {
  private readonly values: Float64Array;
  size = 0;

  constructor(capacity: number) {
    this.values = new Float64Array(capacity);
  }

  private position(value: number): number {
    let low = 0;
    let high = this.size;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.values[middle]! < value) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  add(value: number): void {
    const at = this.position(value);
    this.values.copyWithin(at + 1, at, this.size);
    this.values[at] = value;
    this.size++;
  }

  remove(value: number): void {
    const at = this.position(value);
    this.values.copyWithin(at, at + 1, this.size);
    this.size--;
  }

  median(): number {
    const middle = this.size >> 1;
    return this.size % 2 === 1 ? this.values[middle]! : (this.values[middle - 1]! + this.values[middle]!) / 2;
  }

  /** Median absolute deviation from `centre`. */
  mad(centre: number, scratch: Float64Array): number {
    const deviations = scratch.subarray(0, this.size);
    for (let i = 0; i < this.size; i++) deviations[i] = Math.abs(this.values[i]! - centre);
    return medianInPlace(deviations);
  }
}

/** Samples that are looked at together before each is looked at by itself. */
const BLOCK = 256;

/**
 * Stretches in which a spike is possible at all. No sample lies further from its median than all of its neighbourhood spans, so
 * where that is within the least threshold nothing has to be sorted: a settled hour costs next to nothing.
 *
 * @returns samples [first, last) with everything within reach of them, [from, to)
 */
function* suspectBlocks(t: Float64Array, y: Float64Array, half: number, threshold: number) {
  let from = 0;
  let to = 0;
  for (let first = 0; first < t.length; first += BLOCK) {
    const last = Math.min(t.length, first + BLOCK);
    while (t[from]! < t[first]! - half) from++;
    while (to < t.length && t[to]! <= t[last - 1]! + half) to++;
    const { low, high } = extremes(y, from, to);
    if (high - low > threshold) yield { first, last, from, to };
  }
}

/**
 * Hampel identifier: a sample further than k scaled MADs from the median of its neighbourhood is a spike.
 *
 * Spikes are shown and left out of means, never deleted (methods §3). A sustained step is not a spike, since it becomes the
 * median of its own neighbourhood. At the ends of the record the window is cut short, not shifted.
 *
 * @param series any unit, shape [n]; NaN is skipped
 * @param opts.windowS full width of the centred window in seconds (default 15)
 * @param opts.k how many scaled MADs are too many (default 5)
 * @param opts.minScale floor of the scale 1.4826·MAD, unit of the series (default 0.25), so that a quantised trace does not
 *   spike at every flicker
 * @throws RangeError malformed series, windowS or k not above zero, minScale negative
 * @see Hampel 1974, J. Am. Stat. Assoc. 69(346); Davies & Gather 1993, J. Am. Stat. Assoc. 88(423)
 */
export function rejectSpikes(series: Series, opts: { windowS?: number; k?: number; minScale?: number } = {}): SpikeReport {
  const { windowS = 15, k = 5, minScale = 0.25 } = opts;
  requirePositive(windowS, 'windowS');
  requirePositive(k, 'k');
  requireNotNegative(minScale, 'minScale');
  assertSeries(series, 'series');
  const { t, y } = usable(series);
  const clean = series.y.slice();
  const spikes: { t: number; y: number }[] = [];
  const half = windowS / 2;
  for (const block of suspectBlocks(t, y, half, k * minScale)) {
    const window = new SortedWindow(block.to - block.from + 1);
    const scratch = new Float64Array(block.to - block.from);
    let { from, from: to } = block;
    for (let i = block.first; i < block.last; i++) {
      while (to < t.length && t[to]! <= t[i]! + half) window.add(y[to++]!);
      while (t[from]! < t[i]! - half) window.remove(y[from++]!);
      const deviation = Math.abs(y[i]! - window.median());
      if (deviation <= k * minScale) continue;
      const scale = Math.max(minScale, 1.4826 * window.mad(window.median(), scratch));
      if (deviation <= k * scale) continue;
      spikes.push({ t: t[i]!, y: y[i]! });
      clean[lowerBound(series.t, t[i]!)] = NaN;
    }
  }
  return { clean: { t: series.t, y: clean }, spikes };
}

/** Least scale of a spike, K, and in steps of the sensor: a reading that flickers by one step or two has not left its neighbours, one by three has. */
const LEAST_SCALE_K = 0.25;
const SCALE_STEPS = 0.45;

/** As `rejectSpikes`, of a temperature whose sensor may be coarse: its own steps are no spikes. @param series °C or K */
export function rejectTemperatureSpikes(series: Series): SpikeReport {
  return rejectSpikes(series, { minScale: Math.max(LEAST_SCALE_K, SCALE_STEPS * (stepOf(series.y) ?? 0)) });
}
