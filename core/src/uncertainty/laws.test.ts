import { describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { combineUncertainty, compare, repeatsNeeded, typeB, type CompareInput, type Estimate } from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';

const estimate = fc.record({
  value: fc.double({ min: 20, max: 110, noNaN: true }),
  u: fc.double({ min: 0, max: 3, noNaN: true }),
  dof: fc.oneof(fc.constant(Infinity), fc.double({ min: 1, max: 200, noNaN: true })),
});
const side = fc.array(estimate, { minLength: 2, maxLength: 6 });
const input = fc.record({ a: side, b: side, practicalK: fc.double({ min: 0.1, max: 5, noNaN: true }) });

describe('laws of compare', () => {
  it('is antisymmetric: swapping the sides turns the difference round and nothing else', () => {
    fc.assert(
      fc.property(input, ({ a, b, practicalK }) => {
        const [there, back] = [compare({ a, b, practicalK }), compare({ a: b, b: a, practicalK })];
        expect(back.difference.value).toBeCloseTo(-there.difference.value, 9);
        expect(back.difference.u).toBeCloseTo(there.difference.u, 9);
        expect(back.interval[0]).toBeCloseTo(-there.interval[1], 7);
        const mirror = { 'a-cooler': 'b-cooler', 'b-cooler': 'a-cooler', equivalent: 'equivalent', 'no-call': 'no-call' } as const;
        expect(back.verdict).toBe(mirror[there.verdict]);
        expect(back.repeatsToCall).toBe(there.repeatsToCall);
      }),
    );
  });

  it('does not care where zero is: five kelvin more on every run change nothing', () => {
    fc.assert(
      fc.property(input, ({ a, b, practicalK }) => {
        const warmer = (runs: Estimate[]) => runs.map((run) => ({ ...run, value: run.value + 5 }));
        const [plain, shifted] = [compare({ a, b, practicalK }), compare({ a: warmer(a), b: warmer(b), practicalK })];
        expect(shifted.difference.value).toBeCloseTo(plain.difference.value, 8);
        expect(shifted.difference.u).toBeCloseTo(plain.difference.u, 8);
      }),
    );
  });

  it('never grows surer by an independent line, and its shares always sum to one', () => {
    fc.assert(
      fc.property(input, fc.double({ min: 0.01, max: 2, noNaN: true }), ({ a, b, practicalK }, u) => {
        const plain = compare({ a, b, practicalK });
        const wider = compare({ a, b, practicalK, independent: [{ name: 'resolution', u }] });
        expect(wider.difference.u).toBeGreaterThanOrEqual(plain.difference.u);
        expect(wider.difference.u ** 2).toBeCloseTo(plain.difference.u ** 2 + u ** 2, 8);
        for (const { budget } of [plain, wider]) expect(budget.shares.reduce((sum, line) => sum + line.share, 0)).toBeCloseTo(1, 9);
      }),
    );
  });

  it('calls by the interval and by nothing else', () => {
    fc.assert(
      fc.property(input, ({ a, b, practicalK }) => {
        const { interval, verdict, difference, repeatsToCall } = compare({ a, b, practicalK });
        const [low, high] = interval;
        const inside = low >= -practicalK && high <= practicalK;
        const beyond = low > 0 || high < 0;
        if (inside) expect(verdict).toBe('equivalent');
        else if (beyond) expect(verdict).toBe(difference.value > 0 ? 'a-cooler' : 'b-cooler');
        else expect(verdict).toBe('no-call');
        if (verdict !== 'no-call') expect(repeatsToCall).toBeNull();
      }),
    );
  });

  it('widens with coverage', () => {
    const base: CompareInput = { a: [50, 50.4, 49.8].map(sure), b: [51, 51.3, 50.6].map(sure), practicalK: 0.3 };
    const widths = [0.5, 0.8, 0.95, 0.99].map((coverage) => {
      const { interval } = compare({ ...base, coverage });
      return interval[1] - interval[0];
    });
    expect(widths).toEqual([...widths].sort((p, q) => p - q));
  });

  it('advises a number of runs that does decide, in most trials', () => {
    const normal = seededNormal(7);
    const sample = (centre: number, n: number) => Array.from({ length: n }, () => sure(centre + 0.5 * normal()));
    let called = 0;
    for (let trial = 0; trial < 300; trial++) {
      const n = repeatsNeeded({ sd: 0.5, detect: 0.8 });
      const { verdict } = compare({ a: sample(50, n), b: sample(50.8, n), practicalK: 0.1 });
      if (verdict === 'a-cooler') called++;
    }
    expect(called / 300).toBeGreaterThan(0.73);
    expect(called / 300).toBeLessThan(0.9);
  });

  it('has no number to advise where none would do', () => {
    const apart = (difference: number, independent: { name: string; u: number }[] = []) =>
      compare({ a: [sure(50), sure(52)], b: [sure(50 + difference), sure(52 + difference)], practicalK: 0.001, independent });
    expect(apart(0).repeatsToCall).toBeNull();
    expect(apart(0.01).repeatsToCall).toBeNull(); // more than a thousand
    expect(apart(1, [{ name: 'another sensor', u: 0.6 }]).repeatsToCall).toBeNull(); // 2u above the difference
    expect(apart(1).repeatsToCall).toBeGreaterThan(2);
  });

  it.each([
    ['an unlimited history', { sd: 0.3, dof: Infinity }, 0.3 * Math.sqrt(2 / 2)],
    ['one that knows nothing of scatter', { sd: 0, dof: 10 }, Math.sqrt(((0.5 * 0.2 ** 2 + 0.5 * 0.2 ** 2) / 12) * (2 / 2))],
  ])('pools with %s', (_what, repeatability, expected) => {
    const { difference } = compare({ a: [sure(50), sure(50.2)], b: [sure(51), sure(51.2)], practicalK: 0.1, repeatability });
    expect(difference.u).toBeCloseTo(expected, 9);
  });

  it('keeps its arguments as they were', () => {
    const frozen = Object.freeze([50, 51].map((value) => Object.freeze(sure(value)))) as unknown as Estimate[];
    expect(() => compare({ a: frozen, b: frozen, practicalK: 1 })).not.toThrow();
  });
});

function sure(value: number): Estimate {
  return { value, u: 0, dof: Infinity };
}

describe('laws of combineUncertainty', () => {
  const component = fc.record({
    name: fc.string(),
    u: fc.double({ min: 1e-6, max: 100, noNaN: true }),
    dof: fc.double({ min: 0.5, max: 1e5, noNaN: true }),
    sensitivity: fc.oneof(fc.double({ min: 0.1, max: 10, noNaN: true }), fc.double({ min: -10, max: -0.1, noNaN: true })),
  });
  it('adds variances, in any order', () => {
    fc.assert(
      fc.property(fc.array(component, { minLength: 1, maxLength: 8 }), (components) => {
        const there = combineUncertainty(components);
        const back = combineUncertainty([...components].reverse());
        expect(back.u).toBeCloseTo(there.u, 9);
        const variance = components.reduce((sum, { u, sensitivity }) => sum + (u * sensitivity) ** 2, 0);
        expect(Math.abs(there.u ** 2 - variance)).toBeLessThan(1e-9 * Math.max(1, variance));
        expect(there.expanded).toBeCloseTo(there.k * there.u, 9);
      }),
    );
  });
  it('has degrees of freedom between the least and the sum of its lines', () => {
    fc.assert(
      fc.property(fc.array(component, { minLength: 1, maxLength: 8 }), (components) => {
        const { dof } = combineUncertainty(components);
        expect(dof).toBeGreaterThanOrEqual(Math.min(...components.map((line) => line.dof)) * (1 - 1e-9));
        expect(dof).toBeLessThanOrEqual(components.reduce((sum, line) => sum + line.dof, 0) * (1 + 1e-9));
      }),
    );
  });
  it('is not upset by lines of very different size', () => {
    expect(
      combineUncertainty([
        { name: 'large', u: 1, dof: 9 },
        { name: 'tiny', u: 1e-120, dof: 2 },
      ]),
    ).toMatchObject({ u: 1, dof: 9 });
  });
});

describe('laws of typeB and repeatsNeeded', () => {
  it('orders its shapes: a triangle is surer than a rectangle', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 100, noNaN: true }), (halfWidth) => {
        expect(typeB(halfWidth, 'triangular')).toBeLessThan(typeB(halfWidth, 'rectangular'));
        expect(typeB(2 * halfWidth, 'rectangular')).toBeCloseTo(2 * typeB(halfWidth, 'rectangular'), 9);
      }),
    );
  });
  it('depends on the ratio of scatter and difference only', () => {
    for (const factor of [0.1, 3, 1000])
      expect(repeatsNeeded({ sd: 0.4 * factor, detect: 0.5 * factor })).toBe(repeatsNeeded({ sd: 0.4, detect: 0.5 }));
  });
  it('asks for fewer pairs than runs a side for the same sd', () => {
    for (const detect of [0.3, 0.5, 1])
      expect(repeatsNeeded({ sd: 1, detect, design: 'paired' })).toBeLessThan(repeatsNeeded({ sd: 1, detect }));
  });
  it('asks for more where the test is stricter or the power higher', () => {
    const n = (alpha: number, power: number) => repeatsNeeded({ sd: 1, detect: 0.7, alpha, power });
    expect(n(0.01, 0.8)).toBeGreaterThan(n(0.05, 0.8));
    expect(n(0.05, 0.95)).toBeGreaterThan(n(0.05, 0.8));
  });
});
