import { describe, expect, it } from 'vitest';
import { judgePair, lineUp, type JudgedRun, type RunReview } from '../../index.ts';
import { heldBackBy, rules, run, spots, throttledFrom } from '@red-ember/testing/judged';
import { countMounts } from '../figure/mountOf.ts';

const judge = (a: JudgedRun[], b: JudgedRun[], change = {}) =>
  judgePair({
    a: { variantId: 'a', name: 'bare', runs: a },
    b: { variantId: 'b', name: 'lid', runs: b },
    spots,
    rules: { ...rules, ...change },
    history: {},
  });

const fan = (held: boolean): Partial<RunReview> => ({
  locks: [
    {
      name: 'Fan duty',
      unit: '%',
      lock: { value: 60, tolerance: 2 },
      watch: { held, largestOff: held ? 0.4 : 18, leftAtS: held ? null : 420 } as never,
    },
  ],
});

describe('a run that only looks cooler', () => {
  it('is left out where its locked fan moved, on one side or on both, and not where fans were free', () => {
    const fair = [run(40, 40, { review: fan(true) }), run(40.1, 40.1, { review: fan(true) })];
    const loose = run(33, 33, { review: fan(false) });
    const locked = judge(fair, [run(38, 38, { review: fan(true) }), run(38.2, 38.2, { review: fan(true) }), loose], {
      fans: 'locked',
    });
    expect(locked.leftOut.map(({ runId, reason }) => [runId, reason])).toEqual([
      [loose.id, 'Fan duty was to be held at 60 % and was off it by up to 18.0 %, from 7:00 on.'],
    ]);
    expect(locked.b.runIds).toHaveLength(2);
    expect(judge(fair, [loose], { fans: 'locked' }).spots[0]!.comparison).toBeNull();
    expect(judge([run(40, 40, { review: fan(false) })], [loose], { fans: 'locked' }).spots[0]!.comparison).toBeNull();
    expect(judge(fair, [loose], { fans: 'as-shipped' }).leftOut).toEqual([]);
  });

  it('is left out where it was less busy than others of its variant; a whole side that was is no outlier', () => {
    const busy = (utilisationPercent: number) => ({ review: { utilisationPercent } });
    const slow = run(33, 33, busy(68));
    const judged = judge([run(40, 40, busy(99)), run(40.2, 40.2, busy(99))], [run(38, 38, busy(99)), run(38.1, 38.1, busy(98)), slow]);
    expect(judged.leftOut).toMatchObject([
      {
        runId: slow.id,
        reason: expect.stringContaining('Kept busy only 68 % of the time, where another run of the same variant was 99 %'),
      },
    ]);
    const both = judge([run(40, 40, busy(90)), run(40.2, 40.2, busy(91))], [run(38, 38, busy(90)), run(38.1, 38.1, busy(92))]);
    expect(both.leftOut).toEqual([]);
    expect(both.findings.filter(({ check }) => check === 'work').every(({ severity }) => severity === 'weakens')).toBe(true);
  });
});

describe('a run that was stopped far from where it ends', () => {
  const short = (likely: number, u = 0.4) => ({ load: { bound: 'still-rising', toGo: { likely: { value: likely, u }, lowK: likely - 1, highK: likely + 1 } } as never }); // prettier-ignore
  const heavy = () => [run(36, 36, short(4)), run(36.2, 36.2, short(3.9))];
  const light = () => [run(50, 50), run(50.2, 50.2)];

  it('is left out of means, and the way to count it is said', () => {
    const judged = judge(light(), heavy());
    expect(judged.leftOut).toHaveLength(2);
    expect(judged.leftOut[0]!.reason).toContain('Choose the settled value at Ask, and it counts.');
  });

  it('counts where the figure is the settled value, at where it ends and with the doubt of the fit', () => {
    const judged = judge(light(), heavy(), { figure: 'settled-value' });
    expect(judged.leftOut).toEqual([]);
    const [top] = judged.spots;
    expect(top!.comparison!.difference.value).toBeCloseTo(40.05 - 50.1, 1);
    // What is known to within what matters is worth a note; what is not, more.
    const severity = (u: number) =>
      judge(light(), [run(36, 36, short(4, u)), run(36.2, 36.2, short(3.9, u))], { figure: 'settled-value' }).findings.find(
        ({ check }) => check === 'settled',
      )!.severity;
    expect([severity(0.4), severity(0.8)]).toEqual(['note', 'weakens']);
    const { evidence, remedy } = judged.findings.find(({ check }) => check === 'settled')!;
    expect(evidence).toContain('was read before it was settled: 4.0 K to go');
    // Who chose that figure chose not to wait.
    expect(remedy).toBe('');
  });
});

describe('mounts', () => {
  it('of which nobody knows are none of their own, and are said to be unknown', () => {
    const unknown = [run(40, 40, { mountNo: null }), run(40.1, 40.1, { mountNo: null }), run(40.2, 40.2, { mountNo: null })];
    const mounts = (runs: JudgedRun[]) => countMounts({ variantId: 'a', runs });
    expect(mounts(unknown)).toBe(1);
    expect(mounts([...unknown, run(40, 40, { mountNo: 2 }), run(40, 40, { mountNo: 3 })])).toBe(2);
    expect(mounts([])).toBe(0);
    const judged = judge(unknown, [run(38, 38, { mountNo: 1 }), run(38.2, 38.2, { mountNo: 2 })]);
    expect([judged.a.mounts, judged.b.mounts]).toEqual([null, 2]);
    const finding = judged.findings.find(({ check }) => check === 'mounts')!;
    expect(finding.evidence).toContain('bare: nobody wrote down on which mounts it was run');
    expect(finding.severity).toBe('weakens');
  });
});

describe('a run whose temperature cannot be used', () => {
  const drifted = (performance: number): Parameters<typeof run>[2] => ({
    review: {
      room: { meanC: 27, minC: 25, maxC: 28, driftK: 2.5 },
      performance: { value: performance, u: 1, dof: 60 },
      noise: { value: 33, u: 0.05, dof: 60 },
    },
  });
  it('still gives its work, its watts and its noise', () => {
    const [a1, b1, b2, a2] = [run(40, 40, drifted(6100)), run(38, 38, drifted(6400)), run(38, 38, drifted(6401)), run(40, 40, drifted(6101))]; // prettier-ignore
    const judged = judge([a1, a2], [b1, b2]);
    expect(judged.leftOut).toHaveLength(4);
    expect(judged.spots[0]!.comparison).toBeNull();
    expect(judged.work.throughput).toMatchObject({ difference: { value: expect.closeTo(300, 6) } });
    expect(judged.cooling.rows.map(({ outcome }) => outcome)).toEqual(expect.arrayContaining(['noise', 'throughput', 'power']));
    expect(judged.cooling.rows.find(({ outcome }) => outcome === 'throughput')!.better).toBe('b');
    const field = lineUp([{ variantId: 'a', name: 'a', runs: [a1, a2] }], spots, rules, {});
    expect(field.sides[0]!.runs).toEqual([]);
    expect(field.sides[0]!.workRuns.map(({ points }) => points)).toEqual([{}, {}]);
  });
});

describe('what held a part back without heat', () => {
  const held = { throttle: throttledFrom(null, 0, heldBackBy('power')) };
  it('gives no time to throttle, and takes no run out', () => {
    const judged = judge([run(40, 40, { review: held })], [run(38, 38, { review: held })]);
    expect(judged.work.throttled.a.runs).toBe(0);
    expect(judged.work.timeToThrottle).toBeNull();
    expect(JSON.stringify(judged.cooling)).toContain('neither side throttled');
    expect(judged.leftOut).toEqual([]);
    const notes = judged.findings.filter(({ check }) => check === 'throttled');
    expect(notes.map(({ severity }) => severity)).toEqual(['note', 'note']);
    expect(notes[0]!.evidence).toContain('held back by its power limit');
  });
  it('stands beside heat where both did', () => {
    const both = { throttle: throttledFrom(900, 1800, heldBackBy('load', 300)) };
    const judged = judge([run(40, 40, { review: both })], [run(38, 38, { review: both })]);
    expect(judged.work.throttled.a.runs).toBe(1);
    expect(judged.leftOut).toHaveLength(2);
  });
});
