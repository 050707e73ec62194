import { describe, expect, it } from 'vitest';
import {
  eachOutput,
  commonNoise,
  judgePair,
  judgePrediction,
  verdictSentence,
  type JudgedRun,
  type JudgedSide,
  type JudgeRules,
  type RunReview,
} from '../../index.ts';
import { reading } from '@red-ember/testing';
import { rules, run, spots, throttledFrom } from '@red-ember/testing/judged';

const est = (value: number, u = 0.1) => ({ value, u, dof: 40 });
type Change = Parameters<typeof run>[2];

/** Two runs a side, in turn; `top` scatters by a tenth. */
function judged(
  a: [number, Change],
  b: [number, Change],
  change: Partial<JudgeRules> = {},
  sides: [Partial<JudgedSide>, Partial<JudgedSide>] = [{}, {}],
) {
  const runs = [run(a[0], 40, a[1]), run(b[0], 40, b[1]), run(b[0] + 0.1, 40, b[1]), run(a[0] + 0.1, 40, a[1])];
  return judgePair({
    a: { variantId: 'a', name: 'air', runs: [runs[0]!, runs[3]!], ...sides[0] },
    b: { variantId: 'b', name: 'loop', runs: [runs[1]!, runs[2]!], ...sides[1] },
    spots,
    rules: { ...rules, ...change },
    history: { top: { sd: 0.2, dof: 20 }, under: { sd: 0.2, dof: 20 } },
  });
}
const review = (change: Partial<RunReview>): Change => ({ review: change });
const text = (judgement: ReturnType<typeof judged>) =>
  verdictSentence(judgement, spots, null)
    .map((segment) => segment.text)
    .join('');
const found = (judgement: ReturnType<typeof judged>, check: string) =>
  judgement.findings.filter((finding) => finding.check === check && !finding.evidence.startsWith('Held alike'));

describe('fairness between two sides, further rows', () => {
  const turned = (fan: number, noise: number) => review({ fan: est(fan, 2), noise: est(noise) });
  it.each([
    ['as-shipped', 'withholds', 'The fans were free and turned 1700 per minute with air and 2100 with loop, 33.0 and 38.0 dB(A)'],
    ['locked', 'blocks', 'Fans were to be locked, and turned 1700'],
    ['equal-noise', 'blocks', 'Noise was to be equal: 33.0 dB(A) with air and 38.0 dB(A) with loop'],
  ] as const)('fans %s that went their own ways: %s', (fans, severity, words) => {
    const [finding] = found(judged([40, turned(1700, 33)], [40.2, turned(2100, 38)], { fans }), 'fan-policy');
    expect(finding).toMatchObject({ severity });
    expect(finding!.evidence).toContain(words);
  });
  it('fans that nobody locked and that stood still, each at its own speed, were not set alike', () => {
    const stood = (fan: number, fanMovedShare: number) => review({ fan: est(fan, 2), fanMovedShare });
    const why = (a: Change, b: Change) => found(judged([40, a], [40.2, b], { fans: 'as-shipped' }), 'fan-policy')[0]!.withheld!;
    expect(why(stood(1700, 0.004), stood(2100, 0.01))).toMatchObject({
      why: 'the fans were not set alike',
      earnBy: { what: 'set the fans alike and run both sides again' },
    });
    expect(why(stood(1700, 0.004), stood(2100, 0.3)).why).toBe('the fans were free and did not do the same');
  });
  it('lets other fans at a held duty be, with a note', () => {
    const locks = [
      {
        name: 'Fan duty',
        unit: '%',
        lock: { value: 60, tolerance: 2 },
        watch: { held: true, leftAtS: null, largestOff: 0.4, mean: 60, shareOutside: 0 },
      },
    ];
    const having = (fan: number) => review({ fan: est(fan, 2), locks });
    const judgement = judged([40, having(1700)], [40, having(1100)], { fans: 'locked' });
    expect(found(judgement, 'fan-policy')).toMatchObject([{ severity: 'note' }]);
    expect(judgement.blockedBy).toEqual([]);
  });
  it('blocks a starved card: it looks cool because it was not asked to work', () => {
    const judgement = judged([60, review({ utilisationPercent: 99 })], [48, review({ utilisationPercent: 62 })]);
    expect(judgement.blockedBy[0]!.evidence).toBe(
      'Loop was kept busy only 62 % of the time against 99 %: it was not asked to work as hard, and looks cool for that.'.replace(
        'Loop',
        'loop',
      ),
    );
    expect(text(judgement)).toMatch(/^Loop against air is blocked\. /);
    // Shown, and not called: neither in the row of temperatures nor for what was expected.
    expect(judgement.cooling.rows[0]).toMatchObject({ outcome: 'temperature', better: null });
    expect(judgement.cooling.rows[0]!.comparison!.difference.value).toBeCloseTo(-12, 6);
    expect(judgePrediction({ spotId: 'top', expectedK: -12, plusMinusK: 1 }, judgement, spots).outcome).toBe('open');
  });
  it('notes loads of which one lasted far longer, and lets near ones be', () => {
    const soaked = (minutes: number) => review({ loadS: 60 * minutes });
    expect(found(judged([40, soaked(20)], [36, soaked(45)]), 'length')).toMatchObject([
      { severity: 'note', evidence: 'The load lasted 20 min with air and 45 min with loop.' },
    ]);
    expect(found(judged([40, soaked(20)], [36, soaked(25)]), 'length')).toEqual([]);
  });
  it('credits nobody where two things changed', () => {
    const levels = (cooler: string, paste: string) => ({ levels: { Cooler: cooler, Paste: paste } });
    const both = judged([40, {}], [36, {}], {}, [levels('air', 'K'), levels('loop', 'L')]);
    expect(found(both, 'one-change')[0]!.evidence).toBe(
      'Cooler and Paste differ at once, so the difference belongs to none of them alone.',
    );
    expect(found(judged([40, {}], [36, {}], {}, [levels('air', 'K'), levels('loop', 'K')]), 'one-change')).toEqual([]);
  });
  it('blocks other days as found, without a record of the room', () => {
    const as = (day: number): Change => ({ startedAtMs: day * 86_400_000, review: { room: null } });
    expect(judged([40, as(1)], [36, as(2)], { basis: 'as-found' }).blockedBy[0]!.check).toBe('room');
    expect(judged([40, as(1)], [36, as(1)], { basis: 'as-found' }).blockedBy).toEqual([]);
  });
});

describe('where the cooling went', () => {
  it('says noise where free fans took the cooling and the temperature hardly moved', () => {
    const free = (fan: number, noise: number) => review({ fan: est(fan, 2), noise: est(noise) });
    const { cooling } = judged([40, free(2100, 38.4)], [40.1, free(1500, 31.2)], { fans: 'as-shipped' });
    expect(cooling.rows.find((row) => row.outcome === 'noise')).toMatchObject({ freedom: 'free', better: 'b' });
    expect(cooling.sentence).toMatch(/Loop is quieter by 7\.2 ± [\d.]+ dB\(A\); loop turns its fan slower by 600(\.0)? ± [\d.]+ rpm/);
  });
  it('says which of two sides each speaks for', () => {
    const { cooling } = judged([44, review({ noise: est(30), fan: est(1500, 2) })], [40, review({ noise: est(36), fan: est(1510, 2) })], {
      fans: 'as-shipped',
    });
    expect(cooling.sentence).toContain('They speak for different sides');
  });
  it('hides no spot that went the other way', () => {
    const sides = [run(44, 40, {}), run(40, 46, {}), run(40.1, 46.1, {}), run(44.1, 40.1, {})];
    const { cooling } = judgePair({
      a: { variantId: 'a', name: 'air', runs: [sides[0]!, sides[3]!] },
      b: { variantId: 'b', name: 'loop', runs: [sides[1]!, sides[2]!] },
      spots,
      rules,
      history: { top: { sd: 0.2, dof: 20 }, under: { sd: 0.2, dof: 20 } },
    });
    const temperatures = cooling.rows.filter(({ outcome }) => outcome === 'temperature');
    expect(temperatures.map(({ label, better }) => [label, better]).sort()).toEqual(
      spots.map(({ id, name }) => [name, id === 'top' ? 'b' : 'a']).sort(),
    );
    for (const { name } of spots) expect(cooling.sentence).toContain(` at ${name}`);
    expect(cooling.sentence).toContain('They speak for different sides');
    // One that goes the same way has nothing to add here: it stands in its own block.
    expect(judged([44, {}], [40, {}]).cooling.rows.filter(({ outcome }) => outcome === 'temperature')).toHaveLength(1);
  });
  it('holds the fan apart where the rules locked it', () => {
    const { cooling } = judged([44, review({ fan: est(1800, 1) })], [40, review({ fan: est(1802, 1) })], { fans: 'locked' });
    expect(cooling.rows.find((row) => row.outcome === 'fan')).toMatchObject({ freedom: 'held', better: null });
    expect(cooling.sentence).toContain('Loop is cooler by 4.0');
  });
  it('strikes the temperature out where both throttled while read, and lets the work decide', () => {
    const at = (timeToFirstS: number, performance: number) =>
      review({
        performance: est(performance, 1),
        throttle: throttledFrom(timeToFirstS),
      });
    const judgement = judged([66, at(300, 2500)], [66, at(900, 3600)]);
    expect(judgement.spots.every((spot) => spot.comparison === null)).toBe(true);
    expect(judgement.cooling.rows[0]).toMatchObject({ outcome: 'temperature', freedom: 'held-by-part', comparison: null });
    expect(judgement.cooling.rows.filter((row) => row.better === 'b').map((row) => row.outcome)).toEqual([
      'throughput',
      'time-to-throttle',
    ]);
    expect(text(judgement)).toContain('does not count: both sides were throttled while read');
  });
});

describe('restatements', () => {
  it('carries both sides to one power, and takes the finding about heat back', () => {
    const drew = (watts: number) => review({ power: est(watts, 0.1) });
    const asMeasured = judged([40, drew(200)], [44, drew(220)]);
    expect(asMeasured.spots[0]!.comparison!.verdict).toBe('a-cooler');
    expect(found(asMeasured, 'heat')).toHaveLength(1);
    const restated = judged([40, drew(200)], [44, drew(220)], { restate: { kind: 'power', targetW: 210, exponent: 1 } });
    expect(restated.spots[0]!.comparison!.verdict).toBe('equivalent');
    expect(found(restated, 'heat')).toEqual([]);
  });
  const swept = (offsetDb: number, top: number): Change => ({
    review: {
      loads: [30, 35, 40].map((level, i) => ({
        phase: i + 1,
        name: `step ${i + 1}`,
        startS: 0,
        endS: 300,
        endedBy: 'time',
        spots: [{ spotId: 'top', reading: reading(top - 0.6 * (level - 30)) }],
        ...eachOutput(() => null),
        room: null,
        noise: est(level + offsetDb),
      })),
    },
  });
  it('reads both off their sweeps at one noise, and refuses beyond the end of either', () => {
    const a: [number, Change] = [40, swept(0, 50)];
    const b: [number, Change] = [38, swept(3, 49)];
    const at = (levelDb: number) => judged(a, b, { restate: { kind: 'noise', levelDb } }).spots[0]!;
    // b: 49 at 33 dB, falling 0.6 K per dB; a: 50 at 30 dB: at 36 dB 46.4 and 47.2.
    expect(at(36).comparison!.difference.value).toBeCloseTo(0.8, 6);
    expect(at(31)).toMatchObject({ comparison: null, refusal: 'No usable reading of loop.' });
    const runs: JudgedRun[] = [run(1, 1, a[1]), run(1, 1, b[1])];
    expect(commonNoise(runs)).toEqual({ leastDb: 33, mostDb: 40 });
    expect(commonNoise([run(1, 1)])).toBeNull();
  });
});
