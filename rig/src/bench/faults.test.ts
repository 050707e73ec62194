import { describe, expect, it } from 'vitest';
import { CARD_CHANNELS, CARD_CONTROLS } from '../card/channels.ts';
import { ActiveRun } from '../link/activeRun.ts';
import { FAULTS, PlantedFaults, type FaultKey } from './faults.ts';
import { CARD_SOURCE, DRIVE_SOURCE, SIMULATED } from '../simulated.ts';

const still = { startC: 22, driftKPerH: 0, wanderK: 0 };
type Reading = Record<string, number | null>;

function trace(family: keyof typeof SIMULATED, setup: string, faults: FaultKey[], seconds = 3600, seed = 5): Reading[] {
  const bench = SIMULATED[family].begin({ setup, seed, mountSeed: 2, room: still, faults });
  return Array.from({ length: seconds }, () => bench.step(1, 100));
}
const last = (readings: Reading[], key: string) => readings.at(-1)![key]!;

describe('what can be planted', () => {
  it('is the same for the same seed, and nothing without', () => {
    for (const key of Object.keys(FAULTS) as FaultKey[]) {
      const [once, twice] = [1, 2].map(() => trace('card', 'open-full', [key], 900));
      expect(once).toEqual(twice);
    }
    expect(new PlantedFaults([], 1, ['a']).padShare).toBe(1);
    expect(new PlantedFaults([], 1, ['a']).clockRate).toBe(1);
  });

  it.each(['film-left-on', 'pad-off'] as const)('%s shows at the parts under pads', (key) => {
    expect(last(trace('card', 'open-full', [key]), 'mem') - last(trace('card', 'open-full', []), 'mem')).toBeGreaterThan(8);
    expect(last(trace('drive', '4t-comb-sink', [key]), 'tc1') - last(trace('drive', '4t-comb-sink', []), 'tc1')).toBeGreaterThan(4);
    expect(last(trace('regulator', 'ferry-b4-held', [key]), 'tc1') - last(trace('regulator', 'ferry-b4-held', []), 'tc1')).toBeGreaterThan(
      2,
    );
  });

  it('a fan on the wrong header does not obey, one with swapped wires shows no speed', () => {
    const wrong = trace('card', 'open-full', ['fan-wrong-header'], 60);
    expect(last(wrong, 'duty')).toBe(100);
    expect(last(wrong, 'fan')).toBeLessThan(1500);
    expect(last(trace('card', 'open-full', ['fan-wires-swapped'], 60), 'fan')).toBe(0);
    expect(last(trace('drive', '4t-comb-sink-fan', ['fan-wires-swapped'], 60), 'fan')).toBe(0);
  });

  it('a free fan follows the temperature although it is locked', () => {
    const speeds = trace('card', 'open-case-locked', ['fan-free']).map((reading) => reading.fan2!);
    expect(Math.max(...speeds) - Math.min(...speeds)).toBeGreaterThan(500);
    const locked = trace('card', 'open-case-locked', []).map((reading) => reading.fan2!);
    expect(Math.max(...locked) - Math.min(...locked)).toBeLessThan(80);
  });

  it('the room drifts by some kelvin', () => {
    const room = trace('card', 'open-full', ['room-drift']).map((reading) => reading.room!);
    expect(room.at(-1)! - room[0]!).toBeGreaterThan(3);
  });

  it('a wrong place and a slow sensor are in one sensor, not in all', () => {
    const plain = trace('card', 'open-full', [], 1800);
    for (const key of ['wrong-place', 'lagging-sensor'] as const) {
      const planted = trace('card', 'open-full', [key], 1800);
      const at = key === 'wrong-place' ? 1799 : 60;
      const off = ['die', 'mem', 'stages', 'sink', 'intake'].filter(
        (channel) => Math.abs(planted[at]![channel]! - plain[at]![channel]!) > 1.5,
      );
      expect(off).toHaveLength(1);
    }
  });

  it('spikes and drop-outs come and go', () => {
    const spiked = trace('card', 'open-full', ['spikes']).map((reading) => reading.stages!);
    const jumps = spiked.filter((value, i) => i > 0 && value - spiked[i - 1]! > 3).length;
    expect(jumps).toBeGreaterThan(20);
    const holes = trace('card', 'open-full', ['drop-outs']);
    const missing = Object.keys(holes[0]!).map((key) => holes.filter((reading) => reading[key] === null).length);
    // The pump is not there at all on this cooler.
    expect(missing.filter((count) => count > 20 && count < holes.length)).toHaveLength(1);
  });

  it('a skewed clock stamps a second as more than one', () => {
    const command = { type: 'command', command: 'start', runId: 'r', setup: 'bare', seed: 1, mountSeed: 1, timeScale: 600, sampleIntervalMs: 1000, armed: [] } as const; // prettier-ignore
    const run = new ActiveRun({ ...command, armed: [], faults: ['clock-skew'] }, DRIVE_SOURCE);
    let lastMs = 0;
    for (let i = 0; i < 100; i++) {
      for (const message of run.pass(25)) if (message.type === 'samples') lastMs = message.tMs.at(-1)!;
      run.acknowledge(run.lastSeq);
    }
    expect(lastMs / (run.lastSeq * 15_000)).toBeGreaterThan(1.003);
    expect(lastMs / (run.lastSeq * 15_000)).toBeLessThan(1.02);
  });
});

describe('what the link offers of it', () => {
  it('names channels, controls and faults, and says what it could not set', () => {
    expect(CARD_SOURCE.controls).toEqual(CARD_CONTROLS);
    expect(CARD_SOURCE.channels).toEqual(CARD_CHANNELS);
    expect(CARD_SOURCE.faults!.map((fault) => fault.key)).toContain('pad-off');
    const command = { type: 'command', command: 'start', runId: 'r', setup: 'open-auto', seed: 1, mountSeed: 1, timeScale: 1, sampleIntervalMs: 1000, armed: [] } as const; // prettier-ignore
    const run = new ActiveRun({ ...command, armed: [] }, CARD_SOURCE);
    expect(run.set('vent', 'blocked')).toBeNull();
    expect(run.set('vent', 'ajar')).toMatchObject({ type: 'event', kind: 'note', text: expect.stringContaining('open or blocked') });
    expect(run.unacknowledged).toHaveLength(1);
  });
});

describe('a drive that is far too hot', () => {
  it('throttles, leaves the machine, comes back, and says so each time', () => {
    const bench = SIMULATED.drive.begin({ setup: '4t-hot-bare', seed: 1, mountSeed: 1, room: still });
    const readings = Array.from({ length: 3600 }, () => bench.step(1, 100));
    const gone = readings.findIndex((reading) => reading.own === null);
    expect(gone).toBeGreaterThan(30);
    expect(readings.slice(0, gone).some((reading) => reading.throughput! < 5200)).toBe(true);
    expect(readings.slice(gone).some((reading) => reading.throughput !== null)).toBe(true);
    expect(readings[gone + 5]!.throughput).toBeNull();
    expect(readings[gone + 5]!.tc1).not.toBeNull();
    expect(bench.happened!.slice(0, 2)).toEqual(['The drive shut off and is gone from the machine.', 'The drive is back.']);
  });

  it('stays with a comb sink and its fan, which a slab only delays', () => {
    const first = (setup: string) => trace('drive', setup, [], 5400).findIndex((reading) => reading.throughput! < 5200);
    expect(first('4t-hot-comb-sink-fan')).toBe(-1);
    expect(first('4t-hot-thick-slab')).toBeGreaterThan(first('4t-hot-bare') + 60);
  });

  it('has all of its flash on one face where it is one-sided', () => {
    const [one, two] = ['1t-bare', '4t-bare'].map((setup) => {
      const bench = SIMULATED.drive.begin({ setup, seed: 1, mountSeed: 1, room: still });
      for (let s = 0; s < 3600; s++) bench.step(1, 100);
      return bench.truth;
    });
    expect(one!.flashTop! - one!.flashUnder!).toBeGreaterThan(two!.flashTop! - two!.flashUnder! + 5);
  });
});
