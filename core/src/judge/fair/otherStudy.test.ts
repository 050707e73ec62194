import { describe, expect, it } from 'vitest';
import {
  judgePair,
  matchSpots,
  otherStudyFindings,
  renamedSide,
  type HouseRuleKey,
  type JudgedSide,
  type MatchableSpot,
  type Origin,
} from '../../index.ts';
import { fair, rules, run, spots } from '@red-ember/testing/judged';

const spot = (id: string, name: string, componentClass = 'flash', channel = id): MatchableSpot => ({ id, name, componentClass, channel });
const origin = (studyId: string, change: Partial<Record<HouseRuleKey, string>> = {}, part = 'Thistle 4T'): Origin => {
  const value = { basis: 'rise', figure: 'mean', fans: 'locked', load: 'real', duration: 'settled', place: 'bench', sensorOfRecord: 'attached', stress: 'as-used', paste: 'spread', ...change }; // prettier-ignore
  return {
    studyId,
    title: `Study ${studyId}`,
    part,
    rules: Object.fromEntries(Object.entries(value).map(([key, words]) => [key, { value: words, words }])) as Origin['rules'],
  };
};

describe('spots of two studies', () => {
  it('are one by name, else by being the only one of their class on a channel', () => {
    const own = [spot('a1', 'Flash, top'), spot('a2', 'Controller', 'controller', 'tc2'), spot('a3', 'Flash, side', 'flash', 'tc3')];
    const other = [
      spot('b1', 'flash, top '),
      spot('b2', 'Chip', 'controller', 'tc2'),
      spot('b3', 'Elsewhere', 'flash', 'tc9'),
      spot('b4', 'Controller', 'hub chip', 'tc2'),
    ];
    expect(matchSpots(own, other)).toEqual({ b1: 'a1', b2: 'a2' });
  });
  it('are never two at once', () => {
    const twice = [spot('b1', 'Flash', 'flash', 'tc1'), spot('b2', 'Flash', 'flash', 'tc1')];
    expect(Object.values(matchSpots([spot('a1', 'Flash', 'flash', 'tc1')], twice))).toEqual(['a1']);
    expect(matchSpots([spot('a1', 'Upper', 'flash', 'tc1')], twice)).toEqual({});
  });
});

describe('a side of another study', () => {
  const [a, b] = fair();
  const there: JudgedSide = {
    variantId: 'study:x:lid',
    name: 'lid of the other study',
    origin: origin('x'),
    runs: b.map((one) => ({
      ...one,
      sensors: { t: 'TC 1', u: 'TC 2', w: 'TC 3' },
      overdue: [{ spotId: 'w', sensor: 'TC 3', dueOn: '2026-01-01' }],
      review: { ...one.review, spots: one.review.spots.map((entry) => ({ ...entry, spotId: entry.spotId === 'top' ? 't' : 'w' })) },
    })),
  };
  const here: JudgedSide = { variantId: 'bare', name: 'bare', origin: origin('o'), runs: a };
  const renamed = renamedSide(there, { t: 'top', u: 'under' });

  it('calls its spots as this study does, and leaves off what has no counterpart', () => {
    expect(renamed.runs[0]!.sensors).toEqual({ top: 'TC 1', under: 'TC 2' });
    expect(renamed.runs[0]!.review.spots.map((entry) => entry.spotId)).toEqual(['top']);
    expect(renamed.runs[0]!.overdue[0]!.spotId).toBeNull();
    const judgement = judgePair({ a: here, b: renamed, spots, rules, history: {} });
    expect(judgement.spots[0]!.comparison!.verdict).toBe('b-cooler');
    expect(judgement.spots[1]!.refusal).toContain('No usable reading');
    expect(judgement.blockedBy).toEqual([]);
  });

  it('is blocked where the bench was run by another rule', () => {
    const judgement = judgePair({ a: here, b: { ...renamed, origin: origin('x', { fans: 'automatic' }) }, spots, rules, history: {} });
    expect(judgement.blockedBy.map((finding) => finding.evidence)).toEqual(['House rules differ, fans: locked here; automatic there.']);
  });
});

describe('house rules that differ', () => {
  it.each<[HouseRuleKey, string]>([
    ['basis', 'note'],
    ['figure', 'note'],
    ['duration', 'note'],
    ['paste', 'weakens'],
    ['sensorOfRecord', 'weakens'],
    ['fans', 'blocks'],
    ['load', 'blocks'],
    ['place', 'blocks'],
    ['stress', 'blocks'],
  ])('%s: %s', (key, severity) => {
    const found = otherStudyFindings(origin('o'), origin('x', { [key]: 'otherwise' }));
    expect(found).toMatchObject([{ check: 'house-rules', severity, runId: null, spotId: null }]);
    expect(found[0]!.evidence).toContain('otherwise there');
    expect(found[0]!.remedy).not.toBe('');
  });
  it('and a piece that is another, are nothing within one study', () => {
    expect(otherStudyFindings(origin('o'), origin('x', {}, 'Thistle 4T, serial 2'))[0]).toMatchObject({
      check: 'one-change',
      severity: 'weakens',
    });
    expect(otherStudyFindings(origin('o'), origin('o', { fans: 'automatic' }, 'another'))).toEqual([]);
    expect(otherStudyFindings(undefined, origin('x', { fans: 'automatic' }))).toEqual([]);
    expect(otherStudyFindings(origin('o'), origin('x'))).toEqual([]);
  });
});

it('fans that only one side watched were not held on both', () => {
  const fan = (perMin: number, watched: boolean) =>
    run(40, 40, {
      review: {
        fan: { value: perMin, u: 1, dof: 9 },
        locks: watched ? [{ name: 'Fan duty', unit: '%', lock: { value: 60, tolerance: 2 }, watch: { held: true } as never }] : [],
      },
    });
  const judge = (second: boolean) =>
    judgePair({
      a: { variantId: 'a', name: 'a', runs: [fan(1000, true)] },
      b: { variantId: 'b', name: 'b', runs: [fan(500, second)] },
      spots,
      rules: { ...rules, fans: 'locked' },
      history: {},
    }).blockedBy.map((finding) => finding.check);
  expect(judge(true)).toEqual([]);
  expect(judge(false)).toEqual(['fan-policy']);
});
