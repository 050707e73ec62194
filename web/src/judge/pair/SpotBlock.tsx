import { callWords, headroomWords, likelyWords, type SideFigure, type SpotJudgement } from '@red-ember/core';
import type { PairVerdict, Study } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { HeadroomStrip, type StripTone } from '../../ui/HeadroomStrip.tsx';
import { Measured } from '../../ui/Measured.tsx';
import { tellApart } from '../../ui/tellApart.ts';
import { TONE_TEXT, toneOf } from '../../ui/tones.ts';
import { restated } from './restate.ts';

/** Signs of a name that stand beside a strip. */
const ROOM_FOR_NAME = 16;

function SideRow({
  side,
  name,
  short,
  label,
  limitC,
  roomC,
  air,
  study,
  tone,
}: {
  side: SideFigure | null;
  name: string;
  /** As it is told from the other side where there is little room. */
  short: string;
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
      <span className="truncate text-[0.93rem] text-soft" title={name}>
        {short}
      </span>
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

/** One spot: both sides on one track, the difference, and what is called of it. */
export function SpotBlock({
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
  const [shortA, shortB] = tellApart([a.name, b.name], ROOM_FOR_NAME) as [string, string];
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
          <SideRow side={spot.a} name={a.name} short={shortA} tone="stone" {...common} />
          <SideRow side={spot.b} name={b.name} short={shortB} tone={tone} {...common} />
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
              <span className="block text-pretty text-[0.83rem] text-soft">{text(likelyWords(spot.call, study.rules.practicalK))}</span>
            )}
          </>
        ) : (
          <span className="text-[0.93rem] text-soft">{spot.refusal}</span>
        )}
      </div>
    </section>
  );
}
