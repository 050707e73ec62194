import { skipToken } from '@reduxjs/toolkit/query';
import { type PairVerdict, type Run, type Study, type Trace } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { useTraceQuery } from '../../data/api.ts';
import { TraceChart, type ChartTrace } from '../../ui/TraceChart.tsx';
import { tellApart } from '../../ui/tellApart.ts';
import { toneOf } from '../../ui/tones.ts';
import { aboveRoom } from './aboveRoom.ts';

/** Signs of a name that stand at the end of a line, its run beside. */
const ROOM_FOR_NAME = 10;

const COLOURS = { stone: 'var(--soft)', ember: 'var(--ember-text)', quench: 'var(--quench-text)' };

function lineOf(
  trace: Trace | undefined,
  run: Run | undefined,
  spotId: string,
  rise: boolean,
): { t: number[]; y: (number | null)[] } | null {
  const spot = trace?.series.find((series) => series.spotId === spotId);
  const room = trace?.series.find((series) => series.role === 'room');
  if (!spot || !run) return null;
  return rise && room ? aboveRoom(spot, room) : spot;
}

/** What a spot is called in the study that a run belongs to. */
function spotIn(run: Run | undefined, spotId: string, elsewhere: PairVerdict['elsewhere']): string {
  return run && run.studyId === elsewhere?.studyId ? (elsewhere.spots[spotId] ?? '') : spotId;
}

/** The chosen spot over time, one run of each side, on one clock. */
export function ComparedTrace({ study, verdict, runs, spotId }: { study: Study; verdict: PairVerdict; runs: Run[]; spotId: string }) {
  const { judgement, elsewhere } = verdict;
  const [runA, runB] = [judgement.a.runIds[0], judgement.b.runIds[0]].map((id) => runs.find((run) => run.id === id));
  const { data: traceA } = useTraceQuery(runA ? { runId: runA.id } : skipToken);
  const { data: traceB } = useTraceQuery(runB ? { runId: runB.id } : skipToken);
  const rise = study.rules.basis === 'rise';
  const degrees = useDegrees();
  const drawn = <T extends { y: (number | null)[] }>(line: T): T => ({
    ...line,
    y: line.y.map((value) => (value === null ? null : rise ? degrees.step(value) : degrees.temp(value))),
  });
  const name = definitionOf(study, spotId)?.name ?? '';
  const [nameA, nameB] = tellApart([judgement.a.name, judgement.b.name], ROOM_FOR_NAME) as [string, string];
  const judged = judgement.spots.find((spot) => spot.spotId === spotId);
  const lines: ChartTrace[] = [];
  const a = lineOf(traceA, runA, spotIn(runA, spotId, elsewhere), rise);
  if (a && runA) lines.push({ key: 'a', name: `${nameA}, run ${runA.number}`, colour: COLOURS.stone, dash: '6 3', ...drawn(a) });
  const b = lineOf(traceB, runB, spotIn(runB, spotId, elsewhere), rise);
  if (b && runB)
    lines.push({
      key: 'b',
      name: `${nameB}, run ${runB.number}`,
      colour: COLOURS[judged ? toneOf(judged.call) : 'stone'],
      ...drawn(b),
    });
  if (lines.length === 0) return null;
  const loads = (runA ?? runB)?.phases.filter((phase) => phase.kind === 'load') ?? [];
  return (
    <section className="pt-4">
      <h2 className="mb-5 text-[0.93rem] font-normal text-soft">
        <b className="font-semibold text-ink">{name}</b>, {rise ? 'rise over room' : 'temperature'}, first run of each side
      </h2>
      <TraceChart
        label={`${name} over time`}
        unit={rise ? degrees.stepUnit : degrees.tempUnit}
        traces={lines}
        height={190}
        shaded={loads.map(({ startS, endS }) => ({ fromS: startS, toS: endS, tone: 'phase' as const }))}
      />
    </section>
  );
}
