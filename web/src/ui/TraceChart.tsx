import { useMemo, useRef, useState, type PointerEvent } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceArea, ReferenceDot, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { clock } from '@red-ember/core';
import { mergeTraces, timeTicks, valueTicks, type DrawnTrace } from './mergeTraces.ts';

export interface ChartTrace extends DrawnTrace {
  name: string;
  colour: string;
  dash?: string;
  width?: number;
}

interface Props {
  traces: ChartTrace[];
  unit: string;
  label: string;
  fromS?: number;
  toS?: number;
  shaded?: { fromS: number; toS: number; tone: 'phase' | 'window' }[];
  events?: { atS: number; text: string }[];
  limits?: { value: number; name: string; colour: string }[];
  /** Where the present is, for a run that goes on. */
  nowS?: number;
  height?: number;
  /** Called with the stretch the tester dragged over, or null for the whole record. */
  onZoom?: (range: { fromS: number; toS: number } | null) => void;
  zoomed?: boolean;
}

const LEFT = 44;
const RIGHT = 116;

function endLabels(traces: ChartTrace[], height: number, low: number, high: number): { trace: ChartTrace; top: number }[] {
  const plot = height - 32;
  const labels = traces.flatMap((trace) => {
    const last = trace.y.findLast((value): value is number => value != null);
    return last === undefined || trace.name === '' ? [] : [{ trace, top: 6 + plot * (1 - (last - low) / (high - low)) - 9 }];
  });
  labels.sort((a, b) => a.top - b.top);
  for (let i = 1; i < labels.length; i++) labels[i]!.top = Math.max(labels[i]!.top, labels[i - 1]!.top + 17);
  return labels;
}

function range(traces: ChartTrace[], limits: { value: number }[]): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (const { y } of traces) for (const value of y) if (value != null) [low, high] = [Math.min(low, value), Math.max(high, value)];
  if (!Number.isFinite(low)) return [0, 10];
  for (const { value } of limits) if (value < high + 0.6 * (high - low) + 5) high = Math.max(high, value + 1);
  const step = high - low > 30 ? 10 : high - low > 8 ? 5 : 1;
  return [Math.floor((low - 0.2) / step) * step, Math.ceil((high + 0.2) / step) * step];
}

/** Labels that would lie on each other go into rows of their own; an empty text takes no room. */
function laned(events: { atS: number; text: string }[], fromS: number, toS: number) {
  const perCharacter = 0.0095 * (toS - fromS);
  const freeFrom: number[] = [];
  return [...events]
    .sort((a, b) => a.atS - b.atS)
    .map((event) => {
      const free = freeFrom.findIndex((atS) => atS <= event.atS);
      const lane = free < 0 ? freeFrom.length : free;
      if (event.text !== '') freeFrom[lane] = event.atS + perCharacter * (event.text.length + 1);
      return { event, lane };
    });
}

/** Traces over the run's clock: names at the line ends, phases shaded, limits as lines, gaps as gaps; drag to zoom. */
export function TraceChart({
  traces,
  unit,
  label,
  fromS = 0,
  toS,
  shaded = [],
  events = [],
  limits = [],
  nowS,
  height = 260,
  onZoom,
  zoomed = false,
}: Props) {
  const rows = useMemo(() => mergeTraces(traces), [traces]);
  const endS = toS ?? rows.at(-1)?.t ?? 60;
  const [low, high] = useMemo(() => range(traces, limits), [traces, limits]);
  const box = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const shareAt = (event: PointerEvent) => {
    const rect = box.current!.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - rect.left - LEFT) / (rect.width - LEFT - RIGHT)));
  };
  const timeAt = (share: number) => fromS + share * (endS - fromS);
  const finish = () => {
    if (drag && Math.abs(drag.to - drag.from) > 0.02)
      onZoom?.({ fromS: timeAt(Math.min(drag.from, drag.to)), toS: timeAt(Math.max(drag.from, drag.to)) });
    setDrag(null);
  };
  const zoomBy = (factor: number) => {
    const middle = (fromS + endS) / 2;
    const half = ((endS - fromS) / 2) * factor;
    onZoom?.({ fromS: Math.max(0, middle - half), toS: middle + half });
  };
  return (
    <figure aria-label={label} className="relative">
      <div
        ref={box}
        className={`relative select-none ${onZoom ? 'cursor-crosshair' : ''}`}
        style={{ height }}
        onPointerDown={onZoom ? (event) => setDrag({ from: shareAt(event), to: shareAt(event) }) : undefined}
        onPointerMove={onZoom && drag ? (event) => setDrag({ ...drag, to: shareAt(event) }) : undefined}
        onPointerUp={onZoom ? finish : undefined}
        onPointerLeave={onZoom && drag ? finish : undefined}
      >
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} margin={{ top: 6, right: RIGHT, bottom: 2, left: 0 }} accessibilityLayer={false}>
            <CartesianGrid vertical={false} stroke="var(--rule)" />
            {shaded.map((area) => (
              <ReferenceArea
                key={`${area.tone}${area.fromS}`}
                x1={Math.max(area.fromS, fromS)}
                x2={Math.min(area.toS, endS)}
                fill={area.tone === 'window' ? 'var(--quench)' : 'var(--shade)'}
                fillOpacity={area.tone === 'window' ? 0.14 : 1}
                ifOverflow="hidden"
              />
            ))}
            <XAxis
              dataKey="t"
              type="number"
              domain={[fromS, endS]}
              ticks={timeTicks(fromS, endS)}
              tickFormatter={(s: number) => clock(s)}
              stroke="var(--stone)"
              tickLine={false}
              height={24}
              allowDataOverflow
            />
            <YAxis width={LEFT} domain={[low, high]} ticks={valueTicks(low, high)} stroke="none" tickLine={false} allowDataOverflow />
            {limits.map((limit) => (
              <ReferenceLine
                key={limit.name}
                y={limit.value}
                stroke={limit.colour}
                strokeWidth={1.4}
                label={{ value: limit.name, position: 'right', fill: limit.colour, fontSize: 12, fontWeight: 600 }}
              />
            ))}
            {laned(events, fromS, endS).map(({ event, lane }) => (
              <ReferenceLine
                key={`${event.atS}${event.text}`}
                x={event.atS}
                stroke="var(--ochre)"
                strokeDasharray="2 4"
                strokeWidth={1.4}
                label={{ value: event.text, position: 'insideTopLeft', fill: 'var(--ochre-text)', fontSize: 12, dy: 15 * lane }}
              />
            ))}
            {nowS !== undefined ? <ReferenceLine x={nowS} stroke="var(--ink)" /> : null}
            {traces.map((trace) => (
              <Line
                key={trace.key}
                dataKey={trace.key}
                stroke={trace.colour}
                strokeWidth={trace.width ?? 1.8}
                dot={false}
                isAnimationActive={false}
                connectNulls={Boolean(trace.dots)}
                type="linear"
                {...(trace.dash ? { strokeDasharray: trace.dash } : {})}
              />
            ))}
            {/* A dot for every row of the merged table would be thousands that are not there. */}
            {traces
              .filter((trace) => trace.dots)
              .flatMap((trace) =>
                trace.t.map((t, i) => (
                  <ReferenceDot
                    key={`${trace.key} ${t}`}
                    x={t}
                    y={trace.y[i]!}
                    r={3.5}
                    fill={trace.colour}
                    stroke="none"
                    ifOverflow="hidden"
                  />
                )),
              )}
          </LineChart>
        </ResponsiveContainer>
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
        {drag ? (
          <span
            className="pointer-events-none absolute bottom-6 top-1 bg-ink/10"
            style={{
              left: `calc(${LEFT}px + ${Math.min(drag.from, drag.to)} * (100% - ${LEFT + RIGHT}px))`,
              width: `calc(${Math.abs(drag.to - drag.from)} * (100% - ${LEFT + RIGHT}px))`,
            }}
          />
        ) : null}
      </div>
      {onZoom ? (
        <div className="no-print mt-1 flex gap-4 pl-11 text-[0.87rem] text-soft">
          <span>Drag over the trace to look closer.</span>
          <button type="button" className="underline" onClick={() => zoomBy(0.5)}>
            Closer
          </button>
          <button type="button" className="underline" onClick={() => zoomBy(2)} disabled={!zoomed}>
            Wider
          </button>
          <button type="button" className="underline disabled:opacity-40" onClick={() => onZoom(null)} disabled={!zoomed}>
            Whole run
          </button>
        </div>
      ) : null}
    </figure>
  );
}
