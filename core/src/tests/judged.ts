import {
  eachOutput,
  judgePair,
  type JudgedRun,
  type JudgedSide,
  type JudgedSpot,
  type JudgeRules,
  type PhaseReading,
  type Loss,
  type RunReview,
  type ThrottleReview,
} from '../index.ts';

export const rules: JudgeRules = {
  basis: 'rise',
  figure: 'settled-mean',
  practicalK: 1,
  coverage: 0.95,
  roomBand: { minC: 20, maxC: 25 },
  throughputUnit: 'MB/s',
};
export const spots: JudgedSpot[] = [
  { id: 'top', name: 'Flash, top face', limitC: 85, accuracyK: 0.5, resolutionK: 0.1, placementK: 0.5 },
  { id: 'under', name: 'Flash, underside', limitC: 85, accuracyK: 0.5, resolutionK: 0.1, placementK: 0.5 },
];

export function reading(riseK: number, change: Partial<PhaseReading> = {}): PhaseReading {
  const window = (value: number) => ({
    mean: { value, u: 0.05, dof: 60 },
    n: 300,
    nEffective: 61,
    min: value - 0.3,
    max: value + 0.3,
    p95: value + 0.2,
  });
  return {
    phase: 'load',
    window: { startS: 1500, endS: 1800 },
    chosen: false,
    overIntake: null,
    absolute: window(22 + riseK),
    rise: window(riseK),
    bound: 'settled',
    spikes: 0,
    spikeShare: 0,
    steps: { stepK: 0, scatterK: 0 },
    peakC: 22 + riseK + 0.5,
    settling: {
      settled: true,
      atS: 1400,
      slopeKPerMin: { value: 0, u: 0.01, dof: 298 },
      remainingK: null,
      etaS: 0,
      confirmedInS: 0,
      slowTauS: 240,
      remains: null,
    },
    toGo: null,
    ...change,
  };
}

/** Losses of work by heat, from so many seconds after the load began to the second at which they ended; without one where nothing was lost. */
export function throttledFrom(startS: number | null, endS = 1800, change: Partial<ThrottleReview> = {}): ThrottleReview {
  const loss = { depth: 0.5, limiter: 'thermal', temperatureAtOnsetC: 88, duty: 1 } as const;
  return {
    reference: 6100,
    episodes: startS === null ? [] : [{ ...loss, startS, endS }],
    heldBack: [],
    timeToFirstS: startS,
    fractionOfTime: 0.2,
    performanceLost: 0.1,
    limitC: 88,
    of: 'performance',
    ...change,
  };
}

/** Held back by something else than heat. */
export const heldBackBy = (limiter: Loss['limiter'], startS = 740): Partial<ThrottleReview> => ({
  heldBack: [{ startS, endS: startS + 60, depth: 0.2, limiter, temperatureAtOnsetC: 60, duty: 1 }],
});

let count = 0;
export function run(
  top: number,
  under: number,
  change: Partial<Omit<JudgedRun, 'review'>> & { review?: Partial<RunReview>; load?: Partial<PhaseReading> } = {},
): JudgedRun {
  const n = ++count;
  const { review, load, ...rest } = change;
  return {
    id: `id-${n}`,
    label: `run ${n}`,
    mountNo: n,
    startedAtMs: n * 1000,
    disposition: 'undecided',
    sensors: { top: 'TC 1', under: 'TC 2' },
    heldByPart: [],
    unconfirmed: [],
    overdue: [],
    settings: { Firmware: '1' },
    ...rest,
    review: {
      loads: [],
      uncounted: [],
      atRest: null,
      spots: [
        { spotId: 'top', idle: reading(8), load: reading(top, load), heatPath: null },
        { spotId: 'under', idle: reading(8), load: reading(under, load), heatPath: null },
      ],
      room: { meanC: 22.4, minC: 22.1, maxC: 22.7, driftK: 0.1 },
      throttle: null,
      goneShare: 0,
      ...eachOutput(() => null),
      performance: { value: 6100, u: 1, dof: 50 },
      power: { value: 7.5, u: 0.01, dof: 50 },
      air: null,
      methodVersion: 'test',
      fanMovedShare: null,
      utilisationPercent: 99,
      loadS: 1320,
      loadEndedBy: 'settled',
      locks: [],
      ...review,
    },
  };
}

export function pair(
  aRuns: JudgedRun[],
  bRuns: JudgedRun[],
  change: Partial<JudgeRules> = {},
  history: { sd: number; dof: number } | null = null,
  others: JudgedSide[] = [],
) {
  return judgePair({
    a: { variantId: 'bare', name: 'bare', runs: aRuns },
    b: { variantId: 'lid', name: 'lid', runs: bRuns },
    spots,
    rules: { ...rules, ...change },
    history: history ? { top: history, under: history } : {},
    others,
  });
}

/** Runs in turn, A B B A, so that nothing speaks against the order. */
export function fair(): [JudgedRun[], JudgedRun[]] {
  count = 0;
  const [a1, b1, b2, a2, a3, b3] = [run(43.4, 44.5), run(40.1, 49.2), run(40.3, 49.0), run(43.6, 44.7), run(43.5, 44.4), run(39.9, 48.8)];
  return [
    [a1, a2, a3],
    [b1, b2, b3],
  ];
}
