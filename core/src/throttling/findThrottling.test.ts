import { describe, expect, it } from 'vitest';
import { InsufficientDataError, findThrottling } from '../index.ts';
import { madeTrace, series } from '@red-ember/testing/signals';

const load = { startS: 20, endS: 620 };
const clock = (f: (t: number) => number, seed = 1) =>
  madeTrace({ n: 700, f: (t) => (t < 20 || t >= 620 ? 300 : f(t)), sd: 4, phi: 0.3, seed });
const constant = (value: number) => madeTrace({ n: 700, f: () => value });

describe('findThrottling', () => {
  it('finds nothing in a steady clock, and a reference that a short boost does not lift', () => {
    const report = findThrottling({ performance: clock((t) => (t < 24 ? 2000 : 1800)), load });
    expect(report.reference).toBeCloseTo(1800, -1);
    expect(report).toMatchObject({ episodes: [], timeToFirstS: null, fractionOfTime: 0, performanceLost: 0 });
  });

  it('does not take getting up to speed for throttling', () => {
    expect(findThrottling({ performance: clock((t) => (t < 27 ? 900 : 1800)), load }).episodes).toEqual([]);
  });

  it('reports start, depth, share and loss of a step down that lasts', () => {
    const report = findThrottling({ performance: clock((t) => (t < 320 ? 1800 : 900)), load });
    expect(report.episodes).toHaveLength(1);
    expect(report.episodes[0]).toMatchObject({ endS: 620, limiter: 'unknown', temperatureAtOnsetC: null });
    expect(report.timeToFirstS).toBe(300);
    expect(report.episodes[0]!.depth).toBeCloseTo(0.5, 1);
    expect(report.fractionOfTime).toBeCloseTo(0.5, 2);
    expect(report.performanceLost).toBeCloseTo(0.25, 1);
  });

  it('joins oscillation around a limit into one episode', () => {
    const report = findThrottling({ performance: clock((t) => (t > 200 && t % 8 < 4 ? 900 : 1800)), load });
    expect(report.episodes).toHaveLength(1);
    expect(report.episodes[0]!.depth).toBeGreaterThan(0.2);
    expect(report.episodes[0]!.depth).toBeLessThan(0.3);
  });

  it('ignores dips that are too short or too shallow', () => {
    expect(findThrottling({ performance: clock((t) => (t === 300 || t === 301 ? 900 : 1800)), load }).episodes).toEqual([]);
    expect(findThrottling({ performance: clock((t) => (t > 300 ? 1800 * 0.985 : 1800)), load }).episodes).toEqual([]);
  });

  const dropped = clock((t) => (t < 320 ? 1800 : 1500));
  it.each([
    ['load', { utilisation: madeTrace({ n: 700, f: (t) => (t < 318 ? 99 : 80) }), temperature: constant(89.5), limitC: 90 }],
    [
      'thermal',
      { temperature: madeTrace({ n: 700, f: (t) => Math.min(90, 60 + t / 10) }), limitC: 90, power: constant(200), powerCapW: 200 },
    ],
    ['power', { temperature: constant(70), limitC: 90, power: constant(199), powerCapW: 200 }],
    ['voltage-or-clock-cap', { temperature: constant(70), limitC: 90, power: constant(150), powerCapW: 200, utilisation: constant(99) }],
    ['unknown', {}],
  ] as const)('names the limiter by its evidence: %s', (limiter, evidence) => {
    expect(findThrottling({ performance: dropped, load, ...evidence }).episodes[0]!.limiter).toBe(limiter);
  });

  it('takes a hint where the part was slow from the start', () => {
    const slow = clock(() => 900);
    expect(findThrottling({ performance: slow, load }).episodes).toEqual([]);
    const hinted = findThrottling({ performance: slow, load, referenceHint: 1800 });
    expect(hinted.timeToFirstS).toBe(0);
    expect(hinted.fractionOfTime).toBeCloseTo(1, 6);
  });

  it('refuses bad input', () => {
    expect(() => findThrottling({ performance: series([0, 1], [NaN, NaN]), load: { startS: 0, endS: 2 } })).toThrow(InsufficientDataError);
    expect(() => findThrottling({ performance: dropped, load: { startS: 9, endS: 2 } })).toThrow(RangeError);
    expect(() => findThrottling({ performance: dropped, load, minDepth: 1 })).toThrow(RangeError);
  });
});
