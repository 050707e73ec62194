import { createContext, memo, useContext, useMemo, useRef } from 'react';
import {
  CartesianGrid,
  LineChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  usePlotArea,
  XAxis,
  YAxis,
  ZIndexLayer,
  DefaultZIndexes,
} from 'recharts';
import { clock } from '@red-ember/core';
import type { Stretch } from './stretch.ts';
import { useStretch } from './useStretch.ts';
import { extent, timeTicks, tracePath, valueTicks, xOf, yOf, type DrawnTrace, type Plot } from './tracePath.ts';

export interface ChartTrace extends DrawnTrace {
  name: string;
  colour: string;
  dash?: string;
  width?: number;
}

/** From where to where a trace may still settle, drawn beside its end. */
export interface Ahead {
  key: string;
  atS: number;
  from: number;
  to: number;
  colour: string;
}

interface Props {
  traces: ChartTrace[];
  unit: string;
  label: string;
  fromS?: number;
  toS?: number;
  /** Stretches; one without an end goes on to the end of the chart. */
  shaded?: { fromS: number; toS: number | null; tone: 'phase' | 'window' }[];
  events?: { atS: number; text: string }[];
  limits?: { value: number; name: string; colour: string }[];
  /** How far something may still go, at a time. */
  ahead?: Ahead[];
  /** Where the present is, for a run that goes on. */
  nowS?: number;
  height?: number;
  /** Length of the record of which this is a stretch, s; all of it where nothing is said. */
  wholeS?: number;
  /** Called with the stretch that is to be looked at, or null for the whole record. */
  onZoom?: (stretch: Stretch | null) => void;
}

const NOTHING_AHEAD: Ahead[] = [];
const LEFT = 44;
const RIGHT = 116;

/** The last value that is there. */
function latest({ y }: ChartTrace): number | undefined {
  for (let i = y.length - 1; i >= 0; i--) {
    const value = y[i];
    if (value != null && !Number.isNaN(value)) return value;
  }
  return undefined;
}

function endLabels(traces: ChartTrace[], height: number, low: number, high: number): { trace: ChartTrace; top: number }[] {
  const plot = height - 32;
  const labels = traces.flatMap((trace) => {
    const last = latest(trace);
    return last === undefined || trace.name === '' ? [] : [{ trace, top: 6 + plot * (1 - (last - low) / (high - low)) - 9 }];
  });
  labels.sort((a, b) => a.top - b.top);
  for (let i = 1; i < labels.length; i++) labels[i]!.top = Math.max(labels[i]!.top, labels[i - 1]!.top + 17);
  return labels;
}

function range(traces: ChartTrace[], limits: { value: number }[], ahead: Ahead[]): [number, number] {
  const found = extent(traces);
  if (!found) return [0, 10];
  const low = Math.min(found[0], ...ahead.map(({ from }) => from));
  let high = Math.max(found[1], ...ahead.map(({ to }) => to));
  for (const { value } of limits) if (value < high + 0.6 * (high - low) + 5) high = Math.max(high, value + 1);
  const step = high - low > 30 ? 10 : high - low > 8 ? 5 : 1;
  return [Math.floor((low - 0.2) / step) * step, Math.ceil((high + 0.2) / step) * step];
}

/**
 * Labels that would lie on each other go into rows of their own; an empty text takes no room. Each stands to the right of its mark, or
 * to the left where it would run into the names of the traces.
 */
export function laned(events: readonly { atS: number; text: string }[], fromS: number, toS: number) {
  const perCharacter = 0.0095 * (toS - fromS);
  const taken: [number, number][][] = [];
  return [...events]
    .sort((a, b) => a.atS - b.atS)
    .map((event) => {
      const toLeft = (event.atS - fromS) / (toS - fromS) > 0.8;
      const wideS = perCharacter * (event.text.length + 1);
      const [start, end] = toLeft ? [event.atS - wideS, event.atS] : [event.atS, event.atS + wideS];
      const free = taken.findIndex((row) => row.every(([from, to]) => end <= from || to <= start));
      const lane = free < 0 ? taken.length : free;
      if (event.text !== '') (taken[lane] ??= []).push([start, end]);
      return { event, lane, toLeft };
    });
}

/** What changes many times a second goes past the chart that draws axes and marks, straight to the lines. */
const Drawn = createContext<{ traces: ChartTrace[]; ahead: Ahead[]; nowS: number | undefined }>({ traces: [], ahead: [], nowS: undefined });

type Shown = Omit<Plot, 'width' | 'height'>;

/**
 * The lines themselves, inside the chart that draws axes, phases and marks: a path a trace, of no more points than the plot has
 * columns. The chart's own lines keep a record, a label and a table row for every point, which held up the page for seconds.
 */
function Paths(shown: Shown) {
  const { traces, ahead, nowS } = useContext(Drawn);
  const area = usePlotArea();
  if (!area || !(shown.toS > shown.fromS)) return null;
  const plot = { width: area.width, height: area.height, ...shown };
  return (
    <ZIndexLayer zIndex={DefaultZIndexes.line}>
      <svg x={area.x} y={area.y} width={area.width} height={area.height} overflow="hidden">
        {/* What is still to come is not shaded as if it had been. */}
        {nowS === undefined ? null : (
          <rect
            x={xOf(plot, nowS)}
            width={Math.max(0, plot.width - xOf(plot, nowS))}
            height={plot.height}
            fill="var(--paper)"
            opacity={0.7}
          />
        )}
        {traces.map((trace) =>
          trace.dots ? (
            Array.from(trace.t, (time, i) => (
              <circle key={`${trace.key} ${time}`} cx={xOf(plot, time)} cy={yOf(plot, trace.y[i]!)} r={3.5} fill={trace.colour} />
            ))
          ) : (
            <path
              key={trace.key}
              className="trace-path"
              d={tracePath(trace, plot)}
              fill="none"
              stroke={trace.colour}
              strokeWidth={trace.width ?? 1.8}
              strokeLinejoin="round"
              {...(trace.dash ? { strokeDasharray: trace.dash } : {})}
            />
          ),
        )}
        {ahead.map(({ key, atS, from, to, colour }) => {
          const x = Math.min(plot.width - 5, xOf(plot, atS) + 5);
          const [top, bottom] = [yOf(plot, to), yOf(plot, from)];
          return (
            <path
              key={`ahead ${key}`}
              className="trace-ahead"
              d={`M${x - 4} ${top}h8m-4 0V${bottom}m-4 0h8`}
              fill="none"
              stroke={colour}
              strokeWidth={1.6}
            />
          );
        })}
        {nowS === undefined ? null : <line x1={xOf(plot, nowS)} x2={xOf(plot, nowS)} y1={0} y2={plot.height} stroke="var(--ink)" />}
      </svg>
    </ZIndexLayer>
  );
}

type Marks = Required<Pick<Props, 'shaded' | 'events' | 'limits'>>;

/** Axes, phases and marks; drawn anew only when one of them changes. */
const Axes = memo(function Axes({ fromS, toS, low, high, marks }: Shown & { marks: string }) {
  const { shaded, events, limits } = JSON.parse(marks) as Marks;
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={[{ t: fromS }, { t: toS }]} margin={{ top: 6, right: RIGHT, bottom: 2, left: 0 }} accessibilityLayer={false}>
        <CartesianGrid vertical={false} stroke="var(--rule)" />
        {shaded.map((area) => (
          <ReferenceArea
            key={`${area.tone}${area.fromS}`}
            x1={Math.max(area.fromS, fromS)}
            x2={Math.min(area.toS ?? toS, toS)}
            fill={area.tone === 'window' ? 'var(--quench)' : 'var(--shade)'}
            fillOpacity={area.tone === 'window' ? 0.14 : 1}
            ifOverflow="hidden"
          />
        ))}
        <XAxis
          dataKey="t"
          type="number"
          domain={[fromS, toS]}
          ticks={timeTicks(fromS, toS)}
          tickFormatter={(s: number) => clock(s)}
          stroke="var(--stone)"
          tickLine={false}
          height={24}
          allowDataOverflow
        />
        <YAxis width={LEFT} domain={[low, high]} ticks={valueTicks(low, high)} axisLine={false} tickLine={false} allowDataOverflow />
        {limits.map((limit) => (
          <ReferenceLine
            key={limit.name}
            y={limit.value}
            stroke={limit.colour}
            strokeWidth={1.4}
            // At the right stand the names of the traces.
            label={{ value: limit.name, position: 'insideBottomLeft', fill: limit.colour, fontSize: 12, fontWeight: 600 }}
          />
        ))}
        {laned(events, fromS, toS).map(({ event, lane, toLeft }) => (
          <ReferenceLine
            key={`${event.atS}${event.text}`}
            x={event.atS}
            stroke="var(--ochre)"
            strokeDasharray="2 4"
            strokeWidth={1.4}
            label={{
              value: event.text,
              position: toLeft ? 'insideTopRight' : 'insideTopLeft',
              fill: 'var(--ochre-text)',
              fontSize: 12,
              dy: 15 * lane,
            }}
          />
        ))}
        <Paths fromS={fromS} toS={toS} low={low} high={high} />
      </LineChart>
    </ResponsiveContainer>
  );
});

/** Traces over the run's clock: names at the line ends, phases shaded, limits as lines, gaps as gaps; looked at closer and moved along. */
export function TraceChart({
  traces,
  unit,
  label,
  fromS = 0,
  toS,
  shaded = [],
  events = [],
  limits = [],
  ahead = NOTHING_AHEAD,
  nowS,
  height = 260,
  wholeS,
  onZoom,
}: Props) {
  const endS = (toS ?? traces.reduce((last, { t }) => Math.max(last, t[t.length - 1] ?? 0), 0)) || 60;
  const [low, high] = useMemo(() => range(traces, limits, ahead), [traces, limits, ahead]);
  const drawn = useMemo(() => ({ traces, ahead, nowS }), [traces, ahead, nowS]);
  const box = useRef<HTMLDivElement>(null);
  const { seen, marked, isWhole, dragged, pressed, ...look } = useStretch(box, {
    shown: { fromS, toS: endS },
    wholeS: wholeS ?? endS,
    beside: { left: LEFT, right: RIGHT },
    onZoom,
  });
  return (
    <figure aria-label={label} className="relative">
      <div
        ref={box}
        className={`relative select-none ${onZoom ? 'cursor-crosshair touch-pan-y' : ''}`}
        style={{ height }}
        {...(onZoom
          ? {
              ...dragged(),
              tabIndex: 0,
              role: 'group',
              'aria-label': `${label}: arrows move it, + and − look closer or wider`,
              onKeyDown: pressed,
            }
          : {})}
      >
        <Drawn value={drawn}>
          <Axes
            fromS={seen.fromS}
            toS={seen.toS}
            low={low}
            high={high}
            marks={JSON.stringify({ shaded, events, limits } satisfies Marks)}
          />
        </Drawn>
        {endLabels(traces, height, low, high).map(({ trace, top }) => (
          <span
            key={trace.key}
            className="pointer-events-none absolute truncate text-[0.83rem] font-medium"
            style={{ top, left: `calc(100% - ${RIGHT - 6}px)`, width: RIGHT - 8, color: trace.colour }}
          >
            {trace.name}
          </span>
        ))}
        <span className="pointer-events-none absolute left-1 top-[-1.1rem] text-[0.8rem] text-soft">{unit}</span>
        {marked ? (
          <span
            className="pointer-events-none absolute bottom-6 top-1 bg-ink/10"
            style={{
              left: `calc(${LEFT}px + ${Math.min(marked.from, marked.to)} * (100% - ${LEFT + RIGHT}px))`,
              width: `calc(${Math.abs(marked.to - marked.from)} * (100% - ${LEFT + RIGHT}px))`,
            }}
          />
        ) : null}
      </div>
      {onZoom ? (
        <div className="no-print mt-1 flex flex-wrap gap-x-4 pl-11 text-[0.87rem] text-soft">
          <span>{isWhole ? 'Drag over the trace to look closer.' : 'Shift and drag, or the arrow keys, move it.'}</span>
          <button type="button" className="underline" onClick={look.closer}>
            Closer
          </button>
          <button type="button" className="underline disabled:opacity-40" onClick={look.wider} disabled={isWhole}>
            Wider
          </button>
          <button type="button" className="underline disabled:opacity-40" onClick={look.earlier} disabled={seen.fromS <= 0}>
            Earlier
          </button>
          <button type="button" className="underline disabled:opacity-40" onClick={look.later} disabled={seen.toS >= (wholeS ?? endS)}>
            Later
          </button>
          <button type="button" className="underline disabled:opacity-40" onClick={look.whole} disabled={isWhole}>
            Whole run
          </button>
        </div>
      ) : null}
    </figure>
  );
}
