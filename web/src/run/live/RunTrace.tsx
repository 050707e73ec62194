import { useMemo } from 'react';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import type { Stretch } from '../../ui/stretch.ts';
import { TraceChart, type ChartTrace } from '../../ui/TraceChart.tsx';
import { useLiveTraces } from './liveTraces.ts';
import { spotLine } from '../words.ts';

interface Props {
  study: Study;
  run: Run;
  /** By key of the channel. */
  channels: Record<string, Pick<ChartTrace, 't' | 'y'>>;
  snapshot?: LiveSnapshot | null;
  height?: number;
  range?: Stretch | null;
  onZoom?: (stretch: Stretch | null) => void;
}

/** Stand in the list beside the trace, and would only crowd it. */
const UNNAMED = new Set(['rig-quiet', 'mark-due', 'lock-moved', 'clock-off', 'note']);
/** Sentences that stand in full elsewhere on the page. */
const SHORT: Record<string, string> = { 'load-off': 'load off', 'load-on': 'gone on' };
const shorten = (text: string) => (text.length > 28 ? `${text.slice(0, 27)}…` : text);

/** The end of the axis of a run that goes on: ahead of the present, and moving in steps, so that the axis is seldom drawn anew. */
function roomy(lastS: number): number {
  const step = [10, 30, 60, 120, 300, 600, 1200].find((candidate) => lastS / candidate <= 30) ?? 1800;
  return Math.max(60, step * Math.ceil((lastS + step / 2) / step));
}

/** Temperatures of a run with phases shaded, marks on the axis and the lowest limit as a line; a forecast where there is one. */
export function RunTrace({ study, run, channels, snapshot, height = 250, range, onZoom }: Props) {
  const { degrees, temp, tempUnit } = useDegrees();
  const asRead = useMemo(() => {
    const spots = study.spots.flatMap((spot, i): ChartTrace[] => {
      if (spot.byHand) {
        const read = run.handReadings.filter((reading) => reading.spotId === spot.id);
        const points = { t: read.map((reading) => reading.atS), y: read.map((reading) => reading.valueC) };
        return read.length > 0 ? [{ key: spot.id, name: spot.name, dots: true, ...points, ...spotLine(i) } as ChartTrace] : [];
      }
      const key = run.channels.find((channel) => channel.spotId === spot.id)?.key;
      const channel = key ? channels[key] : undefined;
      return channel ? [{ key: spot.id, name: spot.name, ...channel, ...spotLine(i) } as ChartTrace] : [];
    });
    const roomKey = run.channels.find((channel) => channel.role === 'room')?.key;
    const room = roomKey ? channels[roomKey] : undefined;
    return room ? [...spots, { key: 'room', name: 'room', colour: 'var(--stone)', width: 1.3, ...room }] : spots;
  }, [study, run.channels, run.handReadings, channels]);
  const shownAs = (all: ChartTrace[]): ChartTrace[] =>
    degrees === 'C' ? all : all.map((trace) => ({ ...trace, y: Array.from(trace.y, (value) => (value === null ? null : temp(value))) }));
  const traces = shownAs(asRead);
  // Samples come more often than snapshots: the present is where the traces end.
  const nowS = traces.reduce((latest, trace) => Math.max(latest, trace.t[trace.t.length - 1] ?? 0), snapshot?.nowS ?? 0);
  const forecasts = (snapshot?.spots ?? []).flatMap((spot): ChartTrace[] => {
    if (spot.settlesAtC === null || spot.valueC === null || spot.etaS === null || spot.etaS === 0) return [];
    const index = study.spots.findIndex((candidate) => candidate.id === spot.spotId);
    return [
      {
        key: `forecast-${spot.spotId}`,
        name: '',
        t: [nowS, nowS + spot.etaS],
        y: [spot.valueC, spot.settlesAtC],
        colour: spotLine(index).colour,
        dash: '4 4',
      },
    ];
  });
  const endS = snapshot ? roomy(Math.max(nowS, ...forecasts.map((trace) => trace.t[1]!))) : Math.max(run.lengthS, 60);
  const lowest = study.spots.reduce((low, spot, i) => (low < 0 || spot.limitC < study.spots[low]!.limitC ? i : low), -1);
  const limit = study.spots[lowest];
  return (
    <TraceChart
      label={`Temperatures of run ${run.number}`}
      unit={tempUnit}
      traces={[...traces, ...shownAs(forecasts)]}
      fromS={range?.fromS ?? 0}
      toS={range?.toS ?? endS}
      height={height}
      shaded={run.phases
        .filter((phase) => phase.kind === 'load')
        .map((phase) => ({ fromS: phase.startS, toS: phase.endS ?? (snapshot ? null : run.lengthS), tone: 'phase' as const }))}
      events={run.events
        .filter((event) => !UNNAMED.has(event.kind))
        .map((event) => ({ atS: event.atS, text: SHORT[event.kind] ?? shorten(event.text) }))}
      limits={
        limit
          ? [{ value: temp(limit.limitC), name: `limit ${Math.round(10 * temp(limit.limitC)) / 10}`, colour: spotLine(lowest).colour }]
          : []
      }
      {...(snapshot ? { nowS } : {})}
      {...(onZoom ? { onZoom, wholeS: endS } : {})}
    />
  );
}

/** The trace of a run that is followed; it alone is drawn anew when samples come. */
export function LiveTrace(props: Omit<Props, 'channels'>) {
  return <RunTrace {...props} channels={useLiveTraces()} />;
}
