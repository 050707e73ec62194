import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link, useSearchParams } from 'react-router';
import { capital, mountsInWords, type PairJudgement } from '@red-ember/core';
import type { PairVerdict, Study } from '@red-ember/contract';
import { askedWords, rulesWords, otherStudyOf, readRestatement } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { sentenceOf, useRunsQuery, useVerdictQuery } from '../../data/api.ts';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { EvidenceLine } from '../AskedHow.tsx';
import { AirSlider } from './AirSlider.tsx';
import { ComparedTrace } from './ComparedTrace.tsx';
import { CoolingSection } from './CoolingSection.tsx';
import { HowWorkedOut } from './HowWorkedOut.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { pairAskOf, queryOfAsk, searchOfAsk } from '../pairAsk.ts';
import { RestateBar } from './RestateBar.tsx';
import { nameOfOther, SidePicker } from './SidePicker.tsx';
import { SpotBlock } from './SpotBlock.tsx';
import { UnblockNotice } from './UnblockNotice.tsx';
import { VerdictMargin } from './VerdictMargin.tsx';

/** On how many mounts the sides were run: said once where both are alike. */
function mountsOfBoth({ a, b }: PairJudgement): string {
  return a.mounts === b.mounts && a.mounts === null ? mountsInWords(null) : [a, b].map((side) => mountsInWords(side.mounts)).join(' and ');
}

/** Which two variants are compared, on how much; nothing where a side is no variant. */
const sidesWords = (judgement: PairJudgement) =>
  judgement.a.variantId && judgement.b.variantId
    ? `${judgement.a.name} against ${judgement.b.name}, ${judgement.a.runIds.length} and ${judgement.b.runIds.length} runs, ${mountsOfBoth(judgement)}`
    : '';

/** The spot whose temperature differs most. */
function movedMost({ spots }: PairJudgement): string | undefined {
  const size = (spot: PairJudgement['spots'][number]) => Math.abs(spot.comparison?.difference.value ?? 0);
  return spots.filter((spot) => spot.comparison).sort((p, q) => size(q) - size(p))[0]?.spotId;
}

/** Which side has nothing that may be used, and whether that is for want of runs or for what speaks against them. */
function whatIsLacking({ a, b, spots, leftOut }: PairJudgement): string {
  const [hasA, hasB] = [spots.some((spot) => spot.a), spots.some((spot) => spot.b)];
  const speaksAgainst = 'run that may be used: the margin says what speaks against those that are there';
  if (!hasA && !hasB)
    return leftOut.length > 0
      ? `Neither side has a ${speaksAgainst}.`
      : 'The comparison appears here as soon as both sides have a finished run.';
  const [lacks, known] = hasA ? [b, a] : [a, b];
  const out = leftOut.some(({ label }) => label.startsWith(`${lacks.name}, `));
  return `${capital(lacks.name)} has no ${out ? speaksAgainst : 'finished run yet'}. What is known of ${known.name}:`;
}

/** Where to go on from a comparison that has too little. */
function NotYet({ study, verdict: { judgement } }: { study: Study; verdict: PairVerdict }) {
  return (
    <Notice
      tone="hint"
      action={
        <ButtonLink
          to={`/studies/${study.id}/${study.spots.length === 0 ? 'look' : study.variants.length < 2 ? 'plan' : 'run'}`}
          look="strong"
        >
          {study.spots.length === 0 ? 'To Look' : study.variants.length < 2 ? 'To Plan' : 'To Run'}
        </ButtonLink>
      }
    >
      {whatIsLacking(judgement)}
    </Notice>
  );
}

function CannotBeJudged({ study, crumb, error }: { study: Study; crumb: string; error: Parameters<typeof sentenceOf>[0] }) {
  return (
    <Sheet crumb={crumb} windowTitle={`Judge, ${study.title}`} heading="This cannot be judged." margin={null}>
      <Notice tone="error">{sentenceOf(error)}</Notice>
    </Sheet>
  );
}

export function JudgePage() {
  const study = useStudy();
  const { text } = useDegrees();
  const [search, setSearch] = useSearchParams();
  const [explained, setExplained] = useState<string | null>(null);
  const ask = pairAskOf(search);
  const { a, b } = ask;
  const asked = askedWords({ load: ask.load, restate: readRestatement(ask.restate) });
  const { data: verdict, error, isLoading } = useVerdictQuery({ studyId: study.id, ...queryOfAsk(ask) });
  const { data: own = [] } = useRunsQuery(study.id);
  const otherId = otherStudyOf(a) ?? otherStudyOf(b);
  const { data: others } = useRunsQuery(otherId ?? skipToken);
  // Traces and figures of the other side come from its own study.
  const runs = others ? [...own, ...others] : own;
  const air = Number(search.get('air') ?? study.enclosure.airC);
  const put = (entries: Record<string, string>) =>
    setSearch(
      (before) => {
        for (const [key, value] of Object.entries(entries)) {
          if (value === '') before.delete(key);
          else before.set(key, value);
        }
        return before;
      },
      { replace: true },
    );
  const crumb = `${study.title} / Judge`;
  if (isLoading) return <ReadingRuns studyId={study.id} />;
  if (!verdict) return <CannotBeJudged study={study} crumb={crumb} error={error} />;
  const { judgement } = verdict;
  const shownId = search.get('spot') ?? movedMost(judgement) ?? study.spots[0]?.id ?? '';
  const explainedSpot = judgement.spots.find((spot) => spot.spotId === explained);
  return (
    <Sheet
      crumb={[crumb, sidesWords(judgement)].filter(Boolean).join(' / ')}
      windowTitle={`Judge, ${study.title}`}
      heading={verdict.refusal ?? <Segments segments={verdict.sentence} />}
      under={
        <>
          {text(rulesWords(study))} · <Link to="../ask">change</Link>
          <EvidenceLine evidence={ask.evidence === 'usual' ? 'usual' : 'strict'} />
          {asked ? <b className="block font-semibold text-ochre-text">Figures {asked}.</b> : null}
        </>
      }
      actions={
        <>
          <SidePicker
            study={study}
            runs={own}
            a={judgement.a.variantId}
            b={judgement.b.variantId}
            thereName={nameOfOther(judgement)}
            onPick={(nextA, nextB) => put({ a: nextA, b: nextB })}
          />
          {verdict.refusal ? null : <ButtonLink to={`/studies/${study.id}/report${searchOfAsk(ask)}`}>Report</ButtonLink>}
        </>
      }
      margin={<VerdictMargin study={study} verdict={verdict} runs={runs} query={queryOfAsk(ask)} />}
    >
      <JudgeTabs />
      <RestateBar study={study} verdict={verdict} ask={ask} put={put} />
      <UnblockNotice study={study} verdict={verdict} onRestate={(restate) => put({ restate })} />
      {verdict.refusal ? <NotYet study={study} verdict={verdict} /> : null}
      <div className="-mt-2">
        {judgement.spots
          .filter((spot) => spot.a || spot.b)
          .map((spot) => (
            <SpotBlock
              key={spot.spotId}
              study={study}
              verdict={verdict}
              spot={spot}
              air={air}
              shown={spot.spotId === shownId}
              onShow={() => put({ spot: spot.spotId })}
              onExplain={() => setExplained(spot.spotId)}
            />
          ))}
      </div>
      {judgement.spots.some((spot) => spot.a || spot.b) ? (
        <AirSlider study={study} verdict={verdict} air={air} onAir={(value) => put({ air: String(value) })} />
      ) : null}
      {verdict.refusal ? null : (
        <div className="pt-5">
          <CoolingSection judgement={judgement} />
        </div>
      )}
      <ComparedTrace study={study} verdict={verdict} runs={runs} spotId={shownId} />
      {explainedSpot ? (
        <HowWorkedOut study={study} verdict={verdict} runs={runs} spot={explainedSpot} asked={asked} onClose={() => setExplained(null)} />
      ) : null}
    </Sheet>
  );
}
