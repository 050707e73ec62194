import { describe, expect, it } from 'vitest';
import { JudgesBeside } from './judge.ts';
import { SettlingWatch } from './settlingWatch.ts';

const n = 3000;
const t = Float64Array.from({ length: n }, (_, i) => i);
const trace = (f: (s: number) => number) => ({ t, y: t.map(f) });
const wiggle = (s: number) => 0.03 * Math.sin(13 * s) + 0.02 * Math.sin(7.3 * s);
const flat = (spotId: string) => ({ spotId, series: trace((s) => 60 + wiggle(s)) });
const creeping = { spotId: 'slow', series: trace((s) => 60 + s / 60 + wiggle(s)) };
const silent = { spotId: 'silent', series: trace(() => NaN) };

describe('judging spots in turn', () => {
  it('judges many spots a few at a time, all of them before one again', async () => {
    const watch = new SettlingWatch();
    const spots = Array.from({ length: 30 }, (_, i) => flat(`s${i}`));
    let rounds = 0;
    while (!watch.all(spots, 2900 + rounds) && rounds < 31) await watch.look(spots, null, 0, 2900 + rounds++);
    expect(watch.all(spots, 2900 + rounds)).toBe(true);
    expect(rounds).toBeLessThanOrEqual(30);
  });

  it('is not settled while one spot is not, was not judged, or was judged too long ago', async () => {
    const watch = new SettlingWatch();
    const both = [flat('a'), creeping];
    for (let k = 0; k < 3; k++) await watch.look(both, null, 0, 2900 + k);
    expect(watch.all([both[0]!], 2910)).toBe(true);
    expect(watch.all(both, 2910)).toBe(false);
    expect(watch.all([both[0]!, flat('new')], 2910)).toBe(false);
    expect(watch.all([both[0]!], 3300)).toBe(false);
    watch.reset();
    expect(watch.of('a')).toBeNull();
    expect(watch.all([both[0]!], 2910)).toBe(false);
  });

  it('forgets what was still being judged when its phase was over, and judges no two at once', async () => {
    const waiting: ((settling: null) => void)[] = [];
    const watch = new SettlingWatch({ judge: () => new Promise((resolve) => waiting.push(resolve)), close: () => {} });
    const looking = watch.look([flat('a'), flat('b')], null, 0, 2900);
    await watch.look([flat('a')], null, 0, 2901);
    expect(waiting).toHaveLength(1);
    watch.reset();
    waiting[0]!(null);
    await looking;
    expect(watch.all([flat('a')], 2901)).toBe(false);
    expect(waiting).toHaveLength(1);
  });

  it('judges the same in a thread', async () => {
    const beside = new JudgesBeside();
    const watch = new SettlingWatch(beside);
    await watch.look([flat('a')], null, 0, 2900);
    const here = new SettlingWatch();
    await here.look([flat('a')], null, 0, 2900);
    expect(watch.of('a')).toEqual(here.of('a'));
    expect(watch.of('a')!.settled).toBe(true);
    beside.close();
  }, 20_000);

  it('lets silent sensors neither hold up nor end a phase', async () => {
    const watch = new SettlingWatch();
    for (let k = 0; k < 3; k++) await watch.look([flat('a'), silent], null, 0, 2900 + k);
    expect(watch.all([flat('a'), silent], 2910)).toBe(true);
    expect(watch.all([silent], 2910)).toBe(false);
  });
});
