import { inverse } from '../inverse.ts';
import { seededUniform } from '../seeded.ts';
import { assertDesign, type Factor, type Levels } from './aliases.ts';

export interface Fraction<T> {
  /** Those that were chosen, in the order in which they were offered. */
  chosen: T[];
  /**
   * How well main effects are told apart by what is there and what was chosen, 0 to 1: 1 where no factor's effect has any share of
   * another's and every level comes equally often (D-efficiency). 0 where some effect cannot be told at all.
   */
  efficiency: number;
}

/** Searches from chance beginnings: more of them where a search is quick. */
const BEGINNINGS = { few: 4, many: 100, manyUpTo: 600 };

/** The fewest runs that can tell all main effects: one, and one for every further level. */
export const fewestForMainEffects = (factors: readonly Factor[]): number =>
  1 + factors.reduce((sum, { levels }) => sum + levels.length - 1, 0);

/** One row of the model matrix: 1, then for every factor contrasts of its levels that are of size 1 and at right angles over all levels (Helmert). */
function rowOf(factors: readonly Factor[], levels: Levels): number[] {
  return [
    1,
    ...factors.flatMap(({ name, levels: all }) => {
      const at = all.indexOf(levels[name]!);
      return all.slice(1).map((_, k) => {
        const size = Math.sqrt(all.length / ((k + 1) * (k + 2)));
        return at <= k ? -size : at === k + 1 ? size * (k + 1) : 0;
      });
    }),
  ];
}

function gram(rows: readonly (readonly number[])[], ridge: number): number[][] {
  const p = rows[0]!.length;
  const sum = Array.from({ length: p }, (_, i) => Array.from({ length: p }, (__, j) => (i === j ? ridge : 0)));
  for (const row of rows) for (let i = 0; i < p; i++) for (let j = 0; j < p; j++) sum[i]![j]! += row[i]! * row[j]!;
  return sum;
}

/** Logarithm of the determinant of a symmetric matrix; −Infinity where it is singular. */
function logDet(matrix: readonly (readonly number[])[]): number {
  const rows = matrix.map((row) => [...row]);
  let sum = 0;
  for (let k = 0; k < rows.length; k++) {
    const pivot = rows[k]![k]!;
    if (!(pivot > 1e-9 * matrix[k]![k]!)) return -Infinity;
    sum += Math.log(pivot);
    for (let i = k + 1; i < rows.length; i++) {
      const share = rows[i]![k]! / pivot;
      for (let j = k; j < rows.length; j++) rows[i]![j]! -= share * rows[k]![j]!;
    }
  }
  return sum;
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, value, i) => sum + value * b[i]!, 0);
const times = (matrix: readonly (readonly number[])[], v: readonly number[]) => matrix.map((row) => dot(row, v));

/**
 * Of combinations of levels those few that keep main effects apart best, beside runs that are there already: exchange of one run for
 * another for as long as the determinant of the information grows, from several seeded beginnings.
 *
 * @param offered combinations that can be had; none is chosen twice
 * @param count how many to choose
 * @param there levels of runs that stand already
 * @returns all that are offered where they are no more than `count`
 * @throws RangeError as assertDesign
 * @see Fedorov 1972, Theory of Optimal Experiments; Cook & Nachtsheim 1980, Technometrics 22, 315
 */
export function fractionOf<T extends { levels: Levels }>(
  factors: readonly Factor[],
  offered: readonly T[],
  count: number,
  there: readonly { levels: Levels }[] = [],
): Fraction<T> {
  assertDesign(factors, [...offered, ...there]);
  const rows = offered.map(({ levels }) => rowOf(factors, levels));
  const fixed = there.map(({ levels }) => rowOf(factors, levels));
  const quality = (of: readonly number[]) => logDet(gram([...fixed, ...of.map((i) => rows[i]!)], 0));
  let best = count > 0 ? offered.map((_, i) => i) : [];
  if (count > 0 && count < offered.length) {
    const random = seededUniform(offered.length * 31 + count);
    let bestValue = -Infinity;
    // Nothing is better than effects that have nothing of each other.
    const perfect = fewestForMainEffects(factors) * Math.log(count + fixed.length) - 1e-9;
    for (let begin = 0; begin < (offered.length <= BEGINNINGS.manyUpTo ? BEGINNINGS.many : BEGINNINGS.few); begin++) {
      const found = exchanged(rows, fixed, shuffled(offered.length, random).slice(0, count));
      const value = quality(found);
      if (value > bestValue || begin === 0) [best, bestValue] = [found, value];
      if (bestValue >= perfect) break;
    }
  }
  best.sort((a, b) => a - b);
  const n = best.length + fixed.length;
  const p = fewestForMainEffects(factors);
  return { chosen: best.map((i) => offered[i]!), efficiency: n === 0 ? 0 : Math.min(1, Math.exp(quality(best) / p) / n) };
}

function shuffled(n: number, random: () => number): number[] {
  const order = Array.from({ length: n }, (_, i) => i);
  for (let i = n - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
  return order;
}

function exchanged(rows: readonly number[][], fixed: readonly number[][], begin: readonly number[]): number[] {
  const design = [...begin];
  const used = new Set(design);
  // A little of everything, so that a beginning that cannot tell some effect has somewhere to go.
  const invert = () => inverse(gram([...fixed, ...design.map((i) => rows[i]!)], 1e-3))!;
  let turned = invert();
  for (let pass = 0; pass < 20; pass++) {
    let better = false;
    for (let k = 0; k < design.length; k++) {
      const out = rows[design[k]!]!;
      const turnedOut = times(turned, out);
      const dOut = dot(out, turnedOut);
      let [most, into] = [1e-9, -1];
      rows.forEach((row, i) => {
        if (used.has(i)) return;
        const dIn = dot(row, times(turned, row));
        const both = dot(row, turnedOut);
        // By what the determinant grows when one goes out and the other comes in.
        const gain = dIn - (dIn * dOut - both * both) - dOut;
        if (gain > most) [most, into] = [gain, i];
      });
      if (into < 0) continue;
      used.delete(design[k]!);
      used.add(into);
      design[k] = into;
      turned = invert();
      better = true;
    }
    if (!better) break;
  }
  return design;
}
