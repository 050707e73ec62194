import { eachOutput, reviewRun, type JudgedRun, type RunRecord, type Series } from '../../src/index.ts';
import { normalFrom, uniformOf } from '../traces.ts';

/**
 * A bench for the campaign: one part with two coolers, whose true settled rises are known. A model of its own, apart from the
 * simulated benches and from what is tried with it (docs/proof.md).
 */
export interface CardBench {
  /** True settled rise of a spot with side a's cooler at the nominal power and fan speed, K. */
  riseK: readonly number[];
  /** What side b's cooler does to it, K. */
  differenceK: number;
  powerW: number;
  fanRpm: number;
  /** Shares of the rise that come with a time constant, s; side b's may be heavier. */
  terms: Record<'a' | 'b', readonly (readonly [number, number])[]>;
  /** Standard deviation between mounts and between runs on one mount, K. */
  mountK: number;
  runK: number;
  /** What the bench itself wanders by, K an hour. */
  driftKPerH: number;
  noiseK: number;
  stepK: number;
}

/** One run as it was made: what was true of it beside what the bench is. */
export interface Made {
  side: 'a' | 'b';
  mount: number;
  mountOffK: number;
  atH: number;
  loadMin: number;
  /** As shares of the nominal. */
  power: number;
  fan: number;
  /** Rise goes with the fan to the minus this. */
  fanExponent: number;
  /** Share of the rise at which the clock gives way, and of the rise that is then left; nothing where it is free. */
  throttlesAt?: number;
  seed: number;
  /** The fan follows the part: so much slower when the load begins, as a share. */
  fanRises?: number;
  shows: { fan: boolean; work: boolean; clock: boolean; busy: number; mounts: boolean };
}

export const IDLE_S = 300;
const EVERY_S = 5;

function noiseOf(sd: number, seed: number): () => number {
  const normal = normalFrom(seed);
  const stays = Math.exp(-EVERY_S / 8);
  let now = sd * normal();
  return () => (now = stays * now + sd * Math.sqrt(1 - stays * stays) * normal());
}

/** A run's samples. */
export function recordOf(bench: CardBench, made: Made): RunRecord {
  const { side, power, fan, loadMin, seed, shows } = made;
  const n = Math.floor((IDLE_S + 60 * loadMin) / EVERY_S);
  const t = Float64Array.from({ length: n }, (_, i) => i * EVERY_S);
  const u = uniformOf(seed);
  const runOff = bench.runK * normalFrom(seed + 1)();
  const drift = bench.driftKPerH * made.atH;
  const roomAt = (
    (phase, period) => (s: number) =>
      22 + 0.25 * Math.sin((2 * Math.PI * s) / period + phase)
  )(6 * u(), 900 + 900 * u());
  const scale = power * fan ** -made.fanExponent;
  const spots = bench.riseK.map((riseK, at) => {
    const full = (riseK + (side === 'b' ? bench.differenceK : 0)) * scale + made.mountOffK + runOff + drift;
    const noise = noiseOf(bench.noiseK, seed + 10 * (at + 1));
    const limit = made.throttlesAt === undefined ? Infinity : riseK * made.throttlesAt;
    const rise = (s: number) => {
      if (s < 0) return 0.15 * full;
      const left = bench.terms[side].reduce((sum, [share, tau]) => sum + share * Math.exp(-s / tau), 0);
      return Math.min(limit, full * (1 - 0.85 * left));
    };
    const y = t.map((s) => {
      const value = roomAt(s - 30) + rise(s - IDLE_S) + noise();
      return bench.stepK > 0 ? Math.round(value / bench.stepK) * bench.stepK : value;
    });
    return { id: `s${at}`, series: { t, y }, gaveWay: (s: number) => rise(s - IDLE_S) >= limit };
  });
  const flicker = normalFrom(seed + 5);
  const channel = (idle: number, load: (s: number) => number, share = 0.004): Series => ({
    t,
    y: t.map((s) => (s < IDLE_S ? idle : load(s)) * (1 + share * flicker())),
  });
  const gaveWay = spots[0]!.gaveWay;
  const slower = (s: number) => (gaveWay(s) ? 0.9 : 1);
  return {
    spots: spots.map(({ id, series }) => ({ id, series })),
    phases: [
      { kind: 'idle-soak', name: 'idle', startS: 0, endS: IDLE_S, endedBy: 'time' },
      { kind: 'load', name: 'load', startS: IDLE_S, endS: n * EVERY_S, endedBy: 'time' },
    ],
    throttle: made.throttlesAt === undefined ? null : { spotId: 's0', limitC: 22 + bench.riseK[0]! * made.throttlesAt },
    locks: [],
    ...eachOutput(() => null),
    performance: shows.work ? channel(0, (s) => 100 * slower(s) * (shows.busy / 100)) : null,
    power: channel(0.1 * bench.powerW, () => bench.powerW * power),
    fan: shows.fan
      ? channel(bench.fanRpm * fan * 0.6, (s) => bench.fanRpm * fan * (1 - (made.fanRises ?? 0) * Math.exp((IDLE_S - s) / 400)), 0.002)
      : null,
    clock: shows.clock ? channel(300, (s) => 2400 * slower(s), 0.002) : null,
    room: { t, y: t.map((s) => roomAt(s) + 0.05 * flicker()) },
    intake: null,
    exhaust: null,
    utilisation: channel(2, () => shows.busy, 0.003),
  };
}

/** A run with its samples read as any run's are. */
export function runOf(bench: CardBench, made: Made, number: number): JudgedRun {
  return {
    id: `run-${number}`,
    label: `run ${number}`,
    mountNo: made.shows.mounts ? made.mount : null,
    startedAtMs: 3_600_000 * made.atH,
    disposition: 'undecided',
    sensors: Object.fromEntries(bench.riseK.map((_, at) => [`s${at}`, `s${at}`])),
    settings: {},
    heldByPart: [],
    unconfirmed: [],
    overdue: [],
    review: reviewRun(recordOf(bench, made)),
  };
}
