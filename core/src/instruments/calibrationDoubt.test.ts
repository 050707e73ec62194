import { describe, expect, it } from 'vitest';
import { calibrate, calibrationDoubt, channelBudget, rectangularHalfWidth, typeB } from '../index.ts';

/** Indicated temperatures that lie `offset` low, with a wiggle of alternating sign. */
const points = (temperatures: number[], offset: number, wiggle: number) =>
  temperatures.map((referenceC, i) => ({ referenceC, indicatedC: referenceC - offset + (i % 2 === 0 ? wiggle : -wiggle) }));

describe('what a calibration leaves in doubt', () => {
  it('is that of the references alone where two points leave no residual', () => {
    const two = calibrate(points([0, 100], 0.8, 0));
    const doubt = calibrationDoubt(two, 0.3, 60);
    expect(doubt.u).toBeCloseTo(0.3 / Math.sqrt(3), 12);
    expect(doubt.dof).toBe(Infinity);
  });
  it('adds the fit in squares, and grows away from the points that were taken', () => {
    const fit = calibrate(points([0, 20, 40, 60, 80, 100], 0.8, 0.2));
    const near = calibrationDoubt(fit, 0.3, 50);
    const far = calibrationDoubt(fit, 0.3, 180);
    expect(near.dof).toBe(4);
    expect(near.u ** 2).toBeCloseTo(fit.correctionAt(50).u ** 2 + 0.03, 12);
    expect(far.u).toBeGreaterThan(near.u);
  });
  it('turns into a half-width and back', () => {
    expect(typeB(rectangularHalfWidth(0.42), 'rectangular')).toBeCloseTo(0.42, 12);
  });
  it('replaces the stated accuracy in a budget, for better and for worse', () => {
    const sensor = { accuracyK: 1.5, resolutionK: 0.1, placementK: 0, driftK: 0 };
    const total = (referenceAccuracyK: number | null) =>
      channelBudget({
        use: 'absolute',
        sensor: {
          ...sensor,
          calibration: referenceAccuracyK === null ? null : calibrationDoubt(calibrate(points([0, 100], 1, 0)), referenceAccuracyK, 80),
        },
        repeatability: null,
      }).total.expanded;
    expect(total(0.2)).toBeLessThan(total(null));
    expect(total(3)).toBeGreaterThan(total(null));
  });
});
