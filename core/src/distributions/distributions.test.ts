import { describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { fisherTail } from './fisherF.ts';
import { logGamma } from './gamma.ts';
import { tTestPower } from './noncentralT.ts';
import { erfc, normalCdf, normalQuantile } from './normal.ts';
import { incompleteBeta, studentCdf, studentCoverage } from './studentT.ts';

describe('gamma', () => {
  it.each([
    [1, 0],
    [2, 0],
    [3, Math.log(2)],
    [6, Math.log(120)],
    [0.5, 0.5 * Math.log(Math.PI)],
    [1.5, Math.log(Math.sqrt(Math.PI) / 2)],
    [101, 363.7393755555635], // ln 100!
    [0.1, 2.252712651734206],
  ])('ln Γ(%s) = %s', (x, expected) => {
    expect(logGamma(x)).toBeCloseTo(expected, 12);
  });
  it('steps by its argument', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 400, noNaN: true }), (x) => {
        expect(Math.abs(logGamma(x + 1) - logGamma(x) - Math.log(x))).toBeLessThan(1e-10 * Math.max(1, Math.abs(logGamma(x))));
      }),
    );
  });
});

describe('normal', () => {
  it.each([
    // Abramowitz & Stegun, table 26.1
    [0, 0.5],
    [0.5, 0.69146246],
    [1, 0.84134475],
    [1.96, 0.9750021],
    [2.5758293, 0.995],
    [3, 0.9986501],
    [-1, 0.15865525],
  ])('P(Z <= %s) = %s', (z, expected) => {
    expect(normalCdf(z)).toBeCloseTo(expected, 7);
  });
  it('has tails that do not vanish into rounding', () => {
    expect(erfc(5) / 1.5374597944280349e-12).toBeCloseTo(1, 10);
    expect(erfc(10) / 2.088487583762545e-45).toBeCloseTo(1, 10);
    expect(erfc(-5)).toBeCloseTo(2, 10);
  });
  it('inverts itself', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-9, max: 1 - 1e-9, noNaN: true }), (p) => {
        expect(Math.abs(normalCdf(normalQuantile(p)) / p - 1)).toBeLessThan(1e-8);
      }),
    );
  });
});

describe('incomplete beta', () => {
  it('agrees with closed forms', () => {
    expect(incompleteBeta(0.3, 1, 1)).toBeCloseTo(0.3, 14);
    expect(incompleteBeta(0.3, 2, 1)).toBeCloseTo(0.09, 14);
    expect(incompleteBeta(0.3, 1, 3)).toBeCloseTo(1 - 0.7 ** 3, 14);
    expect(incompleteBeta(0.5, 7, 7)).toBeCloseTo(0.5, 13);
    expect([incompleteBeta(0, 2, 3), incompleteBeta(1, 2, 3)]).toEqual([0, 1]);
  });
  it('is symmetric: I_x(a, b) = 1 − I_{1−x}(b, a)', () => {
    const size = fc.double({ min: 0.1, max: 5000, noNaN: true });
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 0.999, noNaN: true }), size, size, (x, a, b) => {
        expect(incompleteBeta(x, a, b) + incompleteBeta(1 - x, b, a)).toBeCloseTo(1, 10);
      }),
    );
  });
});

describe('Student', () => {
  it.each([
    // JCGM 100:2008, table G.2: dof, then 68.27 %, 90 %, 95 %, 95.45 %, 99 %
    [1, 1.84, 6.31, 12.71, 13.97, 63.66],
    [2, 1.32, 2.92, 4.3, 4.53, 9.92],
    [3, 1.2, 2.35, 3.18, 3.31, 5.84],
    [4, 1.14, 2.13, 2.78, 2.87, 4.6],
    [5, 1.11, 2.02, 2.57, 2.65, 4.03],
    [6, 1.09, 1.94, 2.45, 2.52, 3.71],
    [8, 1.07, 1.86, 2.31, 2.37, 3.36],
    [10, 1.05, 1.81, 2.23, 2.28, 3.17],
    [15, 1.03, 1.75, 2.13, 2.18, 2.95],
    [20, 1.03, 1.72, 2.09, 2.13, 2.85],
    [30, 1.02, 1.7, 2.04, 2.09, 2.75],
    [50, 1.01, 1.68, 2.01, 2.05, 2.68],
    [100, 1.005, 1.66, 1.984, 2.025, 2.626],
  ])('coverage factors for %s degrees of freedom', (dof, ...expected) => {
    const got = [0.6827, 0.9, 0.95, 0.9545, 0.99].map((coverage) => studentCoverage(coverage, dof));
    got.forEach((k, i) => expect(Math.abs(k - expected[i]!)).toBeLessThan(0.0056));
  });
  it('inverts its own distribution, also for odd degrees of freedom', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 1e6, noNaN: true }), fc.double({ min: 0.05, max: 0.999, noNaN: true }), (dof, coverage) => {
        const k = studentCoverage(coverage, dof);
        expect(studentCdf(k, dof) - studentCdf(-k, dof)).toBeCloseTo(coverage, 8);
      }),
    );
  });
  it('shrinks with more degrees of freedom and grows with coverage', () => {
    for (let dof = 1; dof < 60; dof++) expect(studentCoverage(0.95, dof + 1)).toBeLessThan(studentCoverage(0.95, dof));
    expect(studentCoverage(0.99, 7)).toBeGreaterThan(studentCoverage(0.95, 7));
    expect(() => studentCoverage(1, 7)).toThrow(RangeError);
    expect(() => studentCoverage(0.95, 0)).toThrow(RangeError);
  });
});

describe('power of the t test', () => {
  it.each([
    // Cohen 1988, table 2.3.5 (two-sided 0.05): runs a side, effect d, power in percent
    [10, 0.5, 18],
    [10, 0.8, 39],
    [10, 1.0, 56],
    [10, 1.4, 84],
    [20, 0.5, 33],
    [20, 0.8, 69],
    [20, 1.0, 87],
    [50, 0.2, 17],
    [50, 0.5, 70],
    [50, 0.8, 98],
    [100, 0.2, 29],
    [100, 0.5, 94],
  ])('%s a side, d = %s: %s percent', (n, d, percent) => {
    expect(Math.abs(100 * tTestPower(d * Math.sqrt(n / 2), 2 * n - 2, 0.05) - percent)).toBeLessThan(1);
  });
  it('grows with the effect and ends at one, without trouble at either end', () => {
    let last = 0;
    for (const delta of [0, 0.5, 1, 2, 3, 5, 10, 40, 200]) {
      const power = tTestPower(delta, 4, 0.05);
      expect(power).toBeGreaterThanOrEqual(last);
      expect(power).toBeLessThanOrEqual(1);
      last = power;
    }
    expect(last).toBeCloseTo(1, 7);
  });
  it('tends to the normal test for many runs', () => {
    const z = 1.959963984540054;
    for (const delta of [0.5, 1, 2, 3]) {
      const normal = normalCdf(delta - z) + normalCdf(-delta - z);
      expect(tTestPower(delta, 1e6, 0.05)).toBeCloseTo(normal, 5);
    }
  });
});

describe('Fisher', () => {
  it.each([
    // Published tables, upper 5 and 1 percent.
    [161.4476, 1, 1, 0.95],
    [6.9443, 2, 4, 0.95],
    [3.3258, 5, 10, 0.95],
    [15.9769, 4, 4, 0.99],
    [1.8307, 10, Infinity, 0.95],
  ])('1 − P(F ≥ %s) with %s and %s degrees of freedom is %s', (f, p, q, expected) => {
    expect(1 - fisherTail(f, p, q)).toBeCloseTo(expected, 4);
  });
  it('is the square of t with one above, and turns over with both swapped', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 30, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 60 }),
        (x, p, q) => {
          expect(fisherTail(x * x, 1, q)).toBeCloseTo(2 - 2 * studentCdf(x, q), 9);
          expect(fisherTail(x, p, q)).toBeCloseTo(1 - fisherTail(1 / x, q, p), 9);
        },
      ),
    );
    expect([fisherTail(0, 2, 3), fisherTail(-1, 2, 3), fisherTail(Infinity, 2, 3)]).toEqual([1, 1, 0]);
    expect(() => fisherTail(1, 0, 3)).toThrow(RangeError);
  });
});
