import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { goesOn, type Run } from '@red-ember/contract';
import { sentenceOf, useReadingsQuery, useRunsQuery } from '../data/api.ts';
import { Sheet } from '../frame/Sheet.tsx';
import { LoadsTable } from '../run/record/LoadsTable.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { ButtonLink } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { HeatPathSection, ReadBeside } from './ReadBeside.tsx';
import { Reactions } from './Reactions.tsx';
import { ReadingDetails } from './ReadingDetails.tsx';
import { ReadingsTable } from './ReadingsTable.tsx';
import { ReadingTrace } from './ReadingTrace.tsx';
import { ReadMargin } from './ReadMargin.tsx';
import { ReadTabs } from './ReadTabs.tsx';
import type { Stretch } from '../ui/stretch.ts';
import { ReadWindows } from './ReadWindows.tsx';

export function ReadPage() {
  const study = useStudy();
  const [search, setSearch] = useSearchParams();
  const [explained, setExplained] = useState<string | null>(null);
  const [range, setRange] = useState<(Stretch & { runId: string }) | null>(null);
  const { data: runs, isLoading } = useRunsQuery(study.id);
  const ended = (runs ?? []).filter((run) => run.purpose === 'measure' && !goesOn(run));
  const run = ended.find((candidate) => candidate.id === search.get('run')) ?? ended.at(-1);
  const { data: readings, error } = useReadingsQuery(run?.id ?? '', { skip: !run });
  const nameOf = (entry: Run) => `run ${entry.number}, ${study.variants.find((variant) => variant.id === entry.variantId)?.name ?? ''}`;
  if (isLoading) return <Waiting what="Reading" />;
  const review = readings?.runId === run?.id ? readings?.review : undefined;
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
      margin={<ReadMargin study={study} run={run} readings={readings} />}
    >
      <ReadTabs />
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
          <ReadingsTable study={study} review={review} onExplain={setExplained} />
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
