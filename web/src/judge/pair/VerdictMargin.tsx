import type { ComponentProps } from 'react';
import { Link } from 'react-router';
import { adviceWords, capital, fixed, likelyWords, type Finding } from '@red-ember/core';
import type { PairVerdict, Run, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { Term } from '../../words/Term.tsx';
import { ScatterSources } from '../../study/ScatterSources.tsx';
import { WhatNext } from '../../study/WhatNext.tsx';
import { nameOfOther } from './SidePicker.tsx';
import { MarginGroup, Note, type NoteTone } from '../../frame/Margin.tsx';

const TONES: Record<Finding['severity'], NoteTone> = { blocks: 'heat', withholds: 'heat', weakens: 'caution', note: 'plain' };

function FindingNote({ finding, linkOf }: { finding: Finding; linkOf: (runId: string) => string }) {
  const { text } = useDegrees();
  return (
    <Note tone={TONES[finding.severity]}>
      {text(finding.evidence)} {finding.remedy}
      {finding.runId ? (
        <>
          {' '}
          <Link to={linkOf(finding.runId)}>See trace</Link>
        </>
      ) : null}
    </Note>
  );
}

function Expected({ predictions }: Pick<PairVerdict, 'predictions'>) {
  const { text } = useDegrees();
  return (
    <MarginGroup title="Expected before the runs">
      {predictions.map((prediction, i) => (
        <Note key={i} tone={prediction.outcome === 'missed' ? 'caution' : 'plain'}>
          {prediction.of ? `${capital(prediction.of)}: ` : ''}
          {text(prediction.sentence)}
        </Note>
      ))}
    </MarginGroup>
  );
}

/** Everything that qualifies the verdict, each beside what it is about. */
export function VerdictMargin({
  study,
  verdict,
  runs,
  query,
}: {
  study: Study;
  verdict: PairVerdict;
  runs: Run[];
  query: ComponentProps<typeof WhatNext>['query'];
}) {
  const { text } = useDegrees();
  const { judgement, claims, predictions, elsewhere } = verdict;
  const known = judgement.spots.flatMap((spot) => spot.repeatability ?? []);
  const [least, most] = [Math.min(...known.map((one) => one.sd)), Math.max(...known.map((one) => one.sd))].map((sd) => fixed(sd, 2));
  const scatter = least === most ? `${least} K` : `${least} to ${most} K by kind of spot`;
  const linkOf = (runId: string) => `/studies/${runs.find((run) => run.id === runId)?.studyId ?? study.id}/run/${runId}`;
  const [first, second] = [judgement.a.runIds[0], judgement.b.runIds[0]];
  const general = judgement.findings.filter((finding) => finding.spotId === null);
  const spots = study.spots.filter(
    (spot) =>
      judgement.findings.some((finding) => finding.spotId === spot.id) ||
      judgement.spots.some((entry) => entry.spotId === spot.id && entry.call.kind === 'no-call'),
  );
  return (
    <>
      {verdict.refusal ? null : <WhatNext studyId={study.id} query={query} />}
      <MarginGroup title="What qualifies this page">
        {elsewhere ? (
          <Note>
            {capital(nameOfOther(judgement))}: <Link to={`/studies/${elsewhere.studyId}/judge`}>“{elsewhere.title}”</Link>. Its figures are
            read by the rules of this study.
          </Note>
        ) : null}
        {judgement.leftOut.map((entry) => (
          <Note key={entry.runId} tone="heat" lead={`Left out: ${entry.label}.`}>
            {text(entry.reason)} <Link to={linkOf(entry.runId)}>See trace</Link>
          </Note>
        ))}
        {[...general]
          .sort((a, b) => (a.severity === b.severity ? 0 : a.severity === 'note' ? 1 : -1))
          .map((finding, i) => (
            <FindingNote key={i} finding={finding} linkOf={linkOf} />
          ))}
        {known.length > 0 ? (
          <Note>
            {known.some((one) => one.assumed) ? (
              <>
                A <Term word="scatter between mounts">spread between mounts</Term> is assumed, since this bench has shown too little of it
              </>
            ) : (
              <>
                What else this bench shows of its <Term word="scatter between mounts">spread between mounts</Term> is pooled in
              </>
            )}
            : {text(scatter)}.
            {verdict.lentBy.length > 0 && !known.every((one) => one.assumed) ? (
              <>
                {' '}
                Lent by <ScatterSources sources={verdict.lentBy} />, beside what the other variants here show.
              </>
            ) : null}
          </Note>
        ) : null}
        {runs.length > 0 && runs.every((run) => run.disposition === 'undecided') ? (
          <Note>No run is signed off yet; all that nothing speaks against are used.</Note>
        ) : null}
        {first && second && !elsewhere ? (
          <Note>
            <Link to={`/studies/${study.id}/hold?first=${first}&second=${second}`}>What else changed?</Link> The first run of either side,
            everything written down.
          </Note>
        ) : null}
        {general.length === 0 && judgement.leftOut.length === 0 ? (
          <Note>{verdict.refusal ? 'Nothing to weigh yet.' : 'Nothing was found that weakens the comparison.'}</Note>
        ) : null}
      </MarginGroup>
      {spots.map((spot) => {
        const judged = judgement.spots.find((entry) => entry.spotId === spot.id);
        const undecided = judged?.call.kind === 'no-call' ? judged : null;
        return (
          <MarginGroup key={spot.id} title={`Beside “${spot.name}”`}>
            {judgement.findings
              .filter((finding) => finding.spotId === spot.id)
              .map((finding, i) => (
                <FindingNote key={i} finding={finding} linkOf={linkOf} />
              ))}
            {undecided?.comparison ? (
              <Note lead={`${capital(text(likelyWords(undecided.call, study.rules.practicalK)))}.`}>
                {text(adviceWords(undecided.comparison))}
              </Note>
            ) : null}
          </MarginGroup>
        );
      })}
      {claims.length > 0 && !verdict.refusal ? (
        <MarginGroup title={claims.length === 1 ? 'The claim' : 'The claims'}>
          {claims.map((claim, i) => (
            <Note key={i} tone={claim.outcome === 'contradicted' ? 'heat' : claim.outcome === 'supported' ? 'cool' : 'caution'}>
              {claim.of ? `${capital(claim.of)}: ` : ''}
              {text(claim.sentence)}
            </Note>
          ))}
        </MarginGroup>
      ) : null}
      {predictions.length > 0 ? <Expected predictions={predictions} /> : null}
    </>
  );
}
