import { describe, expect, it } from 'vitest';
import { changesOf, findOnset, lookedAtAround, whichFirst, type Onset, type Series } from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';
import { seededUniform } from '../seeded.ts';

const CHANGE_S = 300;
const around = { changeS: CHANGE_S, fromS: 0, toS: 900 };

/** A spot that goes on straight until so many seconds after the change, and then somewhere else. */
function spot(move: (sinceS: number) => number, delayS: number, noise: () => number = () => 0, everyS = 1): Series {
  const t = Float64Array.from({ length: 900 / everyS }, (_, i) => i * everyS);
  return { t, y: t.map((time) => 40 + 0.002 * time + (time > CHANGE_S + delayS ? move(time - CHANGE_S - delayS) : 0) + noise()) };
}
const approach = (byK: number, tauS: number) => (s: number) => -byK * Math.expm1(-s / tauS);

describe('when a spot began to move', () => {
  it.each([
    ['at once, up', 0, approach(12, 60), 'up'],
    ['after half a minute, down', 30, approach(-6, 90), 'down'],
    ['slowly', 10, approach(20, 600), 'up'],
  ] as const)('%s, without noise: to the second', (_what, delayS, move, goes) => {
    const found = findOnset(spot(move, delayS), around);
    expect(found).toMatchObject({ goes, why: null });
    expect(Math.abs(found.afterS!.value - delayS)).toBeLessThan(1.5);
  });

  it.each([
    ['white noise', 1, 0, 1],
    ['noise that stays alike for 10 s', 1, 0.9, 1],
    ['a sample every 5 s', 5, 0, 1],
    ['a sensor that reads whole degrees', 1, 0, 0],
  ] as const)('holds the truth in its doubt: %s', (_what, everyS, alike, coarse) => {
    let [inside, told] = [0, 0];
    for (let seed = 1; seed <= 60; seed++) {
      const [u, g] = [seededUniform(seed), seededNormal(seed + 500)];
      let last = 0;
      const noise = () => (last = alike * last + 0.1 * g() * Math.sqrt(1 - alike ** 2));
      const delayS = 60 * u();
      const series = spot(approach(4 + 16 * u(), 20 + 180 * u()), delayS, noise, everyS);
      const { afterS } = findOnset(coarse === 0 ? { t: series.t, y: series.y.map(Math.round) } : series, around);
      if (!afterS) continue;
      told++;
      if (Math.abs(afterS.value - delayS) <= 2 * afterS.u) inside++;
    }
    expect(told).toBeGreaterThan(55);
    expect(inside / told).toBeGreaterThan(0.85);
  });

  it.each([
    ['every second', 1, 0],
    ['every 2 s', 2, 0],
    ['every 5 s', 5, 0],
    ['every 2 s, in whole degrees', 2, 1],
    ['ten times a second', 0.1, 0],
  ] as const)('holds the truth where most of the way is gone before the next sample: %s', (_what, everyS, coarse) => {
    let [inside, told, wide] = [0, 0, 0];
    for (let seed = 1; seed <= 60; seed++) {
      const [u, g] = [seededUniform(seed), seededNormal(seed + 900)];
      const delayS = 20 * u();
      const [fast, slow] = [approach(10 + 30 * u(), 0.1 + 0.5 * u()), approach(10 + 30 * u(), 40 + 100 * u())];
      const series = spot(
        (s) => fast(s) + slow(s),
        delayS,
        () => 0.15 * g(),
        everyS,
      );
      const { afterS } = findOnset(coarse === 1 ? { t: series.t, y: series.y.map(Math.round) } : series, around);
      if (!afterS) continue;
      told++;
      if (Math.abs(afterS.value - delayS) <= 2 * afterS.u) inside++;
      if (2 * afterS.u > 3 * Math.max(everyS, 1)) wide++;
    }
    expect(told).toBe(60);
    expect(inside / told).toBeGreaterThan(0.85);
    expect(wide / told).toBeLessThan(0.1);
  });

  it('says nothing of a spot that stayed, that was on its way from before, or that was hardly read', () => {
    const g = seededNormal(7);
    expect(findOnset(spot(() => 0, 0, () => 0.1 * g()), around)).toEqual({ afterS: null, goes: null, why: 'still' }); // prettier-ignore
    const falling = spot(approach(5, 60), 10, () => 0.1 * g());
    const hot = { t: falling.t, y: falling.y.map((value, i) => value + 30 * Math.exp(-falling.t[i]! / 90)) };
    expect(findOnset(hot, { ...around, fromS: 200 })).toMatchObject({ afterS: null, why: 'moving' });
    expect(findOnset({ t: Float64Array.of(0, 300, 600), y: Float64Array.of(40, 40, 50) }, around).why).toBe('too-few');
    expect(findOnset({ t: new Float64Array(0), y: new Float64Array(0) }, around).why).toBe('too-few');
    const gaps = spot(approach(9, 60), 0);
    expect(findOnset({ t: gaps.t, y: gaps.y.map(() => NaN) }, around).why).toBe('too-few');
  });

  it('needs no more of a record than the stretch about the change', () => {
    const g = seededNormal(11);
    const whole = spot(approach(9, 60), 20, () => 0.1 * g());
    const { startS, endS } = lookedAtAround(around);
    const part = { t: whole.t.slice(startS, endS), y: whole.y.slice(startS, endS) };
    expect(part.t.length).toBeLessThan(whole.t.length);
    expect(findOnset(part, around)).toEqual(findOnset(whole, around));
  });

  it('looks no further than what was before and what follows', () => {
    const series = spot(approach(12, 60), 0);
    expect(findOnset(series, { changeS: CHANGE_S, fromS: 298, toS: 900 }).afterS).toBeNull();
    expect(findOnset(series, { changeS: CHANGE_S, fromS: 0, toS: 303 }).afterS).toBeNull();
  });
});

describe('which was first', () => {
  const at = (spotId: string, value: number, u: number) => ({
    spotId,
    onset: { afterS: { value, u, dof: Infinity }, goes: 'up', why: null } satisfies Onset,
  });
  const still = (spotId: string) => ({ spotId, onset: { afterS: null, goes: null, why: 'still' } satisfies Onset });
  const said = (...spots: Parameters<typeof whichFirst>[0]['spots']) => whichFirst({ name: 'On', atS: 300, spots }, (id) => id);

  it('is told where the times are apart beyond their doubt', () => {
    expect(said(at('memory', 40, 2), at('chip', 2, 1), at('hub', 3, 4), still('room'))).toBe(
      'chip moves first; hub cannot be told from it; memory 38 ± 4 s later.',
    );
  });
  it('is not told where they are not, and nothing is said of one alone', () => {
    expect(said(at('chip', 2, 3), at('memory', 6, 3))).toBe('Which of chip and memory moves first cannot be told.');
    expect(said(at('chip', 2, 3), still('memory'))).toBe('');
  });
  it('holds the others against the surest of those that may be first', () => {
    expect(said(at('vague', 1, 20), at('chip', 4, 1), at('memory', 30, 1))).toBe('chip moves first; vague cannot be told from it; memory 26 ± 3 s later.'); // prettier-ignore
  });
  it('is asked of every change but the beginning, each between what was before and what follows', () => {
    const phases = [
      { kind: 'idle-soak' as const, name: 'Idle', startS: 0, endS: 300 },
      { kind: 'load' as const, name: 'Load', startS: 300, endS: 900 },
      { kind: 'cool-down' as const, name: 'After', startS: 900, endS: null },
    ];
    expect(changesOf(phases, 1200)).toEqual([
      { name: 'Load', changeS: 300, fromS: 0, toS: 900 },
      { name: 'After', changeS: 900, fromS: 300, toS: 1200 },
    ]);
  });
});
