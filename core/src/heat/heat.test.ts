import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { padStack, partBeneath, recirculation, thermalResistance } from '../index.ts';

describe('padStack', () => {
  const pad = { padMm: 2, conductivityWPerMK: 5, areaMm2: 100, heatW: 4 };
  it.each([
    [2, 'none'],
    [2.3, 'none'],
    [1.9, 'light'],
    [1.8, 'good'], // exactly 10 %
    [1.2, 'good'], // exactly 40 %
    [1.19, 'over-compressed'],
    [0, 'over-compressed'],
  ] as const)('a gap of %d mm makes %s contact', (gapMm, contact) => {
    expect(padStack({ ...pad, gapMm }).contact).toBe(contact);
  });
  it('has no resistance, pressure or drop where it does not touch', () => {
    expect(padStack({ ...pad, gapMm: 2.2 })).toMatchObject({ compressedMm: 2, resistanceKPerW: null, dropK: null, pressureKPa: null });
    expect(padStack({ ...pad, gapMm: 2.2 }).compression).toBeCloseTo(-0.1, 12);
  });
  it('costs t/(kA) and what both faces cost', () => {
    const stack = padStack({ ...pad, gapMm: 1.5, contactKMm2PerW: 15 });
    expect(stack.resistanceKPerW).toBeCloseTo(3 + 0.15, 12);
    expect(stack.dropK).toBeCloseTo(12.6, 12);
    expect(padStack({ ...pad, heatW: undefined, gapMm: 1.5 }).dropK).toBeNull();
  });
  it('names the worse end of the tolerance: losing touch before being crushed, and the thicker of two that are alike', () => {
    expect(padStack({ ...pad, gapMm: 1.5, gapToleranceMm: 0.6 }).worstCase).toMatchObject({ contact: 'none', gapMm: 2.1 });
    expect(padStack({ ...pad, gapMm: 1.25, gapToleranceMm: 0.1 }).worstCase).toMatchObject({ contact: 'over-compressed' });
    expect(padStack({ ...pad, gapMm: 1.5, gapToleranceMm: 0.1 }).worstCase.gapMm).toBeCloseTo(1.6, 12);
    expect(padStack({ ...pad, gapMm: 0.1, gapToleranceMm: 0.3 }).worstCase.gapMm).toBeCloseTo(0.4, 12);
  });
  it('reads pressure off its curve, and nowhere else', () => {
    const pressureCurve = [
      { compression: 0.3, kPa: 300 },
      { compression: 0.1, kPa: 50 },
    ];
    expect(padStack({ ...pad, gapMm: 1.6, pressureCurve }).pressureKPa).toBeCloseTo(175, 9);
    expect(padStack({ ...pad, gapMm: 1.3, pressureCurve }).pressureKPa).toBeNull();
  });
  it('refuses what cannot be', () => {
    for (const bad of [
      { padMm: 0 },
      { conductivityWPerMK: 0 },
      { areaMm2: -1 },
      { gapMm: -0.1 },
      { gapToleranceMm: -1 },
      { maxCompression: 1.2 },
      { heatW: NaN },
    ])
      expect(() => padStack({ ...pad, gapMm: 1.5, ...bad }), JSON.stringify(bad)).toThrow(RangeError);
  });
});

describe('partBeneath', () => {
  const input = { gapMm: 1, padMm: 1.25, conductivityWPerMK: 6, areaMm2: 50, heat: { value: 3, u: 0.1, dof: Infinity }, caseKPerW: 1.5 };
  it('adds heat times resistance, and far more doubt than the reading had', () => {
    const estimate = partBeneath({ value: 70, u: 0.3, dof: Infinity }, input)!;
    expect(estimate.stepK).toBeCloseTo(3 * (1000 / 300 + 1.5), 9);
    expect(estimate.part.value).toBeCloseTo(70 + estimate.stepK, 12);
    expect(estimate.part.u).toBeGreaterThan(2);
  });
  it('says nothing where the pad may not touch', () => {
    expect(partBeneath({ value: 70, u: 0.3, dof: Infinity }, { ...input, gapToleranceMm: 0.3 })).toBeNull();
  });
});

describe('thermalResistance', () => {
  it('propagates a quotient: relative doubts add in squares', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 90, noNaN: true }), fc.double({ min: 5, max: 400, noNaN: true }), (rise, power) => {
        const r = thermalResistance({ value: rise, u: 0.5, dof: 12 }, { value: power, u: 1, dof: 30 });
        expect(r.value).toBeCloseTo(rise / power, 12);
        expect(r.u / r.value).toBeCloseTo(Math.hypot(0.5 / rise, 1 / power), 9);
      }),
    );
  });
  it('has a doubt at zero rise too, and none at zero power', () => {
    expect(thermalResistance({ value: 0, u: 0.5, dof: 9 }, { value: 50, u: 1, dof: 9 })).toMatchObject({ value: 0, u: 0.01, dof: 9 });
    expect(() => thermalResistance({ value: 20, u: 0.5, dof: 9 }, { value: 0, u: 1, dof: 9 })).toThrow(RangeError);
  });
});

describe('recirculation', () => {
  it('is the share of the exhaust in the intake', () => {
    expect(recirculation(24, 31, 45).fraction).toBeCloseTo(1 / 3, 12);
    expect(recirculation(20, 19, 40)).toMatchObject({ fraction: 0, raw: -0.05 });
    expect(recirculation(20, 41, 40).fraction).toBe(1);
    expect(() => recirculation(20, 20, 20)).toThrow(RangeError);
    expect(() => recirculation(NaN, 20, 30)).toThrow(RangeError);
  });
});
