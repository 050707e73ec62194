import {
  judgePair,
  type JudgedRun,
  type JudgedSide,
  type JudgedSpot,
  type JudgeRules,
  type PhaseReading,
  type Loss,
  type RunReview,
  type ThrottleReview,
} from '@red-ember/core';
import { reading, review as made } from './reviews.ts';

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
      ...made(top, under, { throttle: null, loadS: 1320 }),
      spots: [
        { spotId: 'top', idle: reading(8), load: reading(top, load), heatPath: null },
        { spotId: 'under', idle: reading(8), load: reading(under, load), heatPath: null },
      ],
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
