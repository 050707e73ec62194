import { useState } from 'react';
import { format } from 'date-fns';
import { clock, duration } from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { sinceMade } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { useReadingsQuery, useTraceQuery } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice, Waiting } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { LoadsTable } from './LoadsTable.tsx';
import { PreflightChecks } from '../start/PreflightList.tsx';
import { LineSection } from './LineSection.tsx';
import { RunTrace } from '../live/RunTrace.tsx';
import { repeatWords, WhatHappened } from './WhatHappened.tsx';
import { STATES } from '../words.ts';
import { OwnValues } from './OwnValues.tsx';
import { PutRight } from './PutRight.tsx';
import { SignOff } from './SignOff.tsx';

const ENDINGS: Record<string, string> = {
  time: 'its time was over',
  settled: 'settled',
  cap: 'reached its cap',
  stopped: 'stopped by hand',
  'cut-out': 'cut out',
  'rig-lost': 'rig lost',
  interrupted: 'the load went off',
  intervention: 'something was changed',
  paused: 'paused',
  resumed: 'gone on',
  'by-hand': 'ended by hand',
  file: 'as mapped at import',
};
export function RunRecord({ study, run }: { study: Study; run: Run }) {
  const [range, setRange] = useState<{ fromS: number; toS: number } | null>(null);
  const { data: trace, isFetching } = useTraceQuery({
    runId: run.id,
    fromS: range?.fromS ?? 0,
    ...(range ? { toS: range.toS } : {}),
    points: 600,
  });
  const { data: readings } = useReadingsQuery(run.id);
  const seat = run.purpose === 'seat-check';
  const { text } = useDegrees();
  const since = sinceMade(run.madeAs, study, run.variantId);
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
          · {format(new Date(run.startedAt), 'd MMM yyyy HH:mm')}
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
      margin={
        <>
          <MarginGroup title="What speaks against it">
            {run.endReason ? (
              <Note tone="heat" lead="Ended early.">
                {run.endReason}
              </Note>
            ) : null}
            {run.faults.length > 0 ? (
              <Note tone="heat" lead="Planted on the simulated bench:">
                {run.faults.join(', ')}. Reject it once it has been found.
              </Note>
            ) : null}
            {seat ? <Note>A check of the seat: too short to be read, and no result reads it.</Note> : null}
            {(seat ? [] : (readings?.findings ?? [])).map((finding, i) => (
              <Note
                key={i}
                tone={finding.severity === 'blocks' ? 'heat' : 'caution'}
                lead={finding.severity === 'blocks' ? 'Left out unless you sign it off.' : undefined}
              >
                {finding.evidence} {finding.remedy}
              </Note>
            ))}
            {!seat && readings?.findings.length === 0 ? <Note>Nothing was found.</Note> : null}
          </MarginGroup>
          {since.length > 0 ? (
            <MarginGroup title="The study says otherwise now">
              {since.map((sentence) => (
                <Note key={sentence} tone="caution">
                  {text(sentence)}
                </Note>
              ))}
            </MarginGroup>
          ) : null}
          <MarginGroup title="Held">
            {Object.entries(run.settings).map(([name, value]) => (
              <Note key={name} lead={name}>
                {value}
              </Note>
            ))}
          </MarginGroup>
        </>
      }
    >
      {run.figures ? (
        <Notice tone="hint">Figures as given: there is no trace behind them, and nobody can see how they were measured.</Notice>
      ) : (
        <>
          <div className="mb-8 mt-5">
            {trace ? (
              <div aria-busy={isFetching}>
                <RunTrace study={study} run={run} channels={channels} range={range} onZoom={setRange} height={280} />
              </div>
            ) : (
              <Waiting what="Drawing" />
            )}
          </div>
          <Section title="Phases">
            <table className="plain-table max-w-2xl">
              <thead>
                <tr>
                  <th>Phase</th>
                  <th className="num">From</th>
                  <th className="num">Length</th>
                  <th>Ended by</th>
                </tr>
              </thead>
              <tbody>
                {run.phases.map((phase, i) => (
                  <tr key={i}>
                    <td>{phase.name}</td>
                    <td className="num">{clock(phase.startS)}</td>
                    <td className="num">{duration((phase.endS ?? run.lengthS) - phase.startS)}</td>
                    <td>{ENDINGS[phase.endedBy ?? ''] ?? phase.endedBy}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Section>
        </>
      )}
      <LoadsTable study={study} loads={readings?.review.loads ?? []} />
      {seat ? null : <OwnValues study={study} run={run} />}
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
        </Section>
      )}
    </Sheet>
  );
}
