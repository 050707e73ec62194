import { describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { InsufficientDataError, decimate, readWindow, rejectSpikes, riseOverAmbient } from '../index.ts';
import { madeTrace, series } from '@red-ember/testing/signals';

describe('riseOverAmbient', () => {
  it('takes a drifting room out sample by sample, where mean minus mean would keep half the drift', () => {
    const room = madeTrace({ n: 121, dtS: 30, f: (t) => 22 + (2 * t) / 3600 });
    const spot = madeTrace({ n: 3600, f: (t) => 40 + 22 + (2 * t) / 3600 });
    const rise = riseOverAmbient(spot, room);
    for (const value of rise.y) expect(value).toBeCloseTo(40, 9);
  });

  it('is NaN across a gap in the room record and outside it, and where the spot is missing', () => {
    const rise = riseOverAmbient(series([-1, 0, 10, 50, 100], [50, 51, NaN, 52, 53]), series([0, 20, 81, 100], [20, 20, 20, 20]));
    expect([...rise.y]).toEqual([NaN, 31, NaN, NaN, 33]);
  });

  it('is all NaN without any room sample', () => {
    expect([...riseOverAmbient(series([0, 1], [5, 6]), series([], [])).y]).toEqual([NaN, NaN]);
  });

  it('has a default gap of 30 s, both sides counted', () => {
    const room = series([0, 60], [20, 21]);
    expect([...riseOverAmbient(series([29, 30, 31], [50, 50, 50]), room).y]).toEqual([NaN, 29.5, NaN]);
    expect(riseOverAmbient(series([31], [50]), room, { maxGapS: 31 }).y[0]).toBeCloseTo(29.4833, 4);
  });

  it('shifts by exactly what the room shifts', () => {
    fc.assert(
      fc.property(fc.double({ min: -40, max: 40, noNaN: true }), (shift) => {
        const spot = madeTrace({ n: 50, f: (t) => 50 + t / 10, sd: 0.3 });
        const room = madeTrace({ n: 50, f: () => 21, sd: 0.1, seed: 2 });
        const warmer = { t: room.t, y: room.y.map((v) => v + shift) };
        const [a, b] = [riseOverAmbient(spot, room), riseOverAmbient(spot, warmer)];
        a.y.forEach((value, i) => expect(value - b.y[i]!).toBeCloseTo(shift, 9));
      }),
      { numRuns: 30 },
    );
  });

  it('refuses times that do not ascend and infinite values', () => {
    expect(() => riseOverAmbient(series([0, 0], [1, 2]), series([0], [1]))).toThrow(RangeError);
    expect(() => riseOverAmbient(series([0, 1], [1, Infinity]), series([0], [1]))).toThrow(/value 1 is infinite/);
  });
});

describe('rejectSpikes', () => {
  it('finds planted spikes in correlated noise and leaves everything else as it was', () => {
    const trace = madeTrace({ n: 1200, f: (t) => 40 + 10 * (1 - Math.exp(-t / 200)), sd: 0.15, phi: 0.8, seed: 11 });
    const planted = [100, 333, 334, 900];
    for (const i of planted) trace.y[i] = trace.y[i]! + 6;
    const before = trace.y.slice();
    const { clean, spikes } = rejectSpikes(trace);
    expect(spikes.map((spike) => spike.t)).toEqual(planted);
    clean.y.forEach((value, i) => (planted.includes(i) ? expect(value).toBeNaN() : expect(value).toBe(before[i])));
    expect([...trace.y]).toEqual([...before]);
  });

  it('does not take a step that stays, a ramp or a quantised flicker for spikes', () => {
    for (const f of [(t: number) => (t < 300 ? 30 : 45), (t: number) => 30 + t / 5, (t: number) => (t % 2 === 0 ? 30 : 31)]) {
      expect(rejectSpikes(madeTrace({ n: 600, f })).spikes).toEqual([]);
    }
  });

  it('has defaults of 15 s, five scaled deviations and a floor of 0.25', () => {
    const at = (height: number) => {
      const trace = madeTrace({ n: 60, f: () => 30 });
      trace.y[30] = 30 + height;
      return rejectSpikes(trace).spikes.length;
    };
    expect([at(1.24), at(1.26)]).toEqual([0, 1]); // 5 · 0.25
  });
});

describe('decimate', () => {
  it('keeps ends and extremes for any trace and any budget', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof({ weight: 9, arbitrary: fc.double({ min: -50, max: 150, noNaN: true }) }, fc.constant(NaN)), {
          minLength: 1,
          maxLength: 400,
        }),
        fc.integer({ min: 4, max: 90 }),
        (values, budget) => {
          const input = series(
            values.map((_, i) => i),
            values,
          );
          const small = decimate(input, budget);
          expect(small.t.length).toBeLessThanOrEqual(budget);
          const present = values.filter((v) => !Number.isNaN(v));
          if (values.length <= budget || present.length === 0) return;
          expect(Math.max(...small.y)).toBe(Math.max(...present));
          expect(Math.min(...small.y)).toBe(Math.min(...present));
          expect(small.y[0]).toBe(present[0]);
          expect(small.y[small.y.length - 1]).toBe(present[present.length - 1]);
          small.t.forEach((time, i) => expect(small.y[i]).toBe(values[time]));
          for (let i = 1; i < small.t.length; i++) expect(small.t[i]).toBeGreaterThan(small.t[i - 1]!);
        },
      ),
    );
  });

  it('refuses a budget under four', () => {
    expect(() => decimate(series([0], [1]), 3)).toThrow(RangeError);
  });
});

describe('readWindow', () => {
  it('agrees with hand arithmetic', () => {
    const reading = readWindow(series([0, 1, 2, 3, 4, 5], [9, 1, 2, 3, 4, 9]), { startS: 1, endS: 5 });
    expect(reading).toMatchObject({ n: 4, min: 1, max: 4 });
    expect(reading.mean.value).toBe(2.5);
    expect(reading.p95).toBeCloseTo(3.85, 12); // type 7: 1 + 3·0.95
  });

  it('covers the true mean of correlated noise about as often as it says', () => {
    // phi = 0.9: the usual s/√n would cover the mean in under half of the cases.
    let covered = 0;
    let naive = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const { mean, n, nEffective } = readWindow(madeTrace({ n: 600, f: () => 50, sd: 0.5, phi: 0.9, seed }), { startS: 0, endS: 600 });
      if (Math.abs(mean.value - 50) <= 2 * mean.u) covered++;
      if (Math.abs(mean.value - 50) <= 2 * mean.u * Math.sqrt(nEffective / n)) naive++;
    }
    expect(covered).toBeGreaterThan(175);
    expect(naive).toBeLessThan(120);
  });

  it('finds the textbook effective number for a first-order process', () => {
    const { nEffective } = readWindow(madeTrace({ n: 20000, f: () => 0, sd: 1, phi: 0.8, seed: 5 }), { startS: 0, endS: 20000 });
    expect(nEffective / (20000 * (0.2 / 1.8))).toBeGreaterThan(0.7);
    expect(nEffective / (20000 * (0.2 / 1.8))).toBeLessThan(1.3);
  });

  it('shifts with its input and keeps its doubt', () => {
    const trace = madeTrace({ n: 300, f: () => 60, sd: 0.2, phi: 0.5 });
    const [a, b] = [trace, { t: trace.t, y: trace.y.map((v) => v + 5) }].map((s) => readWindow(s, { startS: 0, endS: 300 }));
    expect(b!.mean.value - a!.mean.value).toBeCloseTo(5, 10);
    expect(b!.mean.u).toBeCloseTo(a!.mean.u, 10);
  });

  it('gives a constant trace no doubt and refuses too little', () => {
    const flat = readWindow(series([0, 1, 2], [4, 4, 4]), { startS: 0, endS: 3 });
    expect(flat.mean).toEqual({ value: 4, u: 0, dof: 2 });
    expect(() => readWindow(series([0, 1, 2], [4, NaN, NaN]), { startS: 0, endS: 3 })).toThrow(InsufficientDataError);
    expect(() => readWindow(series([0, 1], [4, 5]), { startS: 3, endS: 1 })).toThrow(RangeError);
  });
});
