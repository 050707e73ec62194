import { describe, expect, it } from 'vitest';
import { judgePair, nextActs, type JudgedRun, type JudgeRules } from '../../index.ts';
import { rules, run, spots, throttledFrom } from '@red-ember/testing/judged';

const costs = { runMin: 55, remountMin: 10 };
const [only] = spots;
function judged(a: number[], b: number[], change: Partial<JudgedRun> = {}, other: Partial<JudgeRules> = {}) {
  const side = (variantId: string, tops: number[]) => ({ variantId, name: variantId, runs: tops.map((top) => run(top, 40, change)) });
  const asked = { ...rules, ...other };
  const judgement = judgePair({ a: side('bare', a), b: side('lid', b), spots: [only!], rules: asked, history: {} });
  return nextActs(judgement, [only!], asked, costs);
}

describe('what to do next', () => {
  it('stops where every spot is decided', () => {
    const next = judged([44, 44.2, 44.1], [40, 40.2, 40.1]);
    expect(next.acts).toMatchObject([{ kind: 'stop' }]);
    expect(next.sentence).toMatch(/^Stop here/);
  });
  it('ranks further mounts by what they decide for an hour', () => {
    const next = judged([44, 44.3], [43, 43.2]);
    expect(next.spotId).toBe('top');
    expect(next.acts.map(({ kind }) => kind)).toEqual(['remount', 'remount', 'remount']);
    const perHour = next.acts.map(({ decides, minutes }) => decides! / minutes);
    expect([...perHour].sort((p, q) => q - p)).toEqual(perHour);
    expect(next.acts.find(({ what }) => what.includes('both'))!.minutes).toBe(130);
    expect(next.sentence).toMatch(/^Next: refit .+ and run .+; that decides Flash, top face with \d+ % chance\.$/);
  });
  it('decides about as often as it says: drawn', () => {
    let seed = 7;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    let [said, was, n] = [0, 0, 0];
    for (let i = 0; i < 400; i++) {
      const truth = 4 * uniform() - 2;
      const draw = (at: number, k: number) => Array.from({ length: k }, () => 42 + at + 0.6 * normal());
      const [a, b] = [draw(0, 3), draw(truth, 3)];
      const next = judged(a, b);
      const both = next.acts.find(({ what }) => what.includes('both'));
      if (!both) continue;
      n++;
      said += both.decides!;
      if (judged([...a, ...draw(0, 1)], [...b, ...draw(truth, 1)]).spotId === null) was++;
    }
    expect(n).toBeGreaterThan(80);
    expect(Math.abs(said - was) / n).toBeLessThan(0.12);
  });
  it('goes on with a plan that may be decided early where all of it may decide what a single run does not', () => {
    const planned: Partial<JudgeRules> = { stopping: { rule: 'obrien-fleming', mostASide: 4 } };
    const next = judged([44, 44.9], [42.6, 43.2], {}, planned);
    const rest = next.acts.find(({ what }) => what === 'go on to 4 mounts a side, as planned')!;
    expect(rest).toMatchObject({ kind: 'remount', minutes: 4 * 65 });
    // At an early look more is asked for: one more mount decides far less often than the whole of the plan.
    const both = next.acts.find(({ what }) => what.includes('both'))!;
    expect(rest.decides!).toBeGreaterThan(1.5 * both.decides!);
    expect(rest.decides!).toBeGreaterThan(0.1);
    // With one mount a side left there is nothing else to go on to, and without a plan nothing was set.
    const told = (a: number[], b: number[], other: Partial<JudgeRules>) => judged(a, b, {}, other).acts.some(({ what }) => what.includes('as planned')); // prettier-ignore
    expect(told([44, 44.9, 44.2], [42.9, 43.5, 44], planned)).toBe(false);
    expect(told([44, 44.9], [42.6, 43.2], {})).toBe(false);
  });
  it('asks for no more runs of a part that throttled, and says why one cannot be used', () => {
    const hot = { throttle: throttledFrom(300) };
    const throttled = judged([44, 44.1], [40, 40.1], { review: { ...run(40, 40).review, ...hot } });
    expect(throttled).toMatchObject({ acts: [], sentence: 'Judge by work and time to throttle, or load less: bare throttled.' });
    const early = judged([44, 44.1], [40, 40.1], { review: { ...run(40, 40).review, loadEndedBy: 'stopped' } });
    expect(early.sentence).toMatch(/^Next: run bare again\. The load was stopped by hand/);
  });
  it('asks for what was not written down before it asks for work', () => {
    const next = judged([44, 44.3, 44.2], [42.2, 42.5, 42.4], { mountNo: null });
    expect(next.acts[0]).toMatchObject({ kind: 'write-down', minutes: 0 });
    expect(next.acts[0]!.what).toBe('say at Read which mount each run of bare and lid was on');
  });
  it('earns what is withheld, runs what has no run, and says where nothing would help', () => {
    expect(judged([44, 44.1, 44.2], [40, 40.1, 40.2], {}, { fans: 'locked' }).acts[0]).toMatchObject({
      kind: 'earn',
      what: 'record what the fans do and run both sides again',
    });
    expect(judged([44, 44.1], []).acts).toMatchObject([{ kind: 'run', what: 'run lid', minutes: 65 }]);
    // What is withheld is earned first, also where the difference is small.
    expect(judged([44, 44.1, 44.2], [43.9, 44, 44.1], {}, { fans: 'locked' }).acts).toMatchObject([{ kind: 'earn', decides: null }]);
    const hopeless = judged([44, 48, 41, 46], [43.9, 47.8, 41.2, 46.1]);
    expect(hopeless.acts).toMatchObject([{ kind: 'stop' }]);
    expect(hopeless.sentence).toContain('nothing that is planned is likely to decide Flash, top face. About');
  });
});
