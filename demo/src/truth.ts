import { fedSeries } from '@red-ember/contract';
import { reviewRun, type JudgedRun, type JudgedSide, type RunPhase, type Series } from '@red-ember/core';
import { nodeOf, SIMULATED } from '@red-ember/rig';

/** What a comparison is made of, for holding verdicts against what the simulator knows. */
export interface Compared {
  study: string;
  family: keyof typeof SIMULATED;
  a: string;
  b: string;
  /** Channels that are judged. */
  channels: string[];
  loadS: number;
  stepS: number;
  set?: Record<string, number | string>;
  /** What was changed for b alone: the same part before and after an intervention. */
  setB?: Record<string, number | string>;
}

/** Where each family's simulated part throttles, as it states it, °C. */
const THROTTLES_C = { drive: 88, card: 88, regulator: 112 };

const IDLE_S = 60;

/** One run: a moment of idle, then the load; what was shown, and what was true at its end. */
function lead(compared: Compared, which: 'a' | 'b', seed: number, mountSeed: number, quiet = false) {
  const { family, loadS, stepS } = compared;
  const room = quiet ? { startC: 22.4, driftKPerH: 0, wanderK: 0 } : {};
  const bench = SIMULATED[family].begin({ setup: compared[which], seed, mountSeed, room });
  const set = { ...compared.set, ...(which === 'b' ? compared.setB : {}) };
  for (const [control, value] of Object.entries(set)) bench.set(control, value);
  const values: Record<string, number[]> = {};
  const times: number[] = [];
  for (let t = stepS; t <= IDLE_S + loadS; t += stepS) {
    times.push(t);
    for (const [key, value] of Object.entries(bench.step(stepS, t > IDLE_S ? 100 : 0))) (values[key] ??= []).push(value ?? NaN);
  }
  const truth = { ...bench.truth };
  return { times, values, truth };
}

/** Rise over room that mounts of one side come to on average: sensors, noise and the day's room left out. */
export function trueRises(compared: Compared, which: 'a' | 'b', mounts = 24): Record<string, number> {
  const sums: Record<string, number> = {};
  for (let mount = 1; mount <= mounts; mount++) {
    const { truth } = lead({ ...compared, stepS: Math.max(compared.stepS, 10) }, which, 77 * mount, 9000 + mount, true);
    for (const channel of compared.channels)
      sums[channel] = (sums[channel] ?? 0) + (truth[nodeOf(compared.family, channel)!]! - truth.room!) / mounts;
  }
  return sums;
}

/** A side of so many runs, each of a mount of its own, read as the server reads them. */
export function simulatedSide(compared: Compared, which: 'a' | 'b', runs: number, seed: number): JudgedSide {
  return {
    variantId: which,
    name: compared[which],
    runs: Array.from({ length: runs }, (_, i): JudgedRun => {
      const own = seed * 100 + i * 10 + (which === 'a' ? 1 : 2);
      const { times, values } = lead(compared, which, own, own + 500_000);
      const series = (key: string): Series | null =>
        values[key] ? { t: Float64Array.from(times), y: Float64Array.from(values[key]) } : null;
      const load: RunPhase = { kind: 'load', name: 'Load', startS: IDLE_S, endS: IDLE_S + compared.loadS, endedBy: 'time' };
      return {
        id: `${which}${i}`,
        label: `run ${i + 1}`,
        mountNo: i,
        // A B B A: in turn, so that nothing speaks against the order.
        startedAtMs: 3_600_000 * (i % 2 === 0 ? 2 * i + (which === 'a' ? 0 : 1) : 2 * i + (which === 'a' ? 1 : 0)),
        disposition: 'undecided',
        sensors: Object.fromEntries(compared.channels.map((channel) => [channel, channel])),
        settings: {},
        heldByPart: [],
        unconfirmed: [],
        overdue: [],
        review: reviewRun({
          spots: compared.channels.map((channel) => ({ id: channel, series: series(channel)! })),
          ...fedSeries(series),
          phases: [load],
          throttle: { spotId: compared.channels[0]!, limitC: THROTTLES_C[compared.family] },
          locks: [],
        }),
      };
    }),
  };
}
