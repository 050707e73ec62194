import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { fixed, measured, settledWords } from '@red-ember/core';
import type { PhaseReading, SpotReview } from '@red-ember/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { goesOn, type Run, type RunReadings, type Study } from '@red-ember/contract';
import { estimateBeneath } from '@red-ember/study';
import { useDegrees } from '../data/useDegrees.ts';
import { sentenceOf, useConditionsQuery, useReadingsQuery, useRunsQuery, useTraceQuery } from '../data/api.ts';
import { LowSensorNotes } from '../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { ButtonLink } from '../ui/Button.tsx';
import { HeadroomStrip } from '../ui/HeadroomStrip.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { TraceChart, type Ahead, type ChartTrace } from '../ui/TraceChart.tsx';
import { spotLine } from '../run/words.ts';
import { useStudy } from '../study/StudyFrame.tsx';
import { LoadsTable } from '../run/record/LoadsTable.tsx';
import { HeatPathSection, ReadBeside } from './ReadBeside.tsx';
import { throttlingWords } from './throttlingWords.ts';
import { Reactions } from './Reactions.tsx';
import { ReadWindows, type Stretch } from './ReadWindows.tsx';
import { ReadingDetails } from './ReadingDetails.tsx';

function ReadingCell({ reading }: { reading: PhaseReading | null }) {
  const { text } = useDegrees();
  if (!reading) return <span className="text-soft">not read</span>;
  const shown = reading.rise ?? reading.absolute;
  return (
    <span className="whitespace-nowrap">
      <b className="font-semibold">{text(measured(shown.mean.value, 2 * shown.mean.u, reading.rise ? 'K' : '°C'))}</b>
    </span>
  );
}

function SpotRow({ study, spot, roomC, onExplain }: { study: Study; spot: SpotReview; roomC: number | null; onExplain: () => void }) {
  const { text } = useDegrees();
  const definition = study.spots.find((candidate) => candidate.id === spot.spotId);
  if (!definition) return null;
  const { idle, load } = spot;
  const loadC = load?.absolute.mean.value;
  const beneath = load && estimateBeneath(definition, load.absolute.mean);
  return (
    <tr>
      <td className="font-semibold">
        {definition.name}
        {beneath ? (
          <span className="block text-[0.87rem] font-normal text-soft">
            part beneath: {text(measured(beneath.value, 2 * beneath.u, '°C'))}, estimate
          </span>
        ) : null}
      </td>
      <td className="num">
        <ReadingCell reading={idle} />
      </td>
      <td className="num">
        <ReadingCell reading={load} />
      </td>
      <td className="num">{loadC === undefined ? '' : text(`${fixed(loadC, 1)} °C`)}</td>
      <td className="num">
        {load ? text(`${fixed(load.peakC, 1)} °C`) : ''}
        {load && load.absolute.n > 1 ? (
          <span className="block whitespace-nowrap text-[0.83rem] text-soft">95 %: {text(`${fixed(load.absolute.p95, 1)} °C`)}</span>
        ) : null}
      </td>
      <td className={`max-w-48 leading-snug ${load && load.bound !== 'settled' ? 'text-ochre-text' : ''}`}>
        {load ? settledWords(load) : ''}
      </td>
      <td className="w-[18%] min-w-24 !align-middle">
        {loadC !== undefined && roomC !== null ? (
          <HeadroomStrip
            label={definition.name}
            roomC={roomC}
            limitC={definition.limitC}
            spotC={loadC + (load && load.bound !== 'settled' ? Math.max(0, load.toGo?.likely.value ?? 0) : 0)}
            doubtK={definition.accuracyK}
            idleC={idle?.absolute.mean.value ?? null}
          />
        ) : null}
      </td>
      <td className="num">
        <button
          type="button"
          className="text-[0.87rem] text-soft underline hover:text-ink"
          onClick={onExplain}
          aria-label={`How was ${definition.name} worked out?`}
        >
          How?
        </button>
      </td>
    </tr>
  );
}

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

function ReadingTrace({
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
      onZoom={setRange}
      zoomed={range !== null}
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

export function ReadPage() {
  const study = useStudy();
  const { text } = useDegrees();
  const [search, setSearch] = useSearchParams();
  const [explained, setExplained] = useState<string | null>(null);
  const [range, setRange] = useState<(Stretch & { runId: string }) | null>(null);
  const { data: runs, isLoading } = useRunsQuery(study.id);
  const ended = (runs ?? []).filter((run) => run.purpose === 'measure' && !goesOn(run));
  const run = ended.find((candidate) => candidate.id === search.get('run')) ?? ended.at(-1);
  const { data: readings, error } = useReadingsQuery(run?.id ?? '', { skip: !run });
  const { data: conditions } = useConditionsQuery(run?.id ?? skipToken);
  const nameOf = (entry: Run) => `run ${entry.number}, ${study.variants.find((variant) => variant.id === entry.variantId)?.name ?? ''}`;
  if (isLoading) return <Waiting what="Reading" />;
  const review = readings?.runId === run?.id ? readings?.review : undefined;
  const corrected = Object.values(conditions ?? {}).filter((value) => value.includes(', calibrated '));
  const shownRange = range?.runId === run?.id ? range : null;
  const explainedSpot = review?.spots.find((spot) => spot.spotId === explained);
  return (
    <Sheet
      crumb={`${study.title} / Read`}
      windowTitle={`Read, ${study.title}`}
      heading={run ? <>Readings of {nameOf(run)}</> : 'Nothing to read yet.'}
      under={
        run ? (
          <>± is twice the standard uncertainty of the window’s mean, correlated samples allowed for; sensor accuracy comes on top.</>
        ) : undefined
      }
      actions={
        run ? (
          <>
            <label htmlFor="which-run" className="text-[0.93rem] text-soft">
              Run
            </label>
            <select
              id="which-run"
              className="field-box !w-auto"
              value={run.id}
              onChange={(event) => setSearch({ run: event.target.value })}
            >
              {ended.map((entry) => (
                <option key={entry.id} value={entry.id}>
                  {nameOf(entry)}
                </option>
              ))}
            </select>
          </>
        ) : (
          <ButtonLink to={`/studies/${study.id}/run`} look="strong">
            To Run
          </ButtonLink>
        )
      }
      margin={
        <>
          <MarginGroup title="What speaks against this run">
            {(readings?.findings ?? []).map((finding, i) => (
              <Note key={i} tone={finding.severity === 'blocks' ? 'heat' : 'caution'}>
                {text(finding.evidence)} {finding.remedy}
              </Note>
            ))}
            {readings && readings.findings.length === 0 ? <Note>Nothing was found.</Note> : null}
          </MarginGroup>
          <LowSensorNotes study={study} />
          {corrected.length > 0 ? (
            <MarginGroup title="Corrected">
              <Note>{corrected.join('; ')}. The trace shows the samples as they were read.</Note>
            </MarginGroup>
          ) : null}
          {review?.room ? (
            <MarginGroup title="Room while it was read">
              <Note>
                {text(`${fixed(review.room.minC, 1)} to ${fixed(review.room.maxC, 1)} °C`)},{' '}
                {Math.abs(review.room.driftK) < 0.1
                  ? 'steady'
                  : `${review.room.driftK > 0 ? 'rising' : 'falling'} ${text(`${fixed(Math.abs(review.room.driftK), 1)} K`)}`}{' '}
                over the window.
              </Note>
            </MarginGroup>
          ) : null}
          {review ? (
            <MarginGroup title="Throttling">
              {review.throttle ? (
                <Note tone={review.throttle.timeToFirstS === null ? 'plain' : 'heat'}>{throttlingWords(review.throttle)}</Note>
              ) : null}
            </MarginGroup>
          ) : null}
        </>
      }
    >
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {!run ? (
        <Notice tone="hint">
          Runs are read when they have ended: idle and load, rise over room, settled or not, with the doubt of each.
        </Notice>
      ) : null}
      {run && !review && !error ? <Waiting what="Reading" /> : null}
      {run && review && readings ? (
        <>
          <div className="mb-7 mt-5">
            <ReadingTrace
              key={run.id}
              study={study}
              run={run}
              readings={readings}
              range={shownRange}
              setRange={(next) => setRange(next && { ...next, runId: run.id })}
            />
            <p className="pl-11 text-[0.87rem] text-soft">
              Shaded: load; tinted: the windows that were read
              {review.spots.some(({ load }) => load?.toGo && load.bound !== 'settled') ? '; upright bars: how far a spot may still go' : ''}
              .{' '}
              <a href={`/api/v1/runs/${run.id}/samples.csv${shownRange ? `?from=${shownRange.fromS}&to=${shownRange.toS}` : ''}`} download>
                {shownRange ? 'Samples shown, as CSV' : 'All samples, as CSV'}
              </a>
            </p>
          </div>
          <Section title="Readings" hint={study.rules.basis === 'rise' ? 'rise over room' : ''}>
            <table className="plain-table">
              <thead>
                <tr>
                  <th>Spot</th>
                  <th className="num">idle</th>
                  <th className="num">load</th>
                  <th className="num">load</th>
                  <th className="num" title="highest of the phase; below it what 95 in 100 samples of the window stay under">
                    peak
                  </th>
                  <th>state</th>
                  <th>room to limit</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {review.spots.map((spot) => (
                  <SpotRow
                    key={spot.spotId}
                    study={study}
                    spot={spot}
                    roomC={review.room?.meanC ?? null}
                    onExplain={() => setExplained(spot.spotId)}
                  />
                ))}
              </tbody>
            </table>
          </Section>
          {review.loads.length > 0 ? <LoadsTable study={study} loads={review.loads} /> : null}
          <Reactions study={study} run={run} />
          <ReadBeside study={study} run={run} review={review} own={readings.own} />
          <HeatPathSection study={study} review={review} />
          <ReadWindows run={run} review={review} shown={shownRange} />
        </>
      ) : null}
      {explainedSpot && run ? <ReadingDetails study={study} run={run} spot={explainedSpot} onClose={() => setExplained(null)} /> : null}
    </Sheet>
  );
}
