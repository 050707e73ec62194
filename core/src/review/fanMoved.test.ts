import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { fanMoved } from './fanMoved.ts';

const load = { startS: 300, endS: 2100 };
const series = (rpm: (s: number) => number) => {
  const t = Float64Array.from({ length: 2400 }, (_, i) => i);
  return { t, y: t.map(rpm) };
};

describe('a fan under load', () => {
  it('that is held does not move, though it comes up, flickers and creeps', () => {
    const normal = seededNormal(4);
    const held = series((s) => (s < 330 ? 600 : 1500) * (1 + 0.02 * normal()) * (1 + 0.000005 * s));
    expect(fanMoved(held, load)!).toBeLessThan(0.04);
  });
  it('that follows the part moves, also where it ends at the same', () => {
    expect(
      fanMoved(
        series((s) => 1500 * (1 - 0.4 * Math.exp(-(s - 300) / 400))),
        load,
      )!,
    ).toBeGreaterThan(0.2);
    // From 1500 to 1800, most of the minutes at 1800.
    expect(
      fanMoved(
        series((s) => (s > 1200 ? 1800 : 1500)),
        load,
      )!,
    ).toBeCloseTo(300 / 1800, 9);
  });
  it('of which too little was seen, or that stood, says nothing', () => {
    expect(fanMoved(series(() => NaN), load)).toBeNull(); // prettier-ignore
    expect(fanMoved(series(() => 0), load)).toBeNull(); // prettier-ignore
    expect(fanMoved(series(() => 1500), { startS: 300, endS: 500 })).toBeNull(); // prettier-ignore
  });
});
