import { describe, expect, it } from 'vitest';
import { BlindWatch, loadAbsences, loadWasThere, type LoadWitnesses, type Series } from '../index.ts';
import { madeTrace } from '@red-ember/testing/signals';

const idle = { startS: 0, endS: 480 };
const load = { startS: 480, endS: 2880 };
const trace = (on: number, rest: number, gone: (t: number) => boolean, sd = 0.02 * on): Series =>
  madeTrace({ n: 3000, f: (t) => (t < 480 || gone(t) ? rest : on), sd, phi: 0.6, seed: 4 });
const heard = (gone: (t: number) => boolean, change: Partial<LoadWitnesses> = {}): LoadWitnesses => ({
  power: trace(206, 26, gone),
  performance: trace(60, 0, gone, 0),
  utilisation: trace(99, 1, gone, 0),
  ...change,
});
const between = (a: number, b: number) => (t: number) => t >= a && t < b;

describe('the load of a phase', () => {
  it('was there where nothing says otherwise', () => {
    expect(
      loadAbsences(
        heard(() => false),
        load,
        idle,
      ),
    ).toEqual([]);
    expect(loadAbsences({ power: null, performance: null, utilisation: null }, load, idle)).toEqual([]);
    expect(loadWasThere([], load)).toBe(true);
  });

  it.each<[string, Partial<LoadWitnesses>]>([
    ['all three', {}],
    ['power alone', { performance: null, utilisation: null }],
    ['work alone', { power: null, utilisation: null }],
    ['utilisation alone', { power: null, performance: null }],
  ])('is found gone by %s, from when to when', (_what, change) => {
    const off = loadAbsences(heard(between(1000, 1400), change), load, idle);
    expect(off).toEqual([{ startS: 1000, endS: 1400 }]);
    expect(loadWasThere(off, load)).toBe(false);
  });

  it('is found never there at all, by its end, and by a log that begins in it', () => {
    const never = loadAbsences(
      heard(() => true),
      load,
      idle,
    );
    expect(never).toEqual([load]);
    const tail = loadAbsences(heard(between(2000, 3000)), load, idle);
    expect(tail).toEqual([{ startS: 2000, endS: 2880 }]);
    expect(loadAbsences(heard(between(1000, 1400)), load, null)).toEqual([{ startS: 1000, endS: 1400 }]);
    expect(loadAbsences(heard(between(1000, 1400), { performance: null, utilisation: null }), load, null)).toEqual([]);
  });

  it('does not miss what comes and goes: rounds of a benchmark with twenty seconds between them count, half of the time does not', () => {
    const rounds = (t: number) => (t - 480) % 300 >= 280;
    const off = loadAbsences(heard(rounds), load, idle);
    expect(off).toHaveLength(8);
    expect(loadWasThere(off, load)).toBe(true);
    const halves = loadAbsences(
      heard((t) => (t - 480) % 100 >= 50),
      load,
      idle,
    );
    expect(loadWasThere(halves, load)).toBe(false);
  });

  it('is there where the part waits for its host, has cut its clock, or has vanished', () => {
    const starved = { utilisation: trace(60, 1, () => false), performance: trace(60, 0, between(1000, 1400), 0) };
    expect(
      loadAbsences(
        heard(() => false, starved),
        load,
        idle,
      ),
    ).toEqual([]);
    const vanished = {
      power: null,
      utilisation: null,
      performance: madeTrace({ n: 3000, f: (t) => (t < 480 ? 0 : t < 1400 ? 6100 : NaN) }),
    };
    expect(loadAbsences(vanished, load, idle)).toEqual([]);
    const gone = { ...vanished, power: trace(7.5, 0.1, (t) => t >= 1400), utilisation: trace(99, 0, (t) => t >= 1400, 0) };
    expect(loadAbsences(gone, load, idle)).toEqual([]);
    const slowed = (rest: number, slow: number, full: number) =>
      madeTrace({ n: 3000, f: (t) => (t < 480 ? rest : t >= 1000 && t < 1400 ? slow : full) });
    const throttled = { performance: slowed(0, 12, 60), power: slowed(26, 120, 206), utilisation: null };
    expect(loadAbsences(throttled, load, idle)).toEqual([]);
  });

  it('may take its time to come up', () => {
    expect(loadAbsences(heard(between(480, 500)), load, idle)).toEqual([]);
    expect(loadAbsences(heard(between(480, 600)), load, idle)).toEqual([{ startS: 480, endS: 600 }]);
  });

  it.each<[string, Series]>([
    ['nothing', { t: new Float64Array(), y: new Float64Array() }],
    ['one sample', { t: Float64Array.of(900), y: Float64Array.of(50) }],
    ['missing values', madeTrace({ n: 3000, f: () => NaN })],
  ])('says nothing from %s', (_what, series) => {
    expect(loadAbsences({ power: series, performance: series, utilisation: null }, load, idle)).toEqual([]);
  });
});

describe('BlindWatch', () => {
  const armed = [
    { channel: 'tc1', name: 'Controller', limitC: 98, holdS: 5 },
    { channel: 'own', name: 'Own sensor', limitC: 98, holdS: 5, mayVanish: true },
  ];
  it('says which armed channel has shown nothing plausible for its hold time and ten seconds more', () => {
    const watch = new BlindWatch(armed);
    watch.reset(100);
    for (let t = 100; t < 115; t++) {
      watch.feed('tc1', t, t < 103 ? 60 : t % 2 ? NaN : 1372);
      expect(watch.blind(t)).toBeNull();
    }
    expect(watch.blind(117)).toBe('Controller has shown nothing plausible for 15 s, so its cut-out would see nothing');
    watch.feed('tc1', 118, 70);
    expect(watch.blind(118)).toBeNull();
  });
  it('counts from the first look where nothing was ever shown, and does not wait for one that may vanish', () => {
    const watch = new BlindWatch(armed);
    expect(watch.blind(0)).toBeNull();
    expect(watch.blind(14)).toBeNull();
    expect(watch.blind(15)).toContain('Controller');
    expect(new BlindWatch([armed[1]!]).blind(1000)).toBeNull();
  });
});
