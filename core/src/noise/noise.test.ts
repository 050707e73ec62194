import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { InsufficientDataError, removeBackground, sumLevels, sweepAt } from '../index.ts';

const exact = (value: number) => ({ value, u: 0, dof: Infinity });

describe('removeBackground', () => {
  it('undoes adding the background', () => {
    fc.assert(
      fc.property(fc.double({ min: 10, max: 90, noNaN: true }), fc.double({ min: 10, max: 90, noNaN: true }), (source, background) => {
        fc.pre(source > background - 20);
        expect(removeBackground(sumLevels([source, background]), background).level).toBeCloseTo(source, 6);
      }),
    );
  });
  it('is unreliable under 3 dB, which is where a source is as loud as its background', () => {
    expect(removeBackground(33, 30)).toMatchObject({ reliable: true });
    expect(removeBackground(32.9, 30)).toMatchObject({ reliable: false });
    expect(removeBackground(30 + 10 * Math.log10(2), 30).level).toBeCloseTo(30, 9);
  });
  it('finds nothing in a total no louder than the background', () => {
    expect(() => removeBackground(30, 30)).toThrow(RangeError);
    expect(() => removeBackground(NaN, 30)).toThrow(RangeError);
  });
});

describe('sweepAt', () => {
  const sweep = [
    [43, 71.2],
    [29, 88.6],
    [33, 79.1],
    [38, 73.9],
  ].map(([x, value]) => ({ x: x!, y: { value: value!, u: 0.3, dof: 12 } }));

  it('keeps a knee a knee: never beyond its neighbours, in any order, whatever the points', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { minLength: 2, maxLength: 9 }),
        fc.array(fc.double({ min: 20, max: 110, noNaN: true }), { minLength: 9, maxLength: 9 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (xs, ys, share) => {
          const points = xs.map((x, i) => ({ x, y: exact(ys[i]!) }));
          const sorted = [...points].sort((p, q) => p.x - q.x);
          const [from, to] = [sorted[0]!, sorted[1]!];
          const { value } = sweepAt(points, from.x + share * (to.x - from.x));
          expect(value).toBeGreaterThanOrEqual(Math.min(from.y.value, to.y.value) - 1e-9);
          expect(value).toBeLessThanOrEqual(Math.max(from.y.value, to.y.value) + 1e-9);
        },
      ),
    );
  });
  it('follows a smooth curve closer than straight lines do, and its doubt holds the error', () => {
    const curve = (x: number) => 22 + 900 * x ** -0.8;
    const points = [20, 30, 40, 60, 80].map((x) => ({ x, y: exact(curve(x)) }));
    for (const x of [33, 46, 52, 70]) {
      const read = sweepAt(points, x);
      expect(Math.abs(read.value - curve(x))).toBeLessThan(2.5 * read.u);
    }
  });
  it('gives a point back as it was measured, with its own doubt', () => {
    expect(sweepAt(sweep, 33)).toEqual({ value: 79.1, u: 0.3, dof: 12 });
    const between = sweepAt(sweep, 34.5);
    expect(between.u).toBeGreaterThan(0.15);
    expect(between.dof).toBe(12);
  });
  it('is not carried beyond its ends, and wants one value at one x', () => {
    expect(() => sweepAt(sweep, 28.9)).toThrow(RangeError);
    expect(() => sweepAt(sweep, 43.1)).toThrow(RangeError);
    expect(() => sweepAt([...sweep, { x: 33, y: exact(70) }], 35)).toThrow(RangeError);
    expect(() => sweepAt([], 35)).toThrow(InsufficientDataError);
  });
});
