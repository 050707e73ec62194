import { InsufficientDataError } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { compare, type Comparison } from '../uncertainty/compare.ts';
import { typeB } from '../uncertainty/typeB.ts';
import type { JudgedRun } from './types.ts';

/** What is read beside temperature. */
export type OutcomeKey = 'noise' | 'fan' | 'clock' | 'throughput' | 'time-to-throttle' | 'power';

export interface OutcomeKind {
  label: string;
  /** Unit where the run's channel does not say otherwise. */
  unit: string;
  better: 'low' | 'high';
  /** Differences below this do not matter: so much, or so large a share of the level. */
  practical: { absolute: number } | { share: number };
  /** Smallest step in which it is read: so much, or a share. */
  resolution: { absolute: number } | { share: number };
  /** Scatter between runs assumed for a side that has one run only: so much, or a share. Our own figures. */
  assumed: { absolute: number } | { share: number };
  read(run: JudgedRun): Estimate | null;
}

const minutes = (run: JudgedRun): Estimate | null => {
  const first = run.review.throttle?.timeToFirstS;
  return first == null ? null : { value: first / 60, u: 0, dof: Infinity };
};

export const OUTCOMES: Record<OutcomeKey, OutcomeKind> = {
  noise: {
    label: 'noise',
    unit: 'dB(A)',
    better: 'low',
    practical: { absolute: 1 },
    resolution: { absolute: 0.1 },
    assumed: { absolute: 0.5 },
    read: (run) => run.review.noise,
  },
  fan: {
    label: 'fan',
    unit: '1/min',
    better: 'low',
    practical: { share: 0.03 },
    resolution: { share: 0.003 },
    assumed: { share: 0.01 },
    read: (run) => run.review.fan,
  },
  clock: {
    label: 'clock',
    unit: 'MHz',
    better: 'high',
    practical: { share: 0.005 },
    resolution: { absolute: 5 },
    assumed: { share: 0.003 },
    read: (run) => run.review.clock,
  },
  throughput: {
    label: 'throughput',
    unit: '',
    better: 'high',
    practical: { share: 0.01 },
    resolution: { share: 0.001 },
    assumed: { share: 0.005 },
    // What a part does while it is gone is nothing, and no sample says so.
    read: ({ review: { performance, goneShare } }) =>
      performance && { ...performance, value: performance.value * (1 - goneShare), u: performance.u * (1 - goneShare) },
  },
  'time-to-throttle': {
    label: 'time to throttle',
    unit: 'min',
    better: 'high',
    practical: { share: 0.05 },
    resolution: { absolute: 0.1 },
    assumed: { share: 0.1 },
    read: minutes,
  },
  power: {
    label: 'power',
    unit: 'W',
    better: 'low',
    practical: { share: 0.02 },
    resolution: { share: 0.002 },
    assumed: { share: 0.005 },
    read: (run) => run.review.power,
  },
};

const sizeOf = (size: { absolute: number } | { share: number }, level: number) =>
  'absolute' in size ? size.absolute : size.share * Math.abs(level);

export const estimatesOf = (runs: readonly JudgedRun[], key: OutcomeKey) => runs.flatMap((run) => OUTCOMES[key].read(run) ?? []);

export interface OutcomeComparison {
  comparison: Comparison;
  /** Differences below this do not matter, in the unit of the outcome. */
  practical: number;
  /** A side with one run was lent a stated scatter. */
  assumed: boolean;
}

/** Compares an outcome between two sets of runs; null where a side did not record it. */
export function compareOutcome(
  a: readonly JudgedRun[],
  b: readonly JudgedRun[],
  key: OutcomeKey,
  coverage: number,
): OutcomeComparison | null {
  const kind = OUTCOMES[key];
  const [pa, pb] = [estimatesOf(a, key), estimatesOf(b, key)];
  if (pa.length === 0 || pb.length === 0) return null;
  const level = pa.reduce((sum, estimate) => sum + estimate.value / pa.length, 0);
  const assumed = pa.length === 1 || pb.length === 1;
  const practical = sizeOf(kind.practical, level);
  try {
    const comparison = compare({
      a: pa,
      b: pb,
      practicalK: practical,
      coverage,
      independent: ['a', 'b'].map((side) => ({ name: `resolution, ${side}`, u: typeB(sizeOf(kind.resolution, level) / 2, 'rectangular') })),
      ...(assumed ? { repeatability: { sd: sizeOf(kind.assumed, level), dof: 4 } } : {}),
    });
    return { comparison, practical, assumed };
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}
