import { useMemo } from 'react';
import { counted, duration, fixed, keepsEnds, planLength } from '@red-ember/core';
import type { PlanBody, StudyBody, VariantBody } from '@red-ember/contract';
import { useRunsQuery, useSettledLoadsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Button } from '../ui/Button.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft } from '../study/useStudyDraft.ts';
import { CalendarSection } from './CalendarSection.tsx';
import { OrderList } from './OrderList.tsx';
import { WhatNext } from '../study/WhatNext.tsx';
import { PlanTabs } from './PlanTabs.tsx';
import { RepeatsSection } from './RepeatsSection.tsx';
import {
  balanced,
  changeOvers,
  endsOf,
  figuresOf,
  leastTeardown,
  plannedOrder,
  readable,
  runLength,
  type OrderFigures,
} from './schedule.ts';
import { useLeastTeardown, type Ordered } from './useLeastTeardown.ts';

function driftWords(drift: number): string {
  if (drift < 0.02) return 'a steady drift of the bench falls out';
  return `${fixed(100 * drift, 0)} % of a steady drift stays in the difference`;
}

function School({
  title,
  why,
  figures,
  chosen,
  onTake,
}: {
  title: string;
  why: string;
  figures: OrderFigures | null;
  chosen: boolean;
  onTake: () => void;
}) {
  return (
    <div className={`border-l-[3px] pl-4 ${chosen ? 'border-ember' : 'border-rule'}`}>
      <p className="font-semibold">{title}</p>
      <p className="mb-1 text-[0.87rem] text-soft">{why}</p>
      <p className="text-[1.25rem]">{figures ? duration(figures.changeOverMin * 60) : 'ordering…'}</p>
      <p className={`mb-2 text-[0.93rem] ${figures && figures.drift >= 0.02 ? 'text-ochre-text' : 'text-soft'}`}>
        {figures ? `of refitting; ${driftWords(figures.drift)}` : 'of refitting'}
      </p>
      <Button disabled={!figures || chosen} onClick={onTake}>
        {chosen ? 'Taken' : 'Take this order'}
      </Button>
    </div>
  );
}

const saved = (body: StudyBody, one: readonly VariantBody[], other: readonly VariantBody[]) =>
  figuresOf(body, one).changeOverMin - figuresOf(body, other).changeOverMin;

function leastWhy(least: Ordered, savedMin: number | null): string {
  if (savedMin !== null && savedMin <= 0) return 'Saves nothing here: the balanced order refits no more.';
  return least.state === 'done' && !least.order.exact ? 'The best of a long search; a better one may exist.' : 'No order refits less.';
}

export function OrderPage() {
  const study = useStudy();
  const { body: draft } = useStudyDraft(study);
  const shown = useMemo(() => readable(draft), [draft]);
  const { data: runs = [], isLoading: runsComing } = useRunsQuery(study.id);
  const { data: like = [], isLoading: likeComing } = useSettledLoadsQuery(study.id);
  // How long a run takes rests on both: until they are here no hour is shown, and nothing can be taken from one.
  const coming = runsComing || likeComing;
  const question = useMemo(() => leastTeardown(shown), [shown]);
  const least = useLeastTeardown(question?.input ?? null);
  const leastOrder = least.state === 'done' && question ? least.order.order.map((k) => question.runs[k]!) : null;
  const balancedOrder = useMemo(() => balanced(shown), [shown]);
  const length = runLength(shown, runs, like);
  const { order, taken } = plannedOrder(shown);
  const stale = !taken && shown.plan.order.length > 0;
  const held = keepsEnds(
    order.map((variant) => variant.id),
    endsOf(shown),
  );
  const figures = figuresOf(shown, order);
  const total = planLength({
    runs: order.length,
    runMin: length.minutes,
    cureMin: shown.plan.cureMin,
    changeOverMin: figures.changeOverMin,
  });
  return (
    <EditSheet
      study={study}
      station="Plan"
      heading={
        order.length === 0
          ? 'How often, in which order, when?'
          : `${counted(order.length, 'run')}${coming ? '' : `, ${duration(total * 60)} at the bench`}.`
      }
      under={
        coming
          ? 'Looking up how long runs like these took'
          : length.from === 'runs'
            ? `One run takes about ${duration(length.minutes * 60)}, as the runs of this study did`
            : length.from === 'like'
              ? `One run is taken for ${duration(length.minutes * 60)}: ${counted(like.length, 'load')} of like parts took so long to settle`
              : `One run is taken for ${duration(length.minutes * 60)}, half-way between what the recipe allows: nobody knows yet`
      }
      margin={
        <>
          {runs.some((run) => run.state === 'finished') ? <WhatNext studyId={study.id} /> : null}
          <MarginGroup title="What the saving risks">
            <Note>
              Refitting less puts equal runs side by side. Whatever drifts over the days, room, paste, the tester’s hand, then stands
              between the variants.
            </Note>
            <Note>Forth and back, A B B A: a steady drift is the same on both sides and falls out.</Note>
          </MarginGroup>
          <MarginGroup title="First and last">
            <Note>A paste that cannot be cleaned off comes last; so does what scratches.</Note>
          </MarginGroup>
          <MarginGroup title="Cautions">
            <Note tone="caution">Never leave a load unattended without an armed cut-out.</Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => {
        const setPlan = (part: Partial<PlanBody>) => change({ plan: { ...body.plan, ...part } });
        const take = (school: PlanBody['school'], chosen: readonly VariantBody[]) =>
          setPlan({ school, order: chosen.map((variant) => variant.id) });
        const none = [{ value: '', label: 'none' }, ...body.variants.map((variant) => ({ value: variant.id, label: variant.name }))];
        if (body.variants.length === 0)
          return (
            <>
              <PlanTabs />
              <Notice tone="hint">Write down what is compared first: variants by name, or from factors.</Notice>
            </>
          );
        return (
          <>
            <PlanTabs />
            <RepeatsSection
              started={runs.length > 0}
              setPlan={setPlan}
              body={body}
              studyId={study.id}
              lengthMin={coming ? null : length.minutes}
              setRepeats={(variant, repeats) =>
                change({ variants: body.variants.map((entry) => (entry.id === variant.id ? { ...entry, repeats } : entry)) })
              }
            />
            <Section title="Order of runs">
              <div className="mb-5 grid gap-6 sm:grid-cols-2">
                <School
                  title="Drift-balanced"
                  why="Blocks of all variants, forth and back."
                  figures={figuresOf(shown, balancedOrder)}
                  chosen={taken && body.plan.school === 'balanced'}
                  onTake={() => take('balanced', balancedOrder)}
                />
                <School
                  title="Least teardown"
                  why={leastWhy(least, leastOrder ? saved(shown, balancedOrder, leastOrder) : null)}
                  figures={leastOrder ? figuresOf(shown, leastOrder) : null}
                  chosen={taken && body.plan.school === 'least-teardown'}
                  onTake={() => leastOrder && take('least-teardown', leastOrder)}
                />
              </div>
              {least.state === 'failed' ? <Notice tone="error">{least.sentence}</Notice> : null}
              {stale ? (
                <Notice tone="hint">The number of runs has changed since an order was taken; the balanced one is shown.</Notice>
              ) : null}
              <div className="mb-4 grid gap-4 sm:grid-cols-2">
                <ChoiceField
                  label="Always first"
                  pointer="/plan/firstVariantId"
                  value={body.plan.firstVariantId ?? ''}
                  options={none}
                  onChange={(id) => setPlan({ firstVariantId: id || null, order: [] })}
                />
                <ChoiceField
                  label="Always last"
                  pointer="/plan/lastVariantId"
                  value={body.plan.lastVariantId ?? ''}
                  options={none}
                  onChange={(id) => setPlan({ lastVariantId: id || null, order: [] })}
                />
              </div>
              {held ? null : <Notice tone="hint">This order breaks what always comes first or last.</Notice>}
              <OrderList order={order} changeMin={changeOvers(shown, order)} onChange={(moved) => take('own', moved)} />
              <p className="mt-2 text-[0.93rem] text-soft">
                {taken && body.plan.school === 'own' ? 'Your own order' : 'This order'}: {duration(figures.changeOverMin * 60)} of
                refitting; {driftWords(figures.drift)}.
              </p>
            </Section>
            {coming ? null : (
              <CalendarSection
                planId={study.id}
                body={body}
                reading={shown}
                order={order}
                lengthMin={length.minutes}
                title={body.title}
                setPlan={setPlan}
              />
            )}
          </>
        );
      }}
    </EditSheet>
  );
}
