import { describe, expect, it } from 'vitest';
import { judgePair, lineUp, rankLineUp, type JudgedRun } from '../../index.ts';
import { rules, run, spots } from '@red-ember/testing/judged';
import { byMount } from './byMount.ts';
import { countMounts } from './mountOf.ts';
import type { FigureReading } from './figureOf.ts';
import { scatterFor } from './scatter.ts';
import { DRIFT_K_PER_H } from './drift.ts';
import { toOneTime } from './oneTime.ts';

const HOUR = 3_600_000;
const known = (value: number, u = 0.05) => ({ value, u, dof: 60 });
const read = (mount: string | null, value: number, atH = 0) => ({ mount, figure: known(value), atMs: atH * HOUR }) as FigureReading;

describe('the mount as the unit', () => {
  it('takes runs on one mount as one, with what they scatter by as a floor', () => {
    const [one, two] = byMount([read('m1', 40), read('m1', 40.4), read('m2', 42)]);
    expect(one!.figure).toMatchObject({ value: 40.2, dof: 1 });
    expect(one!.figure.u).toBeCloseTo(Math.sqrt(0.08) / Math.sqrt(2), 9);
    expect(two!.figure.value).toBe(42);
    expect(byMount([read(null, 40), read(null, 44)])).toHaveLength(1);
  });
  it('counts mounts of two variants as two, though both are called the first', () => {
    const runs = [run(40, 40, { mountNo: 1, mountId: 'p' }), run(40, 40, { mountNo: 1, mountId: 'q' })];
    expect(countMounts({ variantId: 'level:Paste=K', runs })).toBe(2);
  });
  it('gives three runs on one mount no more than one run, and says so', () => {
    const side = (tops: number[], mounts: number[]): JudgedRun[] => tops.map((top, i) => run(top, 40, { mountNo: mounts[i]! }));
    const judge = (a: JudgedRun[], b: JudgedRun[]) =>
      judgePair({
        a: { variantId: 'a', name: 'bare', runs: a },
        b: { variantId: 'b', name: 'lid', runs: b },
        spots,
        rules,
        history: {},
      });
    const once = judge(side([44, 44.1, 44.05], [1, 1, 1]), side([42, 42.1, 42.05], [1, 1, 1]));
    const thrice = judge(side([44, 44.1, 44.05], [1, 2, 3]), side([42, 42.1, 42.05], [1, 2, 3]));
    expect(once.spots[0]!.call.kind).toBe('no-call');
    expect(thrice.spots[0]!.call.kind).toBe('cooler');
    expect(once.findings.find(({ check }) => check === 'mounts')!.evidence).toContain('and its 3 runs count as one');
    // The ranking goes by the same.
    const field = lineUp(
      [
        { variantId: 'a', name: 'bare', runs: side([44, 44.1, 44.05], [1, 1, 1]) },
        { variantId: 'b', name: 'lid', runs: side([42, 42.1, 42.05], [1, 1, 1]) },
      ],
      spots,
      rules,
      {},
    );
    expect(rankLineUp(field, { spotId: 'top' }).pairs[0]!.different).toBe(false);
  });
});

describe('one scatter', () => {
  const side = (...values: number[]) => values.map((value) => known(value));
  it('serves both sides, with a stated one lent where there is little of it', () => {
    expect(scatterFor(side(40, 40.4), side(42, 42.4), null)).toEqual({ lent: { sd: 0.6, dof: 4, assumed: true }, shared: true });
    expect(scatterFor(side(40, 40.4, 40.2), side(42, 42.4, 42.2), null)).toEqual({ lent: null, shared: true });
  });
  it('is not lent where these readings scatter by more than it allows', () => {
    const quiet = { sd: 0.1, dof: 20 };
    expect(scatterFor(side(40, 43, 41.5), side(42, 45, 43.5), quiet).lent).toBeNull();
    expect(scatterFor(side(40, 40.1, 40.2), side(42, 42.1, 42.2), quiet).lent).toEqual({ ...quiet, assumed: false });
    // Two mounts that happen to agree are luck as often as skill.
    expect(scatterFor(side(40, 40.001), side(42, 42.001), { sd: 0.5, dof: 20 }).lent).toEqual({ sd: 0.5, dof: 20, assumed: false });
  });
  it('is two where the sides contradict each other, and enough of them say so', () => {
    expect(scatterFor(side(40, 40.01, 40.02, 40.01), side(42, 45, 48, 44), null)).toEqual({ lent: null, shared: false });
    expect(scatterFor(side(40, 40.001), side(42, 48), null).shared).toBe(true);
  });
});

describe('a bench that may drift', () => {
  const at = (value: number, hour: number) => byMount([read(`m${hour}`, value, hour)])[0]!;
  it('costs nothing in an order that balances it, and what it costs in any other', () => {
    expect(toOneTime([at(40, 0), at(40, 3)], [at(42, 1), at(42, 2)], 0.3)!.line).toBeNull();
    expect(toOneTime([at(40, 0)], [at(42, 2)], 0.3)!.line!.u).toBeCloseTo(2 * DRIFT_K_PER_H, 9);
    const separated = toOneTime([at(40, 0), at(40, 1), at(40, 2)], [at(42, 3), at(42, 4), at(42, 5)], 0.1)!.line!.u;
    // Repeats say most of what a drift can be: closed form of the ridge.
    expect(separated).toBeCloseTo(3 / Math.sqrt(4 / 0.01 + DRIFT_K_PER_H ** -2), 9);
  });
  it('takes a drift out that the repeats of each side show', () => {
    const drifting = (value: number, hour: number) => at(value + 0.5 * hour, hour);
    const { a, b } = toOneTime([0, 1, 2].map((h) => drifting(40, h)), [3, 4, 5].map((h) => drifting(40, h)), 0.05)!; // prettier-ignore
    const mean = (side: typeof a) => side.reduce((sum, mount) => sum + mount.figure.value / side.length, 0);
    expect(Math.abs(mean(b) - mean(a))).toBeLessThan(0.05);
  });
  it('counts a night as no more than a pause, and knows nothing without times', () => {
    expect(toOneTime([at(40, 0)], [at(42, 20)], 0.3)!.line!.u).toBeCloseTo(2 * DRIFT_K_PER_H, 9);
    expect(toOneTime([{ ...at(40, 0), atMs: null }], [at(42, 1)], 0.3)).toBeNull();
    expect(toOneTime([at(40, 0), at(40, 1)], [at(42, 2), at(42, 3)], 0)!.line).toBeNull();
  });
});
