import { describe, expect, it } from 'vitest';
import {
  judgeClaim,
  judgePrediction,
  ladderSteps,
  lineUp,
  rankLineUp,
  verdictSentence,
  type JudgedRun,
  type JudgeRules,
} from '../../index.ts';
import { pair, rules, run, spots } from '@red-ember/testing/judged';

const est = (value: number) => ({ value, u: 1, dof: 60 });
/** Two runs a side, in turn; the second side is 4 K cooler at the first spot. */
function sides(fanA: number | null, fanB: number | null): [JudgedRun[], JudgedRun[]] {
  const made = (top: number, fan: number | null) => run(top, 40, { review: { fan: fan === null ? null : est(fan) } });
  const [a1, b1, b2, a2] = [made(44, fanA), made(40, fanB), made(40.1, fanB), made(44.1, fanA)];
  return [
    [a1, a2],
    [b1, b2],
  ];
}
const judged = (fans: JudgeRules['fans'], fanA: number | null, fanB: number | null) =>
  pair(...sides(fanA, fanB), { ...(fans && { fans }) }, { sd: 0.2, dof: 20 });
const kindOf = (judgement: ReturnType<typeof judged>) => judgement.spots[0]!.call.kind;
const said = (judgement: ReturnType<typeof judged>) => verdictSentence(judgement, spots, null).map(({ text }) => text).join(''); // prettier-ignore

describe('a call that is not earned', () => {
  it.each([
    ['locked, and nobody saw them', 'locked', null, null, 'withheld'],
    ['locked, and seen on one side only', 'locked', 1500, null, 'withheld'],
    ['locked, and alike', 'locked', 1500, 1520, 'cooler'],
    ['free, and they went their own ways', 'as-shipped', 1500, 1900, 'withheld'],
    ['free, and did the same', 'as-shipped', 1500, 1520, 'cooler'],
    ['free, and nobody saw them', 'as-shipped', null, null, 'withheld'],
    ['no matter where the part has none', 'not-applicable', null, null, 'cooler'],
  ] as const)('fans %s', (_, fans, a, b, kind) => expect(kindOf(judged(fans, a, b))).toBe(kind));

  it.each(['as-shipped', 'locked'] as const)('is withheld where fans %s moved under load and ended alike', (fans) => {
    const [a, b] = sides(1500, 1520);
    const moved = b.map((entry) => ({ ...entry, review: { ...entry.review, fanMovedShare: 0.2 } }));
    const [finding] = pair(a, moved, { fans }).withheldBy;
    expect(finding!.evidence).toMatch(/^The fans were (free|to be locked) and moved under load with lid, by up to 20 %\.$/);
    expect(kindOf(pair(a, moved, { fans }))).toBe('withheld');
    expect(kindOf(pair(a, moved, { fans: 'not-applicable' }))).toBe('cooler');
  });

  it('takes a lock that nobody watched at its word by usual evidence, with a finding; free fans, and fans that were seen to move, never', () => {
    const [a, b] = sides(null, null);
    const usual = pair(a, b, { fans: 'locked', evidence: 'usual' });
    expect(kindOf(usual)).toBe('cooler');
    expect(usual.findings.find(({ check }) => check === 'fan-policy')).toMatchObject({ severity: 'weakens' });
    expect(kindOf(pair(a, b, { fans: 'as-shipped', evidence: 'usual' }))).toBe('withheld');
    const [c, d] = sides(1500, 1900);
    expect(kindOf(pair(c, d, { fans: 'as-shipped', evidence: 'usual' }))).toBe('withheld');
    expect(kindOf(pair(c, d, { fans: 'locked', evidence: 'usual' }))).toBe('blocked');
  });

  it('is measured all the same, names what would earn it, and is no claim, no prediction and no rank', () => {
    const judgement = judged('locked', null, null);
    const { call, comparison } = judgement.spots[0]!;
    expect(comparison!.verdict).toBe('b-cooler');
    expect(call).toMatchObject({ why: 'nobody saw the fans', earnBy: { what: 'record what the fans do and run both sides again' } });
    // Two loads of 22 min, with ten of idle before each.
    expect(call.earnBy!.minutes).toBe(64);
    expect(call.likely!.coolerByThreshold).toBeGreaterThan(0.95);
    expect(call.likely!.warmerByThreshold).toBeLessThan(0.01);
    expect(said(judgement)).toBe(
      'Lid reads lower by 4.0 K at flash, top face; not called: nobody saw the fans. To earn it: record what the fans do and run both sides again, about 64 min.',
    );
    expect(judgement.cooling.rows[0]).toMatchObject({ better: null, because: 'not called: nobody saw the fans' });
    const claim = { text: 'Cools', outcome: 'temperature', spotId: 'top', direction: 'cooler', leastEffect: 1 } as const;
    expect(judgeClaim(claim, judgement, spots, 1)).toMatchObject({ outcome: 'not-shown' });
    expect(judgePrediction({ spotId: 'top', expectedK: -4, plusMinusK: 1 }, judgement, spots).outcome).toBe('open');
    const [a, b] = sides(null, null);
    const of = (id: string, runs: JudgedRun[]) => ({ variantId: id, name: id, runs });
    const field = lineUp([of('bare', a), of('lid', b)], spots, { ...rules, fans: 'locked' }, { top: { sd: 0.2, dof: 20 } });
    const ranking = rankLineUp(field, { spotId: 'top' });
    expect(ranking.pairs[0]).toMatchObject({ different: false, call: { kind: 'withheld' } });
    expect(ranking.sides.map((side) => side.groups)).toEqual(['a', 'a']);
    expect(ranking.withheldBy[0]!.check).toBe('fan-policy');
    expect(ladderSteps(field, ['bare', 'lid'], 'top')[1]!.call).toMatchObject({ kind: 'withheld' });
  });

  it('ranks and steps by usual evidence as the pair does', () => {
    const [a, b] = sides(null, null);
    const of = (id: string, runs: JudgedRun[]) => ({ variantId: id, name: id, runs });
    const field = lineUp(
      [of('bare', a), of('lid', b)],
      spots,
      { ...rules, fans: 'locked', evidence: 'usual' },
      { top: { sd: 0.2, dof: 20 } },
    );
    expect(rankLineUp(field, { spotId: 'top' }).pairs[0]).toMatchObject({ different: true, call: null });
    expect(ladderSteps(field, ['bare', 'lid'], 'top')[1]!.call).toMatchObject({ kind: 'cooler' });
  });

  it('goes behind what forbids comparing at all, and before what is merely unsure', () => {
    const [a, b] = sides(null, null);
    const idle = b.map((entry) => ({ ...entry, review: { ...entry.review, utilisationPercent: 60 } }));
    expect(kindOf(pair(a, idle, { fans: 'locked' }))).toBe('blocked');
    const unsure = pair([run(41, 40), run(43, 40)], [run(40.5, 40), run(43.5, 40)], { fans: 'locked' });
    expect(unsure.spots[0]!.call).toMatchObject({ kind: 'no-call', earnBy: null });
  });
});
