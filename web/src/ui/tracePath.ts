import { lowerBound } from '@red-ember/core';

/** A trace as it is drawn: times ascending, null or NaN where a gap is. */
export interface DrawnTrace {
  key: string;
  t: ArrayLike<number>;
  y: ArrayLike<number | null>;
  /** Read now and then: nothing stands between two readings. */
  dots?: boolean;
}

/** Where the plot lies, pixels, and what it shows. */
export interface Plot {
  width: number;
  height: number;
  fromS: number;
  toS: number;
  low: number;
  high: number;
}

const missing = (value: number | null | undefined): boolean => value == null || Number.isNaN(value);

export const xOf = (plot: Plot, time: number): number => ((time - plot.fromS) / (plot.toS - plot.fromS)) * plot.width;
export const yOf = (plot: Plot, value: number): number => (1 - (value - plot.low) / (plot.high - plot.low)) * plot.height;

/**
 * A trace as the data of an SVG path. Of the points in one column of pixels the first, the lowest, the highest and the last are drawn:
 * no peak is lost, and a path never has more points than the plot can show. A gap stays a gap. One point on either side of the plot
 * is drawn with it, so that lines come in from outside.
 */
export function tracePath({ t, y }: DrawnTrace, plot: Plot): string {
  const from = Math.max(0, lowerBound(t, plot.fromS) - 1);
  const to = Math.min(t.length, lowerBound(t, plot.toS) + 1);
  const parts: string[] = [];
  let pen = 'M';
  const put = (i: number) => {
    parts.push(`${pen}${xOf(plot, t[i]!).toFixed(1)} ${yOf(plot, y[i]!).toFixed(1)}`);
    pen = 'L';
  };
  for (let i = from; i < to;) {
    if (missing(y[i])) {
      pen = 'M';
      i++;
      continue;
    }
    const column = Math.floor(xOf(plot, t[i]!));
    const first = i;
    let [lowest, highest] = [i, i];
    for (i++; i < to && !missing(y[i]) && Math.floor(xOf(plot, t[i]!)) === column; i++) {
      if (y[i]! < y[lowest]!) lowest = i;
      if (y[i]! > y[highest]!) highest = i;
    }
    for (const point of new Set([first, Math.min(lowest, highest), Math.max(lowest, highest), i - 1])) put(point);
  }
  return parts.join('');
}

/** Lowest and highest value of traces; null where there is none. */
export function extent(traces: readonly DrawnTrace[]): [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  for (const { y } of traces)
    for (let i = 0; i < y.length; i++) {
      const value = y[i];
      if (value == null) continue;
      // NaN fails both comparisons.
      if (value < low) low = value;
      if (value > high) high = value;
    }
  return low <= high ? [low, high] : null;
}

/** Round steps for an axis of minutes: about `count` of them. */
export function timeTicks(fromS: number, toS: number, count = 8): number[] {
  const steps = [10, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14400];
  const step = steps.find((candidate) => (toS - fromS) / candidate <= count) ?? 28800;
  const ticks: number[] = [];
  for (let t = Math.ceil(fromS / step) * step; t <= toS + 1e-9; t += step) ticks.push(t);
  return ticks;
}

/** Round steps for an axis of values: at most about six of them. */
export function valueTicks(low: number, high: number): number[] {
  const step = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((candidate) => (high - low) / candidate <= 6) ?? 5000;
  const ticks: number[] = [];
  for (let value = Math.ceil(low / step) * step; value <= high; value += step) ticks.push(value);
  return ticks;
}
