import { describe, expect, it } from 'vitest';
import { judgePair, lineUp, rankLineUp, type JudgeInput, type JudgeRules } from '../../index.ts';
import { rules, run, spots } from '@red-ember/testing/judged';

const [only] = spots;
const planned: Partial<JudgeRules> = { stopping: { rule: 'pocock', mostASide: 6 } };
const side = (variantId: string, tops: number[]) => ({ variantId, name: variantId, runs: tops.map((top) => run(top, 40)) });
const judge = (a: number[], b: number[], change: Partial<JudgeRules> = planned, history: JudgeInput['history'] = {}) =>
  judgePair({ a: side('bare', a), b: side('lid', b), spots: [only!], rules: { ...rules, ...change }, history });
const width = (judgement: ReturnType<typeof judge>) => judgement.spots[0]!.comparison!.budget.expanded;
const about = (judgement: ReturnType<typeof judge>) => judgement.findings.find(({ check }) => check === 'looks');

describe('a plan that may be decided early', () => {
  it('is not decided before its first look', () => {
    const early = judge([44], [38]);
    expect(early.spots[0]!.call).toMatchObject({ kind: 'withheld', why: 'the plan looks first at 2 mounts a side' });
    expect(early.spots[0]!.call.earnBy!.what).toBe('refit bare and lid and run again');
    expect(judge([44], [38], {}).spots[0]!.call.kind).toBe('cooler');
  });
  it('may look first at one mount a side, where the bench knows how far mounts lie apart', () => {
    const from = { stopping: { ...planned.stopping!, fromASide: 1 } };
    const call = (history: Record<string, { sd: number; dof: number }>) =>
      judgePair({ a: side('bare', [44]), b: side('lid', [38]), spots: [only!], rules: { ...rules, ...from }, history }).spots[0]!;
    expect(call({ top: { sd: 0.4, dof: 12 } }).call.kind).toBe('cooler');
    // Each of six looks has its share of the level: five would leave each more.
    expect(call({ top: { sd: 0.4, dof: 12 } }).coverage).toBeGreaterThan(judge([44], [38]).spots[0]!.coverage);
    expect(call({}).call).toMatchObject({
      kind: 'withheld',
      why: 'the bench does not know yet how far mounts lie apart, and one a side does not tell',
    });
    expect(call({ top: { sd: 3, dof: 12 } }).call.kind).toBe('no-call');
  });
  it('holds each look at the level that belongs to it, on the pair and in the ranking', () => {
    const [a, b] = [[44, 44.4, 44.2], [42.6, 43, 42.8]]; // prettier-ignore
    expect(width(judge(a, b)) / width(judge(a, b, {}))).toBeGreaterThan(1.2);
    expect(about(judge(a, b))!.evidence).toContain('Look 2 of 5');
    expect(about(judge(a, b))!.evidence).toContain('drawn at 98.4 % in place of 95.0 %');
    expect(judge(a, b).spots[0]!.coverage).toBeCloseTo(0.984, 3);
    expect(about(judge(a, b, {}))).toBeUndefined();
    const near = [[44, 44.5, 44.2], [43.2, 43.7, 43.5]] as const; // prettier-ignore
    const different = (change: Partial<JudgeRules>) =>
      rankLineUp(lineUp([side('bare', [...near[0]]), side('lid', [...near[1]])], [only!], { ...rules, ...change }, {}), { spotId: 'top' })
        .pairs[0]!.different;
    expect([different({}), different(planned)]).toEqual([true, false]);
  });
  it('says where there is more than the plan looks at', () => {
    const many = [44, 44.4, 44.2, 44.1, 44.3, 44, 44.2];
    expect(about(judge(many, many))).toMatchObject({ severity: 'weakens' });
  });
  it('names a false side no more often than one look would: drawn', () => {
    let seed = 13;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    // As the bench got to know it, from a dozen differences of its own.
    const history = { top: { sd: 0.8, dof: 12 } };
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const falseSides = (change: Partial<JudgeRules>, looks = [2, 3, 4, 5, 6]) =>
      Array.from({ length: 300 }, () => {
        const [a, b] = [0, 1].map(() => Array.from({ length: 6 }, () => 44 + 0.8 * normal())) as [number[], number[]];
        return looks.some((n) =>
          ['cooler', 'warmer'].includes(judge(a.slice(0, n), b.slice(0, n), { ...change, practicalK: 0.01 }, history).spots[0]!.call.kind),
        );
      }).filter(Boolean).length / 300;
    expect(falseSides(planned)).toBeLessThan(0.085);
    expect(falseSides({ stopping: { rule: 'pocock', mostASide: 6, fromASide: 1 } }, [1, 2, 3, 4, 5, 6])).toBeLessThan(0.085);
    expect(falseSides({})).toBeGreaterThan(0.1);
  }, 240_000);
});
