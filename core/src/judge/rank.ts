import { studentCdf, studentCoverage } from '../distributions/studentT.ts';
import { InsufficientDataError } from '../errors.ts';
import { pooledRepeatability } from '../uncertainty/pooledRepeatability.ts';
import { typeB } from '../uncertainty/typeB.ts';
import { ASSUMED_REPEATABILITY } from './judgePair.ts';
import { mean, readingsOf, type Field, type FieldKey } from './field.ts';
import { OUTCOMES } from './outcomes.ts';

/**
 * Holm's step-down correction of p-values of one family.
 *
 * @param p each 0..1, in any order
 * @returns adjusted p-values in the same order, at most 1
 * @throws RangeError a value outside 0..1
 * @see S. Holm, A simple sequentially rejective multiple test procedure, Scand. J. Statist. 6 (1979) 65
 */
export function holm(p: readonly number[]): number[] {
  for (const value of p) if (!(value >= 0 && value <= 1)) throw new RangeError(`a p-value lies between 0 and 1, got ${value}`);
  const order = p.map((value, i) => ({ value, i })).sort((x, y) => x.value - y.value);
  const adjusted = p.map(() => 1);
  let most = 0;
  order.forEach(({ value, i }, rank) => {
    most = Math.max(most, Math.min(1, value * (p.length - rank)));
    adjusted[i] = most;
  });
  return adjusted;
}

export interface RankedSide {
  variantId: string;
  name: string;
  runs: number;
  mean: number;
  /** Half-width of its own interval at the study's coverage, scatter pooled over all sides. */
  halfWidth: number;
  /** Letters of the groups it belongs to: two that share one cannot be told apart. */
  groups: string;
}

export interface Ranking {
  /** Best first. */
  sides: RankedSide[];
  pairs: { a: string; b: string; difference: number; p: number; different: boolean }[];
  /** Scatter between equal runs that the tests rest on. */
  sd: number;
  dof: number;
  /** A stated scatter stands in, because no side was repeated and the bench has no history. */
  assumed: boolean;
  without: string[];
}

/** Letters for stretches of the ranked list in which no two differ. */
function letters(n: number, different: (i: number, j: number) => boolean): string[] {
  const stretches: [number, number][] = [];
  for (let from = 0; from < n; from++) {
    let to = from;
    const fits = (next: number) => Array.from({ length: next - from }, (_, k) => from + k).every((k) => !different(k, next));
    while (to + 1 < n && fits(to + 1)) to++;
    if (!stretches.some(([, end]) => end >= to)) stretches.push([from, to]);
  }
  return Array.from({ length: n }, (_, i) =>
    stretches.flatMap(([from, to], k) => (i >= from && i <= to ? [String.fromCharCode(97 + (k % 26))] : [])).join(''),
  );
}

/**
 * Ranks all variants by one figure, and says which of them cannot be told apart: all pairs by t with scatter pooled over the sides
 * and the bench's history, corrected by Holm.
 *
 * @throws InsufficientDataError fewer than two variants have a reading
 */
export function rankField(field: Field, key: FieldKey): Ranking {
  const read = field.sides.map((side) => ({ side, values: readingsOf(side, key).map((estimate) => estimate.value) }));
  const sides = read.filter(({ values }) => values.length > 0);
  if (sides.length < 2) throw new InsufficientDataError('a ranking needs two variants with a reading');
  const spotId = 'spotId' in key ? key.spotId : null;
  const known = spotId ? field.history[spotId] : undefined;
  const own = pooledRepeatability(sides.map(({ values }) => values));
  const level = Math.abs(mean(sides[0]!.values));
  const outcome = 'outcome' in key ? OUTCOMES[key.outcome] : null;
  const stand = outcome
    ? { sd: 'absolute' in outcome.assumed ? outcome.assumed.absolute : outcome.assumed.share * level, dof: 4 }
    : ASSUMED_REPEATABILITY;
  const pooled = [own, known].filter((part) => part != null);
  const assumed = pooled.length === 0;
  const parts = assumed ? [stand] : pooled;
  const dof = parts.reduce((sum, part) => sum + part.dof, 0);
  const sd = Math.sqrt(parts.reduce((sum, part) => sum + part.dof * part.sd ** 2, 0) / dof);
  const resolution = field.spots.find((spot) => spot.id === spotId)?.resolutionK ?? 0;
  const step = typeB(resolution / 2, 'rectangular');
  const uOf = (n: number) => Math.hypot(sd / Math.sqrt(n), step);
  const k = studentCoverage(field.rules.coverage, dof);
  const better = outcome?.better ?? 'low';
  const sorted = sides
    .map(({ side, values }) => ({ side, n: values.length, mean: mean(values) }))
    .sort((p, q) => (better === 'low' ? p.mean - q.mean : q.mean - p.mean));
  const pairs = sorted.flatMap((p, i) =>
    sorted.slice(i + 1).map((q, j) => {
      const u = Math.hypot(uOf(p.n), uOf(q.n));
      const difference = q.mean - p.mean;
      const t = u > 0 ? Math.abs(difference) / u : Infinity;
      const raw = difference === 0 ? 1 : t === Infinity ? 0 : 2 * (1 - studentCdf(t, dof));
      return { i, j: i + 1 + j, a: p.side.variantId, b: q.side.variantId, difference, raw: Math.min(1, Math.max(0, raw)) };
    }),
  );
  const adjusted = holm(pairs.map((pair) => pair.raw));
  const isDifferent = pairs.map((_, i) => adjusted[i]! < 1 - field.rules.coverage);
  const different = (i: number, j: number) => isDifferent[pairs.findIndex((pair) => pair.i === i && pair.j === j)]!;
  const groups = letters(sorted.length, different);
  return {
    sides: sorted.map(({ side, n, mean: value }, i) => ({
      variantId: side.variantId,
      name: side.name,
      runs: n,
      mean: value,
      halfWidth: k * uOf(n),
      groups: groups[i]!,
    })),
    pairs: pairs.map(({ a, b, difference }, i) => ({ a, b, difference, p: adjusted[i]!, different: isDifferent[i]! })),
    sd,
    dof,
    assumed,
    without: read.filter(({ values }) => values.length === 0).map(({ side }) => side.name),
  };
}
