import { describe, expect, it } from 'vitest';
import { cloudOf, findLosses, heldBackIn, type Loss, type Series } from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';

const line = (n: number, f: (t: number) => number): Series => ({
  t: Float64Array.from({ length: n }, (_, i) => i),
  y: Float64Array.from({ length: n }, (_, i) => f(i)),
});
const loss = (limiter: Loss['limiter'], startS: number, endS: number, duty = 1): Loss => ({
  limiter,
  startS,
  endS,
  duty,
  depth: 0.2,
  temperatureAtOnsetC: null,
});

describe('what held a part back', () => {
  it('is shared out over the load, what comes and goes by the time spent below', () => {
    const report = {
      reference: 100,
      episodes: [loss('thermal', 600, 900), loss('thermal', 1000, 1200, 0.5)],
      heldBack: [loss('power', 1200, 1300)],
    };
    const held = heldBackIn(line(2000, (t) => (t < 900 ? 100 : 80)), { startS: 300, endS: 1500 }, report); // prettier-ignore
    expect(held.by).toEqual([
      { limiter: 'thermal', share: expect.closeTo(400 / 1200, 9) },
      { limiter: 'power', share: expect.closeTo(100 / 1200, 9) },
    ]);
    expect(held.free).toBeCloseTo(700 / 1200, 9);
    expect(held.workMean).toBeCloseTo(90, 6);
    expect(held.keptUp).toBe(100);
  });

  it('counts no more than the load, and a part that is gone as doing nothing', () => {
    const report = { reference: 100, episodes: [], heldBack: [loss('vanished', 900, 5000)] };
    const held = heldBackIn(line(1200, (t) => (t < 900 ? 100 : NaN)), { startS: 0, endS: 1200 }, report); // prettier-ignore
    expect(held.by).toEqual([{ limiter: 'vanished', share: 0.25 }]);
    expect(held.workMean).toBeCloseTo(75, 6);
  });

  it('is the power limit where the part stands at it all along, and loses nothing', () => {
    const report = { reference: 100, episodes: [loss('thermal', 0, 300)], heldBack: [] };
    const load = { startS: 0, endS: 1200 };
    const power = line(1200, (t) => (t < 900 ? 234 : 180));
    const held = heldBackIn(line(1200, () => 100), load, report, { cap: { powerW: 235, power }, utilisation: null }); // prettier-ignore
    expect(held.by).toEqual([
      { limiter: 'power', share: 0.5 },
      { limiter: 'thermal', share: 0.25 },
    ]);
    expect(held.free).toBe(0.25);
    expect(heldBackIn(power, load, report, { cap: { powerW: 300, power }, utilisation: null }).by).toHaveLength(1);
  });

  it('is a lack of work where the part waits for its host from the beginning', () => {
    const report = { reference: 2300, episodes: [], heldBack: [] };
    const load = { startS: 0, endS: 1200 };
    const busy = line(1200, (t) => (t % 100 < 70 ? 99 : 0));
    const held = heldBackIn(line(1200, () => 2300), load, report, { cap: null, utilisation: line(1200, (t) => (t < 900 ? 69 : 99)) }); // prettier-ignore
    expect(held.by).toEqual([{ limiter: 'load', share: expect.closeTo(870 / 1170, 9) }]);
    // Coming up is no waiting.
    const up = line(1200, (t) => (t < 20 ? 0 : 99));
    expect(heldBackIn(busy, load, report, { cap: null, utilisation: up }).by).toEqual([]);
    expect(heldBackIn(busy, load, report, { cap: null, utilisation: busy }).by).toEqual([
      { limiter: 'load', share: expect.closeTo(360 / 1170, 9) },
    ]);
    const both = heldBackIn(busy, load, report, { cap: { powerW: 200, power: line(1200, () => 200) }, utilisation: busy });
    expect(both.by.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
  });

  it('follows what is found in a drawn load: heat for a third of it', () => {
    const g = seededNormal(4);
    const load = { startS: 0, endS: 1800 };
    const work = line(1800, (t) => (t < 1200 ? 6000 : 4500) + 40 * g());
    const temperature = line(1800, (t) => 88 - 50 * Math.exp(-t / 300) + 0.1 * g());
    const held = heldBackIn(work, load, findLosses({ work, load, temperature, limitC: 88 }));
    expect(held.by).toEqual([{ limiter: 'thermal', share: expect.closeTo(1 / 3, 2) }]);
  });
});

describe('two series against each other', () => {
  it('stand as means over stretches that hold both, whatever their rates', () => {
    const half = { t: Float64Array.from({ length: 50 }, (_, i) => 2 * i), y: Float64Array.from({ length: 50 }, (_, i) => 4 * i) };
    const holed = line(100, (t) => (t >= 40 && t < 60 ? NaN : t));
    const cloud = cloudOf(holed, half, { startS: 0, endS: 100 }, 10);
    expect(cloud).toHaveLength(8);
    expect(cloud[0]).toEqual({ x: 4.5, y: 8 });
    expect(cloudOf(line(5, () => NaN), half, { startS: 0, endS: 100 }, 10)).toEqual([]); // prettier-ignore
  });
});
