import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  accuracyHalfWidth,
  agreement,
  boilingPoint,
  calibrate,
  channelBudget,
  InsufficientDataError,
  pressureAtAltitude,
  thermocoupleTolerance,
  trueSurfaceTemperature,
  typeB,
  type SensorDoubt,
} from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';

describe('calibrate', () => {
  /** GUM H.3: thermometer readings, observed corrections b_k, in °C; the corrected reference is t + b. */
  const GUM = [
    [21.521, -0.171],
    [22.012, -0.169],
    [22.512, -0.166],
    [23.003, -0.159],
    [23.507, -0.164],
    [23.999, -0.165],
    [24.513, -0.156],
    [25.002, -0.157],
    [25.503, -0.159],
    [26.01, -0.161],
    [26.511, -0.16],
  ].map(([t, b]) => ({ indicatedC: t!, referenceC: t! + b! }));

  it('reproduces the worked example of GUM H.3', () => {
    const fit = calibrate(GUM, { x0: 20 });
    expect(fit.offset.value).toBeCloseTo(-0.1712, 4);
    expect(fit.offset.u).toBeCloseTo(0.0029, 4);
    expect(fit.slope.value).toBeCloseTo(0.00218, 5);
    expect(fit.slope.u).toBeCloseTo(0.00067, 5);
    expect(fit.correlation).toBeCloseTo(-0.93, 2);
    expect(fit.residualSd).toBeCloseTo(0.0035, 4);
    const at30 = fit.correctionAt(30);
    expect(at30.value).toBeCloseTo(-0.1494, 4);
    expect(at30.u).toBeCloseTo(0.0041, 4);
    expect(at30.dof).toBe(9);
  });
  it('is the same line wherever its zero is put and whatever the order of points', () => {
    const here = calibrate(GUM, { x0: 0 });
    const there = calibrate([...GUM].reverse(), { x0: 24 });
    for (const t of [-10, 0, 24, 60]) {
      expect(here.correctionAt(t).value).toBeCloseTo(there.correctionAt(t).value, 10);
      expect(here.correctionAt(t).u).toBeCloseTo(there.correctionAt(t).u, 10);
    }
    const { offset, slope, correlation } = here;
    const byParts = Math.sqrt(offset.u ** 2 + (30 * slope.u) ** 2 + 2 * 30 * offset.u * slope.u * correlation);
    expect(here.correctionAt(30).u).toBeCloseTo(byParts, 12);
  });
  it('takes one point as an offset and two as a line without residual', () => {
    const ice = calibrate([{ indicatedC: 0.4, referenceC: 0 }]);
    expect(ice).toMatchObject({ slope: { value: 0, u: 0, dof: 0 }, correlation: 0, residualSd: 0, offset: { value: -0.4, u: 0, dof: 0 } });
    const two = calibrate([
      { indicatedC: 0.4, referenceC: 0 },
      { indicatedC: 99.1, referenceC: 99.6 },
    ]);
    expect(two.correctionAt(99.1)).toMatchObject({ u: 0, dof: 0 });
    expect(two.correctionAt(99.1).value).toBeCloseTo(0.5, 12);
    expect(two.residualSd).toBe(0);
  });
  it('refuses no points, points on top of each other and what is not a number', () => {
    expect(() => calibrate([])).toThrow(InsufficientDataError);
    const same = { indicatedC: 50, referenceC: 50.2 };
    expect(() => calibrate([same, { ...same, referenceC: 50.4 }])).toThrow(/one indicated temperature/);
    expect(() => calibrate([{ indicatedC: NaN, referenceC: 0 }])).toThrow(RangeError);
    expect(() => calibrate([same]).correctionAt(NaN)).toThrow(RangeError);
  });
});

describe('agreement', () => {
  const t = Float64Array.from({ length: 600 }, (_, i) => i);
  const level = t.map((s) => 40 + 30 * (1 - Math.exp(-s / 120)));

  it('finds bias and trend that were planted, and swaps its sign with the sides', () => {
    const normal = seededNormal(7);
    const b = { t, y: level.map((value) => value + 0.1 * normal()) };
    const a = { t, y: level.map((value) => value + 0.5 + 0.02 * (value - 60) + 0.1 * normal()) };
    const ab = agreement(a, b);
    expect(Math.abs(ab.trendPerK.value - 0.02 / 1.01)).toBeLessThan(4 * ab.trendPerK.u);
    const ba = agreement(b, a);
    expect(ba.bias.value).toBeCloseTo(-ab.bias.value, 12);
    expect(ba.lower).toBeCloseTo(-ab.upper, 12);
    expect(ba.trendPerK.value).toBeCloseTo(-ab.trendPerK.value, 12);
  });
  it('is surer of a bias in white noise than in correlated noise of the same size', () => {
    const normal = seededNormal(3);
    let state = 0;
    const correlated = t.map(() => (state = 0.97 * state + Math.sqrt(1 - 0.97 ** 2) * normal()));
    const white = t.map(() => normal());
    const flat = { t, y: t.map(() => 50) };
    const u = (noise: Float64Array) => agreement({ t, y: noise.map((value) => 50 + value) }, flat).bias.u;
    expect(u(correlated)).toBeGreaterThan(3 * u(white));
  });
  it('holds about 95 in 100 differences between its limits', () => {
    const normal = seededNormal(11);
    const difference = t.map(() => 0.7 + 0.3 * normal());
    const { lower, upper, n } = agreement({ t, y: level.map((value, i) => value + difference[i]!) }, { t, y: level });
    const inside = difference.filter((d) => d > lower && d < upper).length;
    expect(n).toBe(600);
    expect(inside / n).toBeGreaterThan(0.92);
    expect(inside / n).toBeLessThan(0.98);
  });
  it('compares only where both read, and says when that is nowhere', () => {
    const half = { t, y: level.map((value, i) => (i % 2 === 0 ? value : NaN)) };
    expect(agreement(half, { t, y: level }).n).toBe(300);
    expect(() => agreement(half, { t, y: t.map(() => NaN) })).toThrow(InsufficientDataError);
  });
});

describe('trueSurfaceTemperature', () => {
  it('changes nothing where the camera was set to the surface, and nothing at the surroundings’ own temperature', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 1, noNaN: true }), fc.double({ min: 20, max: 120, noNaN: true }), (e, indicatedC) => {
        const { valueC } = trueSurfaceTemperature({ indicatedC, emissivitySet: e, emissivity: e, reflectedC: 22 });
        expect(valueC).toBeCloseTo(indicatedC, 6);
      }),
    );
    expect(trueSurfaceTemperature({ indicatedC: 22, emissivitySet: 0.95, emissivity: 0.3, reflectedC: 22 }).valueC).toBeCloseTo(22, 9);
  });
  it('makes shiny metal hotter than it looks, and does not trust it', () => {
    const shiny = trueSurfaceTemperature({ indicatedC: 40, emissivitySet: 0.95, emissivity: 0.3, reflectedC: 22 });
    expect(shiny.valueC).toBeGreaterThan(60);
    expect(shiny.trustworthy).toBe(false);
    expect(trueSurfaceTemperature({ indicatedC: 40, emissivitySet: 0.95, emissivity: 0.6, reflectedC: 22 }).trustworthy).toBe(true);
  });
  it('refuses emissivities that no surface has, and surroundings that outshine the reading', () => {
    const input = { indicatedC: 40, emissivitySet: 0.95, emissivity: 0.9, reflectedC: 22 };
    for (const bad of [
      { emissivity: 0 },
      { emissivity: 1.01 },
      { emissivitySet: 0 },
      { emissivitySet: 1.2 },
      { indicatedC: NaN },
      { reflectedC: -300 },
    ])
      expect(() => trueSurfaceTemperature({ ...input, ...bad }), JSON.stringify(bad)).toThrow(RangeError);
    expect(() => trueSurfaceTemperature({ indicatedC: 20, emissivitySet: 1, emissivity: 0.1, reflectedC: 200 })).toThrow(/reflected/);
  });
});

describe('stated accuracy', () => {
  it('follows the tolerance classes of IEC 60584-1', () => {
    expect(thermocoupleTolerance('K', 1, 100)).toBe(1.5);
    expect(thermocoupleTolerance('K', 1, 500)).toBe(2);
    expect(thermocoupleTolerance('K', 2, 400)).toBeCloseTo(3, 12);
    expect(thermocoupleTolerance('T', 1, 100)).toBe(0.5);
    expect(thermocoupleTolerance('T', 1, 200)).toBeCloseTo(0.8, 12);
    expect(() => thermocoupleTolerance('T', 1, -60)).toThrow(RangeError);
  });
  it('adds percent, fixed part and wire in full', () => {
    expect(accuracyHalfWidth({ percentOfReading: 0.5, fixedK: 0.3, thermocouple: { type: 'K', toleranceClass: 1 } }, 80)).toBeCloseTo(
      2.2,
      12,
    );
  });
});

describe('boiling point', () => {
  it('meets the verification values of IAPWS-IF97 and the normal boiling point', () => {
    expect(boilingPoint(1000)).toBeCloseTo(99.605919, 5);
    expect(boilingPoint(1013.25)).toBeCloseTo(99.974, 3);
  });
  it('falls by about a kelvin every 300 m', () => {
    const fall = boilingPoint(pressureAtAltitude(0)) - boilingPoint(pressureAtAltitude(300));
    expect(fall).toBeGreaterThan(0.9);
    expect(fall).toBeLessThan(1.1);
    expect(pressureAtAltitude(1000)).toBeCloseTo(898.7, 0);
  });
  it('asks about pressures in another unit', () => {
    expect(() => boilingPoint(760 / 25.4)).toThrow(/another unit/);
    expect(() => boilingPoint(101_325)).toThrow(RangeError);
    expect(() => pressureAtAltitude(30_000)).toThrow(RangeError);
  });
});

describe('channelBudget', () => {
  const sensor: SensorDoubt = { accuracyK: 1.5, resolutionK: 0.1, calibration: null, placementK: 0.5, driftK: 0.2 };
  const repeatability = { sd: 0.3, dof: 8 };

  it('is accuracy and the rest for a single reading', () => {
    const { total, largest } = channelBudget({ use: 'absolute', sensor, repeatability });
    const u = Math.hypot(typeB(1.5, 'rectangular'), typeB(0.5, 'rectangular'), typeB(0.2, 'rectangular'), typeB(0.05, 'rectangular'), 0.3);
    expect(total.u).toBeCloseTo(u, 12);
    expect(largest.name).toBe('stated accuracy');
  });
  it('lets accuracy and place cancel in a difference by one sensor, and in no other use', () => {
    const one = channelBudget({ use: 'difference-one-sensor', sensor, repeatability });
    expect(one.total.u).toBeCloseTo(Math.hypot(0.3 * Math.SQRT2, Math.SQRT2 * typeB(0.05, 'rectangular')), 12);
    expect(one.lines.filter((line) => line.cancels).map((line) => line.name)).toEqual([
      'stated accuracy',
      'drift since calibration',
      'place and contact',
    ]);
    expect(one.largest.name).toBe('scatter between runs');
    const two = channelBudget({ use: 'difference-two-sensors', sensor, repeatability });
    expect(two.lines.every((line) => line.cancels === null)).toBe(true);
    expect(two.total.u).toBeGreaterThan(3 * one.total.u);
  });
  it('replaces accuracy by what a calibration leaves, and counts its dof', () => {
    const calibrated = channelBudget({ use: 'absolute', sensor: { ...sensor, calibration: { u: 0.05, dof: 2 } }, repeatability: null });
    expect(calibrated.lines.map((line) => line.name)).not.toContain('stated accuracy');
    expect(calibrated.total.u).toBeLessThan(channelBudget({ use: 'absolute', sensor, repeatability: null }).total.u);
    expect(calibrated.total.dof).toBeLessThan(Infinity);
  });
  it('adds the room probe to a rise, and asks for one', () => {
    const room: SensorDoubt = { accuracyK: 0.5, resolutionK: 0.1, calibration: null, placementK: 9, driftK: 0 };
    const rise = channelBudget({ use: 'rise', sensor, room, repeatability: null });
    expect(rise.lines.map((line) => line.name)).toContain('stated accuracy, room probe');
    expect(rise.lines.map((line) => line.name)).not.toContain('place and contact, room probe');
    expect(() => channelBudget({ use: 'rise', sensor, repeatability: null })).toThrow(/room probe/);
  });
  it('gains from repeats by their root only', () => {
    const still: SensorDoubt = { accuracyK: 0, resolutionK: 0, calibration: null, placementK: 0, driftK: 0 };
    const of = (runs: number) => channelBudget({ use: 'difference-one-sensor', sensor: still, repeatability, runs }).total.u;
    expect(of(1) / of(4)).toBeCloseTo(2, 12);
    expect(() => of(0)).toThrow(RangeError);
  });
});
