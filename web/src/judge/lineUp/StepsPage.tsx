import {
  callWords,
  likelyWords,
  fixed,
  InsufficientDataError,
  kneeOfSweep,
  ladderSteps,
  measured,
  reachWords,
  signed,
  type LadderStep,
  type ThrottleStep,
  midSentence,
} from '@red-ember/core';
import { useDegrees } from '../../data/useDegrees.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { LineUpSheet } from './LineUpSheet.tsx';
import { TONE_TEXT, toneOf } from '../../ui/tones.ts';
import { useLineUp, type LineUpView } from './useLineUp.ts';

const THROTTLING: Record<ThrottleStep, string> = {
  none: 'never',
  began: '',
  ended: 'no more: ended',
  delayed: 'later, but still: only delayed',
  sooner: 'sooner',
  unchanged: 'as before',
  'not-watched': '',
};

function stepsOf(view: LineUpView): LadderStep[] | string {
  const { sides } = view.data!.field;
  const read = sides.filter((side) => side.workRuns.length > 0).map((side) => side.variantId);
  try {
    return ladderSteps(view.data!.field, read, 'spotId' in view.key ? view.key.spotId : '');
  } catch (error) {
    if (error instanceof InsufficientDataError) return error.message;
    throw error;
  }
}

function headingOf(steps: LadderStep[], text: (text: string) => string): string {
  const last = steps.at(-1)!;
  const ended = steps.find((step) => step.throttling === 'ended');
  const delayed = steps.filter((step) => step.throttling === 'delayed').map((step) => step.name);
  if (ended) return `${ended.name} ends the throttling${delayed.length > 0 ? `; ${delayed.join(' and ')} only put it off` : ''}.`;
  if (delayed.length > 0) return `Throttling is put off and not ended: ${delayed.join(' and ')} delay, nothing carries it off.`;
  if (!last.sum) return 'The steps cannot be added up: a side has no free temperature.';
  if (last.sumCall?.kind === 'blocked') return `The first and the last step must not be held against each other. ${last.sumCall.why ?? ''}`;
  const { difference, budget } = last.sum;
  return `All steps together: ${text(measured(difference.value, budget.expanded, 'K', { sign: true }))}.`;
}

/** What else changed with a step: "; fan +210 rpm, power −3.1 W". */
function besideWords({ beside: { fanRpm, powerW } }: LadderStep): string {
  const said = [...(fanRpm === null ? [] : [`fan ${signed(fanRpm, 0)} rpm`]), ...(powerW === null ? [] : [`power ${signed(powerW, 1)} W`])];
  return said.length === 0 ? '' : `; ${said.join(', ')}`;
}

/** A fan that moves by less kept its speed, rpm. */
const KEPT_RPM = 50;

/** Whether the fan moved from step to step, and no run tells what that took up. */
const fansUntold = (steps: readonly LadderStep[]) =>
  steps.some(({ beside }) => Math.abs(beside.fanRpm ?? 0) > KEPT_RPM) && !steps.some(({ fanHeld }) => fanHeld);

function Change({ step, practicalK }: { step: LadderStep; practicalK: number }) {
  const { text } = useDegrees();
  if (!step.step || !step.call) return null;
  const { difference, budget } = step.step;
  const { kind, why } = step.call;
  return (
    <>
      <b className={`whitespace-nowrap font-semibold ${TONE_TEXT[toneOf(step.call)]}`}>
        {reachWords(step.reach)}
        {text(measured(difference.value, budget.expanded, 'K', { sign: true }))}
      </b>
      <span className="block text-[0.87rem] text-soft">
        {callWords(step.call).words}
        {kind === 'blocked' && why ? `: ${text(why)}` : ''}
        {kind === 'equivalent' ? text(` within ${practicalK} K`) : ''}
        {kind === 'no-call' ? text(`; ${likelyWords(step.call, practicalK)}`) : ''}
        {besideWords(step)}
      </span>
      {step.fanHeld ? (
        <span className="block text-[0.87rem] text-soft">
          fan held: {text(measured(step.fanHeld.value, 2 * step.fanHeld.u, 'K', { sign: true }))}, calculated
        </span>
      ) : null}
    </>
  );
}

/** A figure of the study's own at a step, with what the step did to it. */
function Own({ of: { value, unit, decimals, step } }: { of: LadderStep['own'][number] }) {
  return (
    <>
      {fixed(value, decimals)} {unit}
      {step ? (
        <span className="block text-[0.87rem] text-soft">
          {measured(step.difference.value, step.budget.expanded, unit, { sign: true })}
        </span>
      ) : null}
    </>
  );
}

/** Where a sweep stops helping, in words; null where the loads are no sweep. */
function kneeWords(view: LineUpView): string | null {
  const knee = 'spotId' in view.key ? kneeOfSweep(view.data!.field, view.key.spotId) : null;
  if (!knee) return null;
  if (knee.name === null) return 'The figure moves evenly along the sweep: there is no knee.';
  const noise = knee.noiseDb === null ? '' : `, ${fixed(knee.noiseDb, 1)} dB(A)`;
  return `The knee of the sweep is at ${knee.name}${noise}: beyond it, more of it buys little.`;
}

/** A ladder of changes: each step against the one before, what they come to, and what they did to throttling. */
export function StepsPage() {
  const study = useStudy();
  const { text } = useDegrees();
  // A study of one variant has its steps within its runs.
  const single = study.variants.length === 1 ? study.variants[0]!.id : '';
  const view = useLineUp(study, single ? { loadsOf: single } : {});
  const spotView = 'spotId' in view.key;
  const steps = view.data && !view.data.refusal && spotView ? stepsOf(view) : null;
  const made = steps !== null && typeof steps !== 'string' ? steps : null;
  const own = (made ?? []).flatMap((step) => step.own).filter(({ id }, i, all) => all.findIndex((other) => other.id === id) === i);
  const knee = made && view.loadsOf ? kneeWords(view) : null;
  return (
    <LineUpSheet
      study={study}
      view={view}
      page="Steps"
      heading={made ? headingOf(made, text) : typeof steps === 'string' ? `No ladder yet: ${steps}.` : 'Steps'}
      margin={
        <MarginGroup title="How steps are read">
          <Note>Each step is held against the one before it; the sum is last against first, compared directly.</Note>
          <Note>A step that throttles later has more to soak heat up with; one that throttles no more carries it off.</Note>
          {made?.some((step) => step.fanHeld) ? (
            <Note>
              Fan held: what a step would have done had the fan kept the speed of the step before, by how the rise over the intake air went
              with the fan in the same run.
            </Note>
          ) : null}
          {fansUntold(made ?? []) && view.loadsOf ? (
            <Note tone="caution" lead="The fan moved with the steps.">
              What a step would have done at the speed of before cannot be told: it takes a probe in the air that the cooler takes in, or a
              run that only steps the fan.
            </Note>
          ) : null}
          {knee ? <Note tone="cool">{knee}</Note> : null}
        </MarginGroup>
      }
    >
      {!spotView ? (
        <Notice tone="hint">Steps are followed at a spot: choose one above.</Notice>
      ) : made ? (
        <Section title={`Step by step, ${midSentence(view.name)}`}>
          <div className="overflow-x-auto" tabIndex={0}>
            <table className="plain-table">
              <thead>
                <tr>
                  <th>Step</th>
                  <th className="num">figure, {view.unit}</th>
                  <th>against the step before</th>
                  <th>since the first</th>
                  {own.map(({ id, label }) => (
                    <th key={id} className="num">
                      {label}
                    </th>
                  ))}
                  <th className="num">throttles after</th>
                  <th>throttling</th>
                </tr>
              </thead>
              <tbody>
                {made.map((step, i) => (
                  <tr key={step.variantId}>
                    <td>
                      <b className="font-semibold">
                        {i + 1}. {step.name}
                      </b>
                      {step.changed.length > 0 ? <span className="block text-[0.87rem] text-soft">{step.changed.join('; ')}</span> : null}
                    </td>
                    <td className="num">
                      {step.value === null ? <span className="text-soft">not free</span> : fixed(view.show(step.value), 1)}
                    </td>
                    <td>
                      <Change step={step} practicalK={study.rules.practicalK} />
                    </td>
                    <td className="whitespace-nowrap">
                      {step.sum ? text(measured(step.sum.difference.value, step.sum.budget.expanded, 'K', { sign: true })) : ''}
                    </td>
                    {own.map(({ id }) => {
                      const here = step.own.find((entry) => entry.id === id);
                      return (
                        <td key={id} className="num">
                          {here ? <Own of={here} /> : null}
                        </td>
                      );
                    })}
                    <td className="num whitespace-nowrap">
                      {step.throttled.of === 0
                        ? ''
                        : step.throttled.meanMin === null
                          ? `not in ${fixed(step.throttled.watchedMin, 0)} min${step.value === null ? '' : ', settled'}`
                          : `${fixed(step.throttled.meanMin, 1)} min`}
                    </td>
                    <td className={step.throttling === 'delayed' ? 'text-ochre-text' : ''}>{THROTTLING[step.throttling]}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Section>
      ) : (
        <Notice tone="hint">A ladder needs two variants, or one run with several loads, that have ended.</Notice>
      )}
    </LineUpSheet>
  );
}
