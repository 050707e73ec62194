import { describe, expect, it } from 'vitest';
import { runFindings } from '../../index.ts';
import { pair, rules, run, spots } from '@red-ember/testing/judged';

const steps = (stepK: number | null, scatterK: number) => ({ steps: { stepK, scatterK } });
/** Standard uncertainty that the first side's steps bring into the difference, K. */
const line = (judgement: ReturnType<typeof pair>) => {
  const { budget } = judgement.spots[0]!.comparison!;
  const share = budget.shares.find(({ name }) => name.startsWith('sensor resolution'))?.share ?? 0;
  return budget.u * Math.sqrt(share);
};

describe('steps of a sensor', () => {
  const pairOf = (load: ReturnType<typeof steps>) => {
    const coarse = (riseK: number) => run(riseK, 40, { load });
    return pair([coarse(43.5), coarse(43.6)], [coarse(40), coarse(40.1)]);
  };
  it('that noise dithers are in the scatter already', () => {
    expect(line(pairOf(steps(1, 0.6)))).toBeLessThan(0.4 * line(pairOf(steps(1, 0))));
  });
  it('coarser than stated are reckoned with, and said', () => {
    const [finding] = runFindings(run(40, 40, { load: steps(1, 0.3) }), spots, rules).filter(({ check }) => check === 'resolution');
    expect(finding).toMatchObject({ severity: 'note', spotId: 'top' });
    expect(finding!.evidence).toContain('came in steps of 1 K where 0.1 K is stated');
    expect(runFindings(run(40, 40, { load: steps(0.1, 0.1) }), spots, rules).filter(({ check }) => check === 'resolution')).toEqual([]);
  });
  it('count in full where a peak is asked for: it is one value', () => {
    const of = (figure: 'peak' | 'settled-mean') => {
      const runs = () => [run(40, 40, { load: steps(1, 0.6) }), run(40.1, 40, { load: steps(1, 0.6) })];
      return line(pair(runs(), runs(), { figure }));
    };
    expect(of('peak')).toBeCloseTo(1 / Math.sqrt(12), 6);
    expect(of('settled-mean')).toBeLessThan(0.02);
  });
});
