import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { simulateNetwork } from '../network/index.ts';
import {
  AS_IT_RAN,
  expectedDifference,
  fitResponse,
  foretell,
  foretoldTrace,
  foretoldUnseen,
  layerChange,
  reached,
  readUnseen,
  type ResponseRecord,
} from './index.ts';

interface Asked {
  seed: number;
  /** Power by stretches: minutes and watts. */
  load?: [number, number][];
  airC?: number;
  driftK?: number;
  /** The whole of its resistance, against the usual. */
  mount?: number;
  noiseK?: number;
}

/** K/W from the chip to the air once everything has settled. */
const TO_AIR = 0.05 + 0.08 + 0.15;
const USUAL: [number, number][] = [
  [10, 20],
  [50, 200],
];

/** A chip on a base on fins: three capacities in a row, solved by its modes, with noise that goes on from second to second. */
function record({ seed, load = USUAL, airC = 22, driftK = 0, mount = 1, noiseK = 0.15 }: Asked): ResponseRecord {
  const lengthS = load.reduce((sum, [minutes]) => sum + 60 * minutes, 0);
  const profile: { t: number; w: number }[] = [];
  let at = 0;
  for (const [minutes, w] of load) {
    profile.push({ t: at, w });
    at += 60 * minutes;
    profile.push({ t: at, w });
  }
  const firstW = load[0]![1];
  const seconds = Array.from({ length: lengthS }, (_, s) => s);
  const { temperatures } = simulateNetwork({
    nodes: [
      { id: 'chip', capacityJPerK: 60, initialC: airC + firstW * TO_AIR * mount },
      { id: 'base', capacityJPerK: 400, initialC: airC + firstW * 0.23 * mount },
      { id: 'fins', capacityJPerK: 2500, initialC: airC + firstW * 0.15 * mount },
    ],
    boundaries: [{ id: 'air', temperature: [{ t: 0, c: airC }, { t: lengthS, c: airC + driftK }] }], // prettier-ignore
    links: [
      { from: 'chip', to: 'base', conductanceWPerK: 1 / (0.05 * mount) },
      { from: 'base', to: 'fins', conductanceWPerK: 1 / (0.08 * mount) },
      { from: 'fins', to: 'air', conductanceWPerK: 1 / (0.15 * mount) },
    ],
    powers: [{ node: 'chip', profile }],
    atS: seconds,
  });
  const normal = seededNormal(seed);
  let noise = 0;
  const t = Float64Array.from(seconds);
  return {
    id: String(seed),
    spot: { t, y: t.map((_, k) => temperatures.chip![k]! + (noise = 0.9 * noise + 0.44 * noiseK * normal())) },
    air: { t, y: t.map((s) => airC + (driftK * s) / lengthS + 0.03 * normal()) },
    power: { t, y: t.map((s) => profile.findLast((point) => point.t <= s)!.w) },
    fan: null,
  };
}

const known = { scatter: { sd: 0.1, dof: 40 } };

describe('a response to power', () => {
  it('finds the whole of the resistance, and what it takes to get there', () => {
    const fit = fitResponse([record({ seed: 1 })], known)!;
    expect(fit.gain.value).toBeCloseTo(TO_AIR, 2);
    expect(Math.abs(fit.gain.value - TO_AIR)).toBeLessThan(3 * fit.gain.u + 0.002);
    expect(foretell(fit, AS_IT_RAN).settledC.value).toBeCloseTo(22 + 200 * TO_AIR, 0);
    const [early, late] = foretoldTrace(fit, AS_IT_RAN, [60, 3000]);
    const truth = record({ seed: 2, noiseK: 0 }).spot.y;
    expect(Math.abs(early! - truth[660]!)).toBeLessThan(1);
    expect(Math.abs(late! - truth.at(-1)!)).toBeLessThan(1);
  });

  it.each([
    ['warmer air', { airC: 34 }, { airC: 34, driftK: 0 }],
    ['half of the power', { powerW: 100 }, { load: [[10, 20], [90, 100]] as [number, number][] }], // prettier-ignore
    ['a quarter more power', { powerW: 250 }, { load: [[10, 20], [90, 250]] as [number, number][] }], // prettier-ignore
  ])('foretells %s within its interval, and not by a wide one', (_, asked, ran) => {
    const fit = fitResponse([record({ seed: 3 }), record({ seed: 4, driftK: 1.5 })], known)!;
    const told = foretell(fit, { ...AS_IT_RAN, ...asked });
    const truthC = record({ seed: 5, noiseK: 0, ...ran }).spot.y.at(-1)!;
    // The run that is compared with is not settled to the last tenth.
    expect(Math.abs(told.settledC.value + ('powerW' in asked ? 22 - (fit.air.leastC + fit.air.mostC) / 2 : 0) - truthC)).toBeLessThan(
      told.plusMinusK + 0.1,
    );
    expect(told.plusMinusK).toBeLessThan(4);
  });

  it('reads a record that begins in the middle of a load, whatever was before', () => {
    const whole = record({ seed: 6, load: [[10, 20], [20, 200], [25, 90], [25, 200]] }); // prettier-ignore
    const cut = (series: ResponseRecord['spot']) => ({ t: series.t.slice(900), y: series.y.slice(900) });
    const fit = fitResponse([{ ...whole, spot: cut(whole.spot), air: cut(whole.air), power: cut(whole.power) }], known)!;
    expect(Math.abs(fit.gain.value * 200 + fit.rest.value - 200 * TO_AIR)).toBeLessThan(1);
  });

  it('holds a run that it has not seen within its band, and a mount that is worse beyond the scatter of a good bench without', () => {
    const records = [7, 8, 9].map((seed) => record({ seed, airC: 20 + seed % 3 })); // prettier-ignore
    const unseen = foretoldUnseen(records, known);
    expect(unseen.map(({ id }) => id)).toEqual(['7', '8', '9']);
    for (const { offK, bandK, within } of unseen) {
      expect(Math.abs(offK)).toBeLessThan(bandK);
      expect(within).toBeGreaterThan(0.9);
    }
    const worse = readUnseen(fitResponse(records, known)!, record({ seed: 10, mount: 1.06 }))!;
    expect(worse.offK).toBeCloseTo(0.06 * 200 * TO_AIR, 0);
    expect(worse.offK).toBeGreaterThan(worse.bandK);
  });

  it('finds what a fan’s speed does where speeds differ, and says that it is a guess where they do not', () => {
    const fanned = (seed: number, rpm: number): ResponseRecord => {
      const made = record({ seed, mount: (rpm / 1000) ** -0.5 });
      return { ...made, fan: { t: made.spot.t, y: made.spot.t.map(() => rpm) } };
    };
    const told = fitResponse([fanned(11, 1000), fanned(12, 1500), fanned(13, 1200)], known)!.fan!;
    expect(told.told).toBe(true);
    expect(Math.abs(told.exponent.value - 0.5)).toBeLessThan(0.1);
    const one = fitResponse([fanned(14, 1000), fanned(15, 1000)], known)!;
    expect(one.fan).toMatchObject({ told: false, atRpm: 1000 });
    const faster = foretell(one, { ...AS_IT_RAN, fanShare: 1.3 });
    expect(faster.footing).toBe('guessed');
    expect(faster.plusMinusK).toBeGreaterThan(3 * foretell(one, AS_IT_RAN).plusMinusK);
  });

  it('finds by how much more than in proportion the rise grows, where loads differ', () => {
    // What loses by its own resistance: a second watt for each at 200 W.
    const lossy = (seed: number, watts: number): ResponseRecord => {
      const plain = record({ seed, load: [[10, 20], [60, watts]] }); // prettier-ignore
      return { ...plain, spot: record({ seed, load: [[10, 20 * (1 + 20 / 200)], [60, watts * (1 + watts / 200)]] }).spot }; // prettier-ignore
    };
    const fit = fitResponse([lossy(30, 80), lossy(31, 140), lossy(32, 110)], known)!;
    expect(Math.abs(fit.bend.value - 0.7)).toBeLessThan(0.2);
    const told = foretell(fit, { ...AS_IT_RAN, powerW: 170 });
    const truthC = 22 + 170 * (1 + 170 / 200) * TO_AIR;
    expect(Math.abs(told.settledC.value - truthC)).toBeLessThan(told.plusMinusK);
    expect(told.plusMinusK).toBeLessThan(0.1 * truthC);
    expect(fitResponse([record({ seed: 33 })], known)!.bend).toEqual({ value: 0, u: 0, dof: Infinity });
  });

  it('takes a layer and another cooler by arithmetic, and adds up what each change does', () => {
    const fit = fitResponse([record({ seed: 16 })], known)!;
    const layer = { nowKPerW: 0.06, moreKPerW: -0.03, u: 0.005, share: 1 };
    const told = foretell(fit, { ...AS_IT_RAN, airC: 30, layer });
    expect(told.changes.map(({ of, footing }) => [of, footing])).toEqual([
      ['airC', 'calculated'],
      ['layer', 'calculated'],
    ]);
    expect(told.changes[1]!.byK).toBeCloseTo(-6, 6);
    expect(told.settledC.value - foretell(fit, AS_IT_RAN).settledC.value).toBeCloseTo(
      told.changes.reduce((sum, { byK }) => sum + byK, 0),
      9,
    );
    expect(told.settledC.u).toBeGreaterThan(foretell(fit, AS_IT_RAN).settledC.u);
    const cooler = foretell(fit, { ...AS_IT_RAN, cooler: { kPerW: 0.2, u: 0.01 } });
    expect(foretell(fit, { ...AS_IT_RAN, layer: { ...layer, nowKPerW: 0.4 } }).changes[0]!.beyond).toContain('more than the whole way');
    expect(cooler).toMatchObject({ footing: 'guessed' });
    expect(cooler.settledC.value).toBeCloseTo(22 + 40 + fit.rest.value, 0);
  });

  it('says when a limit is reached, at once where it lies below rest, and never where it lies above all', () => {
    const fit = fitResponse([record({ seed: 18 })], known)!;
    const truth = record({ seed: 2, noiseK: 0 }).spot.y;
    const at = (limitC: number) => reached(fit, AS_IT_RAN, limitC)!;
    const trueS = truth.findIndex((value) => value >= 60) - 600;
    expect(Math.abs(at(60).atS! - trueS)).toBeLessThan(25);
    expect(at(60).earliestS).toBeLessThan(trueS);
    expect(at(60).latestS).toBeGreaterThan(trueS);
    expect(at(25)).toEqual({ atS: 0, earliestS: 0, latestS: 0 });
    expect(at(90)).toEqual({ atS: null, earliestS: null, latestS: null });
  });

  it('does not say of a limit close to where it settles that it is, or is not, reached', () => {
    const fit = fitResponse([record({ seed: 18 })], known)!;
    const { settledC, plusMinusK } = foretell(fit, AS_IT_RAN);
    expect(reached(fit, AS_IT_RAN, settledC.value - plusMinusK / 2)).toMatchObject({ atS: expect.any(Number), latestS: null });
    expect(reached(fit, AS_IT_RAN, settledC.value + plusMinusK / 2)).toMatchObject({ atS: null, earliestS: expect.any(Number) });
    expect(reached(fit, { ...AS_IT_RAN, cooler: { kPerW: 0.2, u: 0.01 } }, 60)).toBeNull();
  });

  it('expects of a thinner pad what its bulk takes away, in doubt of its faces and of both mounts', () => {
    const fit = fitResponse([record({ seed: 19 })], known)!;
    // 1.5 mm at 3 W/(m·K) over 900 mm² is 0.556 K/W, 1 mm at 6 is 0.185: closed form of t/(kA).
    const change = layerChange(900, { mm: 1.5, conductivityWPerMK: 3 }, { mm: 1, conductivityWPerMK: 6 });
    expect(change.moreKPerW).toBeCloseTo(0.18519 - 0.55556, 4);
    const layer = { ...change, share: 0.25 };
    const { byK, plusMinusK } = expectedDifference(fit, fit, { ...AS_IT_RAN, powerW: 50, airC: 40, layer });
    expect(byK).toBeCloseTo(-0.37037 * 0.25 * fit.power.mostW, 3);
    expect(plusMinusK).toBeGreaterThan(1.96 * 0.3 * Math.abs(byK));
    expect(() => layerChange(0, { mm: 1, conductivityWPerMK: 3 }, { mm: 1, conductivityWPerMK: 6 })).toThrow(RangeError);
  });

  it('says where it leaves what was measured', () => {
    const fit = fitResponse([record({ seed: 17 })], known)!;
    const beyond = (asked: Partial<typeof AS_IT_RAN>) => foretell(fit, { ...AS_IT_RAN, ...asked }).changes[0]!.beyond;
    expect(beyond({ powerW: 240 })).toBeNull();
    expect(beyond({ powerW: 300 })).toBe('far above any power that was measured');
    expect(beyond({ airC: 45 })).toBe('warmer air than any run had');
    expect(beyond({ fanShare: 1.1 })).toBe('no run recorded the fan');
    const wide = foretell(fit, { ...AS_IT_RAN, powerW: 400 });
    expect(wide.plusMinusK).toBeGreaterThan(0.15 * 400 * TO_AIR * Math.log(2));
  });
});

describe('what tells little', () => {
  it('says that power at one level tells nothing of another, and doubts it', () => {
    const fit = fitResponse([record({ seed: 20, load: [[60, 200]] })], known)!; // prettier-ignore
    expect(fit.power.told).toBe(false);
    const less = foretell(fit, { ...AS_IT_RAN, powerW: 100 });
    expect(less).toMatchObject({ footing: 'guessed', beyond: true });
    expect(less.plusMinusK).toBeGreaterThan(2);
  });

  it('is nothing of too little: no power, minutes alone, series that share no time, nothing read', () => {
    const good = record({ seed: 21 });
    const first = (n: number) => (series: ResponseRecord['spot']) => ({ t: series.t.slice(0, n), y: series.y.slice(0, n) });
    const none = { t: good.spot.t, y: good.spot.y.map(() => 0) };
    expect(fitResponse([])).toBeNull();
    expect(fitResponse([{ ...good, power: none }])).toBeNull();
    expect(fitResponse([{ ...good, spot: first(100)(good.spot) }])).toBeNull();
    expect(fitResponse([{ ...good, air: { t: good.air.t.map((s) => s + 1e6), y: good.air.y } }])).toBeNull();
    expect(fitResponse([{ ...good, spot: { t: good.spot.t, y: good.spot.y.map(() => NaN) } }])).toBeNull();
    expect(foretoldUnseen([good])).toEqual([]);
  });

  it('reads across gaps, a sensor of whole degrees and samples of ten seconds', () => {
    const good = record({ seed: 22 });
    const every = (series: ResponseRecord['spot'], k: number) => ({
      t: series.t.filter((_, i) => i % k === 0),
      y: series.y.filter((_, i) => i % k === 0),
    });
    const holes = { ...good, spot: { t: good.spot.t, y: good.spot.y.map((value, s) => (s > 1200 && s < 2100 ? NaN : Math.round(value))) } };
    const slow = { ...good, spot: every(good.spot, 10), air: every(good.air, 30), power: every(good.power, 10) };
    for (const one of [holes, slow]) {
      const fit = fitResponse([one], known)!;
      expect(Math.abs(fit.gain.value * 200 + fit.rest.value - 200 * TO_AIR)).toBeLessThan(0.5);
    }
  });

  it('says where what was done does not follow from the power', () => {
    const good = record({ seed: 24 });
    // Half-way through the load somebody opens the case.
    const opened = { ...good, spot: { t: good.spot.t, y: good.spot.y.map((value, s) => (s > 2000 ? value - 14 : value)) } };
    expect(fitResponse([good], known)!.misfit).toBe(false);
    expect(fitResponse([opened], known)!.misfit).toBe(true);
  });

  it('refuses what is no number', () => {
    const fit = fitResponse([record({ seed: 23 })], known)!;
    expect(() => foretell(fit, { ...AS_IT_RAN, airC: NaN })).toThrow(RangeError);
    expect(() => foretell(fit, { ...AS_IT_RAN, powerW: -1 })).toThrow(RangeError);
    expect(() => foretell(fit, { ...AS_IT_RAN, fanShare: 0 })).toThrow(RangeError);
    expect(() => foretell(fit, { ...AS_IT_RAN, cooler: { kPerW: 0, u: 0 } })).toThrow(RangeError);
  });
});

describe('a spot that was read by hand', () => {
  /** Minutes at which somebody held the camera, to a tenth of a kelvin and with an unsteady hand. */
  const read = (of: ResponseRecord, minutes: readonly number[], seed: number): ResponseRecord => {
    const normal = seededNormal(seed);
    const t = Float64Array.from(minutes, (minute) => 60 * minute);
    return { ...of, spot: { t, y: t.map((s) => Math.round(10 * (of.spot.y[s]! + 0.5 * normal())) / 10) } };
  };
  const STEPS: [number, number][] = [[10, 20], [30, 100], [30, 200]]; // prettier-ignore
  const MARKS = [9, 12, 15, 20, 30, 39, 42, 45, 50, 60, 69];

  it.each([
    ['one run in steps of power', 1, STEPS, MARKS, 150],
    ['two runs at one power', 2, USUAL, [9, 12, 15, 20, 30, 45, 59], 200],
    ['three runs, and more power than any had', 3, STEPS, MARKS, 240],
  ])(
    'is foretold within its band: %s',
    (_, runs, load, minutes, powerW) => {
      let held = 0;
      const bands: number[] = [];
      const seeds = Array.from({ length: 40 }, (__, i) => 500 + 10 * i);
      for (const seed of seeds) {
        const records = Array.from({ length: runs }, (__, k) => read(record({ seed: seed + k, load, noiseK: 0 }), minutes, seed + k));
        const { settledC, plusMinusK } = foretell(fitResponse(records, known)!, { ...AS_IT_RAN, powerW });
        if (Math.abs(settledC.value - (22 + powerW * TO_AIR)) <= plusMinusK) held++;
        bands.push(plusMinusK);
      }
      expect(held).toBeGreaterThanOrEqual(36);
      // A band that holds everything says nothing.
      expect(bands.sort((p, q) => p - q)[20]).toBeLessThan(12);
    },
    60_000,
  );

  it('is not fitted from fewer readings than are fitted to it', () => {
    expect(fitResponse([read(record({ seed: 3 }), [12, 20, 40, 59], 3)], known)).toBeNull();
  });
});
