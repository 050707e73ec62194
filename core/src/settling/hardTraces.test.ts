import { describe, expect, it } from 'vitest';
import { assessSettling, fitApproach, rejectSpikes, type Series } from '../index.ts';
import { approach, madeTrace } from '@red-ember/testing/signals';
import { seededUniform } from '../seeded.ts';

const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];

/** Drops stretches and single samples, as a bad cable does. */
function withGaps(trace: Series, seed: number): Series {
  const uniform = seededUniform(seed);
  const y = trace.y.slice();
  for (let i = 0; i < y.length; i++) if (uniform() < 0.05) y[i] = NaN;
  const from = Math.floor(uniform() * y.length * 0.6);
  y.fill(NaN, from, from + 60);
  return { t: trace.t, y };
}

/** Rounds to the steps of a coarse sensor. */
function quantised(trace: Series, step: number): Series {
  return { t: trace.t, y: trace.y.map((value) => Math.round(value / step) * step) };
}

interface Hard {
  name: string;
  trace: (seed: number) => Series;
  settled: boolean;
  /** Truth of what remains at the end, K. */
  remains?: number;
  within?: number;
}

const cases: Hard[] = [
  {
    name: 'white noise about a constant',
    trace: (seed) => madeTrace({ n: 1800, f: () => 55, sd: 0.2, seed }),
    settled: true,
  },
  {
    name: 'strongly correlated noise about a constant',
    trace: (seed) => madeTrace({ n: 1800, f: () => 55, sd: 0.06, phi: 0.97, seed }),
    settled: true,
  },
  {
    name: 'one fast term, long over',
    trace: (seed) => madeTrace({ n: 1500, f: approach(60, 25, [[1, 60]]), sd: 0.1, phi: 0.7, seed }),
    settled: true,
  },
  {
    name: 'a slow term behind a fast one, half way',
    trace: (seed) =>
      madeTrace({
        n: 1200,
        f: approach(70, 25, [
          [0.7, 25],
          [0.3, 700],
        ]),
        sd: 0.08,
        phi: 0.7,
        seed,
      }),
    settled: false,
    remains: 45 * 0.3 * Math.exp(-1199 / 700),
    within: 0.8,
  },
  {
    name: 'falling after a fan was raised',
    trace: (seed) => madeTrace({ n: 700, f: approach(62, 78, [[1, 240]]), sd: 0.08, phi: 0.6, seed }),
    settled: false,
    remains: -16 * Math.exp(-699 / 240),
    within: 0.4,
  },
  {
    name: 'idle, then load: the fit starts at the load',
    trace: (seed) => {
      const load = approach(72, 32, [
        [0.5, 20],
        [0.5, 300],
      ]);
      return madeTrace({ n: 1300, f: (t) => (t < 600 ? 32 : load(t - 600)), sd: 0.08, phi: 0.7, seed });
    },
    settled: false,
    remains: 20 * Math.exp(-699 / 300),
    within: 0.9,
  },
  {
    name: 'a vent blocked in mid-run, settled again',
    trace: (seed) => {
      const before = approach(60, 25, [[1, 120]]);
      const after = approach(66, 60, [[1, 150]]);
      return madeTrace({ n: 3000, f: (t) => (t < 1200 ? before(t) : after(t - 1200)), sd: 0.08, phi: 0.7, seed });
    },
    settled: true,
  },
  {
    name: 'gaps and missing samples in a settled trace',
    trace: (seed) => withGaps(madeTrace({ n: 2400, f: approach(60, 25, [[1, 150]]), sd: 0.1, phi: 0.6, seed }), seed),
    settled: true,
  },
  {
    name: 'gaps in one that still rises',
    trace: (seed) => withGaps(madeTrace({ n: 900, f: approach(60, 25, [[1, 350]]), sd: 0.1, phi: 0.6, seed }), seed),
    settled: false,
    remains: 35 * Math.exp(-899 / 350),
    within: 0.6,
  },
  {
    name: 'whole degrees, settled',
    trace: (seed) => quantised(madeTrace({ n: 2400, f: approach(60.3, 25, [[1, 150]]), sd: 0.15, seed }), 1),
    settled: true,
  },
  {
    name: 'whole degrees, still rising',
    trace: (seed) => quantised(madeTrace({ n: 700, f: approach(60, 25, [[1, 300]]), sd: 0.15, seed }), 1),
    settled: false,
    remains: 35 * Math.exp(-699 / 300),
    within: 1,
  },
];

describe('settling of hard traces, over seeds', () => {
  it.each(cases)('$name', ({ trace, settled, remains, within }) => {
    for (const seed of SEEDS) {
      const state = assessSettling(trace(seed));
      expect(state.settled, `seed ${seed}`).toBe(settled);
      if (settled) expect(state).toMatchObject({ etaS: 0, confirmedInS: 0 });
      else expect(state.atS).toBeNull();
      if (remains !== undefined) expect(Math.abs(state.remainingK!.value - remains), `seed ${seed}`).toBeLessThan(within!);
    }
  });

  it('forecasts within a quarter from two thirds of the way', () => {
    for (const seed of SEEDS) {
      const tau = 250;
      const trace = madeTrace({ n: 700, f: approach(65, 25, [[1, tau]]), sd: 0.08, phi: 0.7, seed });
      const truth = tau * Math.log((40 * Math.exp(-699 / tau)) / 0.5);
      expect(Math.abs(assessSettling(trace).etaS! / truth - 1), `seed ${seed}`).toBeLessThan(0.25);
    }
  });

  it('never moves the time of settling before the change it follows', () => {
    for (const seed of SEEDS) {
      const step = madeTrace({ n: 2000, f: (t) => (t < 1000 ? 40 : 50), sd: 0.05, seed });
      const state = assessSettling(step);
      expect(state.settled).toBe(true);
      expect(state.atS!).toBeGreaterThan(1000 + 200);
    }
  });

  it('is the same for a trace that starts at another time, and mirrors for one that falls', () => {
    const trace = madeTrace({ n: 900, f: approach(60, 25, [[1, 300]]), sd: 0.05, seed: 9 });
    const later = { t: trace.t.map((t) => t + 86_400), y: trace.y };
    const upsideDown = { t: trace.t, y: trace.y.map((y) => 100 - y) };
    const [plain, shifted, mirrored] = [trace, later, upsideDown].map((series) => assessSettling(series));
    expect(shifted!.remainingK!.value).toBeCloseTo(plain!.remainingK!.value, 5);
    expect(mirrored!.remainingK!.value).toBeCloseTo(-plain!.remainingK!.value, 5);
    expect(mirrored!.slopeKPerMin.value).toBeCloseTo(-plain!.slopeKPerMin.value, 8);
    expect(shifted!.etaS!).toBeCloseTo(plain!.etaS!, 1);
  });

  it('follows its options: tolerance and window', () => {
    const trace = madeTrace({ n: 1500, f: approach(60, 25, [[1, 250]]), sd: 0.03, seed: 3 });
    const at = (toleranceK: number, windowS = 300) => assessSettling(trace, { toleranceK, windowS }).atS ?? Infinity;
    expect(at(2)).toBeLessThan(at(1));
    expect(at(1)).toBeLessThan(at(0.5));
    expect(() => assessSettling(trace, { toleranceK: 0 })).toThrow(RangeError);
    expect(() => assessSettling(trace, { windowS: -1 })).toThrow(RangeError);
  });
});

describe('fits of hard traces', () => {
  it.each([
    { end: 60, start: 25, fast: 5, slow: 200, share: 0.5 },
    { end: 60, start: 25, fast: 30, slow: 300, share: 0.8 },
    { end: 95, start: 90, fast: 20, slow: 400, share: 0.6 },
    { end: 30, start: 80, fast: 15, slow: 500, share: 0.4 },
    { end: 45, start: 44, fast: 10, slow: 100, share: 0.5 },
  ])('two terms, %j', ({ end, start, fast, slow, share }) => {
    const trace = madeTrace({
      n: 5 * slow,
      f: approach(end, start, [
        [share, fast],
        [1 - share, slow],
      ]),
      sd: 0.002 * Math.abs(end - start),
      seed: 12,
    });
    const fit = fitApproach(trace, { terms: 2 });
    expect(fit.terms).toHaveLength(2);
    expect(Math.abs(fit.asymptote.value - end)).toBeLessThan(5 * fit.asymptote.u);
    expect(Math.abs(fit.terms[0]!.tau.value - fast)).toBeLessThan(5 * fit.terms[0]!.tau.u);
    expect(Math.abs(fit.terms[1]!.tau.value - slow)).toBeLessThan(5 * fit.terms[1]!.tau.u);
    expect(fit.terms[0]!.share).toBeCloseTo(share, 1);
  });

  it('gives intervals that hold the truth about as often as they say', () => {
    let held = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const { asymptote } = fitApproach(madeTrace({ n: 300, dtS: 3, f: approach(60, 25, [[1, 180]]), sd: 0.2, seed }), { terms: 1 });
      if (Math.abs(asymptote.value - 60) <= 2 * asymptote.u) held++;
    }
    expect(held).toBeGreaterThan(88);
  });

  it('scales with its input: twice the trace, twice the asymptote and its doubt, the same time constant', () => {
    const trace = madeTrace({ n: 400, dtS: 2, f: approach(30, 10, [[1, 120]]), sd: 0.1, seed: 5 });
    const [one, two] = [trace, { t: trace.t, y: trace.y.map((y) => 2 * y) }].map((series) => fitApproach(series, { terms: 1 }));
    expect(two!.asymptote.value).toBeCloseTo(2 * one!.asymptote.value, 6);
    expect(two!.asymptote.u).toBeCloseTo(2 * one!.asymptote.u, 6);
    expect(two!.terms[0]!.tau.value).toBeCloseTo(one!.terms[0]!.tau.value, 4);
  });

  it('keeps a pinned start exactly, with no doubt of its own', () => {
    const trace = madeTrace({ n: 200, dtS: 4, f: approach(60, 25, [[1, 150]]), sd: 0.2, seed: 6 });
    const fit = fitApproach(trace, { terms: 1, start: 25 });
    expect(fit.start).toEqual({ value: 25, u: 0, dof: Infinity });
    expect(fit.at(0)).toBeCloseTo(25, 9);
    expect(fit.asymptote.u).toBeLessThan(fitApproach(trace, { terms: 1 }).asymptote.u);
  });

  it('falls back to one term where the data hold only one', () => {
    const exact = fitApproach(madeTrace({ n: 300, dtS: 2, f: approach(60, 25, [[1, 150]]) }), { terms: 2 });
    expect(exact.at(300)).toBeCloseTo(approach(60, 25, [[1, 150]])(300), 4);
    expect(exact.terms.every((term) => Number.isFinite(term.tau.u) && term.share > 0)).toBe(true);
  });
});

describe('spikes in hard traces', () => {
  it('finds nearly all of the planted ones and next to nothing else, over seeds', () => {
    let found = 0;
    let planted = 0;
    let wrong = 0;
    for (const seed of SEEDS) {
      const uniform = seededUniform(seed * 31);
      const trace = madeTrace({ n: 3000, f: approach(70, 30, [[1, 300]]), sd: 0.12, phi: 0.6, seed });
      const at = new Set(Array.from({ length: 12 }, () => 20 + Math.floor(uniform() * 2960)));
      for (const i of at) trace.y[i] = trace.y[i]! + (uniform() < 0.5 ? -1 : 1) * (3 + 5 * uniform());
      planted += at.size;
      for (const spike of rejectSpikes(trace).spikes) {
        if (at.has(spike.t)) found++;
        else wrong++;
      }
    }
    expect(found / planted).toBeGreaterThan(0.97);
    expect(wrong).toBeLessThan(5);
  });

  it('works where sampling is uneven, sparse or gapped', () => {
    const t = Float64Array.from({ length: 200 }, (_, i) => i * 2 + (i % 3) * 0.4 + (i > 100 ? 300 : 0));
    const y = t.map((time) => 40 + Math.sin(time / 50));
    y[60] = 60;
    y[150] = 20;
    expect(rejectSpikes({ t, y }).spikes.map((spike) => spike.t)).toEqual([t[60], t[150]]);
    const sparse = madeTrace({ n: 50, dtS: 60, f: (time) => time });
    expect(rejectSpikes(sparse).spikes).toEqual([]);
  });
});
