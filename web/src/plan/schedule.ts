import {
  balancedOrder,
  changeOverMinutes,
  driftExposure,
  layOut,
  orderCost,
  endsPrecedence,
  expectedRunLength,
  type ChangeOverCosts,
  type Ends,
  type OrderInput,
  type PlannedTask,
  type RunLength,
  type Slot,
} from '@red-ember/core';
import { type Run, type StudyBody, type VariantBody } from '@red-ember/contract';
import { levelsOf, USUAL_REPEATS } from '@red-ember/study';
import { asSentence } from '../ui/asSentence.ts';

const DAY_MIN = 1440;
const orZero = (value: number) => (Number.isFinite(value) && value > 0 ? value : 0);

/** The study with what is half typed taken for nothing: the field says what is wrong, the page goes on computing the rest. */
export function readable(body: StudyBody): StudyBody {
  const { plan } = body;
  const part = (value: number) => Math.min(orZero(value), 14 * DAY_MIN);
  return {
    ...body,
    factors: body.factors.map((factor) => ({ ...factor, changeMin: part(factor.changeMin) })),
    variants: body.variants.map((variant) => ({ ...variant, repeats: Math.min(40, Math.floor(orZero(repeatsOf(variant)))) })),
    recipe: body.recipe.map((phase) => ({
      ...phase,
      durationS: orZero(phase.durationS),
      capS: orZero(phase.capS),
      ...(phase.steps === undefined ? {} : { steps: orZero(phase.steps) }),
    })),
    plan: {
      ...plan,
      mountMin: part(plan.mountMin),
      remountMin: part(plan.remountMin),
      cureMin: part(plan.cureMin),
      lunchMin: part(plan.lunchMin),
    },
  };
}

/** One variant as both first and last can be typed, and is complained about at its field; until then it is the first. */
export const endsOf = ({ plan }: StudyBody): Ends => ({
  first: plan.firstVariantId,
  last: plan.lastVariantId === plan.firstVariantId ? null : plan.lastVariantId,
});

/** Runs that are planned of a variant: none of one that was retired. */
export const repeatsOf = (variant: VariantBody) => (variant.retired ? 0 : (variant.repeats ?? USUAL_REPEATS));

/** One entry a planned run, variants in their own order. */
function plannedVariants(body: StudyBody): VariantBody[] {
  return body.variants.flatMap((variant) => Array.from({ length: repeatsOf(variant) }, () => variant));
}

/** What the study says a change-over takes. */
export function changeOverCosts({ factors, plan }: Pick<StudyBody, 'factors' | 'plan'>): ChangeOverCosts {
  return {
    factorMin: Object.fromEntries(factors.map((factor) => [factor.name, factor.changeMin])),
    mountMin: plan.mountMin,
    remountMin: plan.remountMin,
    otherMin: plan.mountMin,
  };
}

function minutes(body: StudyBody, runs: readonly VariantBody[]) {
  return changeOverMinutes(
    runs.map((variant) => ({ variantId: variant.id, levels: levelsOf(variant) })),
    changeOverCosts(body),
  );
}

/** The question of least teardown, ready to be answered in a worker; null where there is nothing to order. */
export function leastTeardown(body: StudyBody): { runs: VariantBody[]; input: OrderInput } | null {
  const runs = plannedVariants(body);
  if (runs.length === 0) return null;
  const mustPrecede = endsPrecedence(
    runs.map((variant) => variant.id),
    endsOf(body),
  );
  return { runs, input: { ...minutes(body, runs), mustPrecede, seed: 1 } };
}

/** Forth and back through the variants, the first and the last held where they must be. */
export function balanced(body: StudyBody): VariantBody[] {
  const { first, last } = endsOf(body);
  const free = body.variants.filter((variant) => variant.id !== first && variant.id !== last);
  const all = (id: string | null) => plannedVariants(body).filter((variant) => variant.id === id);
  const middle = balancedOrder(free.map(repeatsOf), 1).map((index) => free[index]!);
  return [...all(first), ...middle, ...all(last)];
}

export interface OrderFigures {
  changeOverMin: number;
  /** 0 where a steady drift falls out of every comparison, up to 1 where it falls on one variant as a whole. */
  drift: number;
}

/** What an order costs, and what it risks. */
export function figuresOf(body: StudyBody, order: readonly VariantBody[]): OrderFigures {
  if (order.length === 0) return { changeOverMin: 0, drift: 0 };
  const { changeMin, startMin } = minutes(body, order);
  const places = order.map((_, k) => k);
  return {
    changeOverMin: orderCost(places, changeMin, startMin),
    drift: driftExposure(order.map((variant) => body.variants.indexOf(variant))),
  };
}

/** Minutes of refitting before each run of an order. */
export function changeOvers(body: StudyBody, order: readonly VariantBody[]): number[] {
  const { changeMin, startMin } = minutes(body, order);
  return order.map((_, k) => (k === 0 ? startMin[0]! : changeMin[k - 1]![k]!));
}

/** How long one run takes, as far as anybody knows. */
export function runLength(body: StudyBody, runs: readonly Run[], likeS: readonly number[] = []): RunLength {
  const alike = runs.filter((run) => run.state === 'finished' && run.source === 'rig' && run.purpose === 'measure');
  return expectedRunLength(
    alike.map((run) => run.lengthS),
    body.recipe,
    likeS,
  );
}

/** The order that is planned: as taken over while it still holds the runs that are wanted; else the balanced one. */
export function plannedOrder(body: StudyBody): { order: VariantBody[]; taken: boolean } {
  const ids = (variants: readonly VariantBody[]) =>
    variants
      .map((variant) => variant.id)
      .sort()
      .join();
  const order = body.plan.order.flatMap((id) => body.variants.find((variant) => variant.id === id) ?? []);
  const taken = order.length > 0 && ids(order) === ids(plannedVariants(body));
  return taken ? { order, taken } : { order: balanced(body), taken };
}

/** Somebody must be there for readings that are typed in, and a cut-out guards logged spots alone. */
export const mayBeLeft = (body: StudyBody) => body.spots.length > 0 && body.spots.every((spot) => !spot.byHand);

/** The order laid into working hours, or a sentence that says why it does not fit. */
export function calendar(
  body: StudyBody,
  order: readonly VariantBody[],
  lengthMin: number,
  firstDay: string,
): { slots: Slot[] } | { sentence: string } {
  const { plan } = body;
  const hands = changeOvers(body, order);
  const tasks = order.map((_, k): PlannedTask => ({
    id: String(k),
    handsMin: hands[k]!,
    cureMin: plan.cureMin,
    runMin: Math.ceil(lengthMin),
    unattended: plan.unattended && mayBeLeft(body),
  }));
  try {
    return { slots: layOut(tasks, plan, new Date(`${firstDay}T00:00:00Z`).getUTCDay()) };
  } catch (error) {
    if (error instanceof RangeError) return { sentence: asSentence(error.message) };
    throw error;
  }
}
