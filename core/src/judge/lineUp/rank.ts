import { standsInOrder } from '../fair/stands.ts';
import { callOf } from '../pair/call.ts';
import { studentCoverage } from '../../distributions/studentT.ts';
import { InsufficientDataError } from '../../errors.ts';
import type { Estimate } from '../../estimate.ts';
import { mean } from '../../mean.ts';
import { holm } from '../../uncertainty/holm.ts';
import { pOf } from '../../uncertainty/pOf.ts';
import { scatterFor, withScatterOf } from '../figure/scatter.ts';
import { figureByItself } from '../figure/sideFigure.ts';
import { assumedScatter, compareReadings, outcomeKind, type OutcomeKind } from '../outcome/outcomes.ts';
import { compareAt, type ComparedAt } from '../pair/compareAt.ts';
import {
  blockedBetween,
  standsBetween,
  figuresAt,
  groupsBeside,
  benchBeside,
  historyBeside,
  readingsOf,
  runsOf,
  spotOf,
  type LineUp,
  type LineUpKey,
  type LineUpSide,
} from './lineUp.ts';
import type { Call, Finding } from '../types.ts';

export interface RankedSide {
  variantId: string;
  name: string;
  runs: number;
  mean: number;
  /** Half-width of its own interval at the study's coverage, with everything in it that does not cancel in a single figure. */
  halfWidth: number;
  /** Which set of comparable sides it is in, from 0: sides of two sets must not be held against each other. */
  set: number;
  /** Letters of the groups it belongs to: two that share one cannot be told apart. Letters of two sets are never the same. */
  groups: string;
}

export interface RankedPair {
  a: string;
  b: string;
  /** b − a. */
  difference: number;
  /** Corrected by Holm over all pairs that may be called; 1 for those that may not. */
  p: number;
  different: boolean;
  /** null where it is told apart or not; the block where the pair must not be called. */
  call: Call | null;
}

export interface Ranking {
  /** Best first within each set; the largest set first. */
  sides: RankedSide[];
  pairs: RankedPair[];
  /** A stated scatter stands in for some pair, because a side has one reading and the bench has no history. */
  assumed: boolean;
  /** What keeps sets apart; nothing where all may be ranked together. */
  blockedBy: Finding[];
  /** The cheapest to mend of what keeps differences from being called. */
  withheldBy: Finding[];
  without: string[];
}

/** a to z, then aa, ab and on: no two groups share a name. */
function letterOf(k: number): string {
  const last = String.fromCharCode(97 + (k % 26));
  return k < 26 ? last : letterOf(Math.floor(k / 26) - 1) + last;
}

/** Letters for stretches of the ranked list in which no two differ. */
function letters(n: number, different: (i: number, j: number) => boolean, from: number): { groups: string[]; used: number } {
  const stretches: [number, number][] = [];
  for (let start = 0; start < n; start++) {
    let to = start;
    const fits = (next: number) => Array.from({ length: next - start }, (_, k) => start + k).every((k) => !different(k, next));
    while (to + 1 < n && fits(to + 1)) to++;
    if (!stretches.some(([, end]) => end >= to)) stretches.push([start, to]);
  }
  const groups = Array.from({ length: n }, (_, i) =>
    stretches.flatMap(([start, to], k) => (i >= start && i <= to ? [letterOf(from + k)] : [])).join(''),
  );
  return { groups, used: stretches.length };
}

/** Sides in sets within which each may be called against every other: a side joins the first set that takes it, the largest set first. */
export function comparableSets<T extends { side: LineUpSide }>(of: LineUp, entries: readonly T[]): T[][] {
  const sets: T[][] = [];
  const fits = (set: T[], entry: T) => set.every((other) => blockedBetween(of, other.side.variantId, entry.side.variantId).length === 0);
  for (const entry of entries) {
    const set = sets.find((candidate) => fits(candidate, entry));
    if (set) set.push(entry);
    else sets.push([entry]);
  }
  return sets.sort((p, q) => q.length - p.length);
}

/** Half-width of an outcome's own mean at the study's coverage. */
function outcomeHalfWidth(
  readings: readonly Estimate[],
  kind: OutcomeKind,
  coverage: number,
  others: readonly (readonly Estimate[])[],
): number {
  const values = readings.map((estimate) => estimate.value);
  const { lent } = scatterFor(readings, [], withScatterOf(null, others), assumedScatter(kind, mean(values)));
  const scatter = withScatterOf(lent, [readings])!;
  const floor = Math.hypot(...readings.map((estimate) => estimate.u)) / values.length;
  return studentCoverage(coverage, scatter.dof) * Math.max(floor, scatter.sd / Math.sqrt(values.length));
}

/**
 * Ranks all variants by one figure, and says which of them cannot be told apart: every pair by the rule of the pair itself, with its
 * scatter and its doubt, corrected by Holm for their number. Sides that must not be held against each other (`mayBeCalled`) stand in
 * sets of their own.
 *
 * @throws InsufficientDataError fewer than two variants have a reading
 */
export function rankLineUp(of: LineUp, key: LineUpKey): Ranking {
  const { rules } = of;
  const read = of.sides.map((side) => ({ side, readings: readingsOf(side, key) }));
  const sides = read.filter(({ readings }) => readings.length > 0);
  if (sides.length < 2) throw new InsufficientDataError('a ranking needs two variants with a reading');
  const spotId = 'spotId' in key ? key.spotId : null;
  const spot = spotId === null ? null : spotOf(of, spotId);
  const kind = 'outcome' in key ? outcomeKind(key.outcome, rules) : null;
  const better = kind?.better ?? 'low';
  const halfWidth = (entry: (typeof sides)[number]) =>
    'outcome' in key
      ? outcomeHalfWidth(entry.readings, kind!, rules.coverage, groupsBeside(of, key.outcome, [entry.side]))
      : figureByItself(figuresAt(entry.side, key.spotId), spot!, rules, historyBeside(of, key.spotId, [entry.side]))!.budget.expanded;
  const valued = sides.map((entry) => ({ ...entry, mean: mean(entry.readings.map((estimate) => estimate.value)) }));
  // What blocks a comparison of temperatures leaves work and noise free to speak.
  const sets = (spotId === null ? [valued] : comparableSets(of, valued)).map((set) =>
    set.sort((p, q) => (better === 'low' ? p.mean - q.mean : q.mean - p.mean)),
  );
  const sorted = sets.flatMap((set, at) => set.map((entry) => ({ ...entry, set: at })));
  let assumed = false;
  const between = (p: (typeof sorted)[number], q: (typeof sorted)[number]): Pick<ComparedAt, 'comparison' | 'stands' | 'coverage'> => {
    if ('outcome' in key) {
      const made = compareReadings(p.readings, q.readings, kind!, rules.coverage, groupsBeside(of, key.outcome, [p.side, q.side]));
      assumed ||= made?.assumed ?? false;
      return { comparison: made?.comparison ?? null, stands: [], coverage: rules.coverage };
    }
    const named = (entry: typeof p) => ({ name: entry.side.name, readings: figuresAt(entry.side, key.spotId) });
    const made = compareAt(named(p), named(q), spot!, rules, benchBeside(of, key.spotId, [p.side, q.side]), { advice: false });
    assumed ||= made.scatter?.assumed ?? false;
    return made;
  };
  const pairs = sorted.flatMap((p, i) =>
    sorted.slice(i + 1).map((q, k) => {
      const stands = spotId === null ? [] : standsBetween(of, p.side.variantId, q.side.variantId);
      const by = stands.filter(({ severity }) => severity === 'blocks');
      const none = { comparison: null, stands: [], coverage: rules.coverage };
      const { comparison, stands: own, coverage } = by.length > 0 ? none : between(p, q);
      const call = callOf({ comparison, refusal: by[0]?.evidence ?? null, stands: own }, stands, rules.practicalK);
      return { i, j: i + 1 + k, p, q, by, own, call, coverage, raw: comparison ? pOf(comparison.difference) : null };
    }),
  );
  const adjusted = holm(pairs.flatMap(({ raw }) => (raw === null ? [] : [raw])));
  let next = 0;
  const told = pairs.map((pair) => {
    const p = pair.raw === null ? 1 : adjusted[next++]!;
    return { ...pair, p1: p, different: p < 1 - pair.coverage && pair.call.kind !== 'withheld' };
  });
  // Asked for thousands of times where there are many sides.
  const apart = new Set(told.flatMap(({ i, j, different }) => (different ? [i * sorted.length + j] : [])));
  const differ = (i: number, j: number) => apart.has(i * sorted.length + j);
  const starts = sets.map((_, at) => sets.slice(0, at).reduce((sum, set) => sum + set.length, 0));
  let used = 0;
  const groups = sets.flatMap((set, at) => {
    const made = letters(set.length, (i, j) => differ(starts[at]! + i, starts[at]! + j), used);
    used += made.used;
    return made.groups;
  });
  const blocks = told.flatMap(({ by }) => by);
  return {
    sides: sorted.map((entry, i) => ({
      variantId: entry.side.variantId,
      name: entry.side.name,
      runs: runsOf(entry.side, key),
      mean: entry.mean,
      halfWidth: halfWidth(entry),
      set: entry.set,
      groups: groups[i]!,
    })),
    pairs: told.map(({ p, q, by, call, p1, different }) => ({
      a: p.side.variantId,
      b: q.side.variantId,
      difference: q.mean - p.mean,
      p: p1,
      different,
      call: by[0]
        ? { kind: 'blocked', why: by[0].evidence, earnBy: null, likely: null, byItself: false }
        : call.kind === 'withheld'
          ? call
          : null,
    })),
    assumed,
    withheldBy: standsInOrder(
      told.flatMap(({ p, q, own, call }) =>
        call.kind === 'withheld' ? [...own, ...(spotId === null ? [] : standsBetween(of, p.side.variantId, q.side.variantId))] : [],
      ),
    ).slice(0, 1),
    blockedBy: blocks.filter((found, i) => blocks.findIndex((other) => other.evidence === found.evidence) === i),
    without: read.filter(({ readings }) => readings.length === 0).map(({ side }) => side.name),
  };
}
