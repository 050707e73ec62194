import { medianInPlace } from '../series/series.ts';

/** Values a log's phases are found by: one clock for all of them. */
export interface Signal {
  /** Seconds from the first sample, ascending. */
  t: Float64Array;
  /** NaN where nothing was read. */
  y: Float64Array;
}

/** Median of what is there in [from, to); NaN where nothing is. */
export function medianOf(y: Float64Array, from: number, to: number): number {
  const there = y.slice(Math.max(0, from), Math.max(0, to)).filter((value) => value === value);
  return there.length === 0 ? NaN : medianInPlace(there);
}

/** Value below which a share of what is there lies; NaN where nothing is. */
export function quantileOf(y: Float64Array, share: number): number {
  const there = y.filter((value) => value === value).sort();
  return there.length === 0 ? NaN : there[Math.round(share * (there.length - 1))]!;
}

/** Running medians over about `spanS`: dips and spikes that are shorter than half of it leave no trace. */
export function runningMedian({ t, y }: Signal, spanS: number): Float64Array {
  const half = spanS / 2;
  let from = 0;
  let to = 0;
  return Float64Array.from(t, (time) => {
    while (t[from]! < time - half) from++;
    while (to < t.length && t[to]! <= time + half) to++;
    return medianOf(y, from, to);
  });
}
