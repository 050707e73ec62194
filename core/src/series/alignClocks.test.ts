import { describe, expect, it } from 'vitest';
import { alignClocks } from '../index.ts';
import { madeTrace } from '@red-ember/testing/signals';

const series = (n: number, stepS: number, startS: number, f: (t: number) => number) => ({
  t: Float64Array.from({ length: n }, (_, i) => startS + i * stepS),
  y: Float64Array.from({ length: n }, (_, i) => f(startS + i * stepS)),
});
const step =
  (atS: number, level = 1) =>
  (t: number) =>
    t >= atS ? level : 0;

describe('alignClocks', () => {
  it('finds the shift of a step seen by both, to the second and in the right direction', () => {
    const a = series(600, 1, 0, step(300));
    const b = series(600, 1, 0, step(260, 6000));
    const { offsetS, confidence } = alignClocks(a, b);
    expect(offsetS).toBeCloseTo(40, 6); // b's clock is behind: add 40 s
    expect(confidence).toBeCloseTo(1, 6);
    expect(alignClocks(b, a).offsetS).toBeCloseTo(-40, 6);
  });

  it('works on clocks that start a day apart, where it is allowed to look that far', () => {
    const a = series(600, 1, 1_700_000_000, (t) => step(1_700_000_300)(t));
    const b = series(600, 1, 0, step(300));
    expect(alignClocks(a, b, { maxShiftS: 2e9 }).offsetS).toBeCloseTo(1_700_000_000, 3);
    expect(alignClocks(a, b, { maxShiftS: 100 })).toEqual({ offsetS: 0, confidence: 0 });
  });

  it('is good to half the coarser interval, whatever the rates, under correlated noise and drift', () => {
    for (const shift of [-17.3, 3.6, 22.9]) {
      const load = (t: number) => 40 / (1 + Math.exp(-(t - 200) / 3)) - 30 / (1 + Math.exp(-(t - 420) / 3));
      const a = madeTrace({ n: 6000, dtS: 0.1, f: (t) => load(t) + t / 400, sd: 0.05, phi: 0.9, seed: 11 });
      const b = madeTrace({ n: 300, dtS: 2, f: (t) => 100 * load(t + shift), sd: 4, phi: 0.3, seed: 12 });
      const { offsetS, confidence } = alignClocks(a, b, { maxShiftS: 60 });
      expect(Math.abs(offsetS - shift)).toBeLessThan(1);
      expect(confidence).toBeGreaterThan(0.5);
    }
  });

  it('skips what is missing and is little moved by it', () => {
    const a = series(600, 1, 0, (t) => (t > 100 && t < 160 ? NaN : step(300, 5)(t)));
    const b = series(600, 1, 0, (t) => (t % 7 === 0 ? NaN : step(288, 5)(t)));
    expect(Math.abs(alignClocks(a, b).offsetS - 12)).toBeLessThanOrEqual(1);
  });

  it('is not sure of two noises, and says nothing of a flat side', () => {
    const noise = (seed: number) => madeTrace({ n: 900, f: () => 20, sd: 1, phi: 0, seed });
    expect(alignClocks(noise(1), noise(2)).confidence).toBeLessThan(0.3);
    expect(
      alignClocks(
        noise(1),
        series(900, 1, 0, () => 5),
      ),
    ).toEqual({ offsetS: 0, confidence: 0 });
  });

  it('does not touch what it is given, and refuses what cannot be aligned', () => {
    const a = series(60, 1, 0, step(30));
    const copy = a.y.slice();
    alignClocks(a, a);
    expect(a.y).toEqual(copy);
    expect(() => alignClocks(series(5, 1, 0, step(2)), a)).toThrow('aligning needs eight');
    expect(() => alignClocks(a, a, { maxShiftS: 0 })).toThrow(RangeError);
  });
});
