import { describe, expect, it } from 'vitest';
import { findThrottling, type Series } from '../index.ts';
import { madeTrace } from '@red-ember/testing/signals';
import { seededUniform } from '../seeded.ts';

const LOAD = { startS: 60, endS: 1860 };
const SEEDS = [1, 2, 3, 4, 5, 6];

/** Throughput under load with noise, and what the idle drive does around it. */
function throughput(level: (t: number) => number, seed: number, sd = 60): Series {
  return madeTrace({ n: 2000, f: (t) => (t < LOAD.startS || t >= LOAD.endS ? 0 : level(t)), sd, phi: 0.4, seed });
}

describe('throttling in hard traces, over seeds', () => {
  it('tells a drive that halves its work at 88 °C, with hysteresis, as one episode with its duty', () => {
    for (const seed of SEEDS) {
      const slow = (t: number) => t > 960 && t % 100 < 40;
      const temperature = madeTrace({ n: 2000, f: (t) => (t < 960 ? 30 + (58 * (t - 60)) / 900 : slow(t) ? 86 : 88), sd: 0.1, seed });
      const report = findThrottling({
        performance: throughput((t) => (slow(t) ? 3050 : 6100), seed),
        load: LOAD,
        temperature,
        limitC: 88,
      });
      // Pauses of a minute are longer than the joining time of ten seconds: every spell stands alone.
      expect(report.episodes.length).toBeGreaterThanOrEqual(9);
      expect(report.episodes.every((episode) => episode.limiter === 'thermal')).toBe(true);
      const joined = findThrottling({ performance: throughput((t) => (slow(t) ? 3050 : 6100), seed), load: LOAD, minDurationS: 35 });
      expect(joined.episodes).toHaveLength(1);
      expect(joined.episodes[0]!.depth).toBeGreaterThan(0.15);
    }
  });

  it('is not misled by a cache that is faster for the first minute than the drive can keep up', () => {
    // The reference is sought in the first tenth: three minutes, most of it at the lasting level.
    for (const seed of SEEDS) {
      const report = findThrottling({ performance: throughput((t) => (t < 80 ? 7400 : 6100), seed), load: LOAD });
      expect(report.reference).toBeGreaterThan(5900);
      expect(report.reference).toBeLessThan(6300);
      expect(report.episodes).toEqual([]);
    }
  });

  it('finds a slow sag as well as a step, late by no more than it is shallow', () => {
    for (const seed of SEEDS) {
      const report = findThrottling({
        performance: throughput((t) => (t < 900 ? 6100 : 6100 * (1 - (0.3 * (t - 900)) / 960)), seed),
        load: LOAD,
      });
      expect(report.episodes).toHaveLength(1);
      expect(report.timeToFirstS!).toBeGreaterThan(840 - 40);
      expect(report.timeToFirstS!).toBeLessThan(840 + 120);
      expect(report.performanceLost).toBeGreaterThan(0.05);
      expect(report.performanceLost).toBeLessThan(0.11);
    }
  });

  it('leaves noise, single dips and missing samples alone', () => {
    for (const seed of SEEDS) {
      const uniform = seededUniform(seed);
      const trace = throughput(() => 6100, seed, 50);
      for (let i = 100; i < 1800; i += 90) trace.y[i] = uniform() < 0.5 ? NaN : 2000;
      trace.y.fill(NaN, 700, 760);
      expect(findThrottling({ performance: trace, load: LOAD }).episodes).toEqual([]);
    }
  });

  it('counts a stretch that runs to the end of the load, and nothing after it', () => {
    for (const seed of SEEDS) {
      const report = findThrottling({ performance: throughput((t) => (t < 1500 ? 6100 : 3000), seed), load: LOAD });
      expect(report.episodes.at(-1)!.endS).toBe(LOAD.endS);
      expect(report.fractionOfTime).toBeCloseTo(360 / 1800, 1);
    }
  });

  it('reports the same whatever the unit of performance', () => {
    const trace = throughput((t) => (t < 900 ? 6100 : 4000), 3);
    const [plain, tiny] = [trace, { t: trace.t, y: trace.y.map((y) => y / 1e6) }].map((performance) =>
      findThrottling({ performance, load: LOAD }),
    );
    expect(tiny!.reference).toBeCloseTo(plain!.reference / 1e6, 12);
    expect(tiny!.episodes.map((episode) => [episode.startS, episode.endS, episode.limiter])).toEqual(
      plain!.episodes.map((episode) => [episode.startS, episode.endS, episode.limiter]),
    );
    expect(tiny!.performanceLost).toBeCloseTo(plain!.performanceLost, 9);
  });

  it('prefers the earlier kind of evidence when several speak at once', () => {
    const performance = throughput((t) => (t < 900 ? 6100 : 4500), 4);
    const constant = (value: number) => madeTrace({ n: 2000, f: () => value });
    const starved = madeTrace({ n: 2000, f: (t) => (t < 899 ? 99.5 : 70) });
    const limiter = (extra: object) => findThrottling({ performance, load: LOAD, ...extra }).episodes[0]!.limiter;
    expect(limiter({ utilisation: starved, temperature: constant(90), limitC: 90, power: constant(100), powerCapW: 100 })).toBe('load');
    expect(limiter({ utilisation: constant(99.5), temperature: constant(90), limitC: 90, power: constant(100), powerCapW: 100 })).toBe(
      'thermal',
    );
    expect(limiter({ utilisation: constant(99.5), temperature: constant(80), limitC: 90, power: constant(100), powerCapW: 100 })).toBe(
      'power',
    );
    expect(limiter({ temperature: constant(80), limitC: 90 })).toMatch(/voltage-or-clock-cap|unknown/);
    expect(limiter({})).toBe('unknown');
  });

  it('has defaults of three percent for five seconds', () => {
    const dip = (depth: number, seconds: number) =>
      findThrottling({ performance: throughput((t) => (t >= 900 && t < 900 + seconds ? 6100 * (1 - depth) : 6100), 1, 0), load: LOAD })
        .episodes.length;
    expect([dip(0.029, 60), dip(0.031, 60), dip(0.5, 4), dip(0.5, 5)]).toEqual([0, 1, 0, 1]);
  });
});
