import { describe, expect, it } from 'vitest';
import { DriveBench, DRIVE, DRIVE_SETUPS, driveSetup } from '../index.ts';

const still = { startC: 22, driftKPerH: 0, wanderK: 0 };

function settle(setup: string, load: number, room = still, seconds = 7200) {
  const bench = new DriveBench({ setup, seed: 1, mountSeed: 1, room });
  let reading: Record<string, number | null> = {};
  for (let s = 0; s < seconds; s++) reading = bench.step(1, load);
  return { bench, reading };
}

describe('the drive on the bench', () => {
  it('replays by its seeds, and differs by them', () => {
    const trace = (seed: number, mountSeed: number) => {
      const bench = new DriveBench({ setup: 'bare', seed, mountSeed });
      return Array.from({ length: 50 }, () => bench.step(1, 100).tc1);
    };
    expect(trace(3, 4)).toEqual(trace(3, 4));
    expect(trace(3, 4)).not.toEqual(trace(5, 4));
    expect(trace(3, 4)).not.toEqual(trace(3, 6));
  });

  it('balances its heat: what flows into the room is what the drive draws', () => {
    const { bench } = settle('bare', 100);
    const setup = driveSetup('bare');
    const truth = bench.truth;
    const out =
      (['controller', 'flashTop', 'flashUnder', 'board'] as const).reduce(
        (sum, id) => sum + setup.toRoom[id] * (truth[id]! - truth.room!),
        0,
      ) +
      DRIVE.slotToRoom * (truth.slot! - truth.room!);
    const drawn = (Object.keys(DRIVE.loadW) as (keyof typeof DRIVE.loadW)[]).reduce(
      (sum, id) => sum + DRIVE.loadW[id] * (1 + DRIVE.powerTempCo * (truth[id]! - 25)),
      0,
    );
    expect(Math.abs(out / drawn - 1)).toBeLessThan(0.01);
  });

  it('has a slow term: the main board around it warms for half an hour and more', () => {
    const bench = new DriveBench({ setup: 'bare', seed: 1, mountSeed: 1, room: still });
    const over: number[] = [];
    for (let s = 1; s <= 4 * 3600; s++) {
      bench.step(1, 100);
      if (s % 300 === 0) over.push(bench.truth.controller! - bench.truth.room!);
    }
    const missing = (minute: number) => over.at(-1)! - over[minute / 5 - 1]!;
    expect(missing(15)).toBeGreaterThan(0.5);
    const tauMin = 20 / Math.log(missing(20) / missing(40));
    expect(tauMin).toBeGreaterThan(20);
    expect(tauMin).toBeLessThan(60);
  });

  it('cools the top face under the lid and heats the underside', () => {
    const [bare, lid] = ['bare', 'slot-lid'].map((setup) => settle(setup, 100).bench.truth);
    expect(lid!.flashTop! - bare!.flashTop!).toBeLessThan(-2);
    expect(lid!.flashUnder! - bare!.flashUnder!).toBeGreaterThan(3);
  });

  it('does not throttle on the open bench, and does in a hot enclosure: half the work, with hysteresis', () => {
    expect(settle('slot-lid', 100).bench.throttled).toBe(false);
    const bench = new DriveBench({ setup: 'slot-lid', seed: 1, mountSeed: 1, room: { ...still, startC: 42 } });
    const seen: number[] = [];
    for (let s = 0; s < 5400; s++) seen.push(bench.step(1, 100).throughput!);
    const slow = seen.findIndex((value) => value < 0.6 * DRIVE.throughputMBps);
    expect(slow).toBeGreaterThan(60);
    expect(seen[slow]!).toBeGreaterThan(0.4 * DRIVE.throughputMBps);
    expect(seen.slice(slow).some((value) => value > 0.9 * DRIVE.throughputMBps)).toBe(true); // it recovers, and falls again
  });

  it('reads through its sensors: offset, whole degrees, lag', () => {
    const { bench, reading } = settle('bare', 100);
    expect(Math.abs(reading.tc1! - bench.truth.controller!)).toBeLessThan(1.2);
    expect(reading.own! % 1).toBe(0);
    expect(reading.own!).toBeLessThan(bench.truth.controller! - 2);
    const cold = new DriveBench({ setup: 'bare', seed: 1, mountSeed: 1, room: still, spikesPerHour: 0 });
    cold.step(1, 0);
    cold.step(1, 100);
    const { tc1 } = cold.step(1, 100);
    expect(tc1!).toBeLessThan(cold.truth.controller! + 0.6);
  });

  it('knows its set-ups and no others', () => {
    expect(DRIVE_SETUPS.map((setup) => setup.key)).toContain('slot-lid');
    for (const { key } of DRIVE_SETUPS) expect(() => new DriveBench({ setup: key, seed: 1, mountSeed: 1 }).step(1, 100)).not.toThrow();
    expect(() => driveSetup('nothing')).toThrow(RangeError);
  });
});
