import { describe, expect, it } from 'vitest';
import { lineUp, rankLineUp, type JudgedRun } from '../../index.ts';
import { pair, rules, run } from '@red-ember/testing/judged';

const known = { sd: 0.2, dof: 20 };
const at = (top: number, powerW: number): JudgedRun =>
  run(top, 40, { review: { power: { value: powerW, u: 0.01, dof: 60 }, performance: null } });
/** Two parts that cool alike, one of them drawing `share` more, in turn. */
function drawing(share: number): [JudgedRun[], JudgedRun[]] {
  const [a1, b1, b2, a2] = [at(40, 200), at(40 * (1 + share), 200 * (1 + share)), at(40 * (1 + share), 200 * (1 + share)), at(40, 200)];
  return [
    [a1, a2],
    [b1, b2],
  ];
}

describe('powers a little apart', () => {
  it.each([0.02, 0.04, 0.06])('of %d make no winner: both are brought to one', (share) => {
    const judgement = pair(...drawing(share), {}, known);
    const [top] = judgement.spots;
    expect(top!.comparison!.difference.value).toBeCloseTo(0, 9);
    expect(top!.restatedW).toBeCloseTo(200 * (1 + share / 2), 6);
    expect(['equivalent', 'no-call']).toContain(top!.call.kind);
    // How far the exponent may be off stays in doubt.
    expect(top!.comparison!.budget.shares.find(({ name }) => name === 'restated to one power')!.share).toBeGreaterThan(0);
    const heat = judgement.findings.find(({ check }) => check === 'heat');
    if (share > 0.02) expect(heat).toMatchObject({ severity: 'note', evidence: expect.stringContaining('restated to') });
  });
  it('are left as measured where they are two loads, where nobody read them, and where the tester restated already', () => {
    const far = pair(...drawing(0.1), {}, known);
    expect(far.spots[0]).toMatchObject({ restatedW: null, comparison: { difference: { value: expect.closeTo(4, 9) } } });
    expect(far.findings.find(({ check }) => check === 'heat')).toMatchObject({ severity: 'weakens' });
    const [a, b] = drawing(0.04);
    const unread = b.map((entry) => ({ ...entry, review: { ...entry.review, power: null } }));
    expect(pair(a, unread, {}, known).spots[0]!.restatedW).toBeNull();
    const asked = pair(a, b, { restate: { kind: 'power', targetW: 210, exponent: 1 } }, known);
    expect(asked.spots[0]!.restatedW).toBeNull();
    expect(asked.spots[0]!.comparison!.difference.value).toBeCloseTo(0, 9);
  });
  it('make no winner in the ranking either', () => {
    const [a, b] = drawing(0.05);
    const sides = [a, b].map((runs, i) => ({ variantId: `${i}`, name: `${i}`, runs }));
    const ranking = rankLineUp(lineUp(sides, [{ id: 'top', name: 'Top', limitC: 90, accuracyK: 0.5, resolutionK: 0.1, placementK: 0.5 }], rules, { top: known }), { spotId: 'top' }); // prettier-ignore
    expect(ranking.pairs[0]!.different).toBe(false);
  });
});

describe('fans a little apart', () => {
  it('are doubted by what the rest of it may have cooled', () => {
    const turning = (top: number, fan: number) => run(top, 40, { review: { fan: { value: fan, u: 1, dof: 60 } } });
    const judged = (fan: number) => pair([turning(44, 1500), turning(44.1, 1500)], [turning(43, fan), turning(43.1, fan)], { fans: 'locked' }, known); // prettier-ignore
    const u = (fan: number) => judged(fan).spots[0]!.comparison!.budget.u;
    expect(u(1560)).toBeGreaterThan(Math.hypot(u(1500), 0.5));
  });
});
