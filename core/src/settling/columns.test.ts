import { describe, expect, it } from 'vitest';
import { decaying, spacingOf } from './columns.ts';

const exact = (x: Float64Array, tau: number) => x.map((value) => Math.exp(-value / tau));
/** Largest error relative to the value. */
const worst = (x: Float64Array, tau: number) => {
  const truth = exact(x, tau);
  return decaying(x, spacingOf(x), tau).reduce((most, value, i) => Math.max(most, Math.abs(value / truth[i]! - 1)), 0);
};
const even = (n: number, step: number) => Float64Array.from({ length: n }, (_, i) => i * step);

describe('a decaying column', () => {
  it.each([
    ['evenly spaced', even(500, 3)],
    ['each a little off its place, as means are of which a sample is missing', even(500, 3).map((x, i) => x + 0.02 * Math.sin(7 * i))],
    ['off by more than a series follows', even(500, 3).map((x, i) => x + 0.5 * Math.sin(7 * i))],
    ['anyhow', even(500, 3).map((x) => x * x)],
    ['two of them', even(2, 3)],
  ])('is the exponential to the last digits: %s', (_, x) => {
    for (const tau of [0.7, 3, 40, 700, 90_000]) if (x.at(-1)! / tau < 600) expect(worst(x, tau), `τ ${tau}`).toBeLessThan(2e-12);
  });

  it('knows even, near and anyhow apart', () => {
    expect(spacingOf(even(50, 2))).toEqual({ step: 2, off: null, mostOff: 0 });
    const near = spacingOf(even(50, 2).map((x, i) => (i === 20 ? x + 0.1 : x)));
    expect(near.step).toBe(2);
    expect(near.mostOff).toBeCloseTo(0.1, 12);
    expect(spacingOf(even(50, 2).map((x, i) => (i === 20 ? x + 0.9 : x))).step).toBe(0);
  });
});
