import { describe, expect, it } from 'vitest';
import { InsufficientDataError, combineUncertainty, compare, repeatsNeeded, repeatsToShowAlike, typeB, type Estimate } from '../index.ts';
import { normalCdf, normalQuantile } from '../distributions/normal.ts';
import { tTestPower } from '../distributions/noncentralT.ts';
import { studentCdf, studentCoverage } from '../distributions/studentT.ts';
import { seededNormal } from '@red-ember/testing/signals';

const sure = (value: number, u = 0): Estimate => ({ value, u, dof: Infinity });

describe('distributions', () => {
  it.each([
    // JCGM 100:2008 table G.2, 95.00 % and 99.00 % columns
    [1, 0.95, 12.71],
    [2, 0.95, 4.3],
    [5, 0.95, 2.57],
    [10, 0.95, 2.23],
    [50, 0.95, 2.01],
    [Infinity, 0.95, 1.96],
    [3, 0.99, 5.84],
    [10, 0.99, 3.17],
    [Infinity, 0.99, 2.576],
  ])('Student coverage for %s dof at %s is %s', (dof, coverage, expected) => {
    expect(Math.abs(studentCoverage(coverage, dof) - expected)).toBeLessThan(0.0051);
  });
  it('agrees with closed forms: one dof is Cauchy, two dof is algebraic', () => {
    expect(studentCdf(1, 1)).toBeCloseTo(0.75, 14);
    expect(studentCdf(Math.SQRT2, 2)).toBeCloseTo(0.5 + Math.SQRT2 / (2 * Math.sqrt(4)), 13);
    expect(studentCoverage(0.9, 2)).toBeCloseTo(0.9 * Math.sqrt(2 / (1 - 0.81)), 10);
  });
  it('is smooth into the normal for very many dof', () => {
    expect(studentCoverage(0.95, 1e7)).toBeCloseTo(1.959963984540054, 6);
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963984540054, 13);
    expect(normalCdf(-6)).toBeCloseTo(9.865876450376981e-10, 22);
  });
  it('has power alpha where there is nothing to find', () => {
    for (const dof of [1, 4, 38, 4000]) expect(tTestPower(0, dof, 0.05)).toBeCloseTo(0.05, 6);
  });
});

describe('typeB', () => {
  it('follows GUM 4.3', () => {
    expect(typeB(1, 'rectangular')).toBeCloseTo(1 / Math.sqrt(3), 15);
    expect(typeB(1, 'triangular')).toBeCloseTo(1 / Math.sqrt(6), 15);
    expect([typeB(1, 'normal'), typeB(3, 'normal', 3), typeB(0, 'rectangular')]).toEqual([0.5, 1, 0]);
    expect(() => typeB(1, 'normal', 0)).toThrow(RangeError);
    expect(() => typeB(NaN, 'normal')).toThrow(RangeError);
  });
});

describe('combineUncertainty', () => {
  it('reproduces the end-gauge example of GUM H.1: u 31.7 nm, 16 dof, U99 93 nm', () => {
    const budget = combineUncertainty(
      [
        { name: 'standard', u: 25, dof: 18 },
        { name: 'repeated observations', u: 5.8, dof: 24 },
        { name: 'comparator, random', u: 3.9, dof: 5 },
        { name: 'comparator, systematic', u: 6.7, dof: 8 },
        { name: 'expansion', u: 2.9, dof: 50 },
        { name: 'temperature', u: 16.6, dof: 2 },
      ],
      { coverage: 0.99 },
    );
    expect(budget.u).toBeCloseTo(31.7, 0);
    expect(Math.floor(budget.dof)).toBe(16);
    expect(Math.abs(budget.expanded - 93)).toBeLessThan(1.5);
  });
  it('keeps shares to one, even of nothing, and refuses an empty list', () => {
    expect(
      combineUncertainty([
        { name: 'a', u: 0 },
        { name: 'b', u: 0 },
      ]),
    ).toMatchObject({ u: 0, dof: Infinity, shares: [{ share: 0.5 }, { share: 0.5 }] });
    expect(() => combineUncertainty([])).toThrow(InsufficientDataError);
    expect(() => combineUncertainty([{ name: 'a', u: 1, dof: 0 }])).toThrow(RangeError);
  });
});

describe('repeatsNeeded', () => {
  it.each([
    // Cohen 1988, tables 2.4.1: two-sided 0.05
    [0.2, 0.8, 394],
    [0.5, 0.8, 64],
    [0.8, 0.8, 26],
    [1.0, 0.8, 17],
    [0.5, 0.9, 86],
    [0.8, 0.95, 42],
  ])('d %s at power %s takes %s a side', (detect, power, n) => {
    expect(Math.abs(repeatsNeeded({ sd: 1, detect, power }) - n)).toBeLessThanOrEqual(1);
  });
  it('never asks for fewer when less is to be found', () => {
    let last = 2;
    for (const detect of [6, 3, 2, 1.5, 1, 0.7, 0.4, 0.1]) {
      const n = repeatsNeeded({ sd: 1, detect });
      expect(n).toBeGreaterThanOrEqual(last);
      expect(tTestPower(detect * Math.sqrt(n / 2), 2 * n - 2, 0.05)).toBeGreaterThanOrEqual(0.8);
      last = n;
    }
  });
  it('refuses nonsense', () => {
    for (const bad of [
      { sd: 1, detect: -1 },
      { sd: -1, detect: 1 },
      { sd: 1, detect: 1, alpha: 1 },
      { sd: 1, detect: 1, power: 0 },
    ])
      expect(() => repeatsNeeded(bad)).toThrow(RangeError);
    expect(repeatsNeeded({ sd: 0, detect: 1 })).toBe(2);
  });
});

describe('compare', () => {
  it('is Welch without a history: the classic unequal-variance example', () => {
    // Welch interval by hand: s²/n of each side added, dof by Satterthwaite.
    const a = [27.5, 21.0, 19.0, 23.6, 17.0, 17.9].map((v) => sure(v));
    const b = [27.1, 22.0, 20.8, 23.4, 23.4, 23.5, 25.8, 22.0, 24.8].map((v) => sure(v));
    const variance = (values: Estimate[]) => {
      const mean = values.reduce((s, v) => s + v.value, 0) / values.length;
      return values.reduce((s, v) => s + (v.value - mean) ** 2, 0) / (values.length - 1) / values.length;
    };
    const [va, vb] = [variance(a), variance(b)];
    const result = compare({ a, b, practicalK: 0.1 });
    expect(result.difference.u).toBeCloseTo(Math.sqrt(va + vb), 12);
    expect(result.difference.dof).toBeCloseTo((va + vb) ** 2 / (va ** 2 / 5 + vb ** 2 / 8), 9);
    expect(result.verdict).toBe('no-call');
    expect(result.repeatsToCall).toBeGreaterThan(9);
  });
  it("lets a run's own doubt set a floor and no more", () => {
    const scattered = compare({ a: [sure(50, 0.01), sure(51, 0.01)], b: [sure(55, 0.01), sure(56, 0.01)], practicalK: 0.5 });
    expect(scattered.difference.u).toBeCloseTo(Math.sqrt(0.5), 12);
    const doubtful = compare({ a: [sure(50, 2), sure(50, 2)], b: [sure(55, 2), sure(55, 2)], practicalK: 0.5 });
    expect(doubtful.difference.u).toBeCloseTo(2, 12);
    expect(doubtful.difference.dof).toBe(Infinity);
  });
  it('adds independent lines once and pools history with both sides', () => {
    const result = compare({
      a: [sure(50)],
      b: [sure(51), sure(51.4)],
      practicalK: 0.2,
      repeatability: { sd: 0.3, dof: 9 },
      independent: [{ name: 'resolution', u: 0.1 }],
    });
    const pooled = (9 * 0.09 + 0.08) / 10;
    expect(result.difference.u).toBeCloseTo(Math.sqrt(pooled * 1.5 + 0.01), 12);
    expect(result.budget.shares.map((line) => line.name)).toEqual(['scatter between runs, pooled', 'resolution']);
  });
  it('prefers equivalent to a tiny certain difference, and is symmetric', () => {
    const a = [50, 50.01, 50.02].map((v) => sure(v));
    const b = [50.2, 50.21, 50.22].map((v) => sure(v));
    expect(compare({ a, b, practicalK: 0.5 }).verdict).toBe('equivalent');
    expect(compare({ a, b, practicalK: 0.1 }).verdict).toBe('a-cooler');
    expect(compare({ a: b, b: a, practicalK: 0.1 }).verdict).toBe('b-cooler');
  });
  it('covers the truth about 95 times in 100 with three runs a side', () => {
    const normal = seededNormal(42);
    let covered = 0;
    for (let i = 0; i < 1000; i++) {
      const runs = (centre: number) => [0, 1, 2].map(() => sure(centre + 0.4 * normal()));
      const { interval } = compare({ a: runs(50), b: runs(51), practicalK: 0.5 });
      if (interval[0] <= 1 && interval[1] >= 1) covered++;
    }
    expect(covered).toBeGreaterThan(930);
    expect(covered).toBeLessThan(985);
  });
  it('refuses a lone run without history, empty sides and nonsense', () => {
    expect(() => compare({ a: [sure(1)], b: [sure(1), sure(2)], practicalK: 1 })).toThrow(InsufficientDataError);
    expect(() => compare({ a: [], b: [sure(1)], practicalK: 1, repeatability: { sd: 1, dof: 3 } })).toThrow(InsufficientDataError);
    expect(() => compare({ a: [sure(1)], b: [sure(1)], practicalK: -1, repeatability: { sd: 1, dof: 3 } })).toThrow(RangeError);
    expect(() => compare({ a: [sure(NaN)], b: [sure(1)], practicalK: 1, repeatability: { sd: 1, dof: 3 } })).toThrow(RangeError);
  });
});

describe('one scatter for both sides', () => {
  const side = (...values: number[]) => values.map((value) => sure(value));
  it('is the pooled two-sample t test', () => {
    const { difference } = compare({ a: side(10, 10.6), b: side(12, 12.2), practicalK: 0, oneScatter: true });
    // s_p² = (0.18 + 0.02)/2, over two a side.
    expect(difference).toMatchObject({ value: expect.closeTo(1.8, 12), u: expect.closeTo(Math.sqrt(0.1), 12), dof: 2 });
  });
  it('serves a side of one reading, and asks for a second on one of them', () => {
    expect(compare({ a: side(10, 10.6), b: side(12), practicalK: 0, oneScatter: true }).difference.dof).toBe(1);
    expect(() => compare({ a: side(10), b: side(12), practicalK: 0, oneScatter: true })).toThrow(InsufficientDataError);
  });
});

describe('what it takes to show two alike', () => {
  it('is far less than to tell the little that was seen', () => {
    expect(repeatsNeeded({ sd: 0.6, detect: 0.1 })).toBe(567);
    const alike = repeatsToShowAlike({ sd: 0.6, difference: 0.1, practicalK: 1 })!;
    expect(alike).toBe(9);
    // Simulated: as often as asked for.
    const normal = seededNormal(5);
    let shown = 0;
    for (let i = 0; i < 2000; i++) {
      const draw = (at: number) => Array.from({ length: alike }, () => sure(at + 0.6 * normal()));
      if (compare({ a: draw(0), b: draw(0.1), practicalK: 1, oneScatter: true, advice: false }).verdict === 'equivalent') shown++;
    }
    expect(shown / 2000).toBeGreaterThan(0.75);
    expect(shown / 2000).toBeLessThan(0.92);
  });
  it('is out of reach where the difference, or what repeats leave, is as large as what matters', () => {
    expect(repeatsToShowAlike({ sd: 0.1, difference: 1, practicalK: 1 })).toBeNull();
    expect(repeatsToShowAlike({ sd: 0.1, difference: 0, practicalK: 1, independentU: 0.6 })).toBeNull();
    expect(repeatsToShowAlike({ sd: 0, difference: 0, practicalK: 1 })).toBe(2);
  });
});
