import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ASSUMED_REPEATABILITY_K,
  balancedOrder,
  detectableDifference,
  driftExposure,
  endsPrecedence,
  expectedRunLength,
  keepsEnds,
  orderRuns,
  planLength,
  priceRepeats,
} from '../index.ts';

const NONE = { first: null, last: null };

describe('what always comes first and last', () => {
  it('asks nothing where nothing is held', () => {
    expect(endsPrecedence(['a', 'b', 'a'], NONE)).toEqual([]);
    expect(keepsEnds(['a', 'b', 'a'], NONE)).toBe(true);
  });

  it('puts the first before all others and the last after them', () => {
    const pairs = endsPrecedence(['a', 'b', 'c'], { first: 'c', last: 'a' });
    expect(pairs).toEqual(
      expect.arrayContaining([
        [2, 0],
        [2, 1],
        [1, 0],
      ]),
    );
    expect(new Set(pairs.map(String)).size).toBe(3);
  });

  it('is kept by every order that is sought with it, whatever the minutes', () => {
    const plan = fc.record({
      runs: fc.array(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 9 }),
      first: fc.constantFrom('a', 'b', null),
      last: fc.constantFrom('c', 'd', null),
      minutes: fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 81, maxLength: 81 }),
    });
    fc.assert(
      fc.property(plan, ({ runs, first, last, minutes }) => {
        const changeMin = runs.map((_, i) => runs.map((__, j) => (i === j ? 0 : minutes[i * 9 + j]!)));
        const { order } = orderRuns({ changeMin, startMin: runs.map(() => 5), mustPrecede: endsPrecedence(runs, { first, last }) });
        expect(
          keepsEnds(
            order.map((k) => runs[k]!),
            { first, last },
          ),
        ).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('notices an order that was rearranged against it', () => {
    expect(keepsEnds(['b', 'a', 'a'], { first: 'a', last: null })).toBe(false);
    expect(keepsEnds(['a', 'b', 'a'], { first: 'a', last: null })).toBe(false);
    expect(keepsEnds(['a', 'a', 'b'], { first: 'a', last: null })).toBe(true);
    expect(keepsEnds(['z', 'a', 'z'], { first: null, last: 'z' })).toBe(false);
    expect(keepsEnds(['a', 'z', 'z'], { first: 'a', last: 'z' })).toBe(true);
    // A variant with no runs left in the plan breaks nothing.
    expect(keepsEnds(['b', 'c'], { first: 'a', last: 'z' })).toBe(true);
    expect(keepsEnds([], { first: 'a', last: 'z' })).toBe(true);
  });

  it('refuses one variant as both', () => {
    expect(() => endsPrecedence(['a'], { first: 'a', last: 'a' })).toThrow(/both first and last/);
  });
});

describe('how long a plan takes', () => {
  const soak = { mode: 'fixed' as const, durationS: 600, capS: 600, loadPercent: 0 };
  const load = { mode: 'until-settled' as const, durationS: 600, capS: 3600, loadPercent: 100 };
  it('goes by earlier runs where there are any', () => {
    expect(expectedRunLength([1800, 3600, 5400], [load])).toEqual({ minutes: 60, from: 'runs' });
  });
  it('else by how long like parts took to settle, within what the recipe allows, else by its middle', () => {
    expect(expectedRunLength([], [soak, load])).toEqual({ minutes: 10 + 35, from: 'recipe' });
    expect(expectedRunLength([], [soak, load], [1500, 1500, 9000])).toEqual({ minutes: 10 + 25, from: 'like' });
    expect(expectedRunLength([], [soak, load], [60])).toEqual({ minutes: 10 + 10, from: 'like' });
    expect(expectedRunLength([], [{ ...load, steps: 4 }], [1200]).minutes).toBe(80);
    expect(expectedRunLength([], [soak], [1200])).toEqual({ minutes: 10, from: 'recipe' });
  });
  it('adds runs, cure and refits, and refuses less than nothing', () => {
    expect(planLength({ runs: 12, runMin: 50, cureMin: 30, changeOverMin: 240 })).toBe(1200);
    expect(planLength({ runs: 0, runMin: 50, cureMin: 30, changeOverMin: 0 })).toBe(0);
    expect(() => planLength({ runs: 2, runMin: -1, cureMin: 0, changeOverMin: 0 })).toThrow(RangeError);
    expect(() => planLength({ runs: 2, runMin: NaN, cureMin: 0, changeOverMin: 0 })).toThrow();
  });
});

describe('what repeats cost', () => {
  const price = (change: object = {}) => priceRepeats({ sd: 1, detectK: 1.5, alpha: 0.05, planned: 2, minutesPerRun: 60, ...change });

  it('agrees with the table of Cohen: d = 1.5 takes 9 a side, d = 1 takes 17, d = 0.5 takes 64', () => {
    expect([1.5, 1, 0.5].map((detectK) => price({ detectK }).needed)).toEqual([9, 17, 64]);
  });
  it('prices both sides', () => {
    expect(price().minutes).toBe(2 * 9 * 60);
    expect(price({ minutesPerRun: 0 }).minutes).toBe(0);
  });
  it('says what the planned runs see, and nothing of one run alone', () => {
    expect(price({ planned: 9 }).seesK).toBeLessThanOrEqual(1.5);
    expect(price({ planned: 8 }).seesK).toBeGreaterThan(1.5);
    expect(price({ planned: 5 }).seesK).toBe(detectableDifference({ sd: 1, runs: 5, alpha: 0.05 }));
    expect(price({ planned: 1 }).seesK).toBeNull();
    expect(price({ planned: 0 }).seesK).toBeNull();
  });
  it('needs more where the bench scatters more, the doubt is smaller, or the difference is finer', () => {
    const base = price().needed;
    expect(price({ sd: 2 }).needed).toBeGreaterThan(base);
    expect(price({ alpha: 0.01 }).needed).toBeGreaterThan(base);
    expect(price({ detectK: 0.8 }).needed).toBeGreaterThan(base);
    expect(price({ sd: ASSUMED_REPEATABILITY_K, detectK: 2 }).needed).toBe(3);
  });
  it('refuses a threshold of nothing and negative minutes', () => {
    expect(() => price({ detectK: 0 })).toThrow(RangeError);
    expect(() => price({ minutesPerRun: -5 })).toThrow(RangeError);
  });
});

describe('drift of a bench, simulated', () => {
  /** Mean difference between two variants where nothing differs but a drift over the runs. */
  const apparent = (order: readonly number[], driftAt: (k: number) => number) => {
    const mean = (variant: number) => {
      const places = order.flatMap((entry, k) => (entry === variant ? [driftAt(k)] : []));
      return places.reduce((sum, value) => sum + value, 0) / places.length;
    };
    return Math.abs(mean(0) - mean(1));
  };

  it('is the share that driftExposure says, for any order and any steady drift', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray([0, 0, 0, 1, 1, 1], { minLength: 6, maxLength: 6 }),
        fc.double({ min: 0.1, max: 8, noNaN: true }),
        (order, total) => {
          const steady = (k: number) => (total * k) / (order.length - 1);
          expect(apparent(order, steady)).toBeCloseTo(driftExposure(order) * total, 9);
        },
      ),
      { numRuns: 50 },
    );
  });
  it('falls out of a balanced order also where it starts off the mean, and shrinks where it bends', () => {
    const order = balancedOrder([4, 4], 3);
    expect(apparent(order, (k) => 3 + 0.7 * k)).toBeCloseTo(0, 9);
    const warmUp = (k: number) => 4 * (1 - Math.exp(-k / 3));
    expect(apparent(order, warmUp)).toBeLessThan(0.5 * apparent([0, 0, 0, 0, 1, 1, 1, 1], warmUp));
  });
});
