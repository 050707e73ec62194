import { CartesianGrid, ComposedChart, Line, ReferenceArea, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '@red-ember/core';
import type { SpotControl } from '@red-ember/contract';
import { valueTicks } from '../../ui/tracePath.ts';
import { shortDayOf } from '../../ui/dates.ts';

interface Drawn {
  n: number;
  value: number;
  smoothed: number | null;
  counts: boolean;
  off: boolean;
}

/** A run: hollow where it sets no limits, a diamond in the ember's colour where it is off; told by shape as well as colour. */
function Mark({ cx = 0, cy = 0, payload }: { cx?: number; cy?: number; payload?: Drawn }) {
  if (!payload) return null;
  if (payload.off) return <rect x={cx - 4.5} y={cy - 4.5} width={9} height={9} transform={`rotate(45 ${cx} ${cy})`} fill="var(--ember)" />;
  return <circle cx={cx} cy={cy} r={4} fill={payload.counts ? 'var(--ink)' : 'var(--paper)'} stroke="var(--ink)" strokeWidth={1.2} />;
}

/** Repeats of a variant over time, with what they usually scatter by and their weighted mean. */
export function ControlPlot({ control }: { control: SpotControl }) {
  const { chart, runs, name } = control;
  if (!chart) return null;
  const data = chart.points.map(({ value, smoothed, counts, off }, i): Drawn => ({
    n: i + 1,
    value,
    smoothed,
    counts,
    off: off.length > 0,
  }));
  const all = [...data.map(({ value }) => value), chart.centre - chart.within, chart.centre + chart.within];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = Math.max(0.2, 0.08 * (high - low));
  const domain: [number, number] = [low - room, high + room];
  const day = (n: number) => (runs[n - 1] ? shortDayOf(runs[n - 1]!.at) : '');
  return (
    <figure
      aria-label={`${name}: ${data.length} repeats, centre ${fixed(chart.centre, 1)} K, limits ${fixed(chart.within, 1)} K either side`}
    >
      <ResponsiveContainer width="100%" height={230}>
        <ComposedChart data={data} margin={{ top: 8, right: 16, bottom: 14, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis
            type="number"
            dataKey="n"
            domain={[0.5, data.length + 0.5]}
            ticks={data.map(({ n }) => n)}
            interval="preserveStartEnd"
            minTickGap={28}
            tickLine={false}
            stroke="var(--stone)"
            tickFormatter={day}
          />
          <YAxis
            type="number"
            domain={domain}
            ticks={valueTicks(...domain)}
            width={52}
            axisLine={false}
            tickLine={false}
            tickFormatter={(value: number) => fixed(value, high - low < 3 ? 1 : 0)}
            label={{ value: 'K', position: 'insideTopLeft', offset: 4, fill: 'var(--soft)', fontSize: 12 }}
          />
          <ReferenceArea
            y1={chart.centre - chart.within}
            y2={chart.centre + chart.within}
            fill="var(--shade)"
            fillOpacity={0.7}
            stroke="none"
          />
          <ReferenceLine y={chart.centre} stroke="var(--stone)" />
          <Line dataKey="smoothed" stroke="var(--quench)" strokeWidth={1.6} dot={false} isAnimationActive={false} connectNulls />
          <Line dataKey="value" stroke="none" dot={<Mark />} isAnimationActive={false} />
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}
