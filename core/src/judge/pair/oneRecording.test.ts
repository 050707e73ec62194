import { describe, expect, it } from 'vitest';
import { judgePair, ladderSteps, lineUp, verdictSentence, type JudgedRun, type PhaseReading } from '../../index.ts';
import { rules, run, spots } from '@red-ember/testing/judged';

const recording = run(45, 40);
/** The same run, looked at one of its loads. */
const at = (name: string, top: number, change: Partial<PhaseReading> = {}): JudgedRun => {
  const there = run(top, 40, { load: change });
  return { ...there, id: recording.id, label: recording.label, atLoad: name };
};
const side = (name: string, made: JudgedRun) => ({ variantId: name, name, runs: [made] });
const judged = (b: JudgedRun) =>
  judgePair({
    a: side('panel on', at('panel on', 45)),
    b: side('panel off', b),
    spots: [spots[0]!],
    rules,
    history: { top: { sd: 0.9, dof: 20 } },
  });
const falling = { bound: 'still-falling', toGo: { likely: { value: -0.8, u: 0.2 }, lowK: -1.5, highK: 0 } } as const;

describe('two loads of one recording', () => {
  it('are held against each other without the scatter between runs', () => {
    const { comparison, repeatability, reach } = judged(at('panel off', 41)).spots[0]!;
    expect(repeatability).toMatchObject({ sd: 0 });
    expect(comparison!.budget.expanded).toBeLessThan(0.3);
    expect(reach).toBeNull();
    // Two recordings of the same are worth what the bench repeats.
    const apart = judgePair({ a: side('on', at('on', 45)), b: side('off', run(41, 40)), spots: [spots[0]!], rules, history: { top: { sd: 0.9, dof: 20 } } }); // prettier-ignore
    expect(apart.spots[0]!.comparison!.budget.expanded).toBeGreaterThan(2);
  });
  it('are not brought to one power: what a step of the power limit did is what was asked', () => {
    const drawing = (powerW: number, made: JudgedRun): JudgedRun => ({
      ...made,
      review: { ...made.review, power: { value: powerW, u: 0.1, dof: 60 } },
    });
    const judgement = judgePair({
      a: side('as shipped', drawing(190, at('as shipped', 45))),
      b: side('raised', drawing(203, at('raised', 48))),
      spots: [spots[0]!],
      rules,
      history: {},
    });
    expect(judgement.spots[0]).toMatchObject({ restatedW: null, comparison: { difference: { value: expect.closeTo(3, 9) } } });
    expect(judgement.findings.find(({ check }) => check === 'heat')!.evidence).not.toContain('restated');
  });
  it('say neither that a mount is single nor that a run stands alone', () => {
    const checks = judged(at('panel off', 41)).findings.map(({ check }) => check);
    expect(checks).not.toContain('mounts');
    expect(checks).not.toContain('repeats');
  });
  it('reach at least as far as they were read where the second is still falling, and at most where it comes nearer', () => {
    const more = judged(at('panel off', 41, falling));
    expect(more.spots[0]!.reach).toBe('at-least');
    expect(verdictSentence(more, spots, null).map(({ text }) => text).join('')).toContain('by at least 4.0 K'); // prettier-ignore
    expect(judged(at('panel off', 47, falling)).spots[0]!.reach).toBe('at-most');
    const steps = ladderSteps(lineUp([side('on', at('on', 45)), side('off', at('off', 41, falling))], [spots[0]!], rules, {}), ['on', 'off'], 'top'); // prettier-ignore
    expect(steps[1]).toMatchObject({ reach: 'at-least', beside: { powerW: 0, fanRpm: null } });
  });
});
