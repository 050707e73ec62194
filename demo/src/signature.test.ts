import { expect, it } from 'vitest';
import { offNormalOf, signatureOf, suspectsOf, type RecipePhase, type SignatureRecord, type SuspectKey } from '@red-ember/core';
import { PlantedFaults, type FaultKey } from '@red-ember/rig';
import { simulateRun } from './simulateRun.ts';

type Family = 'drive' | 'card' | 'regulator';
const phase = (kind: 'idle-soak' | 'load', minutes: number, set: RecipePhase['set'] = []): RecipePhase =>
  ({
    kind,
    name: kind,
    mode: 'fixed',
    durationS: 60 * minutes,
    capS: 60 * minutes,
    loadPercent: kind === 'load' ? 100 : 0,
    set,
  }) as RecipePhase;

interface Bench {
  family: Family;
  setup: string;
  spots: string[];
  /** Of which the bench draws the one that a fault is planted in. */
  sensors: string[];
  fans: string[];
  loadMin: number;
  set: RecipePhase['set'];
}
const LOCKED: RecipePhase['set'] = [
  { control: 'fan-mode', value: 'locked' },
  { control: 'fan-duty', value: 60 },
];
const BENCHES: Bench[] = [
  {
    family: 'card',
    setup: 'open-case',
    spots: ['die', 'mem', 'stages', 'sink', 'intake'],
    sensors: ['die', 'mem', 'stages', 'sink', 'intake'],
    fans: ['fan', 'fan2'],
    loadMin: 20,
    set: LOCKED,
  },
  {
    family: 'drive',
    setup: '4t-comb-sink-fan',
    spots: ['tc1', 'tc2', 'tc3'],
    sensors: ['tc1', 'tc2', 'tc3'],
    fans: ['fan'],
    loadMin: 20,
    set: [{ control: 'fan-duty', value: 60 }],
  },
  {
    family: 'regulator',
    setup: 'b2-step-1',
    spots: ['tc1', 'tc2', 'tc3', 'tc4', 'stage3'],
    sensors: ['tc1', 'tc2', 'tc3', 'tc4', 'stage3', 'water'],
    fans: ['fan'],
    loadMin: 30,
    set: [{ control: 'power-cap', value: 90 }],
  },
];

function record(bench: Bench, seed: number, faults: FaultKey[] = []): SignatureRecord {
  const run = simulateRun(
    { setup: bench.setup, seed, mountSeed: 7 + seed, faults, room: { startC: 22, driftKPerH: 0.3, wanderK: 0.1 } },
    [phase('idle-soak', 8, bench.set), phase('load', bench.loadMin)],
    { spots: bench.spots, family: bench.family, pace: { stepS: bench.family === 'regulator' ? 5 : 2, settleEveryS: 60 } },
  );
  const t = Float64Array.from(run.tMs, (ms) => ms / 1000);
  const series = (key: string) => (run.values[key] ? { t, y: Float64Array.from(run.values[key]) } : null);
  return {
    id: String(seed),
    loadStartS: 480,
    loadEndS: 480 + 60 * bench.loadMin,
    spots: bench.spots.flatMap((id) => ({ id, series: series(id)! })),
    room: series('room'),
    power: series('power'),
    duty: series('duty'),
    fans: bench.fans.map((id) => ({ id, series: series(id)! })),
  };
}

const NAMED: Partial<Record<FaultKey, SuspectKey>> = {
  'pad-off': 'pad',
  'film-left-on': 'pad',
  'fan-wrong-header': 'fan-duty',
  'fan-wires-swapped': 'fan-plug',
  'fan-free': 'fan-free',
  'room-drift': 'room',
  'wrong-place': 'place',
  'lagging-sensor': 'lag',
  spikes: 'spikes',
  'drop-outs': 'drop-outs',
};

/** What is suspected of a run, with two clean ones before it. Other mounts each. */
function suspected(bench: Bench, seed: number, faults: FaultKey[]): SuspectKey[] {
  const normal = signatureOf([record(bench, 100 * seed + 1), record(bench, 100 * seed + 2)]);
  const name = (ids: readonly string[]) => Object.fromEntries(ids.map((id) => [id, id]));
  const off = offNormalOf(normal, record(bench, 100 * seed + 3, faults));
  return suspectsOf(off, name(bench.spots), name(bench.fans)).map(({ key }) => key);
}

// More seeds take minutes: RED_EMBER_SEEDS=30 npx vitest run demo/src/signature.test.ts
const [FIRST, COUNT] = [Number(process.env.RED_EMBER_FIRST ?? 40), Number(process.env.RED_EMBER_SEEDS ?? 2)];
const seeds = Array.from({ length: COUNT }, (_, i) => FIRST + i);

it.each(BENCHES)(
  'a fault is among the first two suspects of a run, and a clean run suspects nothing: $family',
  (bench) => {
    const table: [string, number, number][] = [];
    for (const [fault, key] of Object.entries(NAMED)) {
      // One fan has no other to be free of.
      if (fault === 'fan-free' && bench.fans.length < 2) continue;
      // A sensor that no spot reads may be as wrong as it likes.
      const seen = seeds.filter((seed) => bench.spots.includes(new PlantedFaults([], 100 * seed + 3, bench.sensors).sensor));
      const found = seen.filter((seed) =>
        suspected(bench, seed, [fault as FaultKey])
          .slice(0, 2)
          .includes(key),
      ).length;
      table.push([fault, found, seen.length]);
    }
    const alarms = seeds.filter((seed) => suspected(bench, seed, []).length > 0).length;
    if (process.env.RED_EMBER_SEEDS) console.log(bench.family, JSON.stringify(table), `false alarms ${alarms} of ${COUNT}`);
    const [found, all] = table.reduce(([hits, of], [, some, seen]) => [hits + some, of + seen], [0, 0]);
    expect(found / all).toBeGreaterThanOrEqual(0.9);
    expect(alarms / COUNT).toBeLessThanOrEqual(COUNT < 10 ? 0 : 0.1);
  },
  1_200_000,
);
