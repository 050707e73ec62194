import { describe, expect, it } from 'vitest';
import { judgePair, verdictSentence, type JudgedRun, type JudgeRules } from '../../index.ts';
import { rules, run, spots } from '@red-ember/testing/judged';

/** Two runs a side, in turn; the second side is 4 K cooler at the first spot and 9 at the other. */
function judged(withA: number | null, withB: number | null, of: { ofNeighbour?: boolean } = {}, change: Partial<JudgeRules> = {}) {
  const made = (top: number, under: number, watts: number | null): JudgedRun => ({
    ...run(top, under, { review: { besides: watts === null ? [] : [{ key: 'column-8', mean: { value: watts, u: 0.1, dof: 60 } }] } }),
    besides: { 'column-8': { name: 'power of the part beside it', unit: 'W', neighbour: true } },
  });
  const [a1, b1, b2, a2] = [made(44, 49, withA), made(40, 40, withB), made(40.1, 40.1, withB), made(44.1, 49.1, withA)];
  const [top, under] = spots;
  return judgePair({
    a: { variantId: 'bare', name: 'bare', runs: [a1, a2] },
    b: { variantId: 'lid', name: 'lid', runs: [b1, b2] },
    spots: [top!, { ...under!, ...of }],
    rules: { ...rules, ...change },
    history: { top: { sd: 0.2, dof: 20 }, under: { sd: 0.2, dof: 20 } },
  });
}
const lines = (judgement: ReturnType<typeof judged>) =>
  judgement.spots[0]!.comparison!.budget.shares.filter(({ name }) => name === 'heat of the part beside it');
const kinds = (judgement: ReturnType<typeof judged>) => judgement.spots.map(({ call }) => call.kind);

describe('a part beside the one that is measured', () => {
  it.each([
    ['took the same', 65, 65],
    ['took the same within what a load wanders by', 65, 68],
    ['was recorded with one side only', 65, null],
    ['was never recorded', null, null],
  ])('that %s is no matter', (_, a, b) => {
    const judgement = judged(a, b);
    expect(lines(judgement)).toEqual([]);
    expect(judgement.findings.filter(({ evidence }) => evidence.includes('beside it'))).toEqual([]);
    expect(kinds(judgement)).toEqual(['cooler', 'cooler']);
  });

  it('that took more with one side stands in the doubt, and is said', () => {
    const judgement = judged(110, 45);
    // 65 W of at most 0.1 K each, as an even chance of all in between.
    const u = 6.5 / Math.sqrt(3);
    expect(judgement.spots[0]!.comparison!.difference.u).toBeGreaterThan(u);
    expect(judgement.spots[0]!.comparison!.difference.u).toBeLessThan(1.1 * u);
    expect(lines(judgement)[0]!.share).toBeGreaterThan(0.8);
    expect(kinds(judgement)).toEqual(['no-call', 'cooler']);
    expect(judgement.findings.find(({ evidence }) => evidence.includes('beside it'))).toMatchObject({
      severity: 'weakens',
      evidence: 'The part beside it took 110 W with bare and 45 W with lid: what that warmed is in the difference, and in its doubt.',
    });
  });

  it('is not called at its own spots, which read what it took', () => {
    const judgement = judged(110, 45, { ofNeighbour: true });
    expect(kinds(judgement)[1]).toBe('withheld');
    const named = spots.map((spot, i) => ({ ...spot, ofNeighbour: i === 1 }));
    const said = verdictSentence(judgement, named, null).map(({ text }) => text).join(''); // prettier-ignore
    expect(said).toBe('Lid cannot be told from bare with these runs.');
    // What stands against all spots is said of the one that differs most, whichever it is on.
    const free = { ...judgement, withheldBy: [{ ...judgement.findings[0]!, severity: 'withholds' as const }] };
    expect(verdictSentence(free, named, null).map(({ text }) => text).join('')).toContain('not called'); // prettier-ignore
    expect(kinds(judged(65, 66, { ofNeighbour: true }))).toEqual(['cooler', 'cooler']);
  });

  it('is what is asked where the study says so: then it is noted, and what it does can be called', () => {
    const judgement = judged(110, 45, { ofNeighbour: true }, { neighbourIsAsked: true });
    expect(lines(judgement)).toEqual([]);
    expect(kinds(judgement)).toEqual(['cooler', 'cooler']);
    expect(judgement.findings.find(({ evidence }) => evidence.includes('beside it'))).toMatchObject({
      severity: 'note',
      evidence: 'The part beside it took 110 W with bare and 45 W with lid, as is asked by their names.',
    });
  });
});
