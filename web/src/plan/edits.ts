import { combinations, ladder, type Impossible } from '@red-ember/core';
import { type FactorBody, type ImpossibleBody, type StudyBody, type VariantBody } from '@red-ember/contract';
import { levelsOf, shortNames, USUAL_REPEATS } from '@red-ember/study';
import { asSentence } from '../ui/asSentence.ts';

/** The study without a variant, and without its runs in the plan; what was claimed of it is claimed of whatever is compared. */
export function withoutVariant(body: StudyBody, id: string): Partial<StudyBody> {
  const { plan } = body;
  return {
    variants: body.variants
      .filter((variant) => variant.id !== id)
      // What retested it is a variant of its own now.
      .map((variant) => (variant.retest?.variantId === id ? { ...variant, retest: null } : variant)),
    claims: body.claims.map((claim) => (claim.variantId === id ? { ...claim, variantId: null } : claim)),
    parts: body.parts.filter((part) => part.variantId !== id),
    steps: body.steps.filter((step) => step.variantId !== id),
    plan: {
      ...plan,
      order: plan.order.filter((entry) => entry !== id),
      firstVariantId: plan.firstVariantId === id ? null : plan.firstVariantId,
      lastVariantId: plan.lastVariantId === id ? null : plan.lastVariantId,
    },
  };
}

/** Renames a factor, or changes its levels, wherever they are named; a level that is gone is taken off the variants. */
export function withFactor(body: StudyBody, index: number, part: Partial<FactorBody>): Partial<StudyBody> {
  const old = body.factors[index]!;
  const now = { ...old, ...part };
  const factors = body.factors.map((factor, i) => (i === index ? now : factor));
  // As many levels gone as new ones come: they were written differently. Levels that stay keep their name wherever they stand.
  const gone = old.levels.filter((level) => !now.levels.includes(level));
  const come = now.levels.filter((level) => !old.levels.includes(level));
  const renamed = new Map(gone.length === come.length ? gone.map((level, i) => [level, come[i]!]) : []);
  const follow = (choices: { factor: string; level: string }[]) =>
    choices
      .map((choice) => (choice.factor === old.name ? { factor: now.name, level: renamed.get(choice.level) ?? choice.level } : choice))
      .filter((choice) => choice.factor !== now.name || now.levels.includes(choice.level));
  const withLevel = <T extends { level: { factor: string; level: string } | null }>(items: T[]): T[] =>
    items.flatMap((item) => {
      if (!item.level) return [item];
      const [level] = follow([item.level]);
      return level ? [{ ...item, level }] : [];
    });
  return {
    factors: factors.map((factor) => (factor.under === old.name ? { ...factor, under: now.name } : factor)),
    parts: withLevel(body.parts),
    steps: withLevel(body.steps),
    variants: body.variants.map((variant) => ({ ...variant, levels: follow(variant.levels ?? []) })),
    impossible: body.impossible.map((rule) => ({ ...rule, levels: follow(rule.levels) })).filter((rule) => rule.levels.length > 0),
  };
}

export function withoutFactor(body: StudyBody, index: number): Partial<StudyBody> {
  const { name } = body.factors[index]!;
  return {
    factors: body.factors.filter((_, i) => i !== index).map((factor) => (factor.under === name ? { ...factor, under: '' } : factor)),
    parts: body.parts.filter((part) => part.level?.factor !== name),
    steps: body.steps.filter((step) => step.level?.factor !== name),
    variants: body.variants.map((variant) => ({ ...variant, levels: (variant.levels ?? []).filter((choice) => choice.factor !== name) })),
    impossible: body.impossible
      .map((rule) => ({ ...rule, levels: rule.levels.filter((choice) => choice.factor !== name) }))
      .filter((rule) => rule.levels.length > 0),
  };
}

/** Whether factors can be combined at all: each with a name of its own and two levels or more, none twice. */
export const soundFactors = (factors: readonly FactorBody[]): boolean =>
  factors.length > 0 &&
  new Set(factors.map((factor) => factor.name)).size === factors.length &&
  factors.every(({ name, levels }) => name !== '' && levels.length >= 2 && new Set(levels).size === levels.length);

const impossibleOf = (rules: readonly ImpossibleBody[]): Impossible[] =>
  rules.map((rule) => ({ levels: Object.fromEntries(rule.levels.map(({ factor, level }) => [factor, level])), reason: rule.reason }));

export interface Candidate {
  levels: Record<string, string>;
  name: string;
  /** Why it cannot be had; null where it can. */
  struck: string | null;
  /** The variant that stands at these levels already. */
  variant: VariantBody | null;
}

/** Everything the factors allow, in full combination or as a ladder; a sentence instead where they allow too much. */
export function candidatesOf(body: StudyBody, school: 'full' | 'ladder'): { candidates: Candidate[] } | { sentence: string } {
  try {
    const made = (school === 'full' ? combinations : ladder)(body.factors, impossibleOf(body.impossible));
    return {
      candidates: made.map(({ levels, struck }) => ({
        levels,
        struck,
        name: body.factors.map((factor) => levels[factor.name]).join(', '),
        variant:
          body.variants.find((variant) => body.factors.every((factor) => levelsOf(variant)[factor.name] === levels[factor.name])) ?? null,
      })),
    };
  } catch (error) {
    if (error instanceof RangeError) return { sentence: asSentence(error.message) };
    throw error;
  }
}

/** Those in whose names all the words stand that were typed, in any order; all of them where nothing was. */
export function shownBy(candidates: readonly Candidate[], typed: string): Candidate[] {
  const words = typed.toLowerCase().split(/[\s,]+/).filter((word) => word !== ''); // prettier-ignore
  return candidates.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word)));
}

/** Adds the candidates as variants; those that stand there already are left alone. */
export function withCandidates(body: StudyBody, candidates: readonly Candidate[]): Partial<StudyBody> {
  const short = shortNames();
  const fresh = candidates
    .filter((candidate) => !candidate.variant && !candidate.struck)
    .map((candidate, i): VariantBody => ({
      id: crypto.randomUUID(),
      name: short(candidate.name),
      subjectId: body.subjects[0]!.id,
      isReference: body.variants.length === 0 && i === 0,
      setup: '',
      notes: '',
      levels: Object.entries(candidate.levels).map(([factor, level]) => ({ factor, level })),
      repeats: USUAL_REPEATS,
    }));
  return { variants: [...body.variants, ...fresh] };
}
