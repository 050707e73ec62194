import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link, useSearchParams } from 'react-router';
import {
  callWords,
  fixed,
  likelyWords,
  mountsInWords,
  type PairJudgement,
  type SideFigure,
  type SpotJudgement,
  headroomWords,
} from '@red-ember/core';
import { type PairVerdict, type Study } from '@red-ember/contract';
import { askedWords, definitionOf, rulesWords, otherStudyOf, readRestatement } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { useInHand } from '../../ui/useInHand.ts';
import { sentenceOf, useRunsQuery, useVerdictQuery } from '../../data/api.ts';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { HeadroomStrip, type StripTone } from '../../ui/HeadroomStrip.tsx';
import { Measured } from '../../ui/Measured.tsx';
import { Notice, Waiting } from '../../ui/Notice.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { ComparedTrace } from './ComparedTrace.tsx';
import { TONE_TEXT, toneOf } from '../../ui/tones.ts';
import { CoolingSection } from './CoolingSection.tsx';
import { HowWorkedOut } from './HowWorkedOut.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { pairAskOf, queryOfAsk, searchOfAsk } from '../pairAsk.ts';
import { RestateBar } from './RestateBar.tsx';
import { nameOfOther, SidePicker } from './SidePicker.tsx';
import { UnblockNotice } from './UnblockNotice.tsx';
import { restated, tightestInAir } from './restate.ts';
import { VerdictMargin } from './VerdictMargin.tsx';

/** On how many mounts the sides were run: said once where both are alike. */
function mountsOfBoth({ a, b }: PairJudgement): string {
  return a.mounts === b.mounts && a.mounts === null ? mountsInWords(null) : [a, b].map((side) => mountsInWords(side.mounts)).join(' and ');
}

function SideRow({
  side,
  name,
  label,
  limitC,
  roomC,
  air,
  study,
  tone,
}: {
  side: SideFigure | null;
  name: string;
  label: string;
  limitC: number;
  roomC: number;
  air: number;
  study: Study;
  tone: StripTone;
}) {
  const { text } = useDegrees();
  if (!side) return <div className="col-span-full text-soft">{name}: no reading</div>;
  const left = limitC - side.spotC;
  return (
    <>
      <span className="truncate text-[0.93rem] text-soft">{name}</span>
      <HeadroomStrip
        label={`${label}, ${name}`}
        roomC={roomC}
        limitC={limitC}
        spotC={side.spotC}
        doubtK={side.doubtK}
        idleC={side.idleC}
        projectedC={restated(side, roomC, air, study.enclosure.powerTempCo)}
        tone={tone}
      />
      <Measured className="text-[0.93rem]" value={side.figure.value} doubt={side.doubtK} unit={study.rules.basis === 'rise' ? 'K' : '°C'} />
      <span className={`whitespace-nowrap text-[0.93rem] ${left < 0 ? 'font-semibold text-ember-text' : 'text-soft'}`}>
        {text(headroomWords(left))}
      </span>
    </>
  );
}

function SpotBlock({
  study,
  verdict,
  spot,
  air,
  shown,
  onShow,
  onExplain,
}: {
  study: Study;
  verdict: PairVerdict;
  spot: SpotJudgement;
  air: number;
  shown: boolean;
  onShow: () => void;
  onExplain: () => void;
}) {
  const { text } = useDegrees();
  const definition = definitionOf(study, spot.spotId);
  if (!definition) return null;
  const { a, b, roomC } = verdict.judgement;
  const tone = toneOf(spot.call);
  const common = { label: definition.name, limitC: definition.limitC, roomC, air, study };
  return (
    <section className="grid gap-x-6 border-b border-rule py-2 md:grid-cols-[minmax(0,1fr)_8.6rem]">
      <div>
        <h2 className="mb-1 flex flex-wrap items-baseline gap-x-3">
          <button
            type="button"
            aria-pressed={shown}
            onClick={onShow}
            className={`text-left font-semibold ${shown ? 'underline decoration-2 underline-offset-4' : 'hover:underline'}`}
          >
            {definition.name}
          </button>
          <span className="text-[0.87rem] font-normal text-soft">
            {text(`limit ${definition.limitC} °C`)} · {definition.limitSource}
          </span>
          <button type="button" className="text-[0.83rem] font-normal text-soft underline hover:text-ink" onClick={onExplain}>
            How was this worked out?
          </button>
        </h2>
        <div className="grid grid-cols-[minmax(4.2rem,7.5rem)_minmax(0,1fr)_6.6rem_4.4rem] items-center gap-x-3 gap-y-0.5">
          <SideRow side={spot.a} name={a.name} tone="stone" {...common} />
          <SideRow side={spot.b} name={b.name} tone={tone} {...common} />
        </div>
      </div>
      <div className="self-center text-right">
        {spot.comparison ? (
          <>
            <Measured
              sign
              className={`block text-[1.13rem] ${TONE_TEXT[tone]}`}
              value={spot.comparison.difference.value}
              doubt={spot.comparison.budget.expanded}
              unit="K"
            />
            <span className={`block text-[0.93rem] ${TONE_TEXT[tone]}`}>{callWords(spot.call, b.name).words}</span>
            {spot.call.kind === 'blocked' || spot.call.kind === 'equivalent' ? null : (
              <span className="block text-[0.83rem] text-soft">{text(likelyWords(spot.call, study.rules.practicalK))}</span>
            )}
          </>
        ) : (
          <span className="text-[0.93rem] text-soft">{spot.refusal}</span>
        )}
      </div>
    </section>
  );
}

function AirSlider({ study, verdict, air, onAir }: { study: Study; verdict: PairVerdict; air: number; onAir: (air: number) => void }) {
  const { text } = useDegrees();
  const inHand = useInHand(String(air), (value) => onAir(Number(value)));
  const airC = Number(inHand.value);
  const words = tightestInAir(verdict.judgement, study, airC);
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-ink py-3">
      <label htmlFor="air" className="first-letter:uppercase inline-block">
        {study.enclosure.name} air
      </label>
      <input id="air" type="range" min={15} max={50} step={0.5} {...inHand} className="w-52 accent-ink" />
      <output htmlFor="air" className="w-16 font-semibold">
        {text(`${fixed(airC, 1)} °C`)}
      </output>
      <span className="text-[0.93rem] text-soft">
        dashed on the strips, calculated ·{' '}
        {words.map((word, i) => (
          <span key={word.side} className={word.headroomK === null || word.headroomK < 0 ? 'font-semibold text-ember-text' : ''}>
            {i > 0 ? ' · ' : ''}
            {word.side}: {word.headroomK === null ? 'runs away' : `${word.spot.toLowerCase()} ${text(headroomWords(word.headroomK, 1))}`}
          </span>
        ))}
      </span>
    </div>
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
  if (isLoading) return <Waiting what="Reading the runs and weighing them" />;
  if (!verdict)
    return (
      <Sheet crumb={crumb} windowTitle={`Judge, ${study.title}`} heading="This cannot be judged." margin={null}>
        <Notice tone="error">{sentenceOf(error)}</Notice>
      </Sheet>
    );
  const { judgement } = verdict;
  const ranked = [...judgement.spots]
    .filter((spot) => spot.comparison)
    .sort((p, q) => Math.abs(q.comparison!.difference.value) - Math.abs(p.comparison!.difference.value));
  const shownId = search.get('spot') ?? ranked[0]?.spotId ?? study.spots[0]?.id ?? '';
  const explainedSpot = judgement.spots.find((spot) => spot.spotId === explained);
  return (
    <Sheet
      crumb={
        judgement.a.variantId && judgement.b.variantId
          ? `${crumb} / ${judgement.a.name} against ${judgement.b.name}, ${judgement.a.runIds.length} and ${judgement.b.runIds.length} runs, ${mountsOfBoth(judgement)}`
          : crumb
      }
      windowTitle={`Judge, ${study.title}`}
      heading={verdict.refusal ?? <Segments segments={verdict.sentence} />}
      under={
        <>
          {text(rulesWords(study))} · <Link to="../ask">change</Link>
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
      {verdict.refusal ? (
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
          {judgement.spots.some((spot) => spot.a)
            ? 'What is known of one side so far:'
            : 'The comparison appears here as soon as both sides have a finished run.'}
        </Notice>
      ) : null}
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
