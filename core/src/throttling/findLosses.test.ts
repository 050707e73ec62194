import { describe, expect, it } from 'vitest';
import { findLosses, InsufficientDataError, type LossInput, type Series } from '../index.ts';
import { madeTrace } from '@red-ember/testing/signals';

const LOAD = { startS: 60, endS: 1860 };
const trace = (f: (t: number) => number, sd = 0, seed = 1): Series => madeTrace({ n: 1900, f, sd, phi: 0.3, seed });
const constant = (value: number) => trace(() => value);
/** Cool, at rest power, kept busy: nothing that would hold a part back. */
const idleBeside = { temperature: constant(60), limitC: 90, power: constant(150), powerCapW: 220, utilisation: constant(99) };
const losses = (work: Series, beside: Partial<LossInput> = {}) => findLosses({ work, load: LOAD, ...beside });
const from900 = (level: number) => trace((t) => (t < 900 ? 6100 : level), 30);

describe('losses of work', () => {
  it('have their depth, their beginning and their share of the load', () => {
    const report = losses(from900(4880), { ...idleBeside, temperature: trace((t) => (t < 900 ? 60 + t / 30 : 90)) });
    expect(report.heldBack).toEqual([]);
    expect(report.episodes).toHaveLength(1);
    const [{ depth, startS, endS, limiter, duty }] = report.episodes as [(typeof report.episodes)[0]];
    expect(depth).toBeCloseTo(0.2, 2);
    expect([Math.abs(startS - 900) < 4, endS, limiter]).toEqual([true, 1860, 'thermal']);
    expect(duty).toBeGreaterThan(0.99);
    expect(report.timeToFirstS!).toBeCloseTo(startS - 60, 9);
    expect(report.fractionOfTime).toBeCloseTo(960 / 1800, 2);
    expect(report.performanceLost).toBeCloseTo((0.2 * 960) / 1800, 2);
  });
  it('take no time to throttle where something else than heat held the part back', () => {
    const capped = losses(from900(5500), { ...idleBeside, power: trace((t) => (t < 900 ? 205 : 214)) });
    expect(capped).toMatchObject({ episodes: [], timeToFirstS: null, performanceLost: 0 });
    expect(capped.heldBack.map(({ limiter }) => limiter)).toEqual(['power']);
  });
  it.each([
    ['a sensor reads two kelvin low', { temperature: trace((t) => (t < 900 ? 60 + t / 32.5 : 87.7)), power: trace((t) => (t < 900 ? 190 : 150)) }, 'thermal'],
    ['the host waits after a thermal step', { temperature: trace((t) => (t < 900 ? 60 + t / 30 : 90)), utilisation: trace((t) => (t < 925 ? 99 : 80)) }, 'thermal'],
    ['the host waits before it', { utilisation: trace((t) => (t < 899 ? 99 : 78)), power: trace((t) => (t < 900 ? 150 : 120)) }, 'load'],
    ['a meter shows four percent less than the cap', { power: trace((t) => (t < 900 ? 200 : 212)) }, 'power'],
    ['a clock goes down while the host goes on', { clock: trace((t) => (t < 900 ? 2400 : 1920)), utilisation: trace((t) => (t < 900 ? 99 : 93)) }, 'voltage-or-clock-cap'],
  ] as const)('are put down rightly where %s', (_, beside, limiter) => {
    const { episodes, heldBack } = losses(from900(4880), { ...idleBeside, ...beside });
    expect([...episodes, ...heldBack].map((loss) => loss.limiter)).toEqual([limiter]);
  }); // prettier-ignore
  it('are none where the part sent nothing: it was gone', () => {
    const work = trace((t) => (t >= 900 && t < 1020 ? NaN : 6100), 20);
    const { episodes, heldBack } = losses(work, idleBeside);
    expect(episodes).toEqual([]);
    expect(heldBack).toHaveLength(1);
    expect(heldBack[0]).toMatchObject({ limiter: 'vanished', depth: 1 });
    expect(heldBack[0]!.endS - heldBack[0]!.startS).toBeCloseTo(121, -1);
  });
  it('that nobody could see the cause of are not ruled out as heat', () => {
    expect(losses(from900(4880)).episodes.map(({ limiter }) => limiter)).toEqual(['unknown']);
    // Cool all along: whatever it was, it was not that.
    expect(losses(from900(4880), { temperature: constant(50), limitC: 90 }).episodes).toEqual([]);
  });
  it('are held against what a fast cache leaves, not against the cache', () => {
    const work = trace((t) => (t < 260 ? 3400 : t < 1200 ? 1180 : 700), 8);
    const temperature = trace((t) => (t < 1200 ? 60 + t / 100 : 76));
    const { reference, episodes, heldBack } = losses(work, { temperature, limitC: 75 });
    expect(reference).toBeCloseTo(1180, -1);
    expect(heldBack).toEqual([]);
    expect(episodes).toHaveLength(1);
    expect(episodes[0]!.depth).toBeCloseTo(1 - 700 / 1180, 2);
  });
  it('refuse what cannot be read', () => {
    expect(() => losses(constant(NaN))).toThrow(InsufficientDataError);
    expect(() => losses(constant(0))).toThrow(InsufficientDataError);
    expect(() => losses(constant(-3))).toThrow(InsufficientDataError);
    expect(() => losses(constant(1), { minDepth: 0 })).toThrow(RangeError);
    expect(losses(constant(6100))).toMatchObject({ episodes: [], heldBack: [], reference: 6100 });
  });
});
