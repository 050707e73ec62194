import { describe, expect, it } from 'vitest';
import {
  eachOutput,
  callWords,
  departures,
  factorView,
  InsufficientDataError,
  judgeRetest,
  ladderSteps,
  lineUp,
  loadsAsSides,
  mayBeCalled,
  rankLineUp,
  verdictSentence,
  type JudgedSide,
  type JudgeRules,
  type Origin,
} from '../../index.ts';
import { reading } from '@red-ember/testing';
import { fair, pair, rules, run, spots } from '@red-ember/testing/judged';

const side = (name: string, tops: number[], change: Parameters<typeof run>[2] = {}, more: Partial<JudgedSide> = {}): JudgedSide => ({
  variantId: name,
  name,
  runs: tops.map((top) => run(top, top - 2, change)),
  ...more,
});
const turning = (rpm: number) => ({ review: { fan: { value: rpm, u: 2, dof: 40 } } });
const busy = (percent: number) => ({ review: { utilisationPercent: percent } });
const locked: JudgeRules = { ...rules, fans: 'locked' };
const history = { top: { sd: 0.2, dof: 20 }, under: { sd: 0.2, dof: 20 } };

describe('one door for a call', () => {
  it('says of a blocked pair nothing but that it is blocked, in no side’s colour, wherever it is asked', () => {
    const judgement = pair(
      [43, 43.2].map((top) => run(top, 40, busy(99))),
      [33, 33.2].map((top) => run(top, 30, busy(60))),
    );
    const [top] = judgement.spots;
    expect(top!.comparison!.verdict).toBe('b-cooler');
    expect(top!.call).toMatchObject({ kind: 'blocked' });
    expect(top!.call.why).toContain('60 %');
    expect(callWords(top!.call, 'lid')).toEqual({ tone: 'plain', words: 'blocked, not called' });
    expect(judgement.cooling.rows[0]!.better).toBeNull();
    expect(verdictSentence(judgement, spots, null).some((segment) => segment.tone === 'cooler')).toBe(false);
  });

  it('ranks and steps what the pair calls, and never across a block: locked fans at 1000 against 3000 rpm', () => {
    const of = lineUp(
      [side('slow', [50, 50.2], turning(1000)), side('slow twin', [48, 48.2], turning(1005)), side('fast', [40, 40.2], turning(3000))],
      spots,
      locked,
      history,
    );
    expect(mayBeCalled(side('a', [50], turning(1000)), side('b', [40], turning(3000)), locked)).toHaveLength(1);
    const ranking = rankLineUp(of, { spotId: 'top' });
    expect(ranking.sides.map(({ name, set }) => [name, set])).toEqual([
      ['slow twin', 0],
      ['slow', 0],
      ['fast', 1],
    ]);
    const across = ranking.pairs.find((entry) => entry.a === 'slow twin' && entry.b === 'fast')!;
    expect(across).toMatchObject({ different: false, p: 1, call: { kind: 'blocked' } });
    expect(ranking.blockedBy[0]!.evidence).toContain('Fans were to be locked');
    // A letter of one set says nothing of another.
    const letters = ranking.sides.map((entry) => entry.groups);
    expect(new Set(letters).size).toBe(3);
    const steps = ladderSteps(of, ['slow', 'slow twin', 'fast'], 'top');
    expect(steps.map((step) => step.call?.kind ?? null)).toEqual([null, 'cooler', 'blocked']);
    expect(steps.map((step) => step.sumCall?.kind ?? null)).toEqual([null, 'cooler', 'blocked']);
  });

  it('tells no effect, and no odd one out, from variants that must not be called against each other', () => {
    const cell = (fan: string, plate: string, tops: number[], rpm: number) =>
      side(`${fan}/${plate}`, tops, turning(rpm), { levels: { Fan: fan, Plate: plate } });
    const of = lineUp(
      [
        cell('low', 'off', [60, 60.2], 1000),
        cell('low', 'on', [55, 55.2], 1000),
        cell('high', 'off', [40, 40.2], 3000),
        cell('high', 'on', [36, 36.2], 3000),
      ],
      spots,
      locked,
      history,
    );
    const factors = [
      { name: 'Fan', levels: ['low', 'high'] },
      { name: 'Plate', levels: ['off', 'on'] },
    ];
    const view = factorView(of, factors, { spotId: 'top' });
    expect(view.effects.map((effect) => effect.told)).toEqual([null, null, null]);
    expect(view.notes[0]).toMatch(/^Effects are not called: Fans were to be locked/);
    expect(() => departures(of, 'top')).toThrow(InsufficientDataError);
    const boards = [52, 52.4, 51.8, 52.2].map((top, i) => side(`b${i}`, [top, top + 0.2], turning(1000)));
    const found = departures(lineUp([...boards, side('b4', [40, 40.2], turning(3000))], spots, locked, history), 'top');
    expect(found.find((entry) => entry.name === 'b4')).toMatchObject({ departs: false, call: { kind: 'blocked' } });
  });

  it('reads a retest by the same door, but for what it changes on purpose', () => {
    const odd = side('odd', [66, 66.2], turning(1000));
    const twin = side('twin', [52, 52.2], turning(3000));
    const retested = (retest: JudgedSide) => {
      const of = lineUp([odd, twin, retest], spots, locked, history);
      return judgeRetest(of, 'top', of.sides[0]!, of.sides[1]!, of.sides[2]!);
    };
    // The fan was the suspect, and is held as on the twin.
    expect(retested(side('fan held', [52.1, 52.3], turning(3000))).outcome).toBe('it-was');
    const shared = retested({ ...side('shared', [52.1], turning(1000)), runs: [odd.runs[0]!, run(52, 50, turning(1000))] });
    expect(shared.outcome).toBe('cannot-tell');
    expect(shared.sentence).toContain('on both sides');
  });

  it('holds a side of a level against another study by the rules of its own', () => {
    const origin = (studyId: string, fans: string): Origin => ({
      studyId,
      title: studyId,
      part: 'card',
      rules: Object.fromEntries(
        ['basis', 'figure', 'fans', 'load', 'duration', 'place', 'sensorOfRecord', 'stress', 'paste'].map((key) => [
          key,
          { value: key === 'fans' ? fans : 'same', words: key === 'fans' ? fans : 'same' },
        ]),
      ) as Origin['rules'],
    });
    const here = side('level', [50], {}, { origin: origin('here', 'locked') });
    const there = side('other', [40], {}, { origin: origin('there', 'as-shipped') });
    expect(mayBeCalled(here, there, rules).map((finding) => finding.check)).toEqual(['house-rules']);
  });

  it('blocks two sides that share a run, and not one run at two of its loads', () => {
    const [a, b] = fair();
    const shared = pair(a, [...b, a[0]!]);
    expect(shared.spots[0]!.call).toMatchObject({ kind: 'blocked' });
    expect(shared.blockedBy[0]).toMatchObject({ check: 'shared-runs' });
    expect(shared.blockedBy[0]!.evidence).toContain('stands on both sides');
    expect(shared.work.throughput).toBeNull();
    const load = (name: string, rise: number, i: number) => ({
      phase: i,
      name,
      startS: 0,
      endS: 900,
      endedBy: 'time',
      spots: [{ spotId: 'top', reading: reading(rise) }],
      room: null,
      ...eachOutput(() => null),
    });
    const [one, two] = loadsAsSides(side('v', [50], { review: { loads: [load('vent open', 50, 0), load('vent blocked', 55, 1)] } }));
    expect(mayBeCalled(one!, two!, rules)).toEqual([]);
  });

  it('gives no less of an answer for more data: a run that lacks the spot does not count as a repeat', () => {
    const [a] = fair();
    const one = run(39, 47);
    const without = { ...run(0, 47), sensors: {} };
    without.review.spots[0]!.load = null;
    const before = pair(a, [one]).spots[0]!;
    const after = pair(a, [one, without]).spots[0]!;
    expect(before.call.kind).toBe('cooler');
    expect(after.call).toEqual(before.call);
    expect(after.comparison!.interval).toEqual(before.comparison!.interval);
    expect(pair(a, [one, without]).findings.some((found) => found.check === 'repeats' && found.evidence.includes('top face'))).toBe(true);
  });
});

describe('one scatter and one doubt', () => {
  const asFound: JudgeRules = { ...rules, basis: 'as-found' };
  const sides = [side('a', [50, 50.4, 50.1]), side('b', [46, 46.5]), side('c', [44, 44.2])];
  it.each([
    ['rise', rules],
    ['as found', asFound],
  ])('the same pair reads the same on two sides, in steps and in the ranking (%s)', (_, by) => {
    const of = lineUp(sides, spots, by, history);
    const [a, b, c] = sides;
    const judged = pair(a!.runs, b!.runs, by, history.top, [c!]).spots[0]!;
    const step = ladderSteps(of, ['a', 'b', 'c'], 'top')[1]!;
    expect(step.step!.interval).toEqual(judged.comparison!.interval);
    const ranked = rankLineUp(of, { spotId: 'top' }).sides.find((entry) => entry.name === 'b')!;
    expect(ranked.halfWidth).toBeCloseTo(judged.b!.doubtK, 9);
    expect(ranked.mean).toBeCloseTo(judged.b!.figure.value, 9);
  });
  it('counts the room that nobody recorded in a ranking too', () => {
    const width = (by: JudgeRules) => rankLineUp(lineUp(sides, spots, by, history), { spotId: 'top' }).sides[0]!.halfWidth;
    expect(width(asFound)).toBeGreaterThan(2);
    expect(width(rules)).toBeLessThan(2);
  });
});

describe('a ranking', () => {
  const tops: Record<string, number[]> = { a: [50, 50.3], b: [49.6, 50.1], c: [44, 44.3], d: [60.2, 60] };
  const rankedBy = (names: Record<string, string>, f: (top: number) => number = (top) => top) => {
    const of = lineUp(
      Object.entries(tops).map(([name, values]) => side(names[name]!, values.map(f))),
      spots,
      rules,
      {},
    );
    return rankLineUp(of, { spotId: 'top' });
  };
  const same = { a: 'a', b: 'b', c: 'c', d: 'd' };
  it('does not look at what sides are called', () => {
    const names = { a: 'z', b: 'y', c: 'x', d: 'w' };
    const [plain, renamed] = [rankedBy(same), rankedBy(names)];
    expect(renamed.sides.map((entry) => [entry.name, entry.groups])).toEqual(
      plain.sides.map((entry) => [names[entry.name as keyof typeof names], entry.groups]),
    );
  });
  it('does not change when every figure moves by the same amount, and turns round with their sign', () => {
    const groups = (ranking: ReturnType<typeof rankedBy>) => ranking.sides.map((entry) => [entry.name, entry.groups]);
    expect(groups(rankedBy(same, (top) => top + 12))).toEqual(groups(rankedBy(same)));
    expect(rankedBy(same, (top) => 100 - top).sides.map((entry) => entry.name)).toEqual(
      rankedBy(same)
        .sides.map((entry) => entry.name)
        .reverse(),
    );
  });
  it('keeps order and letters when all differences grow alike', () => {
    const ranking = rankedBy(same, (top) => 3 * top);
    expect(ranking.sides.map((entry) => entry.name)).toEqual(rankedBy(same).sides.map((entry) => entry.name));
    expect(ranking.sides.map((entry) => entry.groups.length)).toEqual(rankedBy(same).sides.map((entry) => entry.groups.length));
  });
});
