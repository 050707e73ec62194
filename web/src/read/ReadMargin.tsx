import { skipToken } from '@reduxjs/toolkit/query';
import { fixed } from '@red-ember/core';
import type { Run, RunReadings, Study } from '@red-ember/contract';
import { useConditionsQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { LowSensorNotes } from '../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { AgainstNormal } from '../study/AgainstNormal.tsx';
import { throttlingWords } from './throttlingWords.ts';

/** What speaks against a run, what was corrected, the room while it was read, and whether it throttled. */
export function ReadMargin({ study, run, readings }: { study: Study; run: Run | undefined; readings: RunReadings | undefined }) {
  const { text } = useDegrees();
  const { data: conditions } = useConditionsQuery(run?.id ?? skipToken);
  const corrected = Object.values(conditions ?? {}).filter((value) => value.includes(', calibrated '));
  const review = readings?.runId === run?.id ? readings?.review : undefined;
  return (
    <>
      <MarginGroup title="What speaks against this run">
        {(readings?.findings ?? []).map((finding, i) => (
          <Note key={i} tone={finding.severity === 'blocks' ? 'heat' : 'caution'}>
            {text(finding.evidence)} {finding.remedy}
          </Note>
        ))}
        {readings && readings.findings.length === 0 ? <Note>Nothing was found.</Note> : null}
      </MarginGroup>
      {run ? <AgainstNormal run={run} /> : null}
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
  );
}
