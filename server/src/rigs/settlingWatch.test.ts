import { describe, expect, it } from 'vitest';
import { SettlingWatch } from './settlingWatch.ts';

const n = 3000;
const t = Float64Array.from({ length: n }, (_, i) => i);
const trace = (f: (s: number) => number) => ({ t, y: t.map(f) });
const wiggle = (s: number) => 0.03 * Math.sin(13 * s) + 0.02 * Math.sin(7.3 * s);
const flat = (spotId: string) => ({ spotId, series: trace((s) => 60 + wiggle(s)) });
const creeping = { spotId: 'slow', series: trace((s) => 60 + s / 60 + wiggle(s)) };
const silent = { spotId: 'silent', series: trace(() => NaN) };

describe('judging spots in turn', () => {
  it('judges many spots a few at a time, all of them before one again', () => {
    const watch = new SettlingWatch();
    const spots = Array.from({ length: 30 }, (_, i) => flat(`s${i}`));
    let rounds = 0;
    while (!watch.allSettled(spots, 2900 + rounds) && rounds < 31) watch.look(spots, null, 0, 2900 + rounds++);
    expect(watch.allSettled(spots, 2900 + rounds)).toBe(true);
    expect(rounds).toBeLessThanOrEqual(30);
  });

  it('is not settled while one spot is not, was not judged, or was judged too long ago', () => {
    const watch = new SettlingWatch();
    const both = [flat('a'), creeping];
    for (let k = 0; k < 3; k++) watch.look(both, null, 0, 2900 + k);
    expect(watch.allSettled([both[0]!], 2910)).toBe(true);
    expect(watch.allSettled(both, 2910)).toBe(false);
    expect(watch.allSettled([both[0]!, flat('new')], 2910)).toBe(false);
    expect(watch.allSettled([both[0]!], 3300)).toBe(false);
    watch.reset();
    expect(watch.of('a')).toBeNull();
    expect(watch.allSettled([both[0]!], 2910)).toBe(false);
  });

  it('lets silent sensors neither hold up nor end a phase', () => {
    const watch = new SettlingWatch();
    for (let k = 0; k < 3; k++) watch.look([flat('a'), silent], null, 0, 2900 + k);
    expect(watch.allSettled([flat('a'), silent], 2910)).toBe(true);
    expect(watch.allSettled([silent], 2910)).toBe(false);
  });
});
