import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { rejectTemperatureSpikes } from './rejectSpikes.ts';
import { leftBySteps } from './leftBySteps.ts';
import { stepOf } from './stepOf.ts';

const made = (step: number, sd: number, seed: number, n = 1200) => {
  const normal = seededNormal(seed);
  return {
    t: Float64Array.from({ length: n }, (_, i) => i),
    y: Float64Array.from({ length: n }, (_, i) => step * Math.round((61.3 + i / 4000 + sd * normal()) / step)),
  };
};

describe('the step of a sensor', () => {
  it.each([0.1, 0.5, 1, 2])('of %d K is told from what it gave', (step) => {
    expect(stepOf(made(step, step, 3).y)).toBeCloseTo(step, 9);
  });
  it('is nothing where values are fine, and unknown where they are all alike', () => {
    const normal = seededNormal(5);
    expect(stepOf(Float64Array.from({ length: 2000 }, normal))).toBe(0);
    expect(stepOf([4, 4, NaN, 4])).toBeNull();
    expect(stepOf([])).toBeNull();
  });
});

describe('spikes of a coarse sensor', () => {
  it.each([1, 2])('its own steps of %d K are none, whatever dithers them', (step) => {
    for (let seed = 1; seed <= 10; seed++) {
      for (const sd of [0.1, 0.3]) expect(rejectTemperatureSpikes(made(step, sd * step, seed)).spikes).toEqual([]);
      // What dithers by more than half a step leaves them by three once in a while.
      expect(rejectTemperatureSpikes(made(step, 0.6 * step, seed)).spikes.length).toBeLessThanOrEqual(2);
    }
  });
  it('what leaves its neighbours by three steps is one still', () => {
    const series = made(2, 0.3, 7);
    for (const at of [300, 301, 700]) series.y[at]! += 6;
    expect(rejectTemperatureSpikes(series).spikes.map(({ t }) => t)).toEqual([300, 301, 700]);
  });
});

describe('what steps leave in doubt of a mean', () => {
  it('is all of a step where nothing moves, and nothing where the sensor is fine', () => {
    expect(leftBySteps(1, 0)).toBeCloseTo(1 / Math.sqrt(12), 12);
    expect(leftBySteps(0, 0.3)).toBe(0);
    expect(() => leftBySteps(-1, 0)).toThrow(RangeError);
  });
  it.each([0.15, 0.25, 0.4, 0.6])('holds the error of means that noise of %d steps dithers', (sd) => {
    let [squares, claimed] = [0, 0];
    const n = 4000;
    for (let seed = 1; seed <= 60; seed++) {
      const normal = seededNormal(seed);
      const truth = seed / 60;
      const y = Float64Array.from({ length: n }, () => Math.round(truth + sd * normal()));
      const mean = y.reduce((sum, value) => sum + value / n, 0);
      const variance = y.reduce((sum, value) => sum + (value - mean) ** 2 / (n - 1), 0);
      squares += (mean - truth) ** 2 / 60;
      claimed += (leftBySteps(1, Math.sqrt(variance)) ** 2 + variance / n) / 60;
    }
    expect(Math.sqrt(squares)).toBeLessThan(1.1 * Math.sqrt(claimed));
    if (sd > 0.5) expect(Math.sqrt(claimed)).toBeLessThan(0.02);
  });
});
