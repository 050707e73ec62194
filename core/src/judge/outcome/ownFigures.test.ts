import { describe, expect, it } from 'vitest';
import {
  judgeClaim,
  judgePair,
  judgePrediction,
  lineUp,
  outcomeKeys,
  outcomeKind,
  ownOutcome,
  predictionRecord,
  rankLineUp,
  suspects,
  type Claim,
  type JudgedRun,
  type JudgeRules,
  type OwnFigure,
  type OwnValue,
} from '../../index.ts';
import { rules as usual, run, spots } from '@red-ember/testing/judged';

const render: OwnFigure = { id: 'render', name: 'render time', unit: 'min', better: 'low', doubt: 0.05, practical: 0.5 };
const ease: OwnFigure = { id: 'ease', name: 'ease of spreading', unit: 'of 5', better: 'high', doubt: 0.5, practical: 1 };
const odd: OwnFigure = { id: 'odd', name: 'hue', unit: '', better: 'neither', doubt: 0, practical: 0.001 };
const rules: JudgeRules = { ...usual, own: [render, ease, odd] };
const typed = (...own: OwnValue[]): JudgedRun => ({ ...run(40, 40), own });
const value = (figureId: string, amount: number, load: string | null = null): OwnValue => ({ figureId, value: amount, load });

const sides = (a: number[], b: number[], of = 'render') => ({
  a: { variantId: 'a', name: 'air', runs: a.map((amount) => typed(value(of, amount))) },
  b: { variantId: 'b', name: 'loop', runs: b.map((amount) => typed(value(of, amount))) },
});
const judged = (a: number[], b: number[], of = 'render') => judgePair({ ...sides(a, b, of), spots, rules, history: {} });
const rowOf = (judgement: ReturnType<typeof judged>, id: string) => judgement.cooling.rows.find((row) => row.outcome === ownOutcome(id))!;

describe('a figure that the study names itself', () => {
  it('is compared between sides by their own scatter, in its own unit, and says which way is better', () => {
    const row = rowOf(judged([14, 14.2, 13.8], [12, 12.2, 11.8]), 'render');
    expect(row).toMatchObject({
      label: 'render time',
      unit: 'min',
      freedom: 'free',
      better: 'b',
      a: expect.closeTo(14),
      b: expect.closeTo(12),
    });
    const { comparison } = row;
    expect(comparison!.difference.value).toBeCloseTo(-2, 9);
    // Three a side of one scatter of 0.2 min: 0.2·√(2/3), and the doubt of a single value that no repeat takes away.
    expect(comparison!.difference.u).toBeGreaterThan(0.2 * Math.sqrt(2 / 3) - 1e-9);
    expect(comparison!.difference.u).toBeLessThan(0.2);
    expect(judged([14, 14.2, 13.8], [12, 12.2, 11.8]).cooling.sentence).toMatch(/Loop is better in render time by 2\.00? ± 0\.\d+ min/);
  });

  it('takes the side that more of it speaks for, and none where neither way is better', () => {
    expect(rowOf(judged([2, 2, 2.4], [4, 4.2, 4], 'ease'), 'ease').better).toBe('b');
    expect(rowOf(judged([2, 2.001, 2.002], [4, 4.001, 4.002], 'odd'), 'odd')).toMatchObject({
      better: null,
      because: 'nobody said which way of it is better',
    });
  });

  it('is lent a stated scatter where a side has one value, as wide as what matters', () => {
    const lone = rowOf(judged([14], [13.8]), 'render').comparison!;
    expect(lone.interval[0]).toBeLessThan(-1);
    expect(lone.interval[1]).toBeGreaterThan(1);
    expect(lone.verdict).toBe('no-call');
  });

  it('is not there where a side has none, and other outcomes are as they were', () => {
    expect(rowOf(judged([14, 14.2], []), 'render')).toBeUndefined();
    const without = judgePair({ ...sides([14, 14.2], [12, 12.2]), spots, rules: usual, history: {} });
    expect(without.cooling.rows.some(({ outcome }) => outcome.startsWith('own:'))).toBe(false);
    expect(outcomeKeys(usual)).toHaveLength(outcomeKeys(rules).length - 3);
    expect(() => outcomeKind(ownOutcome('gone'), rules)).toThrow(RangeError);
  });

  it('is read at the load that is looked at, of the run as a whole, or at its last load, in this order', () => {
    const kind = outcomeKind(ownOutcome('render'), rules);
    const loads = run(40, 40).review.loads;
    const last = loads.at(-1)?.name ?? null;
    const read = (own: OwnValue[], atLoad?: string) =>
      kind.read({ ...run(40, 40), own, ...(atLoad === undefined ? {} : { atLoad }) })?.value ?? null;
    const all = [value('render', 10), value('render', 20, 'Loud'), value('ease', 3)];
    expect(read(all)).toBe(10);
    expect(read(all, 'Loud')).toBe(20);
    expect(read(all, 'Quiet')).toBeNull();
    expect(read([value('render', 20, 'Loud')])).toBe(last === 'Loud' ? 20 : null);
    expect(read([])).toBeNull();
    expect(kind.read({ ...run(40, 40), own: all })!.u).toBeCloseTo(0.05 / Math.sqrt(3), 12);
  });

  it('ranks all variants, best first, and is a suspect where an odd one has another', () => {
    const field = lineUp(
      [
        ...Object.values(sides([14, 14.2, 13.8], [12, 12.2, 11.8])),
        { variantId: 'c', name: 'fan', runs: [12.1, 12, 12.2].map((amount) => typed(value('render', amount))) },
      ],
      spots,
      rules,
      {},
    );
    const ranking = rankLineUp(field, { outcome: ownOutcome('render') });
    expect(ranking.sides.map(({ name }) => name)).toEqual(['loop', 'fan', 'air']);
    expect(ranking.sides[0]!.groups).toBe(ranking.sides[1]!.groups);
    expect(ranking.sides[2]!.groups).not.toBe(ranking.sides[0]!.groups);
    const [air, loop, fan] = field.sides;
    expect(suspects(air!, loop!, rules)).toContainEqual({ name: 'render time', kind: 'measured', outlier: '14.0 min', twin: '12.0 min' });
    expect(suspects(fan!, loop!, rules)).toEqual([]);
  });

  it('can be claimed', () => {
    const claim = (change: Partial<Claim> = {}): Claim => ({ text: 'It renders faster', outcome: ownOutcome('render'), spotId: null, direction: 'less', leastEffect: 1, ...change }); // prettier-ignore
    const judge = (change: Partial<Claim>, a = [14, 14.2, 13.8], b = [12, 12.2, 11.8]) =>
      judgeClaim(claim(change), judged(a, b), spots, 1, rules.own);
    expect(judge({})).toMatchObject({
      outcome: 'supported',
      sentence: expect.stringMatching(/it asks for at least 1 min less, and render time changed by −2\.\d+ ± 0\.\d+ min/),
    });
    expect(judge({ leastEffect: 3 }).outcome).toBe('contradicted');
    expect(judge({ direction: 'no-difference', leastEffect: 0 }, [14, 14.02, 13.98], [14, 14.02, 13.98])).toMatchObject({
      outcome: 'supported',
      sentence: expect.stringContaining('no difference beyond 0.5 min'),
    });
    expect(judge({}, [14], []).sentence).toContain('no render time was recorded often enough');
  });

  it('can be predicted, as noise and work can, and counts in the record without a kelvin', () => {
    const judgement = judged([14, 14.2, 13.8], [12, 12.2, 11.8]);
    const say = (expectedK: number, plusMinusK: number, outcome: Claim['outcome'] = ownOutcome('render')) =>
      judgePrediction({ outcome, spotId: '', expectedK, plusMinusK }, judgement, spots, rules.own);
    expect(say(-2, 0.5)).toMatchObject({ outcome: 'right', errorK: null, sentence: expect.stringMatching(/^Expected −2\.0 ± 0\.5 min in render time\. Right: it was −2\.\d+ ± 0\.\d+ min\.$/) }); // prettier-ignore
    expect(say(-6, 0.5)).toMatchObject({ outcome: 'missed', missedByK: expect.closeTo(3.5, 6), sentence: expect.stringContaining('Missed by 3.5 min') }); // prettier-ignore
    expect(say(-1.6, 0.3)).toMatchObject({ outcome: 'open', sentence: expect.stringContaining('Cannot be told') });
    expect(say(1, 1, 'noise')).toMatchObject({ outcome: 'open', sentence: expect.stringContaining('in noise; not measured yet') });
    expect(predictionRecord([say(-2, 0.5), say(-6, 0.5)])).toMatchObject({ right: 1, missed: 1, shareRight: 0.5, meanErrorK: null });
    // A comparison of temperatures that is blocked leaves it free to speak.
    const blocked = { ...judgement, blockedBy: judgement.findings.slice(0, 1) };
    expect(judgePrediction({ outcome: ownOutcome('render'), spotId: '', expectedK: -2, plusMinusK: 0.5 }, blocked, spots, rules.own).outcome).toBe('right'); // prettier-ignore
  });
});
