import { describe, expect, it } from 'vitest';
import { boundSettling, remainingAt, type Series } from '../index.ts';
import { isWithin, likelyWithin } from './remaining.ts';
import { madeTrace } from '@red-ember/testing/signals';

/** What is still to come at t of terms [amplitude K, time constant s]; negative where the part cools. */
type Terms = [number, number][];
const toCome = (terms: Terms) => (t: number) => terms.reduce((sum, [amplitude, tau]) => sum + amplitude * Math.exp(-t / tau), 0);
const trace = (terms: Terms, n: number, seed: number, opts: { sd?: number; correlationS?: number; dtS?: number } = {}): Series => {
  const { sd = 0.1, correlationS = 0, dtS = 1 } = opts;
  const left = toCome(terms);
  const phi = correlationS > 0 ? Math.exp(-dtS / correlationS) : 0;
  return madeTrace({ n, dtS, f: (t) => 60 - left(t), sd, phi, seed });
};
const upTo = ({ t, y }: Series, n: number) => ({ t: t.subarray(0, n), y: y.subarray(0, n) });
const SLOW_HOUR: Terms = [
  [25, 60],
  [5, 3600],
];
const SLOW_HALF: Terms = [
  [25, 60],
  [5, 1800],
];

describe('what remains, bounded', () => {
  it.each([
    ['an hour behind a minute', SLOW_HOUR, 720],
    ['half an hour behind a minute', SLOW_HALF, 720],
    ['one term of three minutes', [[30, 180]] as Terms, 600],
    ['falling from a hotter phase', [[-16, 240]] as Terms, 700],
    ['three terms', [[10, 5], [20, 60], [5, 1200]] as Terms, 1500], // prettier-ignore
    ['nothing at all', [] as Terms, 600],
  ])('holds the truth: %s', (_, terms, n) => {
    let held = 0;
    const draws = 40;
    for (let seed = 1; seed <= draws; seed++) {
      const { lowK, highK, bestK } = remainingAt(trace(terms, n, seed, { correlationS: seed % 2 === 0 ? 10 : 0 }), { toleranceK: 0.5 });
      expect(lowK <= bestK && bestK <= highK).toBe(true);
      const truth = toCome(terms)(n);
      if (lowK <= truth + 0.01 && truth - 0.01 <= highK) held++;
    }
    expect(held / draws).toBeGreaterThanOrEqual(0.8);
  });

  it('closes in as time goes by, and says when', () => {
    const record = trace(SLOW_HALF, 7200, 3);
    const [early, late] = [remainingAt(upTo(record, 1500), { toleranceK: 0.5 }), remainingAt(record, { toleranceK: 0.5 })];
    expect(late.highK - late.lowK).toBeLessThan((early.highK - early.lowK) / 3);
    const truth = 1800 * Math.log(10) - 1500;
    expect(early.etaLowS).toBeLessThan(truth);
    expect(early.etaHighS).toBeGreaterThan(truth);
    expect(late.etaS).toBe(0);
  });

  it('knows by how much the mean of a window lies behind its end', () => {
    const { meanBehindK } = remainingAt(trace([[20, 600]], 1800, 5, { sd: 0.02 }), { toleranceK: 0.5, readS: 300 });
    const left = toCome([[20, 600]]);
    const mean = Array.from({ length: 300 }, (_, k) => left(1500 + k)).reduce((sum, value) => sum + value / 300, 0);
    expect(meanBehindK).toBeCloseTo(mean - left(1800), 1);
  });

  it('allows for no time constant beyond the longest', () => {
    const flat = trace([[25, 60]], 720, 4);
    const [hour, quarter] = [5400, 900].map((longestTauS) => remainingAt(flat, { toleranceK: 0.5, longestTauS }));
    expect(quarter!.highK).toBeLessThan(hour!.highK);
  });
});

describe('whether what remains is within a tolerance', () => {
  it('is told as by the whole of what remains, moment after moment', () => {
    let [asked, alike] = [0, 0];
    for (let seed = 1; seed <= 6; seed++)
      for (const terms of [
        SLOW_HALF,
        [[30, 180]],
        [
          [14, 600],
          [3, 2400],
        ],
      ] as Terms[]) {
        // prettier-ignore
        const record = trace(terms, 7200, seed, { correlationS: 20 });
        for (let n = 600; n <= 7200; n += 600) {
          const opts = { toleranceK: 0.5 };
          asked++;
          if (likelyWithin(upTo(record, n), opts) === isWithin(remainingAt(upTo(record, n), opts).likely, 0.5)) alike++;
        }
      }
    expect(alike / asked).toBeGreaterThan(0.95);
  });
});

describe('settled by the bound', () => {
  it('does not take a slow term behind a fast one for settled, where slope and best fit do', () => {
    for (let seed = 1; seed <= 20; seed++) {
      for (const [terms, n] of [
        [SLOW_HOUR, 720],
        [SLOW_HALF, 720],
      ] as const) {
        const settling = boundSettling(trace(terms, n, seed));
        expect(settling.settled).toBe(false);
        expect(settling.remains!.highK).toBeGreaterThan(1);
      }
    }
  });

  it('comes to settled soon after it is true, heavy and light', () => {
    for (const [terms, trueS, latestS] of [
      [SLOW_HOUR, 8290, 10_500],
      [SLOW_HALF, 4145, 6600],
      [[[30, 180]] as Terms, 737, 2400],
      [[[25, 60]] as Terms, 235, 1500],
    ] as const) {
      const record = trace([...terms], latestS, 11);
      const at = (n: number) => boundSettling(upTo(record, n)).settled;
      expect(at(latestS), `settled by ${latestS} s`).toBe(true);
      expect(at(Math.round(0.9 * trueS)), `not before ${trueS} s`).toBe(false);
    }
  });

  it('says since when: not before it was true', () => {
    const { atS } = boundSettling(trace(SLOW_HALF, 6000, 2));
    expect(atS!).toBeGreaterThan(4145 - 200);
    expect(atS!).toBeLessThanOrEqual(6000);
  });

  it('says since when of a shift as of an hour: soon after it was true, however long it is held afterwards', () => {
    // Half a kelvin is left after 600·ln 28 = 1999 s.
    const shift = trace([[14, 600]], 2520, 6, { dtS: 10, sd: 0.05 });
    const { settled, atS } = boundSettling(shift);
    expect(settled).toBe(true);
    expect(atS!).toBeGreaterThan(1800);
    expect(atS!).toBeLessThan(3000);
  });

  it.each([
    ['constant', { t: Float64Array.from({ length: 1200 }, (_, i) => i), y: new Float64Array(1200).fill(50) }, true],
    ['seldom sampled', trace([[25, 60]], 180, 3, { dtS: 10 }), true],
    ['often sampled', trace([[25, 60]], 15_000, 3, { dtS: 0.1 }), true],
    ['a step in the last minute', trace([], 1800, 3, {}), false],
  ])('reads a record that is %s', (name, record, settled) => {
    const stepped = name.startsWith('a step') ? { t: record.t, y: record.y.map((value, i) => (i > 1740 ? value + 2 : value)) } : record;
    expect(boundSettling(stepped).settled).toBe(settled);
  });

  it('bounds nothing with a handful of samples', () => {
    const settling = boundSettling({ t: Float64Array.from([0, 60, 120, 180, 600]), y: Float64Array.from([50, 50, 50, 50, 50]) });
    expect(settling).toMatchObject({ settled: false, remains: null });
    expect(() => boundSettling({ t: new Float64Array(2), y: new Float64Array(2) })).toThrow();
  });

  it('says nothing of when a part settles that is held back and let go again, and never where to no record leads', () => {
    // Warms in two terms; from minute eight on it throttles: down by eight kelvin in a minute and up again, over and over.
    const f = (t: number) => {
      const free = 52 - 45 * Math.exp(-t / 120) - 7 * Math.exp(-t / 900);
      const since = (t - 480) % 180;
      return t < 480 ? free : since < 60 ? 50 - 8 * (1 - Math.exp(-since / 25)) : 42 + 8 * (1 - Math.exp(-(since - 60) / 40));
    };
    for (let seed = 1; seed <= 4; seed++) {
      const all = madeTrace({ n: 1500, f, sd: 0.15, phi: 0.8, seed });
      for (let n = 300; n <= 1500; n += 60) {
        const { etaS, remains, settled } = boundSettling(upTo(all, n));
        expect(settled).toBe(false);
        if (etaS !== null) expect(Math.abs(remains!.bestK), `at ${n} s`).toBeLessThan(20);
      }
    }
  });

  it('tells when it settles where the band of that is narrow, and is silent where it is wide', () => {
    const quiet = trace(SLOW_HOUR, 3600, 1);
    const told = boundSettling(quiet).etaS!;
    // Half a kelvin is left after 3600·ln 10 = 8289 s.
    expect(told).toBeGreaterThan(0.6 * (8289 - 3600));
    expect(told).toBeLessThan(1.6 * (8289 - 3600));
    expect(boundSettling(trace(SLOW_HALF, 1000, 1, { sd: 0.5, correlationS: 20 })).etaS).toBeNull();
  });
});
