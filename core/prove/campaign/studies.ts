import type { JudgeRules, JudgedSide, Scatter } from '../../src/index.ts';
import { leftBySteps } from '../../src/series/leftBySteps.ts';
import { normalFrom, uniformOf } from '../traces.ts';
import { runOf, type CardBench, type Made } from './bench.ts';

/** What is wrong with a study; 'none' where nothing is. */
export const CONFOUNDS = [
  'none',
  'coarse sensors',
  'fans free on one side',
  'fans free on both',
  'fans said to be locked, moved',
  'fans said to be locked, unseen',
  'powers 2 to 6 % apart',
  'one mount a side',
  'mounts unknown',
  'all of one side first, bench drifting',
  'throttled, seen in the clock alone',
  'not settled, the heavier side less',
  'one side kept less busy',
] as const;
export type Confound = (typeof CONFOUNDS)[number];

/** Of these no temperature may be called, whatever the figures say. */
const FORBIDS: readonly Confound[] = [
  'fans free on one side',
  'fans free on both',
  'fans said to be locked, moved',
  'fans said to be locked, unseen',
  'throttled, seen in the clock alone',
  'one side kept less busy',
];

export interface DrawnStudy {
  confound: Confound;
  a: JudgedSide;
  b: JudgedSide;
  rules: JudgeRules;
  spots: { id: string; name: string; limitC: number; accuracyK: number; resolutionK: number; placementK: number }[];
  /** True settled difference at equal power and fans, K: the same at every spot. */
  truthK: number;
  forbidden: boolean;
  /** Standard uncertainty that a judge would be left with who knew every spread of the bench, K. */
  bestU: number;
  /** What a bench that has seen a dozen equal mounts knows of how far they lie apart, K. */
  knows: Scatter;
  hours: number;
}

const PRACTICAL_K = 1;

/** Differences between equal mounts that a bench has seen which knows them. */
const SEEN = 12;

/** Its spread as so many of them show it: near the true one, and never that. @param normal drawn from for each */
export function knownSpread({ mountK, runK }: Pick<CardBench, 'mountK' | 'runK'>, normal: () => number): Scatter {
  const squares = Array.from({ length: SEEN }, () => normal() ** 2).reduce((sum, square) => sum + square, 0);
  return { sd: Math.hypot(mountK, runK) * Math.sqrt(squares / SEEN), dof: SEEN };
}

/** A study with one confound, or none, drawn by its seed. */
export function drawStudy(confound: Confound, seed: number): DrawnStudy {
  const u = uniformOf(90_000 + seed);
  const normal = normalFrom(70_000 + seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(u() * list.length)]!;
  const size = pick([0, 0, 1.5, 2.5, 4, 6]);
  const differenceK = size === 0 ? 0 : (u() < 0.5 ? -1 : 1) * size * (0.85 + 0.3 * u());
  const heavy = confound === 'not settled, the heavier side less';
  const late = heavy ? 1200 + 900 * u() : 300 + 240 * u();
  const light = [
    [0.6, 25 + 30 * u()],
    [0.4, heavy ? 240 + 120 * u() : late],
  ] as const;
  const heavier = [light[0], [0.4, heavy ? late : late * (0.9 + 0.3 * u())]] as const;
  const bench: CardBench = {
    riseK: [42 + 14 * u(), 33 + 8 * u()],
    differenceK,
    powerW: 170 + 120 * u(),
    fanRpm: 1200 + 900 * u(),
    terms: u() < 0.5 ? { a: light, b: heavier } : { a: heavier, b: light },
    mountK: 0.2 + 0.5 * u(),
    runK: 0.05 + 0.2 * u(),
    driftKPerH: confound === 'all of one side first, bench drifting' ? (u() < 0.5 ? -1 : 1) * (0.15 + 0.35 * u()) : 0.04 * (u() - 0.5),
    noiseK: 0.06 + 0.12 * u(),
    stepK: confound === 'coarse sensors' ? 1 : 0.1,
  };
  const mounts = confound === 'one mount a side' ? 1 : pick([2, 2, 3]);
  const each = confound === 'one mount a side' ? pick([1, 2, 3]) : mounts === 2 ? pick([1, 2]) : 1;
  const perSide = mounts * each;
  // A B B A by mounts, or all of one side first.
  const turns = Array.from({ length: mounts }, (_, k) => (k % 2 === 0 ? (['a', 'b'] as const) : (['b', 'a'] as const))).flat();
  const order =
    confound === 'all of one side first, bench drifting' ? [...Array<'a'>(mounts).fill('a'), ...Array<'b'>(mounts).fill('b')] : turns;
  const offs = { a: [] as number[], b: [] as number[] };
  const power = { a: 1, b: confound === 'powers 2 to 6 % apart' ? 1 + (u() < 0.5 ? -1 : 1) * (0.02 + 0.04 * u()) : 1 + 0.01 * (u() - 0.5) };
  // A fan that follows the temperature runs faster over what is warmer, and hides part of it.
  const warmer = (side: 'a' | 'b') => (side === 'b' ? differenceK / 45 : -differenceK / 45);
  const fanOf = (side: 'a' | 'b'): number => {
    const spread = 1 + 0.02 * (u() - 0.5);
    if (confound === 'fans free on both') return spread * (1 + 2.5 * warmer(side) + (side === 'b' ? 0.12 : -0.12) * (0.6 + u()));
    if (confound === 'fans free on one side') return side === 'b' ? 1 + (u() < 0.5 ? -1 : 1) * (0.15 + 0.25 * u()) : 1;
    if (confound === 'fans said to be locked, moved') return side === 'b' ? 1 + (u() < 0.5 ? -1 : 1) * (0.08 + 0.3 * u()) : 1;
    if (confound === 'fans said to be locked, unseen') return side === 'b' ? 1 + (u() - 0.5) * 0.6 : 1;
    return 1 + 0.006 * (u() - 0.5);
  };
  const fans = { a: fanOf('a'), b: fanOf('b') };
  const follows = (side: 'a' | 'b') =>
    confound === 'fans free on both' ||
    (side === 'b' && (confound === 'fans free on one side' || confound === 'fans said to be locked, moved'));
  const loadMin = heavy ? 30 : pick([35, 45, 60]);
  const sides = { a: [] as Made[], b: [] as Made[] };
  let atH = 0;
  for (const side of order) {
    offs[side].push(bench.mountK * normal());
    const mount = offs[side].length;
    for (let k = 0; k < each; k++) {
      sides[side].push({
        side,
        mount,
        mountOffK: offs[side][mount - 1]!,
        atH,
        loadMin,
        power: power[side],
        fan: fans[side],
        fanExponent: 0.35 + 0.3 * u(),
        ...(follows(side) ? { fanRises: 0.3 } : {}),
        ...(confound === 'throttled, seen in the clock alone' && (side === 'a' || size === 0) ? { throttlesAt: 0.93 } : {}),
        seed: seed * 1000 + 50 * sides.a.length + 50 * sides.b.length + 7,
        shows: {
          fan: confound !== 'fans said to be locked, unseen',
          work: confound !== 'throttled, seen in the clock alone' && u() < 0.7,
          clock: true,
          busy: confound === 'one side kept less busy' && side === 'b' ? 70 + 15 * u() : 99,
          mounts: confound !== 'mounts unknown',
        },
      });
      atH += (loadMin + 20) / 60;
    }
    atH += 0.4;
  }
  const free = confound === 'fans free on one side' || confound === 'fans free on both';
  const made = (side: 'a' | 'b'): JudgedSide => ({
    variantId: side,
    name: side === 'a' ? 'stock' : 'mod',
    runs: sides[side].map((of, i) => runOf(bench, of, i + (side === 'a' ? 0 : 100))),
  });
  // Who is not told on which mounts runs were made can know no more than that there was one.
  const seen = confound === 'mounts unknown' ? 1 : mounts;
  const drift = bench.driftKPerH * (middle(sides.b) - middle(sides.a));
  const short = { a: shortBy(bench, 'a', loadMin), b: shortBy(bench, 'b', loadMin) };
  return {
    confound,
    a: made('a'),
    b: made('b'),
    rules: {
      basis: 'rise',
      figure: 'settled-mean',
      practicalK: PRACTICAL_K,
      coverage: 0.95,
      roomBand: null,
      fans: free ? 'as-shipped' : 'locked',
    },
    spots: bench.riseK.map((_, at) => ({
      id: `s${at}`,
      name: at === 0 ? 'chip' : 'memory',
      limitC: 95,
      accuracyK: 1,
      resolutionK: bench.stepK,
      placementK: 0.5,
    })),
    truthK: differenceK,
    forbidden: FORBIDS.includes(confound),
    bestU: Math.hypot(
      bench.mountK * Math.sqrt(2 / seen),
      bench.runK * Math.sqrt(2 / perSide),
      drift,
      // What steps leave that the noise of a run does not dither; every run rounds its own way.
      leftBySteps(bench.stepK, bench.noiseK) * Math.sqrt(2 / perSide),
      short.b - short.a,
      0.15 * Math.abs(power.b - 1) * bench.riseK[0]!,
    ),
    knows: knownSpread(bench, normalFrom(50_000 + seed)),
    hours: atH,
  };
}

const middle = (made: readonly Made[]) => made.reduce((sum, of) => sum + of.atH / made.length, 0);

/** What a run of this length falls short of its settled rise by, K. */
function shortBy(bench: CardBench, side: 'a' | 'b', loadMin: number): number {
  return bench.terms[side].reduce((sum, [share, tau]) => sum + 0.85 * bench.riseK[0]! * share * Math.exp((150 - 60 * loadMin) / tau), 0);
}
