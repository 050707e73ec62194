import { useMemo } from 'react';
import { duration, fixed, keepsEnds } from '@red-ember/core';
import type { PlanBody, StudyBody, VariantBody } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { ChoiceField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { OrderList } from './OrderList.tsx';
import { balanced, changeOvers, endsOf, figuresOf, leastTeardown, plannedOrder, type OrderFigures } from './schedule.ts';
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

/** The order of the runs by either school or by hand, and what each costs in refitting and in drift. */
export function OrderSection({ body, shown, setPlan }: { body: StudyBody; shown: StudyBody; setPlan: (part: Partial<PlanBody>) => void }) {
  const question = useMemo(() => leastTeardown(shown), [shown]);
  const least = useLeastTeardown(question?.input ?? null);
  const leastOrder = least.state === 'done' && question ? least.order.order.map((k) => question.runs[k]!) : null;
  const balancedOrder = useMemo(() => balanced(shown), [shown]);
  const { order, taken } = plannedOrder(shown);
  const stale = !taken && shown.plan.order.length > 0;
  const figures = figuresOf(shown, order);
  const held = keepsEnds(
    order.map((variant) => variant.id),
    endsOf(shown),
  );
  const take = (school: PlanBody['school'], chosen: readonly VariantBody[]) =>
    setPlan({ school, order: chosen.map((variant) => variant.id) });
  const none = [{ value: '', label: 'none' }, ...body.variants.map((variant) => ({ value: variant.id, label: variant.name }))];
  return (
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
      {stale ? <Notice tone="hint">The number of runs has changed since an order was taken; the balanced one is shown.</Notice> : null}
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
        {taken && body.plan.school === 'own' ? 'Your own order' : 'This order'}: {duration(figures.changeOverMin * 60)} of refitting;{' '}
        {driftWords(figures.drift)}.
      </p>
    </Section>
  );
}
