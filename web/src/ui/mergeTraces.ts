export interface DrawnTrace {
  key: string;
  t: number[];
  y: (number | null)[];
  /** Read now and then: nothing stands between two readings. */
  dots?: boolean;
}

export type Row = { t: number } & Record<string, number | null>;

/** More rows than the chart has pixels across cost seconds and show nothing. */
const MOST_ROWS = 1000;

/**
 * A trace's points moved to columns of equal width: by less than a pixel. Of several in one column the one furthest from the point
 * before stays, so that peaks do, and a gap stays above all.
 */
function onColumns(trace: DrawnTrace, fromS: number, columnS: number): DrawnTrace {
  const t: number[] = [];
  const y: (number | null)[] = [];
  trace.t.forEach((time, i) => {
    const at = fromS + columnS * Math.round((time - fromS) / columnS);
    const value = trace.y[i]!;
    if (t.at(-1) !== at) {
      t.push(at);
      y.push(value);
      return;
    }
    const kept = y.at(-1)!;
    const before = y.at(-2) ?? kept;
    if (kept !== null && (value === null || Math.abs(value - before!) > Math.abs(kept - before!))) y[y.length - 1] = value;
  });
  return { ...trace, t, y };
}

/**
 * One table for the chart from traces with times of their own: a trace between two of its points is drawn on the straight line
 * between them, a gap stays a gap. Where the times are more than a chart can show, they are brought onto common columns first.
 */
export function mergeTraces(all: readonly DrawnTrace[]): Row[] {
  const own = new Set(all.flatMap((trace) => trace.t));
  const [fromS, toS] = own.size > MOST_ROWS ? ends(all) : [0, 0];
  const traces = toS > fromS ? all.map((trace) => (trace.dots ? trace : onColumns(trace, fromS, (toS - fromS) / MOST_ROWS))) : all;
  const times = [...new Set(traces.flatMap((trace) => trace.t))].sort((a, b) => a - b);
  const rows = times.map((t): Row => ({ t }) as Row);
  for (const { key, t, y, dots } of traces) {
    let next = 0;
    rows.forEach((row) => {
      while (next < t.length && t[next]! < row.t) next++;
      if (next < t.length && t[next] === row.t) row[key] = y[next]!;
      else if (!dots && next > 0 && next < t.length && y[next - 1] != null && y[next] != null) {
        const share = (row.t - t[next - 1]!) / (t[next]! - t[next - 1]!);
        row[key] = y[next - 1]! + share * (y[next]! - y[next - 1]!);
      } else row[key] = null;
    });
  }
  return rows;
}

function ends(traces: readonly DrawnTrace[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const { t } of traces) for (const time of t) [low, high] = [Math.min(low, time), Math.max(high, time)];
  return [low, high];
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
