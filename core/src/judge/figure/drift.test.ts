import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { benchHours, DRIFT_K_PER_H, learnDrift, type TimedFigure } from './drift.ts';
import { toOneTime } from './oneTime.ts';

const HOUR = 3_600_000;
const at = (hours: number, value: number): TimedFigure => ({ atMs: hours * HOUR, value });

/** Studies of a bench whose rate of drift is drawn anew for each: two variants in turn, four mounts each. */
function bench(rateSd: number, seed: number, studies = 8, mountK = 0.3): TimedFigure[][][] {
  const normal = seededNormal(seed);
  return Array.from({ length: studies }, () => {
    const rate = rateSd * normal();
    const made = (first: number, base: number) =>
      [0, 1, 2, 3].map((i) => at(first + 2 * i, base + rate * (first + 2 * i) + mountK * normal()));
    return [made(0, 40), made(1, 37)];
  });
}
const learnt = (rateSd: number) => Array.from({ length: 60 }, (_, seed) => learnDrift(bench(rateSd, 100 + seed))!.kPerH);
const middle = (values: number[]) => values.sort((p, q) => p - q)[values.length / 2]!;

describe('hours at the bench', () => {
  it('count a night as two, whatever the order they are asked in', () => {
    expect(benchHours([3, 0, 1, 20].map((h) => h * HOUR))).toEqual([3, 0, 1, 5]);
  });
});

describe('what a bench drifts by', () => {
  it('is nothing where no two equal figures were taken at two times', () => {
    expect(learnDrift([])).toBeNull();
    expect(learnDrift([[[at(0, 40)], [at(1, 39)]]])).toBeNull();
    expect(learnDrift([[[at(1, 40), at(1, 40.2)]]])).toBeNull();
  });
  it('comes near the true spread of its rates, from either side of the stated figure', () => {
    const [quiet, usual, loud] = [0.05, DRIFT_K_PER_H, 1.2].map((sd) => middle(learnt(sd))) as [number, number, number];
    expect(quiet).toBeLessThan(0.7 * DRIFT_K_PER_H);
    expect(usual).toBeGreaterThan(0.7 * DRIFT_K_PER_H);
    expect(usual).toBeLessThan(1.3 * DRIFT_K_PER_H);
    expect(loud).toBeGreaterThan(2 * DRIFT_K_PER_H);
  });
  it('is not made out of scatter', () => {
    expect(middle(Array.from({ length: 60 }, (_, seed) => learnDrift(bench(0, 300 + seed, 8, 1.5))!.kPerH))).toBeLessThan(DRIFT_K_PER_H);
  });
  it('stays near the stated figure where one study with two figures is all there is', () => {
    const { kPerH, studies } = learnDrift([[[at(0, 40), at(1, 40.9)]]])!;
    expect(studies).toBe(1);
    expect(Math.abs(kPerH / DRIFT_K_PER_H - 1)).toBeLessThan(0.25);
  });
  it('lets an order that does not balance be held at 95 % on a bench that drifts more, where the stated figure falls short', () => {
    const normal = seededNormal(7);
    const holds = (kPerH: number) => {
      let within = 0;
      for (let i = 0; i < 1500; i++) {
        const rate = 1.2 * normal();
        const mount = (h: number, base: number) => ({
          figure: { value: base + rate * h + 0.05 * normal(), u: 0, dof: Infinity },
          atMs: h * HOUR,
          mount: `${base} ${h}`,
        });
        const { a, b, line } = toOneTime([mount(0, 40)], [mount(1, 37)], 0.05, kPerH)!;
        const off = b[0]!.figure.value - a[0]!.figure.value + 3;
        if (Math.abs(off) <= 1.96 * Math.hypot(line!.u, 0.05 * Math.SQRT2)) within++;
      }
      return within / 1500;
    };
    expect(holds(DRIFT_K_PER_H)).toBeLessThan(0.6);
    expect(holds(middle(learnt(1.2)))).toBeGreaterThan(0.88);
  });
});

describe('what other sides of a study repeat', () => {
  const mount = (h: number, value: number) => ({ figure: { value, u: 0, dof: Infinity }, atMs: h * HOUR, mount: `${value} ${h}` });
  const apart = (made: ReturnType<typeof toOneTime>) => made!.b[0]!.figure.value - made!.a[0]!.figure.value;

  it('tells a drift that one run a side does not', () => {
    const drifting = (h: number, base: number) => mount(h, base + 0.5 * h);
    const others = [[0, 4, 8].map((h) => drifting(h, 50)), [2, 6, 10].map((h) => drifting(h, 45))];
    const alone = toOneTime([drifting(1, 40)], [drifting(9, 37)], 0.05);
    const beside = toOneTime([drifting(1, 40)], [drifting(9, 37)], 0.05, DRIFT_K_PER_H, others);
    expect(apart(alone)).toBeCloseTo(-3 + 4, 9);
    expect(apart(beside)).toBeCloseTo(-3, 1);
    expect(beside!.line!.u).toBeLessThan(alone!.line!.u / 5);
  });
  it('is nothing where they have one each: that the bench was busy makes no doubt', () => {
    const alone = toOneTime([mount(0, 40)], [mount(11, 37)], 0.3)!;
    const many = Array.from({ length: 9 }, (_, i) => [mount(i + 1, 30 + i)]);
    expect(toOneTime([mount(0, 40)], [mount(11, 37)], 0.3, DRIFT_K_PER_H, many)).toEqual(alone);
    // Two that lie close in time tell no rate, and the hours between are hours of the bench: then it stays as it was.
    expect(toOneTime([mount(0, 40)], [mount(11, 37)], 0.3, DRIFT_K_PER_H, [[mount(5, 30), mount(5.1, 30.2)], ...many])).toEqual(alone);
  });
  it('changes nothing of an order that balances', () => {
    const [a, b] = [[mount(0, 40), mount(3, 41)], [mount(1, 37), mount(2, 38)]]; // prettier-ignore
    expect(toOneTime(a, b, 0.3, DRIFT_K_PER_H, [[mount(4, 30), mount(9, 35)]])).toEqual(toOneTime(a, b, 0.3));
  });
  it('holds a difference of two sides run once each at 95 %, with less doubt, on benches drawn anew', () => {
    const normal = seededNormal(11);
    const [sd, rounds] = [0.3, 2000];
    let [held, narrower] = [0, 0];
    for (let i = 0; i < rounds; i++) {
      const rate = DRIFT_K_PER_H * normal();
      const made = (h: number, base: number) => mount(h, base + rate * h + sd * normal());
      const others = [[0, 4, 7, 12].map((h) => made(h, 50)), [1, 5, 9, 13].map((h) => made(h, 45))];
      const [a, b] = [[made(2, 40)], [made(10, 37)]];
      const beside = toOneTime(a, b, sd, DRIFT_K_PER_H, others)!;
      if (Math.abs(apart(beside) + 3) <= 1.96 * Math.hypot(beside.line!.u, sd * Math.SQRT2)) held++;
      if (beside.line!.u < 0.7 * toOneTime(a, b, sd)!.line!.u) narrower++;
    }
    expect(held / rounds).toBeGreaterThan(0.935);
    expect(held / rounds).toBeLessThan(0.965);
    expect(narrower).toBe(rounds);
  });
});
