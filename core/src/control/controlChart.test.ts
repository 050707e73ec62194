import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { controlChart, controlSentence } from './controlChart.ts';

const points = (values: readonly number[], counts: (i: number) => boolean = () => true) =>
  values.map((value, i) => ({ id: `r${i}`, value, counts: counts(i) }));

describe('an individuals chart', () => {
  it('has the published limits', () => {
    // NIST/SEMATECH e-Handbook, 6.3.2.2: flow rates of ten batches.
    const chart = controlChart(points([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]))!;
    expect(chart.centre).toBeCloseTo(50.81, 4);
    expect(chart.centre + chart.within).toBeCloseTo(55.8041, 3);
    expect(chart.centre - chart.within).toBeCloseTo(45.8159, 3);
    expect(chart.points.flatMap(({ off }) => off.filter((why) => why === 'beyond'))).toEqual([]);
  });

  it('weights the mean as published', () => {
    // NIST/SEMATECH e-Handbook, 6.3.2.4: lambda 0.3, centre 50, deviation 2.0539.
    const values = [52.0, 47.0, 53.0, 49.3, 50.1, 47.0, 51.0, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1];
    const published = [50.6, 49.52, 50.56, 50.18, 50.16, 49.21, 49.75, 49.85, 50.26, 50.33, 50.11, 49.36, 49.52, 50.05, 49.38, 49.92, 50.73, 51.23, 51.94, 51.99]; // prettier-ignore
    const chart = controlChart(points(values))!;
    // The same weighting from another centre differs by what is left of the start.
    chart.points.forEach(({ smoothed }, i) => expect(smoothed! - (chart.centre - 50) * 0.7 ** (i + 1)).toBeCloseTo(published[i]!, 1));
    const last = chart.points.at(-1)!;
    expect(last.smoothedWithin! / chart.sd).toBeCloseTo(3 * 0.4201, 3);
  });
});

describe('what is off', () => {
  const quiet = (n: number, seed: number, shift: (i: number) => number = () => 0) => {
    const normal = seededNormal(seed);
    return Array.from({ length: n }, (_, i) => 30 + shift(i) + 0.3 * normal());
  };

  it('a jump, a slow drift and a step are found soon; a bench that stays is mostly left alone', () => {
    const share = (n: number, shift: (i: number) => number, from: number) => {
      let found = 0;
      for (let seed = 1; seed <= 300; seed++)
        if (
          controlChart(points(quiet(n, seed, shift)))!
            .points.slice(from)
            .some(({ off }) => off.length > 0)
        )
          found++;
      return found / 300;
    };
    expect(share(26, (i) => (i >= 25 ? 2 : 0), 25)).toBeGreaterThan(0.97);
    expect(share(36, (i) => (i >= 20 ? 0.06 * (i - 19) : 0), 20)).toBeGreaterThan(0.95);
    expect(share(32, (i) => (i >= 20 ? 0.6 : 0), 20)).toBeGreaterThan(0.95);
    // Limits from twenty points, six more held against them.
    expect(share(26, () => 0, 20)).toBeLessThan(0.16);
  });

  it('a bad run among the first ones does not widen the limits that it is found by', () => {
    const values = quietRow(20);
    const spoilt = values.map((value, i) => (i === 9 ? value + 3 : value));
    const [sound, chart] = [controlChart(points(values))!, controlChart(points(spoilt))!];
    expect(chart.points[9]!.off).toContain('beyond');
    expect(chart.base).toBe(19);
    expect(chart.sd).toBeLessThan(1.2 * sound.sd);
  });

  it('says so in words', () => {
    const values = Array.from({ length: 12 }, (_, i) => 30 + 0.2 * (i % 3));
    expect(controlSentence(controlChart(points(values))!)).toEqual({ off: false, text: 'The bench is still the bench it was.' });
    expect(controlSentence(controlChart(points([...values, 33]))!).text).toContain('beyond what the bench scatters by, higher');
    const drifting = Array.from({ length: 30 }, (_, i) => 30 + 0.25 * (i % 3) + (i >= 20 ? -0.4 : 0));
    expect(controlSentence(controlChart(points(drifting))!)).toMatchObject({ off: true, text: expect.stringContaining('lower') as string });
  });
});

describe('hard data', () => {
  it('nothing from fewer than six that count', () => {
    expect(controlChart([])).toBeNull();
    expect(controlChart(points([1, 2, 3, 4, 5]))).toBeNull();
    expect(controlChart(points([1, 2, 3, 4, 5, 6, 7], (i) => i > 2))).toBeNull();
  });

  it('equal values of a coarse sensor scatter by its step, and one that does not count moves nothing', () => {
    const chart = controlChart(points([50, 50, 50, 50, 50, 50, 51]), 1)!;
    expect(chart.sd).toBeGreaterThanOrEqual(1 / Math.sqrt(12));
    expect(chart.points.at(-1)!.off).toEqual([]);
    const flat = controlChart(points([50, 50, 50, 50, 50, 50]))!;
    expect(flat.points.every(({ off }) => off.length === 0)).toBe(true);
    const values = [30, 30.2, 29.9, 30.1, 30, 30.2];
    const with99 = controlChart(points([...values, 99], (i) => i < 6))!;
    expect(with99.centre).toBe(controlChart(points(values))!.centre);
    expect(with99.points.at(-1)).toMatchObject({ smoothed: null, off: ['beyond'] });
  });

  it('the limits stay where the first twenty put them', () => {
    const first = quietRow(20);
    expect(controlChart(points([...first, 40, 41, 42]))!.centre).toBe(controlChart(points(first))!.centre);
  });
});

const quietRow = (n: number) => Array.from({ length: n }, (_, i) => 30 + 0.1 * ((i * 7) % 5));
