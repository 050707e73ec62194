import { offNormalOf, signatureOf, suspectsOf, type RecipePhase, type SignatureRecord, type SuspectKey } from '@red-ember/core';
import { PlantedFaults, type FaultKey } from '@red-ember/rig';
import { simulateRun } from '../src/simulateRun.ts';

interface Bench {
  family: 'drive' | 'card' | 'regulator';
  setup: string;
  spots: string[];
  /** Of which the bench draws the one that a fault is planted in. */
  sensors: string[];
  fans: string[];
  loadMin: number;
  set: NonNullable<RecipePhase['set']>;
}

export const BENCHES: readonly Bench[] = [
  {
    family: 'card',
    setup: 'open-case',
    spots: ['die', 'mem', 'stages', 'sink', 'intake'],
    sensors: ['die', 'mem', 'stages', 'sink', 'intake'],
    fans: ['fan', 'fan2'],
    loadMin: 20,
    set: [
      { control: 'fan-mode', value: 'locked' },
      { control: 'fan-duty', value: 60 },
    ],
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

/** What is to be suspected of each fault. A clock that runs fast shows in no trace: whoever records holds it against his own. */
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

const IDLE_S = 480;
/** A bench that looks while it is loaded says what it has seen by then, s. */
const EARLY_LOOK_S = 600;

const phase = (kind: 'idle-soak' | 'load', durationS: number, set: RecipePhase['set'] = []): RecipePhase =>
  ({ kind, name: kind, mode: 'fixed', durationS, capS: durationS, loadPercent: kind === 'load' ? 100 : 0, set }) as RecipePhase;

/** One run as it is held against others: the whole of its load. */
function record(bench: Bench, seed: number, faults: FaultKey[] = []): SignatureRecord {
  const loadS = 60 * bench.loadMin;
  const run = simulateRun(
    { setup: bench.setup, seed, mountSeed: 7 + seed, faults, room: { startC: 22, driftKPerH: 0.3, wanderK: 0.1 } },
    [phase('idle-soak', IDLE_S, bench.set), phase('load', loadS)],
    { spots: bench.spots, family: bench.family, pace: { stepS: bench.family === 'regulator' ? 5 : 2, settleEveryS: 60 } },
  );
  const t = Float64Array.from(run.tMs, (ms) => ms / 1000);
  const series = (key: string) => (run.values[key] ? { t, y: Float64Array.from(run.values[key]) } : null);
  return {
    id: String(seed),
    loadStartS: IDLE_S,
    loadEndS: IDLE_S + loadS,
    spots: bench.spots.flatMap((id) => ({ id, series: series(id)! })),
    room: series('room'),
    power: series('power'),
    duty: series('duty'),
    fans: bench.fans.map((id) => ({ id, series: series(id)! })),
  };
}

/** What is suspected of a run so many seconds into its load, with two clean ones before it on other mounts. */
function suspected(bench: Bench, clean: readonly SignatureRecord[], run: SignatureRecord, lengthS: number): SuspectKey[] {
  const cut = (whole: SignatureRecord) => ({ ...whole, loadEndS: IDLE_S + lengthS });
  const name = (ids: readonly string[]) => Object.fromEntries(ids.map((id) => [id, id]));
  const off = offNormalOf(signatureOf(clean.map(cut)), cut(run));
  return suspectsOf(off, name(bench.spots), name(bench.fans)).map(({ key }) => key);
}

/** How often a fault was among the first two suspects, of how many in which it could be. */
interface Found {
  fault: FaultKey;
  of: number;
  early: number;
  atEnd: number;
}

export interface BenchFound {
  family: Bench['family'];
  faults: Found[];
  /** Clean runs of which something was suspected, of how many. */
  alarms: { of: number; early: number; atEnd: number };
}

/** Plants every fault in a bench, once for each seed, and looks after ten minutes of load and at its end. */
export function findFaults(bench: Bench, seeds: readonly number[]): BenchFound {
  const endS = 60 * bench.loadMin;
  const cleanOf = new Map(seeds.map((seed) => [seed, [record(bench, 100 * seed + 1), record(bench, 100 * seed + 2)]]));
  const looks = (seed: number, faults: FaultKey[]) => {
    const run = record(bench, 100 * seed + 3, faults);
    return [EARLY_LOOK_S, endS].map((lengthS) => suspected(bench, cleanOf.get(seed)!, run, lengthS));
  };
  const faults = Object.entries(NAMED).flatMap(([fault, key]): Found[] => {
    // One fan has no other to be free of.
    if (fault === 'fan-free' && bench.fans.length < 2) return [];
    // A sensor that no spot reads may be as wrong as it likes.
    const seen = seeds.filter((seed) => bench.spots.includes(new PlantedFaults([], 100 * seed + 3, bench.sensors).sensor));
    const found = seen.map((seed) => looks(seed, [fault as FaultKey]).map((suspects) => suspects.slice(0, 2).includes(key)));
    const count = (look: number) => found.filter((each) => each[look]).length;
    return [{ fault: fault as FaultKey, of: seen.length, early: count(0), atEnd: count(1) }];
  });
  const alarms = seeds.map((seed) => looks(seed, []).map((suspects) => suspects.length > 0));
  const count = (look: number) => alarms.filter((each) => each[look]).length;
  return { family: bench.family, faults, alarms: { of: seeds.length, early: count(0), atEnd: count(1) } };
}
