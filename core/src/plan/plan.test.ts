import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  balancedOrder,
  detectableDifference,
  driftExposure,
  InsufficientDataError,
  orderCost,
  orderRuns,
  repeatsNeeded,
} from '../index.ts';
import { seededUniform } from '../seeded.ts';

function bench(n: number, seed: number) {
  const random = seededUniform(seed);
  const minutes = () => Math.round(random() * 60);
  return { changeMin: Array.from({ length: n }, () => Array.from({ length: n }, minutes)), startMin: Array.from({ length: n }, minutes) };
}

/** Every order there is. Slow, and independent. */
function bruteForce({ changeMin, startMin }: ReturnType<typeof bench>, pairs: [number, number][]): number {
  let best = Infinity;
  const walk = (order: number[]) => {
    if (order.length === startMin.length) {
      best = Math.min(best, orderCost(order, changeMin, startMin));
      return;
    }
    for (let run = 0; run < startMin.length; run++) {
      if (order.includes(run) || pairs.some(([i, j]) => j === run && !order.includes(i))) continue;
      walk([...order, run]);
    }
  };
  walk([]);
  return best;
}

describe('orderRuns', () => {
  it('finds the best order up to twelve runs, precedence kept', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
        const made = bench(n, seed);
        const random = seededUniform(seed + 1);
        const pairs: [number, number][] = [];
        for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) if (random() < 0.15) pairs.push([i, j]);
        const { order, totalMin, exact } = orderRuns({ ...made, mustPrecede: pairs });
        expect(exact).toBe(true);
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
        expect(totalMin).toBe(bruteForce(made, pairs));
        for (const [i, j] of pairs) expect(order.indexOf(i)).toBeLessThan(order.indexOf(j));
      }),
      { numRuns: 40 },
    );
  });
  it('comes within a few percent of the best where the search takes over', () => {
    // Thirteen runs of which one costs nothing to reach or leave: the best of the other twelve is known exactly.
    for (const seed of [1, 2, 3, 4]) {
      const twelve = bench(12, seed);
      const { totalMin: best } = orderRuns(twelve);
      const changeMin = [...twelve.changeMin.map((row) => [...row, 0]), [...twelve.startMin, 0]];
      const thirteen = orderRuns({ changeMin, startMin: [...twelve.startMin.map((m) => m + 500), 0] });
      expect(thirteen.exact).toBe(false);
      expect(thirteen.totalMin).toBeGreaterThanOrEqual(best);
      expect(thirteen.totalMin).toBeLessThanOrEqual(best * 1.05 + 1);
    }
  });
  it('groups forty runs by what is dear to change, keeps precedence, and repeats itself', () => {
    // Eight coolers of five runs each: changing the cooler takes 30 min, anything else 5.
    const n = 40;
    const changeMin = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, j) => (i % 8 === j % 8 ? 5 : 30)));
    const input = {
      changeMin,
      startMin: Array.from({ length: n }, () => 10),
      mustPrecede: [
        [39, 0],
        [0, 17],
      ] as [number, number][],
    };
    const found = orderRuns(input);
    expect(found.totalMin).toBe(10 + 7 * 30 + 32 * 5);
    expect(found.order.indexOf(39)).toBeLessThan(found.order.indexOf(0));
    expect(found.order.indexOf(0)).toBeLessThan(found.order.indexOf(17));
    expect(orderRuns(input)).toEqual(found);
  });
  it('refuses circles, unknown runs and senseless minutes', () => {
    const { changeMin, startMin } = bench(3, 1);
    expect(() =>
      orderRuns({
        changeMin,
        startMin,
        mustPrecede: [
          [0, 1],
          [1, 2],
          [2, 0],
        ],
      }),
    ).toThrow(/contradictory/);
    expect(() => orderRuns({ changeMin, startMin, mustPrecede: [[0, 0]] })).toThrow(RangeError);
    expect(() => orderRuns({ changeMin, startMin, mustPrecede: [[0, 3]] })).toThrow(/there are 3 runs/);
    expect(() => orderRuns({ changeMin: changeMin.slice(1), startMin })).toThrow(RangeError);
    expect(() => orderRuns({ changeMin, startMin: [1, NaN, 2] })).toThrow(RangeError);
    expect(() => orderRuns({ changeMin: [], startMin: [] })).toThrow(InsufficientDataError);
  });
});

describe('balancedOrder', () => {
  it('takes a steady drift out: every variant has the same mean place', () => {
    for (const seed of [1, 5, 9]) {
      const order = balancedOrder([4, 4, 4], seed);
      expect(driftExposure(order)).toBeCloseTo(0, 12);
      expect([0, 1, 2].map((variant) => order.filter((entry) => entry === variant).length)).toEqual([4, 4, 4]);
    }
    expect(driftExposure([0, 0, 1, 1])).toBeCloseTo(2 / 3, 12);
  });
  it('is A B B A for two, up to which comes first', () => {
    expect(['0,1,1,0', '1,0,0,1']).toContain(balancedOrder([2, 2], 3).join(','));
    expect(balancedOrder([2, 2], 3)).toEqual(balancedOrder([2, 2], 3));
  });
  it('copes with unequal repeats and refuses broken ones', () => {
    const order = balancedOrder([3, 1, 2]);
    expect([0, 1, 2].map((variant) => order.filter((entry) => entry === variant).length)).toEqual([3, 1, 2]);
    expect(() => balancedOrder([1.5])).toThrow(RangeError);
    expect(balancedOrder([])).toEqual([]);
  });
});

describe('detectableDifference', () => {
  it('is the inverse of repeatsNeeded', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 40 }), fc.constantFrom('two-sample' as const, 'paired' as const), (runs, design) => {
        const detect = detectableDifference({ sd: 0.4, runs, design });
        expect(repeatsNeeded({ sd: 0.4, detect: detect * 1.0001, design })).toBe(runs);
        expect(repeatsNeeded({ sd: 0.4, detect: detect * 0.97, design })).toBeGreaterThan(runs - 1);
      }),
      { numRuns: 30 },
    );
  });
  it('agrees with a published table: d = 1.5 is found with 80 % by 8 a side, d = 1.2 by 12', () => {
    expect(detectableDifference({ sd: 1, runs: 8 })).toBeCloseTo(1.5, 1);
    expect(detectableDifference({ sd: 1, runs: 12 })).toBeCloseTo(1.2, 1);
    expect(() => detectableDifference({ sd: 1, runs: 1 })).toThrow(RangeError);
  });
});
