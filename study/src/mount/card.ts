import { belongsTo, changeOverCard, type ChangeOverCard, type FittedVariant } from '@red-ember/core';
import type { FittedPartEntry, MountStepEntry } from '../definition/fitting.ts';
import { levelsOf, type VariantEntry } from '../definition/plan.ts';
import type { StudyDefinition } from '../definition/study.ts';
import { cautionAt, cautionsBefore, cautionsFor, type Caution } from './cautions.ts';

export interface CardStep {
  step: MountStepEntry;
  /** Confirmed when the step is ticked, once per mount. */
  cautions: Caution[];
}

/** One change-over as it is shown and worked: what differs, what it needs, step by step. */
export interface MountCard extends Omit<ChangeOverCard, 'steps'> {
  /** Confirmed before the first step. */
  before: Caution[];
  steps: CardStep[];
  /** Parts that are put on now: what differs, and what is renewed. */
  parts: FittedPartEntry[];
}

type Written = Pick<StudyDefinition, 'family' | 'factors' | 'steps' | 'parts'>;

const fitted = (variant: VariantEntry): FittedVariant => ({ id: variant.id, levels: levelsOf(variant) });

/** What was on the same part before, by the mounts in their order; null for an empty bench. */
export function cameFrom(
  variants: readonly VariantEntry[],
  mounts: readonly { variantId: string }[],
  to: VariantEntry,
): VariantEntry | null {
  const had = mounts.map((mount) => variants.find((variant) => variant.id === mount.variantId));
  return had.findLast((variant) => variant?.subjectId === to.subjectId) ?? null;
}

/** Parts that a variant is made of. */
export function partsOf(study: Pick<StudyDefinition, 'parts'>, variant: VariantEntry): FittedPartEntry[] {
  return study.parts.filter((part) => belongsTo(part, fitted(variant)));
}

/** Steps that are done when a variant is put on, or taken off. */
export function stepsOf(study: Pick<StudyDefinition, 'steps'>, variant: VariantEntry, when: MountStepEntry['when']): MountStepEntry[] {
  return study.steps.filter((step) => step.when === when && belongsTo(step, fitted(variant)));
}

function partsNow(study: Written, card: ChangeOverCard, from: VariantEntry | null, to: VariantEntry): FittedPartEntry[] {
  const moved = new Set([...card.changed.map((change) => change.factor), ...card.renewed]);
  return partsOf(study, to).filter((part) => {
    if (part.level) return moved.has(part.level.factor);
    // A variant's own parts go on with it; parts of every variant stay where they are, but on an empty bench, unless they are used up.
    return from === null || from.id === to.id || part.variantId !== null || !part.reusable;
  });
}

/** Cautions of the steps, each at the first step where it applies. */
function withCautions(steps: MountStepEntry[], parts: FittedPartEntry[]): CardStep[] {
  const seen = new Set<string>();
  const once = (caution: Caution | null): Caution[] => {
    if (!caution || seen.has(caution.key)) return [];
    seen.add(caution.key);
    return [caution];
  };
  const made = steps.map((step) => ({ step, cautions: once(cautionAt(step.caution)) }));
  // What conducts or leaks is checked at the very last, before power comes back, wherever the steps forgot it.
  const last = made.at(-1);
  if (last && parts.some((part) => part.conductive)) last.cautions.push(...once(cautionAt('conductive')));
  if (last && parts.some((part) => part.liquid)) last.cautions.push(...once(cautionAt('leak')));
  return made;
}

/**
 * The card of one change-over.
 *
 * @param from what is on the bench; null for nothing
 * @throws RangeError two factors that lie under each other
 */
export function mountCard(study: Written, from: VariantEntry | null, to: VariantEntry): MountCard {
  const factors = study.factors.map(({ name, under = '', renew = false }) => ({ name, under, renew }));
  const card = changeOverCard(from && fitted(from), fitted(to), factors, study.steps);
  const parts = partsNow(study, card, from, to);
  const steps = card.steps.map((id) => study.steps.find((step) => step.id === id)!);
  return {
    changed: card.changed,
    reopened: card.reopened,
    renewed: card.renewed,
    before: steps.length === 0 ? cautionsFor(study.family) : cautionsBefore(study.family),
    steps: withCautions(steps, parts),
    parts,
  };
}

/** Every caution of a card. */
export function cautionsOn(card: MountCard): Caution[] {
  return [...card.before, ...card.steps.flatMap((entry) => entry.cautions)];
}
