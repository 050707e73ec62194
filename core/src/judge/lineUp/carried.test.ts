import { describe, expect, it } from 'vitest';
import {
  fanNeeded,
  inBothAirs,
  kneeOfSweep,
  meanFigure,
  meanOutcome,
  minutesOfLoad,
  roomOfSide,
  sweptAt,
  type Estimate,
  type LineUp,
  type LineUpRun,
} from '../../index.ts';
import { lineUpRun, lineUpSide } from '@red-ember/testing/lineUps';

const known = (value: number, u = 0.1): Estimate => ({ value, u, dof: 30 });

// Figures of one mount, which nobody took off.
const run = (top: number, change: Partial<LineUpRun> = {}) => lineUpRun(top, { mount: 'v 1', ...change });

describe('what is carried', () => {
  const limits = [{ id: 'top', name: 'Top', limitC: 95, limitSource: 'x', accuracyK: 0.5 }];
  const swept = (percents: number[], rise: (percent: number) => number) =>
    lineUpSide('card', [
      run(50, {
        points: { top: percents.map((x) => ({ powerW: known(100), rise: known(rise(x)), settled: true, load: `Case fans, ${x}` })) },
      }),
    ]);
  it('reads a sweep off the names of its loads', () => {
    expect(['Case fans, 60', 'Fans, 40 %', 'Load, -5', 'Vent blocked'].map((name) => sweptAt(name)?.value ?? null)).toEqual([
      60,
      40,
      -5,
      null,
    ]);
  });
  it('finds the least fan, scaled to the load, and says where even the fullest is too little', () => {
    const card = swept([20, 40, 60, 80, 100], (x) => 30 + 1200 / x);
    // 95 less 5 less 32 is 58 K; 30 + 1200/x falls to that at 43 %.
    const need = fanNeeded(card, limits, 100, 32, 5)!;
    expect(need.what).toBe('Case fans');
    expect(need.duty!).toBeGreaterThan(40);
    expect(need.duty!).toBeLessThan(46);
    expect(fanNeeded(card, limits, 160, 32, 5)!.duty).toBeNull();
    expect(fanNeeded(lineUpSide('card', [run(50)]), limits, 100, 32, 5)).toBeNull();
  });
  it('says how long a load that is too much may run, by the slow time constant', () => {
    const binding = {
      id: 'top',
      name: 'Top',
      limitC: 95,
      limitSource: '',
      points: 1,
      law: { lnA: 0, exponent: 1 },
      losses: null,
      maxW: known(63),
      doubtW: 1,
      far: false,
      refusal: null,
    };
    // 126 K at 126 W, of which 63 are left at 32 °C: half of it, after τ·ln 2.
    expect(minutesOfLoad(126, binding, lineUpSide('card', [run(50)]), 32)).toBeCloseTo(10 * Math.LN2, 9);
    expect(minutesOfLoad(100, { ...binding, law: null }, lineUpSide('card', [run(50)]), 32)).toBeNull();
    expect(roomOfSide(lineUpSide('card', [run(50), run(50, { roomC: 24 })]))).toBe(23);
    expect(roomOfSide(lineUpSide('card', [run(50, { roomC: null })]))).toBe(22);
  });
  it('finds the knee of a sweep, and none among changes of other things', () => {
    const sides = (names: string[], rise: (i: number) => number) =>
      names.map((name, i) => ({ ...lineUpSide(name, [run(rise(i), { outcomes: { noise: known(30 + i) } })]), name }));
    const fieldOf = (entries: ReturnType<typeof sides>) =>
      ({ sides: entries, spots: [], rules: {}, findings: [], history: {} }) as unknown as LineUp;
    const knee = [20, 40, 60, 80, 100].map((percent) => `Case fans, ${percent}`);
    expect(kneeOfSweep(fieldOf(sides(knee, (i) => 30 + 24 / (i + 1))), 'top')).toEqual({ name: 'Case fans, 40', noiseDb: 31 });
    expect(kneeOfSweep(fieldOf(sides(knee, (i) => 50 - 5 * i)), 'top')).toEqual({ name: null, noiseDb: null });
    expect(kneeOfSweep(fieldOf(sides(['As it stands', 'Vent blocked', 'Side opened'], (i) => 50 - i)), 'top')).toBeNull();
    expect(kneeOfSweep(fieldOf(sides(knee.slice(0, 2), (i) => 50 - i)), 'top')).toBeNull();
  });
  it('stands in both airs, or says nothing of the one that rests on a room nobody recorded', () => {
    const air = { airC: 32, powerTempCo: 0 };
    expect(inBothAirs(lineUpSide('a', [run(50)]), 'top', 50, 'rise', air)).toEqual({ benchC: 72, warmC: 82 });
    expect(inBothAirs(lineUpSide('a', [run(70)]), 'top', 70, 'held-room', air)).toEqual({ benchC: 70, warmC: 80 });
    expect(inBothAirs(lineUpSide('a', [run(70, { roomC: null })]), 'top', 70, 'as-found', air)).toEqual({ benchC: 70, warmC: null });
    expect(meanOutcome(lineUpSide('a', [run(50)]), 'noise')).toBeNull();
    expect(meanFigure(lineUpSide('a', [run(50), run(52)]), 'top')).toBe(51);
  });
});
