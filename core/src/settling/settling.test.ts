import { describe, expect, it } from 'vitest';
import { InsufficientDataError, assessSettling, fitApproach, timeToLimit } from '../index.ts';
import { approach, madeTrace, series } from '@red-ember/testing/signals';

describe('fitApproach against certified values', () => {
  it('NIST StRD BoxBOD: 213.80940889 (12.354515176), rate 0.54723748542 (0.10455993237)', () => {
    const fit = fitApproach(series([1, 2, 3, 5, 7, 10], [109, 149, 149, 191, 213, 224]), { terms: 1, start: 0, t0: 0 });
    expect(fit.asymptote.value / 213.80940889).toBeCloseTo(1, 7);
    expect(fit.asymptote.u / 12.354515176).toBeCloseTo(1, 5);
    expect(1 / fit.terms[0]!.tau.value / 0.54723748542).toBeCloseTo(1, 7);
    expect(fit.terms[0]!.tau.u / (0.10455993237 / 0.54723748542 ** 2)).toBeCloseTo(1, 5);
    expect(fit.residualSd / 17.088072423).toBeCloseTo(1, 7);
  });

  it('NIST StRD Misra1a: 238.94212918 (2.7070075241), rate 5.5015643181e-4 (7.2668688436e-6)', () => {
    const x = [77.6, 114.9, 141.1, 190.8, 239.9, 289.0, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0];
    const y = [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78];
    const fit = fitApproach(series(x, y), { terms: 1, start: 0, t0: 0 });
    expect(fit.asymptote.value / 238.94212918).toBeCloseTo(1, 7);
    expect(fit.asymptote.u / 2.7070075241).toBeCloseTo(1, 5);
    expect(1 / fit.terms[0]!.tau.value / 5.5015643181e-4).toBeCloseTo(1, 7);
    expect(fit.residualSd / 0.1018787633).toBeCloseTo(1, 6);
    expect(fit.asymptote.dof).toBe(12);
  });
});

describe('fitApproach', () => {
  it('recovers two time constants, warming and cooling, within four of its own u', () => {
    for (const [end, start] of [
      [68, 24],
      [27, 71],
    ] as const) {
      const fit = fitApproach(
        madeTrace({
          n: 2400,
          f: approach(end, start, [
            [0.65, 25],
            [0.35, 420],
          ]),
          sd: 0.2,
          seed: 3,
        }),
      );
      expect(fit.terms).toHaveLength(2);
      const [fast, slow] = fit.terms;
      expect(Math.abs(fit.asymptote.value - end)).toBeLessThan(4 * fit.asymptote.u);
      expect(Math.abs(fast!.tau.value - 25)).toBeLessThan(4 * fast!.tau.u);
      expect(Math.abs(slow!.tau.value - 420)).toBeLessThan(4 * slow!.tau.u);
      expect(fast!.share + slow!.share).toBeCloseTo(1, 12);
    }
  });

  it('is honest about correlated noise only when asked to be', () => {
    const errors = { plain: 0, allowed: 0 };
    for (let seed = 1; seed <= 40; seed++) {
      const trace = madeTrace({ n: 900, f: approach(60, 25, [[1, 180]]), sd: 0.3, phi: 0.95, seed });
      const plain = fitApproach(trace, { terms: 1 });
      const allowed = fitApproach(trace, { terms: 1, autocorrelated: true });
      if (Math.abs(plain.asymptote.value - 60) > 2 * plain.asymptote.u) errors.plain++;
      if (Math.abs(allowed.asymptote.value - 60) > 2 * allowed.asymptote.u) errors.allowed++;
    }
    expect(errors.plain).toBeGreaterThan(15);
    expect(errors.allowed).toBeLessThan(9);
  });

  it('shrugs off outliers when robust', () => {
    const trace = madeTrace({ n: 400, f: approach(60, 25, [[1, 80]]), sd: 0.1, seed: 4 });
    for (let i = 5; i < 400; i += 20) trace.y[i] = trace.y[i]! + 15;
    expect(Math.abs(fitApproach(trace, { terms: 1 }).asymptote.value - 60)).toBeGreaterThan(0.3);
    expect(Math.abs(fitApproach(trace, { terms: 1, robust: true }).asymptote.value - 60)).toBeLessThan(0.05);
  });

  it('fits noiseless data exactly, keeps one term where there is one, and skips gaps', () => {
    const trace = madeTrace({ n: 200, dtS: 5, f: approach(80, 20, [[1, 150]]) });
    for (let i = 60; i < 90; i++) trace.y[i] = NaN;
    const fit = fitApproach(trace);
    expect(fit.terms).toHaveLength(1);
    expect(fit.n).toBe(170);
    expect(fit.asymptote.value).toBeCloseTo(80, 6);
    expect(fit.settlesAtS(0.5)).toBeCloseTo(150 * Math.log(60 / 0.5), 3);
    expect(fit.settlesAtS(1000)).toBe(0);
    expect(() => fit.settlesAtS(0)).toThrow(RangeError);
  });

  it('refuses a flat trace, too few samples and nonsense options', () => {
    expect(() => fitApproach(madeTrace({ n: 50, f: () => 40 }))).toThrow(InsufficientDataError);
    expect(() => fitApproach(series([0, 1, 2], [1, 2, 3]), { terms: 1 })).toThrow(InsufficientDataError);
    expect(() => fitApproach(madeTrace({ n: 50, f: (t) => t }), { start: NaN })).toThrow(RangeError);
  });
});

describe('timeToLimit', () => {
  const warm = fitApproach(madeTrace({ n: 100, dtS: 10, f: approach(80, 20, [[1, 150]]) }), { terms: 1 });
  const cool = fitApproach(madeTrace({ n: 100, dtS: 10, f: approach(30, 80, [[1, 150]]) }), { terms: 1 });
  it('agrees with the closed form, both ways', () => {
    expect(timeToLimit(warm, 70)).toBeCloseTo(150 * Math.log(60 / 10), 4);
    expect(timeToLimit(cool, 40)).toBeCloseTo(150 * Math.log(50 / 10), 4);
  });
  it('says never, and already', () => {
    expect(timeToLimit(warm, 80.01)).toBeNull();
    expect(timeToLimit(cool, 29)).toBeNull();
    expect(timeToLimit(warm, 15)).toBe(0);
    expect(timeToLimit(cool, 90)).toBe(0);
    expect(() => timeToLimit(warm, NaN)).toThrow(RangeError);
  });
});

describe('assessSettling', () => {
  it('calls a two-term trace settled when its slow part is, not when the fast part is', () => {
    const f = approach(60, 25, [
      [0.7, 20],
      [0.3, 600],
    ]);
    const remainsAfter = (t: number) => 35 * 0.3 * Math.exp(-t / 600);
    const early = assessSettling(madeTrace({ n: 1500, f, sd: 0.1, phi: 0.8, seed: 2 }));
    expect(early.settled).toBe(false);
    expect(Math.abs(early.remainingK!.value - remainsAfter(1499))).toBeLessThan(0.3);
    expect(Math.abs(early.etaS! - 600 * Math.log(remainsAfter(1499) / 0.5))).toBeLessThan(150);
    expect(early.confirmedInS!).toBeGreaterThanOrEqual(early.etaS!);
    const late = assessSettling(madeTrace({ n: 4200, f, sd: 0.1, phi: 0.8, seed: 2 }));
    expect(late).toMatchObject({ settled: true, etaS: 0 });
    expect(late.atS!).toBeGreaterThan(600 * Math.log(10.5 / 0.5) - 60);
    expect(late.atS!).toBeLessThan(2500);
  });

  it('works on a falling trace, with a negative remainder', () => {
    const falling = assessSettling(madeTrace({ n: 900, f: approach(40, 75, [[1, 400]]), sd: 0.05, seed: 8 }));
    expect(falling.settled).toBe(false);
    expect(falling.remainingK!.value).toBeCloseTo(-35 * Math.exp(-899 / 400), 0);
  });

  it('starts anew after a step or a knee', () => {
    const load = approach(70, 30, [
      [0.5, 20],
      [0.5, 300],
    ]);
    const trace = madeTrace({ n: 1200, f: (t) => (t < 600 ? 30 : load(t - 600)), sd: 0.1, phi: 0.9, seed: 6 });
    const state = assessSettling(trace);
    expect(state.settled).toBe(false);
    expect(Math.abs(state.remainingK!.value - 20 * Math.exp(-2))).toBeLessThan(0.6);
  });

  it('lets the slope decide where nothing approaches anything', () => {
    const flat = assessSettling(madeTrace({ n: 1800, f: () => 50, sd: 0.1, phi: 0.9, seed: 9 }));
    expect(flat).toMatchObject({ settled: true, remainingK: null, etaS: 0 });
    expect(assessSettling(madeTrace({ n: 700, f: () => 50 })).settled).toBe(true);
  });

  it('does not claim what it cannot know', () => {
    // Linear so far: the asymptote is anywhere.
    expect(assessSettling(madeTrace({ n: 900, f: (t) => 30 + t / 60, sd: 0.1 })).etaS).toBeNull();
    expect(assessSettling(madeTrace({ n: 200, f: () => 50, sd: 0.05 }))).toMatchObject({ settled: false, atS: null, etaS: null });
    expect(() => assessSettling(series([0, 1, 2, 3], [1, NaN, NaN, 2]))).toThrow(InsufficientDataError);
  });

  it('keeps slopes exact on large time stamps', () => {
    const trace = madeTrace({ n: 120, f: (t) => 40 + 0.01 * t });
    const shifted = { t: trace.t.map((t) => t + 1.7e9), y: trace.y };
    expect(assessSettling(shifted, { windowS: 100 }).slopeKPerMin.value).toBeCloseTo(0.6, 6);
  });

  it('has defaults of 0.5 K over 300 s', () => {
    const drift = (k: number) =>
      assessSettling(madeTrace({ n: 601, dtS: 1, f: (t) => (t < 300 ? 50 : 50 + (k * (t - 300)) / 300), sd: 0 }));
    expect(drift(0.7).settled).toBe(false);
    expect(assessSettling(madeTrace({ n: 299, f: () => 50 })).settled).toBe(false);
    expect(assessSettling(madeTrace({ n: 302, f: () => 50 })).settled).toBe(true);
  });
});
