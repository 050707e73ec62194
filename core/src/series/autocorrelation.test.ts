import { describe, expect, it } from 'vitest';
import { madeTrace } from '@red-ember/testing/signals';
import { correlationFactor } from './autocorrelation.ts';
import { correlate, correlateWithItself } from './correlate.ts';

/** Noise that remembers: each sample keeps `phi` of the last. */
const remembering = (n: number, phi: number, seed: number): Float64Array =>
  madeTrace({ n, f: () => 0, sd: 1, phi, seed }).y as Float64Array;

/** The sum as it is written, lag by lag. */
function byDefinition(values: Float64Array): number {
  const n = values.length;
  const mean = values.reduce((sum, value) => sum + value, 0) / n;
  const covariance = (lag: number) => {
    let sum = 0;
    for (let i = 0; i + lag < n; i++) sum += (values[i]! - mean) * (values[i + lag]! - mean);
    return sum;
  };
  const variance = covariance(0);
  let pairs = 0;
  for (let lag = 0; lag + 1 < n; lag += 2) {
    const pair = (covariance(lag) + covariance(lag + 1)) / variance;
    if (pair <= 0) break;
    pairs += pair;
  }
  return Math.min(n, Math.max(1, 2 * pairs - 1));
}

describe('sums over all lags at once', () => {
  it('are those that are written down', () => {
    const [a, b] = [remembering(301, 0.9, 1), remembering(170, 0.5, 2)];
    const at = correlate(a, b);
    for (const lag of [-169, -40, 0, 1, 77, 300]) {
      let sum = 0;
      for (let i = 0; i < a.length; i++) sum += a[i]! * (b[i - lag] ?? 0);
      expect(at(lag)).toBeCloseTo(sum, 9);
    }
  });

  it('of a sequence with itself are the same, either way round', () => {
    const a = remembering(333, 0.9, 4);
    const [twice, once] = [correlate(a, a), correlateWithItself(a)];
    for (const lag of [-332, -5, 0, 1, 200, 332]) expect(once(lag)).toBeCloseTo(twice(lag), 9);
  });

  it('are the same where no more than some lags are asked for', () => {
    const a = remembering(1000, 0.99, 5);
    const [all, some] = [correlateWithItself(a), correlateWithItself(a, 20)];
    for (let lag = 0; lag <= 20; lag++) expect(some(lag)).toBeCloseTo(all(lag), 9);
  });

  it('of a single sample are its square', () => {
    expect(correlate(Float64Array.of(3), Float64Array.of(3))(0)).toBeCloseTo(9, 12);
    expect(correlateWithItself(Float64Array.of(3))(0)).toBeCloseTo(9, 12);
  });
});

describe('how many samples count as one', () => {
  it.each([
    ['forgets at once', 0, 3000],
    ['forgets within a minute', 0.9, 3000],
    ['remembers beyond the lags that are summed one by one', 0.999, 6000],
    ['hardly forgets', 0.99995, 6000],
  ])('is what its sum says where noise %s', (_, alike, n) => {
    const values = remembering(n, alike, 7);
    expect(correlationFactor(values)).toBeCloseTo(byDefinition(values), 6);
  });

  it('is (1 + ρ)/(1 − ρ) for noise of first order', () => {
    const factors = [1, 2, 3, 4].map((seed) => correlationFactor(remembering(100_000, 0.98, seed)) / (1.98 / 0.02));
    // Where the sum ends by chance it has taken some noise along, so that it errs on the safe side.
    for (const factor of factors) expect(Math.abs(factor - 1.05)).toBeLessThan(0.15);
  });

  it.each([255, 256, 257, 3000])('is what its sum says of a drift that goes beyond a quarter of %i samples', (n) => {
    const values = Float64Array.from({ length: n }, (_, i) => (i / n) ** 2 + 1e-3 * Math.sin(i));
    expect(correlationFactor(values) / byDefinition(values)).toBeCloseTo(1, 9);
  });

  it('is that of a slow wave too, which a window of hours holds', () => {
    const values = Float64Array.from({ length: 8000 }, (_, i) => Math.sin(i / 900));
    expect(correlationFactor(values)).toBeCloseTo(byDefinition(values), 6);
  });
});
