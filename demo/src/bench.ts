import {
  eachOutput,
  assessSettling,
  compare,
  drawable,
  fitApproach,
  orderRuns,
  findThrottling,
  rejectSpikes,
  repeatsNeeded,
  reviewRun,
  riseOverAmbient,
  type OrderInput,
  type Series,
} from '@red-ember/core';
import { DriveBench, SeededRandom } from '@red-ember/rig';

/** Median wall time of `work` in milliseconds, after one round to warm up. */
function time(name: string, work: () => unknown, rounds = 7): void {
  work();
  const taken = Array.from({ length: rounds }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  console.log(`${name.padEnd(64)} ${taken[(rounds - 1) / 2]!.toFixed(1).padStart(9)} ms`);
}

/** A drive under load, read once a step: two time constants, correlated noise, spikes, a drifting room. */
function recorded(seconds: number, stepS: number): Record<string, Series> {
  const bench = new DriveBench({ setup: 'slot-lid', seed: 1, mountSeed: 1 });
  const n = Math.round(seconds / stepS);
  const t = Float64Array.from({ length: n }, (_, i) => (i + 1) * stepS);
  const values: Record<string, Float64Array> = {};
  for (let i = 0; i < n; i++) {
    for (const [key, value] of Object.entries(bench.step(stepS, 100))) (values[key] ??= new Float64Array(n))[i] = value ?? NaN;
  }
  return Object.fromEntries(Object.entries(values).map(([key, y]) => [key, { t, y }]));
}

const short = recorded(3600, 1);
const [hour, room, work] = [short.tc3!, short.room!, short.throughput!];
const long = recorded(28_800, 0.1).tc3!;
const sure = (value: number) => ({ value, u: 0.05, dof: 60 });

time('rejectSpikes, 1 h at 1 Hz', () => rejectSpikes(hour));
time('riseOverAmbient, 1 h at 1 Hz', () => riseOverAmbient(hour, room));
time('fitApproach (auto), 1 h at 1 Hz', () => fitApproach(hour));
time('assessSettling, 1 h at 1 Hz', () => assessSettling(hour));
time('findThrottling, 1 h at 1 Hz', () => findThrottling({ performance: work, load: { startS: 0, endS: 3600 } }));
time('compare, 3 runs a side', () => compare({ a: [50, 50.3, 49.8].map(sure), b: [51, 51.2, 50.7].map(sure), practicalK: 0.5 }));
time('repeatsNeeded, d = 0.1', () => repeatsNeeded({ sd: 1, detect: 0.1 }));
time('reviewRun, 1 h at 1 Hz, 4 spots', () =>
  reviewRun({
    spots: [1, 2, 3, 4].map((id) => ({ id: String(id), series: hour })),
    room,
    ...eachOutput(() => null),
    performance: work,
    utilisation: null,
    intake: null,
    exhaust: null,
    throttle: null,
    locks: [],
    phases: [{ kind: 'load', name: 'Load', startS: 0, endS: 3600, endedBy: 'settled' }],
  }),
);
/** Runs of three factors, each at random levels, with precedence: what a full week of refitting asks. */
function orders(n: number): OrderInput {
  const random = new SeededRandom(n);
  const runs = Array.from({ length: n }, () => [random.uniform(), random.uniform(), random.uniform()].map((x) => Math.floor(3 * x)));
  const changeMin = runs.map((a) => runs.map((b) => 5 + [25, 15, 2].reduce((sum, cost, k) => sum + (a[k] === b[k] ? 0 : cost), 0)));
  return { changeMin, startMin: runs.map(() => 20), mustPrecede: [[0, n - 1]], seed: 1 };
}
time('orderRuns, 12 runs, exact', () => orderRuns(orders(12)));
time('orderRuns, 40 runs', () => orderRuns(orders(40)), 3);
time('rejectSpikes, 8 h at 10 Hz', () => rejectSpikes(long), 3);
time('drawable to 600 points, 8 h at 10 Hz', () => drawable(long, 600));
