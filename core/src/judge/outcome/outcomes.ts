import { InsufficientDataError } from '../../errors.ts';
import type { Estimate } from '../../estimate.ts';
import { decimalsFor } from '../../format/measured.ts';
import { compare, type Comparison } from '../../uncertainty/compare.ts';
import { typeB } from '../../uncertainty/typeB.ts';
import { mean } from '../../mean.ts';
import { scatterFor, withScatterOf } from '../figure/scatter.ts';
import type { RunReview } from '../../review/types.ts';
import type { JudgedRun, JudgedSide, JudgeRules, KnownOutcome, OutcomeKey, OwnFigure, OwnOutcome, Scatter } from '../types.ts';

export interface OutcomeKind {
  label: string;
  /** Unit where the run's channel does not say otherwise. */
  unit: string;
  better: 'low' | 'high';
  /** What the better side does, before the amount: "is quieter by". */
  does: string;
  /** Decimals in a table of many. */
  decimals: number;
  /** Asked of the fans' rule: it moves with the fans, or is one. */
  ofFans?: true;
  /** Why it is no merit of a cooler: it is shown and takes no side. */
  noMerit?: string;
  /** Differences below this do not matter: so much, or so large a share of the level. */
  practical: { absolute: number } | { share: number };
  /** Smallest step in which it is read: so much, or a share. */
  resolution: { absolute: number } | { share: number };
  /** Scatter between runs assumed for a side that has one run only: so much, or a share. Our own figures. */
  assumed: { absolute: number } | { share: number };
  read(run: JudgedRun): Estimate | null;
}

const minutes = (run: JudgedRun): Estimate | null => {
  const first = run.review.throttle?.timeToFirstS ?? null;
  return first === null ? null : { value: first / 60, u: 0, dof: Infinity };
};

/** Work over the load: what a part does while it is gone is nothing, and no sample says so. */
export function workDone({ performance, goneShare }: Pick<RunReview, 'performance' | 'goneShare'>): Estimate | null {
  return performance && { ...performance, value: performance.value * (1 - goneShare), u: performance.u * (1 - goneShare) };
}

export const OUTCOMES: Record<KnownOutcome, OutcomeKind> = {
  noise: {
    label: 'noise',
    unit: 'dB(A)',
    better: 'low',
    does: 'is quieter by',
    decimals: 1,
    ofFans: true,
    practical: { absolute: 1 },
    resolution: { absolute: 0.1 },
    assumed: { absolute: 0.5 },
    read: (run) => run.review.noise,
  },
  whine: {
    label: 'coil whine',
    unit: 'dB(A)',
    better: 'low',
    does: 'whines less by',
    decimals: 1,
    noMerit: 'the coils sing with the load that they carry; no cooler earns it',
    practical: { absolute: 1 },
    resolution: { absolute: 0.1 },
    // Wider than a fan's: it hangs on where the ear of the meter stands.
    assumed: { absolute: 1 },
    read: (run) => run.review.whine,
  },
  fan: {
    label: 'fan',
    unit: 'rpm',
    better: 'low',
    does: 'turns its fan slower by',
    decimals: 0,
    ofFans: true,
    practical: { share: 0.03 },
    resolution: { share: 0.003 },
    assumed: { share: 0.01 },
    read: (run) => run.review.fan,
  },
  clock: {
    label: 'clock',
    unit: 'MHz',
    better: 'high',
    does: 'clocks higher by',
    decimals: 0,
    practical: { share: 0.005 },
    resolution: { absolute: 5 },
    assumed: { share: 0.003 },
    read: (run) => run.review.clock,
  },
  throughput: {
    label: 'throughput',
    unit: '',
    better: 'high',
    does: 'does more work by',
    decimals: 1,
    practical: { share: 0.01 },
    resolution: { share: 0.001 },
    assumed: { share: 0.005 },
    read: ({ review }) => workDone(review),
  },
  'time-to-throttle': {
    label: 'time to throttle',
    unit: 'min',
    better: 'high',
    does: 'throttles later by',
    decimals: 1,
    practical: { share: 0.05 },
    resolution: { absolute: 0.1 },
    assumed: { share: 0.1 },
    read: minutes,
  },
  power: {
    label: 'power',
    unit: 'W',
    better: 'low',
    does: 'draws less by',
    decimals: 1,
    noMerit: 'what both sides had to shed; less is not better cooling',
    practical: { share: 0.02 },
    resolution: { share: 0.002 },
    assumed: { share: 0.005 },
    read: (run) => run.review.power,
  },
};

const sizeOf = (size: { absolute: number } | { share: number }, level: number) =>
  'absolute' in size ? size.absolute : size.share * Math.abs(level);

const OWN = 'own:';
export const ownOutcome = (figureId: string): OwnOutcome => `${OWN}${figureId}`;
/** Id of the study's own figure that an outcome is; null for one of the known ones. */
export const ownIdOf = (key: string): string | null => (key.startsWith(OWN) ? key.slice(OWN.length) : null);

/** A figure of one's own as it came out in a run: at the load that is looked at, else of the run as a whole, else at its last load. */
function ownRead(figure: OwnFigure, { own = [], atLoad, review }: JudgedRun): Estimate | null {
  const of = (load: string | null) => own.find((value) => value.figureId === figure.id && value.load === load);
  const found = atLoad === undefined ? (of(null) ?? of(review.loads.at(-1)?.name ?? null)) : of(atLoad);
  return found ? { value: found.value, u: typeB(figure.doubt, 'rectangular'), dof: Infinity } : null;
}

function kindOfOwn(figure: OwnFigure): OutcomeKind {
  return {
    label: figure.name,
    unit: figure.unit,
    better: figure.better === 'high' ? 'high' : 'low',
    does: `is better in ${figure.name} by`,
    decimals: decimalsFor(figure.practical),
    ...(figure.better === 'neither' ? { noMerit: 'nobody said which way of it is better' } : {}),
    practical: { absolute: figure.practical },
    // What one value may be off stands in its own doubt.
    resolution: { absolute: 0 },
    assumed: { absolute: Math.max(figure.practical, figure.doubt) },
    read: (run) => ownRead(figure, run),
  };
}

type WithOwn = Pick<JudgeRules, 'own'>;

/** How an outcome is read and compared. @throws RangeError a figure that the study does not name any more */
export function outcomeKind(key: OutcomeKey, { own = [] }: WithOwn): OutcomeKind {
  const id = ownIdOf(key);
  if (id === null) return OUTCOMES[key as KnownOutcome];
  const figure = own.find((candidate) => candidate.id === id);
  if (!figure) throw new RangeError(`there is no figure ${id} in this study`);
  return kindOfOwn(figure);
}

/** Every outcome that a study can have: the known ones, then its own. */
export const outcomeKeys = ({ own = [] }: WithOwn): OutcomeKey[] => [
  ...(Object.keys(OUTCOMES) as KnownOutcome[]),
  ...own.map(({ id }) => ownOutcome(id)),
];

export const estimatesOf = (runs: readonly JudgedRun[], kind: OutcomeKind) => runs.flatMap((run) => kind.read(run) ?? []);

export interface OutcomeComparison {
  comparison: Comparison;
  /** Differences below this do not matter, in the unit of the outcome. */
  practical: number;
  /** A side with one run was lent a stated scatter. */
  assumed: boolean;
}

/** Scatter between runs that stands in for an outcome of which a side has one reading, at a level. */
export const assumedScatter = (kind: OutcomeKind, level: number): Scatter => ({ sd: sizeOf(kind.assumed, level), dof: 4 });

/**
 * Compares readings of an outcome, one a run; null where a side has none, or too few to tell.
 *
 * @param others readings of the study's other variants, whose scatter is pooled in
 */
export function compareReadings(
  a: readonly Estimate[],
  b: readonly Estimate[],
  kind: OutcomeKind,
  coverage: number,
  others: readonly (readonly Estimate[])[] = [],
): OutcomeComparison | null {
  if (a.length === 0 || b.length === 0) return null;
  const level = mean(a.map((estimate) => estimate.value));
  const { lent, shared } = scatterFor(a, b, withScatterOf(null, others), assumedScatter(kind, level));
  const practical = sizeOf(kind.practical, level);
  try {
    const comparison = compare({
      a: [...a],
      b: [...b],
      practicalK: practical,
      coverage,
      independent: ['a', 'b'].map((side) => ({ name: `resolution, ${side}`, u: typeB(sizeOf(kind.resolution, level) / 2, 'rectangular') })),
      ...(lent ? { repeatability: { sd: lent.sd, dof: lent.dof } } : {}),
      oneScatter: shared,
    });
    return { comparison, practical, assumed: lent?.assumed ?? false };
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}

/** Compares an outcome between two sets of runs; null where a side did not record it. */
export function compareOutcome(
  a: readonly JudgedRun[],
  b: readonly JudgedRun[],
  kind: OutcomeKind,
  coverage: number,
  others: readonly JudgedSide[] = [],
): OutcomeComparison | null {
  return compareReadings(
    estimatesOf(a, kind),
    estimatesOf(b, kind),
    kind,
    coverage,
    others.map((side) => estimatesOf(side.runs, kind)),
  );
}
