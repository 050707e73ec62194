import type { Run, RunReadings, Study } from '@red-ember/contract';
import { useTraceQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { spotLine } from '../run/words.ts';
import { Waiting } from '../ui/Notice.tsx';
import { TraceChart, type Ahead, type ChartTrace } from '../ui/TraceChart.tsx';
import type { Stretch } from '../ui/stretch.ts';

/** How far each spot that was not settled may still go, °C: between its bounds, at the end of the load. */
function stillAhead(study: Study, run: Run, { review }: RunReadings): Ahead[] {
  const load = run.phases.findLast(({ kind }) => kind === 'load');
  if (!load) return [];
  return review.spots.flatMap(({ spotId, load: reading }): Ahead[] => {
    if (!reading?.toGo || reading.bound === 'settled') return [];
    const nowC = reading.absolute.mean.value;
    const i = study.spots.findIndex(({ id }) => id === spotId);
    return [
      {
        key: spotId,
        atS: load.endS ?? run.lengthS,
        from: nowC + Math.min(0, reading.toGo.lowK),
        to: nowC + Math.max(0, reading.toGo.highK),
        colour: spotLine(i).colour,
      },
    ];
  });
}

/** The temperatures of a run, its loads shaded, its windows tinted, and how far what is not settled may still go. */
export function ReadingTrace({
  study,
  run,
  readings,
  range,
  setRange,
}: {
  study: Study;
  run: Run;
  readings: RunReadings;
  range: Stretch | null;
  setRange: (range: Stretch | null) => void;
}) {
  const degrees = useDegrees();
  const { data: trace } = useTraceQuery({ runId: run.id, fromS: range?.fromS ?? 0, ...(range ? { toS: range.toS } : {}), points: 600 });
  if (!trace) return <Waiting what="Drawing" />;
  const lines = study.spots.flatMap((spot, i): ChartTrace[] => {
    const series = trace.series.find((candidate) => candidate.spotId === spot.id);
    return series
      ? [
          {
            key: spot.id,
            name: spot.name,
            t: series.t,
            y: series.y.map((value) => (value === null ? null : degrees.temp(value))),
            ...spotLine(i),
          } as ChartTrace,
        ]
      : [];
  });
  const ahead = stillAhead(study, run, readings).map((one) => ({ ...one, from: degrees.temp(one.from), to: degrees.temp(one.to) }));
  const [first] = readings.review.spots;
  const windows = [first?.idle, first?.load, ...readings.review.loads.map((load) => load.spots[0]?.reading)].flatMap((reading) =>
    reading ? [{ ...reading.window }] : [],
  );
  return (
    <TraceChart
      label={`Temperatures of run ${run.number}`}
      unit={degrees.tempUnit}
      traces={lines}
      fromS={range?.fromS ?? 0}
      toS={range?.toS ?? run.lengthS}
      height={250}
      ahead={ahead}
      wholeS={run.lengthS}
      onZoom={setRange}
      shaded={[
        ...run.phases
          .filter((phase) => phase.kind === 'load')
          .map((phase) => ({ fromS: phase.startS, toS: phase.endS ?? run.lengthS, tone: 'phase' as const })),
        ...windows
          .filter((window, i) => windows.findIndex((other) => other.startS === window.startS) === i)
          .map((window) => ({ fromS: window.startS, toS: window.endS, tone: 'window' as const })),
      ]}
    />
  );
}
