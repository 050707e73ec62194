import { describe, expect, it } from 'vitest';
import { eachOutput, METHOD_VERSION, reviewRun, type RunRecord } from '../index.ts';
import { approach, madeTrace } from '@red-ember/testing/signals';

const warm = approach(60, 0, [
  [0.6, 25],
  [0.4, 240],
]);
const cool = approach(0, 60, [
  [0.6, 25],
  [0.4, 240],
]);

/** A drive-like run: 8 min idle, load, 10 min after; the room drifts two kelvin. */
function made(change: Partial<RunRecord> = {}, loadEndS = 2700): RunRecord {
  const n = loadEndS + 600;
  const roomAt = (t: number) => 22 + (2 * t) / n;
  const rise = (t: number) => (t < 480 ? 8 : t < loadEndS ? 8 + (44 / 60) * warm(t - 480) : 8 + (44 / 60) * cool(t - loadEndS));
  return {
    spots: [{ id: 'flash', series: madeTrace({ n, f: (t) => roomAt(t) + rise(t), sd: 0.08, phi: 0.7, seed: 5 }) }],
    room: madeTrace({ n: Math.ceil(n / 5), dtS: 5, f: roomAt, sd: 0.03, phi: 0.5, seed: 6 }),
    ...eachOutput(() => null),
    performance: madeTrace({ n, f: (t) => (t >= 480 && t < loadEndS ? 6100 : 0) }),
    power: madeTrace({ n, f: (t) => (t >= 480 && t < loadEndS ? 7.5 : 1.4), sd: 0.02 }),
    utilisation: null,
    intake: null,
    exhaust: null,
    phases: [
      { kind: 'idle-soak', name: 'Idle', startS: 0, endS: 480, endedBy: 'time' },
      { kind: 'load', name: 'Load', startS: 480, endS: loadEndS, endedBy: 'settled' },
      { kind: 'cool-down', name: 'Cool', startS: loadEndS, endS: n, endedBy: 'time' },
    ],
    throttle: null,
    locks: [],
    ...change,
  };
}

describe('reviewRun', () => {
  it('reads idle and load as rise over a drifting room', () => {
    const review = reviewRun(made());
    const { idle, load } = review.spots[0]!;
    expect(review.methodVersion).toBe(METHOD_VERSION);
    expect(Math.abs(idle!.rise!.mean.value - 8)).toBeLessThan(4 * idle!.rise!.mean.u + 0.02);
    expect(Math.abs(load!.rise!.mean.value - 52)).toBeLessThan(4 * load!.rise!.mean.u + 0.05);
    expect(load!.window).toEqual({ startS: 2400, endS: 2700 });
    expect(load!.bound).toBe('settled');
    expect(review.power!.value).toBeCloseTo(7.5, 1);
    expect(review.performance!.value).toBe(6100);
    expect(review.loadS).toBe(2220);
    expect(review.throttle!.episodes).toEqual([]);
    expect(review.room!.driftK).toBeCloseTo((2 * 300) / 3300, 1);
  });

  it('marks a load that was cut short as still rising, and one after a hotter phase as still falling', () => {
    expect(reviewRun(made({}, 780)).spots[0]!.load!.bound).toBe('still-rising');
    const falling = made(
      {
        spots: [{ id: 'flash', series: madeTrace({ n: 1100, f: (t) => 22 + approach(40, 60, [[1, 400]])(t), sd: 0.05, seed: 8 }) }],
        room: null,
        ...eachOutput(() => null),
      },
      500,
    );
    falling.phases = [{ kind: 'load', name: 'Load', startS: 0, endS: 900, endedBy: 'time' }];
    expect(reviewRun(falling).spots[0]!.load!.bound).toBe('still-falling');
  });

  it('has no reading of a load that was not there, and says from when to when it was off', () => {
    const off = made({ power: madeTrace({ n: 3300, f: (t) => (t >= 480 && t < 1500 ? 7.5 : 1.4), sd: 0.02 }), performance: null });
    const review = reviewRun(off);
    expect(review.spots[0]!.load).toBeNull();
    expect(review.loadS).toBeNull();
    expect(review.uncounted).toEqual([
      { phase: 1, name: 'Load', startS: 480, endS: 2700, why: 'off', off: [{ startS: 1500, endS: 2700 }] },
    ]);
    const idled = made();
    idled.phases[1]!.loadPercent = 0;
    idled.performance = madeTrace({ n: 3300, f: () => 0 });
    expect(reviewRun(idled).spots[0]!.load).not.toBeNull();
  });

  it.each(['interrupted', 'paused'] as const)('reads the load that was done again after it was %s, under its own name', (why) => {
    const run = made();
    run.phases = [
      run.phases[0]!,
      { ...run.phases[1]!, endS: 700, endedBy: why },
      { kind: 'pause', name: 'Pause', startS: 700, endS: 800, endedBy: 'resumed' },
      { ...run.phases[1]!, name: 'Load, again', startS: 800 },
      run.phases[2]!,
    ];
    const again = reviewRun(run);
    expect(again.spots[0]!.load!.window).toEqual({ startS: 2400, endS: 2700 });
    expect(again.loads).toEqual([]);
    expect(again.uncounted).toMatchObject([{ phase: 1, why }]);
    run.phases.splice(3, 2, { ...run.phases[3]!, endS: 2000 }, { ...run.phases[3]!, name: 'Vent blocked', startS: 2000 });
    expect(reviewRun(run).loads.map(({ name }) => name)).toEqual(['Load', 'Vent blocked']);
    run.phases.splice(3, 2, { ...run.phases[1]!, name: 'Load, again', startS: 800, endS: 2700, endedBy: why });
    expect(reviewRun(run)).toMatchObject({ loadS: null, loads: [], power: null });
  });

  it('reads each of several loads at its own end, and says which were not settled', () => {
    // 40 K, then 15 K more after a change at 2700 s, then a third load that is cut off while it falls.
    const rise = (t: number) =>
      t < 2700
        ? 40 * (1 - Math.exp(-t / 150))
        : t < 5400
          ? 40 + 15 * (1 - Math.exp(-(t - 2700) / 150))
          : 55 - 20 * (1 - Math.exp(-(t - 5400) / 400));
    const n = 5800;
    const load = (name: string, startS: number, endS: number, endedBy = 'settled') => ({
      kind: 'load' as const,
      name,
      startS,
      endS,
      endedBy,
    });
    const { loads, spots } = reviewRun({
      ...made(),
      ...eachOutput(() => null),
      spots: [{ id: 'flash', series: madeTrace({ n, f: (t) => 22 + rise(t), sd: 0.06, phi: 0.6, seed: 3 }) }],
      room: madeTrace({ n, f: () => 22, sd: 0.03, seed: 4 }),
      fan: madeTrace({ n, f: (t) => (t < 2700 ? 1200 : 1800) }),
      phases: [load('Load', 0, 2700), load('Vent blocked', 2700, 5400), load('Vent open', 5400, n, 'stopped')],
    });
    expect(loads.map(({ name }) => name)).toEqual(['Load', 'Vent blocked', 'Vent open']);
    const [first, second, third] = loads.map((entry) => entry.spots[0]!.reading!);
    expect(first!.rise!.mean.value).toBeCloseTo(40, 1);
    expect(second!.rise!.mean.value - first!.rise!.mean.value).toBeCloseTo(15, 1);
    expect([first, second, third].map((entry) => entry!.bound)).toEqual(['settled', 'settled', 'still-falling']);
    expect(loads.map(({ fan }) => fan!.value)).toEqual([1200, 1800, 1800]);
    // The last one is the run's own reading; a run of one load has none apart.
    expect(third).toEqual(spots[0]!.load);
    expect(reviewRun(made()).loads).toEqual([]);
  });

  it('leaves spikes out of mean and peak, and counts them', () => {
    const record = made();
    for (const i of [1000, 2450, 2500]) record.spots[0]!.series.y[i] = 120;
    const { load } = reviewRun(record).spots[0]!;
    expect(load!.spikes).toBe(2);
    expect(load!.peakC).toBeLessThan(80);
    expect(load!.rise!.mean.value).toBeCloseTo(52, 0);
  });

  it('says null where there is nothing to read', () => {
    const record = made({ room: null, power: null, performance: null });
    const review = reviewRun(record);
    expect(review).toMatchObject({ room: null, power: null, performance: null, throttle: null });
    expect(review.spots[0]!.load!.rise).toBeNull();
    const empty = reviewRun({ ...record, phases: [] });
    expect(empty).toMatchObject({ loadS: null, loadEndedBy: null });
    expect(empty.spots[0]).toMatchObject({ idle: null, load: null });
  });
  it('watches locks over the whole load, and only there', () => {
    const fan = madeTrace({ n: 3300, f: (t) => (t < 480 ? 30 : t < 1200 ? 60 : 66) });
    const lock = { name: 'Fan duty', unit: '%', value: 60, tolerance: 2, series: fan };
    const [review] = reviewRun(made({ locks: [lock] })).locks;
    expect(review).toMatchObject({ name: 'Fan duty', watch: { held: false, leftAtS: 1200, largestOff: 6 } });
    expect(reviewRun(made({ locks: [{ ...lock, tolerance: 7 }] })).locks[0]!.watch.held).toBe(true);
  });

  it('reads a window that the tester chose, held to its phase, and says so', () => {
    const chosen = (startS: number, endS: number) => reviewRun(made({ windows: [{ phase: 1, startS, endS }] })).spots[0]!.load!;
    const early = chosen(600, 900);
    expect(early).toMatchObject({ chosen: true, window: { startS: 600, endS: 900 }, bound: 'still-rising' });
    expect(early.rise!.mean.value).toBeLessThan(50);
    expect(chosen(100, 700).window).toEqual({ startS: 480, endS: 700 });
    // One that lies outside its phase is none.
    expect(chosen(3000, 3200)).toMatchObject({ chosen: false, window: { startS: 2400, endS: 2700 } });
    // Power and the rest are read over the same window.
    const power = madeTrace({ n: 3300, f: (t) => (t < 1000 ? 5 : 8) });
    expect(reviewRun(made({ power, windows: [{ phase: 1, startS: 600, endS: 900 }] })).power!.value).toBe(5);
  });

  it('finds the way of the heat that made the trace: K/W, carry and delay, to room and to intake', () => {
    // 0.4 K/W with a slow time constant of 240 s at 130 W; the intake is 6 K above the room.
    const n = 4000;
    const rise = (t: number) => (t < 480 ? 0 : 52 * (1 - Math.exp(-(t - 480) / 240)));
    const review = reviewRun(
      made(
        {
          spots: [{ id: 'flash', series: madeTrace({ n, f: (t) => 22 + rise(t), sd: 0.05, phi: 0.7, seed: 21 }) }],
          room: madeTrace({ n, f: () => 22, sd: 0.02, seed: 22 }),
          intake: madeTrace({ n, f: (t) => (t < 480 ? 22 : 28), sd: 0.02, seed: 23 }),
          exhaust: madeTrace({ n, f: (t) => (t < 480 ? 22 : 42), sd: 0.02, seed: 24 }),
          power: madeTrace({ n, f: (t) => (t < 480 ? 10 : 130), sd: 0.2, seed: 25 }),
        },
        3400,
      ),
    );
    const path = review.spots[0]!.heatPath!;
    expect(path.toRoomKPerW!.value).toBeCloseTo(0.4, 3);
    expect(path.toIntakeKPerW!.value).toBeCloseTo(46 / 130, 3);
    expect(path.carryWPerK!).toBeCloseTo(2.5, 2);
    expect(Math.abs(path.delayJPerK! / 600 - 1)).toBeLessThan(0.03);
    expect(review.air!.recirculation!.fraction).toBeCloseTo(0.3, 2);
    expect(reviewRun(made({ power: null })).spots[0]!.heatPath).toBeNull();
    expect(reviewRun(made()).air).toBeNull();
  });

  it('counts the time during which the part did not answer, which no mean shows', () => {
    const performance = madeTrace({ n: 3300, f: (t) => (t < 480 || t >= 2700 ? 0 : t >= 1000 && t < 1555 ? NaN : 6100) });
    const review = reviewRun(made({ performance }));
    expect(review.goneShare).toBeCloseTo(555 / 2220, 3);
    expect(review.performance!.value).toBe(6100);
    expect(reviewRun(made()).goneShare).toBe(0);
  });
});
