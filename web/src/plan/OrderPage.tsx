import { useMemo } from 'react';
import { counted, duration, planLength } from '@red-ember/core';
import type { PlanBody } from '@red-ember/contract';
import { useRunsQuery, useSettledLoadsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft } from '../study/useStudyDraft.ts';
import { WhatNext } from '../study/WhatNext.tsx';
import { Notice } from '../ui/Notice.tsx';
import { CalendarSection } from './CalendarSection.tsx';
import { OrderSection } from './OrderSection.tsx';
import { PlanTabs } from './PlanTabs.tsx';
import { RepeatsSection } from './RepeatsSection.tsx';
import { figuresOf, plannedOrder, readable, runLength } from './schedule.ts';

export function OrderPage() {
  const study = useStudy();
  const { body: draft } = useStudyDraft(study);
  const shown = useMemo(() => readable(draft), [draft]);
  const { data: runs = [], isLoading: runsComing } = useRunsQuery(study.id);
  const { data: like = [], isLoading: likeComing } = useSettledLoadsQuery(study.id);
  // How long a run takes rests on both: until they are here no hour is shown, and nothing can be taken from one.
  const coming = runsComing || likeComing;
  const length = runLength(shown, runs, like);
  const { order } = plannedOrder(shown);
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
            <OrderSection body={body} shown={shown} setPlan={setPlan} />
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
