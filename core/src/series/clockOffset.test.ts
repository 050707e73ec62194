import { describe, expect, it } from 'vitest';
import { clockOffset, type Series } from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';
import { seededUniform } from '../seeded.ts';

const LENGTH_S = 2400;
/** A load that comes on and goes, at times of its own. */
function loadOf(seed: number): (t: number) => number {
  const u = seededUniform(seed);
  const on = 300 + 300 * u();
  const off = on + 900 + 600 * u();
  return (t) => (t >= on && t < off ? 200 : 25);
}
interface Made {
  everyS?: number;
  shiftS?: number;
  /** Of noise, and of the sensor's lag, seconds. */
  sd?: number;
  tauS?: number;
  seed: number;
}
function recorded(f: (t: number) => number, { everyS = 1, shiftS = 0, sd = 0.1, tauS = 0, seed }: Made): Series {
  const normal = seededNormal(seed);
  let now = f(-500);
  let atS = -500;
  const follow = (untilS: number) => {
    if (tauS === 0) return f(untilS);
    for (; atS < untilS; atS += 0.5) now += -Math.expm1(-0.5 / tauS) * (f(atS) - now);
    return now;
  };
  const t = Float64Array.from({ length: LENGTH_S / everyS }, (_, i) => i * everyS);
  return { t, y: t.map((time) => follow(time + shiftS) + sd * normal()) };
}
const seeds = Array.from({ length: 12 }, (_, i) => i + 1);
const shiftOf = (seed: number) => Math.round(200 * seededUniform(seed + 900)() - 100);
const off = (a: Series, b: Series, shiftS: number) => {
  const found = clockOffset(a, b, { maxShiftS: 600 });
  return { ...found, error: Math.abs(found.offsetS - shiftS) };
};
const middle = (values: number[]) => [...values].sort((p, q) => p - q)[values.length >> 1]!;

describe('by how much two clocks are apart', () => {
  it.each([
    ['clean', 2, 0.1, 1],
    ['in noise of an eighth of the step', 20, 1, 1],
    ['in noise of a third of it', 60, 5, 1],
    ['where one was logged every 10 s', 5, 5, 10],
  ])('is told and sure: %s', (_what, sd, within, everyS) => {
    const found = seeds.map((seed) => {
      const [f, shiftS] = [loadOf(seed), shiftOf(seed)];
      return off(recorded(f, { sd, seed }), recorded(f, { sd, seed: seed + 50, everyS, shiftS }), shiftS);
    });
    expect(found.every(({ sure }) => sure)).toBe(true);
    expect(middle(found.map(({ error }) => error))).toBeLessThan(within);
  });

  it.each([
    [20, 1, 1],
    [60, 1, 1],
    [30, 10, 7],
  ])('counts no lag of a slow sensor as an offset: %d s, a sample every %d s', (tauS, everyS, within) => {
    for (const seed of seeds) {
      const [f, shiftS] = [loadOf(seed), shiftOf(seed)];
      const [power, temperature] = [recorded(f, { sd: 5, seed }), recorded(f, { sd: 0.5, seed: seed + 50, everyS, shiftS, tauS })];
      const found = off(power, temperature, shiftS);
      expect(found.sure).toBe(true);
      expect(found.lag!.side).toBe('b');
      expect(Math.abs(found.lag!.tauS - tauS)).toBeLessThan(0.3 * tauS);
      expect(found.error).toBeLessThan(1.4 * within);
      // The other way round the offset turns and the lag stays with the slow side.
      const turned = off(temperature, power, -shiftS);
      expect(turned.lag!.side).toBe('a');
      expect(turned.error).toBeLessThan(1.4 * within);
    }
  });

  it('is not sure of two noises, of what comes again and again, or of a flat side', () => {
    const noises = seeds.map((seed) =>
      off(
        recorded(() => 20, { sd: 1, seed }),
        recorded(() => 20, { sd: 1, seed: seed + 50 }),
        0,
      ),
    );
    expect(noises.filter(({ sure }) => sure)).toEqual([]);
    const beat = (t: number) => (t % 40 < 20 ? 1 : 0);
    expect(off(recorded(beat, { sd: 0.05, seed: 1 }), recorded(beat, { sd: 0.05, seed: 2, shiftS: 13 }), 13).sure).toBe(false);
    const flat = recorded(() => 5, { sd: 0, seed: 1 });
    expect(clockOffset(recorded(beat, { seed: 1 }), flat)).toMatchObject({ offsetS: 0, sure: false, lag: null });
  });

  it('skips what is missing, bears records of unlike length, and refuses what is too short', () => {
    const f = loadOf(3);
    const [a, b] = [recorded(f, { seed: 1 }), recorded(f, { seed: 2, shiftS: 40 })];
    const holed = { t: b.t, y: b.y.map((value, i) => (i % 7 === 0 || (i > 900 && i < 960) ? NaN : value)) };
    expect(off(a, holed, 40)).toMatchObject({ sure: true, error: expect.closeTo(0, 0) });
    const brief = { t: b.t.slice(0, 900), y: b.y.slice(0, 900) };
    expect(off(a, brief, 40).error).toBeLessThan(1);
    expect(() => clockOffset({ t: a.t.slice(0, 5), y: a.y.slice(0, 5) }, a)).toThrow('needs 8');
    expect(() => clockOffset(a, b, { maxShiftS: 0 })).toThrow(RangeError);
  });
});
