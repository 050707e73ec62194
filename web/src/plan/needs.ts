import { fitCheck, partsList, type BoardMap, type Envelope, type FitFinding } from '@red-ember/core';
import { type FittedPartBody, type StudyBody, type SubjectBody, type VariantBody } from '@red-ember/contract';
import { listed, mountCard, partsOf, USUAL_SPARE_MOUNTS } from '@red-ember/study';
import { plannedOrder } from './schedule.ts';

/** How often each part is put on fresh in the planned order, by id: what differs, and what is renewed on the way. */
function mountsOf(body: StudyBody): Map<string, number> {
  const { order } = plannedOrder(body);
  const mounts = new Map<string, number>();
  order.forEach((to, k) => {
    const from = order.slice(0, k).findLast((variant) => variant.subjectId === to.subjectId) ?? null;
    // Repeats without refitting leave everything where it is.
    if (from?.id === to.id && body.plan.remountMin === 0) return;
    for (const part of mountCard(body, from, to).parts) mounts.set(part.id, (mounts.get(part.id) ?? 0) + 1);
  });
  return mounts;
}

/** Parts and consumables of the plan with amounts and cost. */
export function needsOf(body: StudyBody) {
  const mounts = mountsOf(body);
  return partsList(
    body.parts.map((part) => listed(part, mounts.get(part.id) ?? 0)),
    body.plan.spareMounts ?? USUAL_SPARE_MOUNTS,
  );
}

export interface VariantFit {
  variant: VariantBody;
  subject: SubjectBody;
  findings: FitFinding[];
  /** Covers whose upper face is not known: nothing is said of them. */
  unknown: FittedPartBody[];
}

/** Whether each variant's parts fit on the board it goes on; variants without a part on the map are left out. */
export function fitsOf(body: StudyBody): VariantFit[] {
  return body.variants.flatMap((variant) => {
    const subject = body.subjects.find((candidate) => candidate.id === variant.subjectId);
    const map = subject?.map;
    const placed = partsOf(body, variant).filter((part) => map?.covers.some((cover) => cover.id === part.coverId));
    if (!subject || !map || placed.length === 0) return [];
    const topOf = (part: FittedPartBody) => map.covers.find((cover) => cover.id === part.coverId)!.topMm;
    const envelopes = placed.flatMap((part): Envelope[] => {
      const topMm = topOf(part);
      return topMm === undefined ? [] : [{ coverId: part.coverId, topMm, weightG: part.weightG * part.quantity }];
    });
    return [
      {
        variant,
        subject,
        findings: fitCheck(map as BoardMap, map.zones ?? [], envelopes),
        unknown: placed.filter((part) => topOf(part) === undefined),
      },
    ];
  });
}
