import { InsufficientDataError, requireNotNegative } from '../errors.ts';
import { seededUniform } from '../seeded.ts';

export interface OrderInput {
  /** Minutes from run i to run j, shape [n][n]; the diagonal is not used. */
  changeMin: number[][];
  /** Minutes from an idle bench to run i, shape [n]. */
  startMin: number[];
  /** Pairs [i, j]: i before j. */
  mustPrecede?: [number, number][];
  /** Of the search beyond 12 runs; default 1. */
  seed?: number;
}

export interface RunOrder {
  order: number[];
  totalMin: number;
  /** True where no better order exists. */
  exact: boolean;
}

/** Up to this many runs every subset is looked at. */
const EXACT_UP_TO = 12;

/** Minutes that an order takes. */
export function orderCost(order: readonly number[], changeMin: readonly (readonly number[])[], startMin: readonly number[]): number {
  return order.reduce((sum, run, k) => sum + (k === 0 ? startMin[run]! : changeMin[order[k - 1]!]![run]!), 0);
}

/** For every run, the runs that must come before it. @throws RangeError unknown runs, a run before itself, a circle */
function predecessors(n: number, pairs: readonly (readonly [number, number])[]): Set<number>[] {
  const before = Array.from({ length: n }, () => new Set<number>());
  for (const [i, j] of pairs) {
    for (const run of [i, j])
      if (!Number.isInteger(run) || run < 0 || run >= n) throw new RangeError(`mustPrecede names run ${run}; there are ${n} runs`);
    if (i === j) throw new RangeError(`run ${i} cannot come before itself`);
    before[j]!.add(i);
  }
  // Take away what is free until nothing is left; where nothing is free any more there is a circle.
  const left = new Set(before.keys());
  while (left.size > 0) {
    const free = [...left].filter((run) => [...before[run]!].every((other) => !left.has(other)));
    if (free.length === 0) throw new RangeError(`contradictory precedence: runs ${[...left].join(', ')} each wait for another of them`);
    for (const run of free) left.delete(run);
  }
  return before;
}

/** Dynamic programme over subsets (Held & Karp), one state for every set of runs made and the last of them. */
function exactOrder(n: number, cost: number[][], start: number[], before: Set<number>[]): number[] {
  const full = 1 << n;
  const needs = before.map((set) => [...set].reduce((mask, run) => mask | (1 << run), 0));
  const best = new Float64Array(full * n).fill(Infinity);
  const from = new Int8Array(full * n).fill(-1);
  for (let run = 0; run < n; run++) if (needs[run] === 0) best[(1 << run) * n + run] = start[run]!;
  for (let made = 1; made < full; made++) {
    for (let last = 0; last < n; last++) {
      const here = best[made * n + last]!;
      if (here === Infinity) continue;
      for (let next = 0; next < n; next++) {
        if (made & (1 << next) || (needs[next]! & made) !== needs[next]) continue;
        const at = (made | (1 << next)) * n + next;
        const total = here + cost[last]![next]!;
        if (total < best[at]!) {
          best[at] = total;
          from[at] = last;
        }
      }
    }
  }
  let made = full - 1;
  let last = 0;
  for (let run = 1; run < n; run++) if (best[made * n + run]! < best[made * n + last]!) last = run;
  const order: number[] = [];
  while (last >= 0) {
    order.push(last);
    const previous = from[made * n + last]!;
    made &= ~(1 << last);
    last = previous;
  }
  return order.reverse();
}

/** Always the cheapest run that is free next, from a given first one. */
function greedyOrder(first: number, n: number, cost: number[][], before: Set<number>[]): number[] {
  const order = [first];
  const left = new Set(Array.from({ length: n }, (_, i) => i).filter((run) => run !== first));
  while (left.size > 0) {
    const last = order[order.length - 1]!;
    let next = -1;
    for (const run of left) {
      if ([...before[run]!].some((other) => left.has(other))) continue;
      if (next < 0 || cost[last]![run]! < cost[last]![next]!) next = run;
    }
    order.push(next);
    left.delete(next);
  }
  return order;
}

/** Improves an order by moving stretches of up to four runs elsewhere, either way round, until no move gains. */
function improve(order: number[], cost: number[][], start: number[], before: Set<number>[]): number[] {
  const n = order.length;
  const step = (i: number, j: number) => (j < 0 ? 0 : i < 0 ? start[j]! : cost[i]![j]!);
  const allowed = (candidate: number[]) => {
    const place = new Int32Array(n);
    candidate.forEach((run, k) => (place[run] = k));
    return candidate.every((run) => [...before[run]!].every((other) => place[other]! < place[run]!));
  };
  let current = order;
  for (let gained = true; gained;) {
    gained = false;
    let bestGain = 1e-9;
    let bestOrder: number[] | null = null;
    for (let length = 1; length <= Math.min(4, n - 1); length++) {
      for (let i = 0; i + length <= n; i++) {
        const stretch = current.slice(i, i + length);
        const rest = [...current.slice(0, i), ...current.slice(i + length)];
        const at = (k: number) => (k < 0 || k >= rest.length ? -1 : rest[k]!);
        const inside = stretch.reduce((sum, run, k) => sum + (k === 0 ? 0 : cost[stretch[k - 1]!]![run]!), 0);
        const reversed = [...stretch].reverse();
        const insideReversed = reversed.reduce((sum, run, k) => sum + (k === 0 ? 0 : cost[reversed[k - 1]!]![run]!), 0);
        const out = step(at(i - 1), stretch[0]!) + inside + step(stretch[length - 1]!, at(i)) - step(at(i - 1), at(i));
        for (let j = 0; j <= rest.length; j++) {
          for (const [way, within] of [
            [stretch, inside],
            [reversed, insideReversed],
          ] as const) {
            if (way === reversed && length === 1) continue;
            const into = step(at(j - 1), way[0]!) + within + step(way[length - 1]!, at(j)) - step(at(j - 1), at(j));
            if (out - into <= bestGain) continue;
            const candidate = [...rest.slice(0, j), ...way, ...rest.slice(j)];
            if (!allowed(candidate)) continue;
            bestGain = out - into;
            bestOrder = candidate;
          }
        }
      }
    }
    if (bestOrder) {
      current = bestOrder;
      gained = true;
    }
  }
  return current;
}

/**
 * Order of runs with the least change-over, each run once.
 *
 * Going from one variant to another costs differently than back, so the problem is an asymmetric path through all runs with
 * precedence. Up to 12 runs a dynamic programme finds the best (Held & Karp 1962); beyond, the cheapest-next order from every
 * start is improved by moving stretches, then shaken and improved again by a seeded search, and `exact` is false.
 *
 * @param input.changeMin minutes, not negative
 * @throws InsufficientDataError no runs
 * @throws RangeError lists of unequal length, negative or infinite minutes, unknown runs, contradictory precedence
 * @see Held & Karp 1962, J. SIAM 10(1); Or 1976 for the moves of stretches
 */
export function orderRuns(input: OrderInput): RunOrder {
  const { changeMin, startMin, mustPrecede = [], seed = 1 } = input;
  const n = startMin.length;
  if (n === 0) throw new InsufficientDataError('there are no runs to order');
  if (changeMin.length !== n) throw new RangeError(`changeMin has ${changeMin.length} rows for ${n} runs`);
  startMin.forEach((minutes, i) => requireNotNegative(minutes, `startMin[${i}]`));
  changeMin.forEach((row, i) => {
    if (row.length !== n) throw new RangeError(`changeMin[${i}] has ${row.length} entries for ${n} runs`);
    row.forEach((minutes, j) => i !== j && requireNotNegative(minutes, `changeMin[${i}][${j}]`));
  });
  const before = predecessors(n, mustPrecede);
  const total = (order: readonly number[]) => orderCost(order, changeMin, startMin);
  if (n <= EXACT_UP_TO) {
    const order = exactOrder(n, changeMin, startMin, before);
    return { order, totalMin: total(order), exact: true };
  }
  const random = seededUniform(seed);
  const starts = Array.from({ length: n }, (_, i) => i).filter((run) => before[run]!.size === 0);
  const greedy = starts.map((first) => greedyOrder(first, n, changeMin, before)).sort((a, b) => total(a) - total(b));
  let best = greedy
    .slice(0, 4)
    .map((order) => improve(order, changeMin, startMin, before))
    .sort((a, b) => total(a) - total(b))[0]!;
  // Shake: cut the best order into three stretches and exchange the last two, where precedence lets them.
  const rounds = Math.max(12, Math.round(4000 / n));
  for (let round = 0; round < rounds; round++) {
    const [p, q] = [1 + Math.floor(random() * (n - 1)), 1 + Math.floor(random() * (n - 1))].sort((a, b) => a - b);
    if (p === q) continue;
    const reach = Math.min(n, q! + 1 + Math.floor(random() * 8));
    const shaken = [...best.slice(0, p), ...best.slice(q, reach), ...best.slice(p, q), ...best.slice(reach)];
    const place = new Map(shaken.map((run, k) => [run, k]));
    if (!shaken.every((run) => [...before[run]!].every((other) => place.get(other)! < place.get(run)!))) continue;
    const candidate = improve(shaken, changeMin, startMin, before);
    if (total(candidate) < total(best) - 1e-9) best = candidate;
  }
  return { order: best, totalMin: total(best), exact: false };
}
