import {
  capital,
  listWords,
  kelvinPerMoney,
  meanFigure,
  meanOutcome,
  ownOutcome,
  rankLineUp,
  tradeOffs,
  InsufficientDataError,
  type Alike,
  type Choice,
  type Criterion,
  type LineUp,
  type LineUpKey,
  type LineUpSide,
  type OwnOutcome,
  type TradeOffs,
  midSentence,
} from '@red-ember/core';
import type { JudgingEntry, CriterionKey } from '../definition/judging.ts';
import { ownFiguresOf } from '../definition/ownFigures.ts';
import { levelsOf } from '../definition/plan.ts';
import type { StudyDefinition } from '../definition/study.ts';
import { partsOf, stepsOf } from '../mount/card.ts';
import { broughtBy, costOf } from '../mount/cost.ts';

/** Figures of the study's own that speak for a choice: those of which somebody said what is better. */
const weighed = (body: StudyDefinition) => ownFiguresOf(body).filter(({ better }) => better !== 'neither');

/** Criteria of a study, with what counts as no difference: the house's threshold, a decibel, nothing for money. */
function criteriaOf(body: StudyDefinition, currency: string, spotName: string, throughputUnit: string): Criterion[] {
  return [
    {
      key: 'temperature',
      label: midSentence(spotName),
      unit: body.rules.basis === 'rise' ? 'K' : '°C',
      better: 'low',
      tolerance: body.rules.practicalK,
      decimals: 1,
    },
    { key: 'noise', label: 'noise', unit: 'dB(A)', better: 'low', tolerance: 1, decimals: 1 },
    { key: 'cost', label: 'cost', unit: currency, better: 'low', tolerance: 0, decimals: 2 },
    { key: 'minutes', label: 'refit', unit: 'min', better: 'low', tolerance: 0, decimals: 0 },
    { key: 'weight', label: 'weight', unit: 'g', better: 'low', tolerance: 0, decimals: 0 },
    { key: 'throughput', label: 'throughput', unit: throughputUnit, better: 'high', tolerance: 0, decimals: 1 },
    { key: 'conductive', label: 'electricity', unit: '', better: 'low', tolerance: 0, yesNo: ['insulates', 'conducts'] },
    { key: 'cleaning', label: 'cleaning', unit: 'min', better: 'low', tolerance: 0, decimals: 0 },
    { key: 'cure', label: 'cure', unit: 'min', better: 'low', tolerance: 0, decimals: 0 },
    ...weighed(body).map(({ id, name, unit, better, practical }): Criterion => ({
      key: ownOutcome(id),
      label: name,
      unit,
      better: better === 'high' ? 'high' : 'low',
      tolerance: practical,
      decimals: 1,
    })),
  ];
}

/** Minutes that fitting this variant takes: what changing each differing factor from the reference does, or one mount; the reference is refitted. */
function minutesOf(body: StudyDefinition, variantId: string): number | null {
  const variant = body.variants.find((candidate) => candidate.id === variantId);
  const reference = body.variants.find((candidate) => candidate.isReference);
  if (!variant || !reference) return null;
  if (body.factors.length === 0) return body.plan.mountMin;
  if (variant.id === reference.id) return body.plan.remountMin;
  const [from, to] = [levelsOf(reference), levelsOf(variant)];
  return body.factors.reduce((sum, factor) => sum + (from[factor.name] === to[factor.name] ? 0 : factor.changeMin), 0);
}

/** What waits when a variant is taken off, and when it is put on, min: solvents that dry, and the steps of its cards. */
function waitsOf(body: StudyDefinition, variantId: string): Pick<Record<CriterionKey, number | null>, 'cleaning' | 'cure'> {
  const variant = body.variants.find((candidate) => candidate.id === variantId);
  if (!variant || (body.parts.length === 0 && body.steps.length === 0)) return { cleaning: null, cure: null };
  const waits = (when: 'off' | 'on') => stepsOf(body, variant, when).reduce((sum, { waitMin }) => sum + waitMin, 0);
  const dries = partsOf(body, variant).reduce((sum, { paste }) => sum + (paste?.dryMin ?? 0), 0);
  return { cleaning: waits('off') + dries, cure: waits('on') };
}

function valuesOf(body: StudyDefinition, side: LineUpSide, spotId: string): Record<CriterionKey | OwnOutcome, number | null> {
  const variant = body.variants.find((candidate) => candidate.id === side.variantId);
  const parts = variant ? partsOf(body, variant) : [];
  const priced = parts.length > 0;
  // Where parts are written down at all, a variant without any costs nothing.
  const free = body.parts.length > 0;
  return {
    temperature: meanFigure(side, spotId),
    noise: meanOutcome(side, 'noise') ?? (priced ? broughtBy(parts).noiseDb : null),
    cost: free ? costOf(parts) : null,
    minutes: minutesOf(body, side.variantId),
    weight: free ? broughtBy(parts).weightG : null,
    throughput: meanOutcome(side, 'throughput'),
    conductive: free ? Number(parts.some(({ conductive }) => conductive)) : null,
    ...waitsOf(body, side.variantId),
    ...Object.fromEntries(weighed(body).map(({ id }) => [ownOutcome(id), meanOutcome(side, ownOutcome(id))])),
  };
}

export interface ChoiceTable {
  choices: Choice[];
  /** Criteria that are known of two choices or more. */
  criteria: Criterion[];
  made: TradeOffs | null;
  /** Criteria that do not count although they are not left out: known of one choice or none, or the same for all. */
  idle: { key: string; label: string; why: 'unknown' | 'alike' }[];
  refusal: string | null;
  /** Kelvins for each unit of money against the reference, by id. */
  perMoney: Record<string, number | null>;
}

/** Which of the measured criteria tell two variants apart: by the ranking, corrected for their number; what is withheld tells nothing. */
function toldApart(field: LineUp, spotId: string): Alike {
  const own = (field.rules.own ?? []).map(({ id }) => ownOutcome(id));
  const keys: Record<string, LineUpKey> = {
    temperature: { spotId },
    ...Object.fromEntries((['noise', 'throughput', ...own] as const).map((outcome) => [outcome, { outcome }])),
  };
  const pairs = Object.fromEntries(
    Object.entries(keys).map(([criterion, key]) => {
      try {
        return [criterion, rankLineUp(field, key).pairs];
      } catch (error) {
        // Fewer than two were measured: what is stated of the others is taken as it is.
        if (error instanceof InsufficientDataError) return [criterion, []];
        throw error;
      }
    }),
  );
  return (p, q, criterion) => {
    const pair = pairs[criterion]?.find(({ a, b }) => (a === p && b === q) || (a === q && b === p));
    return pair !== undefined && !pair.different;
  };
}

/** All variants side by side, and the temperature that they are chosen by. */
export interface ChosenBy {
  field: LineUp;
  spotId: string;
  /** What it is called. */
  name: string;
}

/**
 * Choices of a study held against everything that is known of them.
 *
 * @param leave criteria that are not to count, by key
 */
export function choiceTable(
  body: StudyDefinition,
  judging: JudgingEntry,
  { field, spotId, name }: ChosenBy,
  leave: readonly string[] = [],
): ChoiceTable {
  const sides = field.sides.filter((side) => side.workRuns.length > 0);
  const all = criteriaOf(body, body.plan.currency ?? 'EUR', name, field.rules.throughputUnit ?? '');
  const choices = sides.map((side): Choice => ({ id: side.variantId, name: side.name, values: valuesOf(body, side, spotId) }));
  const known = (criterion: Criterion) => choices.filter((choice) => choice.values[criterion.key] != null).length;
  // What lies within its tolerance from one end to the other tells nobody apart.
  const differ = (criterion: Criterion) => {
    const values = choices.flatMap((choice) => choice.values[criterion.key] ?? []);
    return Math.max(...values) - Math.min(...values) > criterion.tolerance;
  };
  const criteria = all.filter((criterion) => known(criterion) > 1 && differ(criterion) && !leave.includes(criterion.key));
  const idle = all
    .filter(({ key }) => !leave.includes(key) && !criteria.some((criterion) => criterion.key === key))
    .map((criterion) => ({
      key: criterion.key,
      label: criterion.label,
      why: known(criterion) > 1 ? ('alike' as const) : ('unknown' as const),
    }));
  const reference = choices.find((choice) => body.variants.find((variant) => variant.id === choice.id)?.isReference);
  const money = (choice: Choice | undefined) => {
    const { temperature, cost } = choice?.values ?? {};
    return temperature == null || cost == null ? null : { tempK: temperature, cost };
  };
  const [from] = [money(reference)];
  const alike = toldApart(field, spotId);
  const perMoney = Object.fromEntries(
    choices.map((choice) => {
      const to = reference && alike(reference.id, choice.id, 'temperature') ? null : money(choice);
      return [choice.id, from && to ? kelvinPerMoney(from, to) : null];
    }),
  );
  const profiles = judging.profiles
    .map((profile) => ({
      name: profile.name,
      weights: Object.fromEntries(profile.weights.map(({ criterion, weight }) => [criterion, weight])),
    }))
    .filter((profile) => criteria.some((criterion) => (profile.weights[criterion.key] ?? 0) > 0));
  try {
    return { choices, criteria, idle, made: tradeOffs(choices, criteria, profiles, alike), refusal: null, perMoney };
  } catch (error) {
    if (!(error instanceof InsufficientDataError) && !(error instanceof RangeError)) throw error;
    return { choices, criteria, idle, made: null, refusal: error.message, perMoney };
  }
}

/** What counts for a reader and decides nothing here, and why; nothing where all of it decides. */
export function idleWords({ idle }: Pick<ChoiceTable, 'idle'>, weights: JudgingEntry['profiles'][number]['weights']): string {
  const counts = (key: string) => weights.some(({ criterion, weight }) => criterion === key && weight > 0);
  const of = (why: 'unknown' | 'alike') => idle.filter((entry) => entry.why === why && counts(entry.key)).map(({ label }) => label);
  const said = (labels: string[], why: string) =>
    labels.length === 0
      ? []
      : [
          `${capital(listWords(labels))} ${labels.length === 1 ? 'counts' : 'count'} for this reader and ${labels.length === 1 ? 'decides' : 'decide'} nothing here: ${why}.`,
        ];
  return [
    ...said(of('unknown'), 'fewer than two choices have a figure for it'),
    ...said(of('alike'), 'no two choices differ in it by what matters'),
  ].join(' ');
}
