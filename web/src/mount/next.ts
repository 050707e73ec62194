import { changeOverMinutes } from '@red-ember/core';
import { type Mount, type Run, type Study, type StudyBody, type VariantBody } from '@red-ember/contract';
import { levelsOf } from '@red-ember/study';
import { changeOverCosts, plannedOrder, readable } from '../plan/schedule.ts';

/** What is on the bench and what comes next. */
export interface Next {
  onBench: { mount: Mount; variant: VariantBody } | null;
  /** First of the planned runs that has not been run; null where all have, or none is planned. */
  planned: { variant: VariantBody; number: number; of: number } | null;
}

export function nextOf(study: Study, mounts: readonly Mount[], runs: readonly Run[]): Next {
  const last = mounts.at(-1);
  const variant = study.variants.find((candidate) => candidate.id === last?.variantId);
  const { order } = plannedOrder(readable(study));
  const had = runs
    .filter((run) => run.purpose === 'measure' && run.state === 'finished' && run.disposition !== 'reject')
    .map((run) => run.variantId);
  // What is on the bench and has not been run stands for its run: the card is about what comes after it.
  if (last && !runs.some((run) => run.mountId === last.id && run.purpose === 'measure')) had.push(last.variantId);
  const number = order.findIndex((planned) => {
    const place = had.indexOf(planned.id);
    if (place >= 0) had.splice(place, 1);
    return place < 0;
  });
  return {
    onBench: last && variant ? { mount: last, variant } : null,
    planned: number >= 0 ? { variant: order[number]!, number: number + 1, of: order.length } : null,
  };
}

/** Minutes of hands that the plan reckons for one change-over. */
export function plannedMinutes(body: StudyBody, from: VariantBody | null, to: VariantBody): number {
  const costs = changeOverCosts(readable(body));
  if (!from) return costs.mountMin;
  const run = (variant: VariantBody) => ({ variantId: variant.id, levels: levelsOf(variant) });
  return changeOverMinutes([run(from), run(to)], costs).changeMin[0]![1]!;
}
