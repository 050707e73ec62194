import { useState } from 'react';
import { duration } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { beganWords } from '@red-ember/study';
import { useReadingsQuery, useTraceQuery } from '../../data/api.ts';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice, Waiting } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { LoadsTable } from './LoadsTable.tsx';
import { PreflightChecks } from '../start/PreflightList.tsx';
import { PhasesTable } from './PhasesTable.tsx';
import { RecordMargin } from './RecordMargin.tsx';
import { LineSection } from './LineSection.tsx';
import type { Stretch } from '../../ui/stretch.ts';
import { RunTrace } from '../live/RunTrace.tsx';
import { repeatWords, WhatHappened } from './WhatHappened.tsx';
import { STATES } from '../words.ts';
import { OwnValues } from './OwnValues.tsx';
import { PutRight } from './PutRight.tsx';
import { RunTags } from './RunTags.tsx';
import { SignOff } from './SignOff.tsx';
import { timeOf } from '../../ui/dates.ts';

/** A run as it was recorded: its trace, its phases, what happened, and whether it counts. */
export function RunRecord({ study, run }: { study: Study; run: Run }) {
  const [range, setRange] = useState<Stretch | null>(null);
  const { data: trace, isFetching } = useTraceQuery({
    runId: run.id,
    fromS: range?.fromS ?? 0,
    ...(range ? { toS: range.toS } : {}),
    points: 600,
  });
  const { data: readings } = useReadingsQuery(run.id);
  const seat = run.purpose === 'seat-check';
  const variant = study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
  const channels = Object.fromEntries((trace?.series ?? []).map((series) => [series.key, { t: series.t, y: series.y }]));
  return (
    <Sheet
      crumb={
        <>
          {study.title} / run {run.number}
        </>
      }
      windowTitle={`Run ${run.number}, ${study.title}`}
      heading={
        <>
          Run {run.number}, <b className="font-semibold">{variant}</b>, {STATES[run.state]}.
        </>
      }
      under={
        <>
          {[
            ...(run.source === 'file' ? [`imported from ${run.sourceName}`] : []),
            run.mountNumber === null ? 'mount unknown' : `mount ${run.mountNumber}`,
          ].join(' · ')}{' '}
          · {beganWords(run, timeOf)}
          {run.figures ? '' : ` · ${duration(run.lengthS)}`}
          {run.timeScale > 1 ? ` · ${run.timeScale}× time-lapse` : ''}
        </>
      }
      actions={
        seat ? (
          <ButtonLink to={`/studies/${study.id}/mount`} look="strong">
            To the seat
          </ButtonLink>
        ) : (
          <>
            <PutRight study={study} run={run} />
            {run.figures ? null : (
              <ButtonLink look="quiet" to={`/studies/${study.id}/run/import?run=${run.id}`}>
                Add a log to it
              </ButtonLink>
            )}
            <ButtonLink to={`/studies/${study.id}/read?run=${run.id}`}>Its readings</ButtonLink>
          </>
        )
      }
      margin={<RecordMargin study={study} run={run} readings={readings} />}
    >
      {run.figures ? (
        <Notice tone="hint">Figures as given: there is no trace behind them, and nobody can see how they were measured.</Notice>
      ) : (
        <>
          {/* What stands below is not pushed away from under a pointer when the trace comes. */}
          <div className="mb-8 mt-5 min-h-[20rem]">
            {trace ? (
              <div aria-busy={isFetching}>
                <RunTrace study={study} run={run} channels={channels} range={range} onZoom={setRange} height={280} />
              </div>
            ) : (
              <Waiting what="Drawing" />
            )}
          </div>
          <PhasesTable run={run} />
        </>
      )}
      {seat ? null : <OwnValues study={study} run={run} />}
      <LoadsTable study={study} loads={readings?.review.loads ?? []} />
      <WhatHappened study={study} run={run} />
      <LineSection run={run} />
      {run.preflight ? (
        <Section
          title="Before the load"
          hint={run.preflight.overrideReason ? `Started all the same: ${run.preflight.overrideReason}` : undefined}
        >
          <PreflightChecks checks={run.preflight.checks} />
        </Section>
      ) : null}
      {seat ? null : (
        <Section title="Sign-off" hint={repeatWords(run, readings?.findings ?? [])}>
          <SignOff key={run.id} run={run} />
          <RunTags key={`${run.id} ${run.tags}`} run={run} />
        </Section>
      )}
    </Sheet>
  );
}
