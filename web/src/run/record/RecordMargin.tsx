import type { Run, RunReadings, Study } from '@red-ember/contract';
import { sinceMade } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { ZoneNote } from '../../frame/ZoneNote.tsx';

/** What speaks against a run, what the study says otherwise since it was made, and what was held. */
export function RecordMargin({ study, run, readings }: { study: Study; run: Run; readings: RunReadings | undefined }) {
  const { text } = useDegrees();
  const seat = run.purpose === 'seat-check';
  const since = sinceMade(run.madeAs, study, run.variantId);
  return (
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
      <MarginGroup title="Times">
        <ZoneNote />
      </MarginGroup>
    </>
  );
}
