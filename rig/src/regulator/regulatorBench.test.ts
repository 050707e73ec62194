import { describe, expect, it } from 'vitest';
import { indicatedC } from '../bench/sensorBank.ts';
import { REGULATOR_CHANNELS } from './channels.ts';
import { REGULATOR, REGULATOR_SETUPS, regulatorSetup } from './parameters.ts';
import { RegulatorBench } from './regulatorBench.ts';

const still = { startC: 22, driftKPerH: 0, wanderK: 0 };
type Reading = Record<string, number | null>;

function run(setup: string, options: { seconds?: number; set?: [string, number | string][] } = {}) {
  const bench = new RegulatorBench({ setup, seed: 1, mountSeed: 1, room: still });
  for (const [control, value] of options.set ?? []) bench.set(control, value);
  let reading: Reading = {};
  let throttledAtS: number | null = null;
  for (let s = 0; s < (options.seconds ?? 5400); s++) {
    reading = bench.step(1, 100);
    if (bench.throttled) throttledAtS ??= s;
  }
  return { bench, reading, throttledAtS };
}

describe('the board on the bench', () => {
  it('shows every channel it announces, for every set-up', () => {
    for (const { key } of REGULATOR_SETUPS) {
      const shown = Object.keys(new RegulatorBench({ setup: key, seed: 1, mountSeed: 1 }).step(1, 100)).sort();
      expect(shown).toEqual(REGULATOR_CHANNELS.map((channel) => channel.key).sort());
    }
    expect(() => regulatorSetup('nothing')).toThrow(RangeError);
  });

  it('creeps into its throttle in still air, halves the power, recovers and falls again', () => {
    const { throttledAtS } = run('b2-still');
    expect(throttledAtS).toBeGreaterThan(600);
    const bench = new RegulatorBench({ setup: 'b2-still', seed: 1, mountSeed: 1, room: still });
    const power: number[] = [];
    for (let s = 0; s < 9000; s++) power.push(bench.step(1, 100).power!);
    const from = power.slice(throttledAtS!);
    expect(Math.min(...from)).toBeLessThan(90);
    expect(from.filter((watts, i) => i > 0 && watts > 120 && from[i - 1]! < 120).length).toBeGreaterThan(0);
  });

  it('carries a capped power for good', () => {
    expect(run('b2-still', { set: [['power-cap', 120]], seconds: 14_400 }).throttledAtS).toBeNull(); // prettier-ignore
  });

  it('is a ladder: each step delays, and only the loop ends it', () => {
    const [stock, tower, pads, loop] = [0, 1, 2, 3].map((step) => run(`b2-step-${step}`, { seconds: 10_800 }));
    expect(stock!.throttledAtS).toBeGreaterThan(300);
    expect(tower!.throttledAtS).toBeGreaterThan(stock!.throttledAtS! + 120);
    expect(pads!.throttledAtS).toBeGreaterThan(tower!.throttledAtS! + 120);
    expect(loop!.throttledAtS).toBeNull();
    // What leaves the board goes into the shared loop.
    expect(loop!.bench.truth.cooler! - 22).toBeGreaterThan(15);
  });

  it('loses more when it is warm: the same watts cost more in still air', () => {
    const still = run('b2-still', { set: [['power-cap', 110]], seconds: 10_800 }).bench; // prettier-ignore
    const moved = run('b2-fan', { set: [['power-cap', 110]], seconds: 10_800 }).bench; // prettier-ignore
    expect(still.truth.side! - moved.truth.side!).toBeGreaterThan(10);
    expect(REGULATOR.lossTempCo).toBeGreaterThan(0);
  });

  it('moves no air at the board with its fan at rest, and still sheds what rising air takes', () => {
    const rest = run('b2-fan', { set: [['power-cap', 62], ['fan-duty', 0]], seconds: 10_800 }).bench.truth; // prettier-ignore
    const still = run('b2-still', { set: [['power-cap', 62], ['fan-duty', 0]], seconds: 10_800 }).bench.truth; // prettier-ignore
    const turning = run('b2-fan', { set: [['power-cap', 62]], seconds: 10_800 }).bench.truth; // prettier-ignore
    // The processor stands in still air as well, and warms the board a little differently under either cooler.
    expect(Math.abs(rest.inductors! - still.inductors!)).toBeLessThan(0.5 * (rest.inductors! - turning.inductors!));
    expect(rest.cooler!).toBeGreaterThan(turning.cooler! + 30);
  });

  it('shows in infrared what a surface radiates: too little of it, and none too much at room temperature', () => {
    // Worked out beforehand: at 80 °C in a room of 22 °C a surface of 0.85 read at 0.95 shows 75.1 °C.
    expect(indicatedC(80, 0.85, 22)).toBeCloseTo(75.14, 2);
    expect(indicatedC(22, 0.3, 22)).toBeCloseTo(22, 9);
    const { bench } = run('b2-fan', { set: [['power-cap', 100]], seconds: 7200 }); // prettier-ignore
    const shown = (key: string) => {
      let sum = 0;
      for (let s = 0; s < 200; s++) sum += bench.step(1, 100)[key]! / 200;
      return sum;
    };
    expect(shown('capacitor')).toBeLessThan(bench.truth.capacitors! - 0.5);
    expect(shown('capacitor')).toBeCloseTo(indicatedC(bench.truth.capacitors!, 0.9, 22), 0);
  });

  it('names its boards in one order', () => {
    const side = ['quarry-c3', 'ferry-b4', 'quarry-c1', 'ferry-b2'].map((key) => run(`${key}-held`).reading.tc1!);
    expect(side).toEqual([...side].sort((p, q) => p - q));
  });

  it('traps air under the plate, and moves it again with the little fan', () => {
    const side = (plate: string) => run(`b4-${plate}-downward`).bench.truth.side!;
    expect(side('plate-fan-off')).toBeGreaterThan(side('none') + 5);
    expect(side('plate-fan-on')).toBeLessThan(side('none') - 3);
  });

  it('lets the firmware move the fan, by the processor or by the board', () => {
    for (const policy of ['by processor', 'by board']) {
      const bench = new RegulatorBench({ setup: 'ferry-b4-held', seed: 1, mountSeed: 1, room: still });
      bench.set('fan-policy', policy);
      const duties = Array.from({ length: 3600 }, () => bench.step(1, 100).duty!);
      expect(Math.max(...duties) - Math.min(...duties)).toBeGreaterThan(5);
    }
    const { reading } = run('ferry-b4-held');
    expect(reading.duty).toBe(60);
  });
});
