import { InsufficientDataError, requireNotNegative, requireProbability } from '../errors.ts';
import { requireEstimate, welchSatterthwaite, type Estimate } from '../estimate.ts';
import { combineUncertainty, type UncertaintyBudget, type UncertaintyComponent } from './combineUncertainty.ts';
import { repeatsNeeded } from './repeatsNeeded.ts';
import { repeatsToShowAlike } from './repeatsToShowAlike.ts';

export type Verdict = 'a-cooler' | 'b-cooler' | 'equivalent' | 'no-call';

export interface Comparison {
  /** b − a, K. */
  difference: Estimate;
  /** At the asked coverage. */
  interval: [number, number];
  verdict: Verdict;
  /** Runs per side that would let a difference of the size seen be told from zero; null unless the verdict is 'no-call', and
   *  null where no number would do. */
  repeatsToCall: number | null;
  /** Runs per side that would show a difference of the size seen to lie inside ±practicalK; null as above. */
  repeatsToShowAlike: number | null;
  budget: UncertaintyBudget;
}

export interface CompareInput {
  /** One settled reading per run. */
  a: Estimate[];
  b: Estimate[];
  /** Smaller differences do not matter, K. */
  practicalK: number;
  /** Default 0.95. */
  coverage?: number;
  /** The bench's pooled history of run-to-run scatter. */
  repeatability?: { sd: number; dof: number };
  /** Both sides scatter alike, so that one scatter serves both though nothing is known beside them; default false. */
  oneScatter?: boolean;
  /** Lines that do not cancel between the sides; each enters the variance of the difference once. */
  independent?: { name: string; u: number; dof?: number }[];
  /** false leaves out how many repeats would tell, which costs more than all the rest; default true. */
  advice?: boolean;
}

/** No number of runs above this is offered as advice. */
const MOST_REPEATS = 1000;

interface Side {
  n: number;
  mean: number;
  /** Sum of squares about the mean, n − 1 dof. */
  squares: number;
  /** Σu_i²/n²: what the runs' own doubt amounts to in the mean. */
  floorVariance: number;
  floorDof: number;
}

function describe(runs: Estimate[], name: string): Side {
  if (runs.length === 0) throw new InsufficientDataError(`side ${name} has no runs`);
  runs.forEach((run, i) => requireEstimate(run, `${name}[${i}]`));
  const n = runs.length;
  const mean = runs.reduce((sum, run) => sum + run.value / n, 0);
  return {
    n,
    mean,
    squares: runs.reduce((sum, run) => sum + (run.value - mean) ** 2, 0),
    floorVariance: runs.reduce((sum, run) => sum + run.u ** 2, 0) / n ** 2,
    floorDof: welchSatterthwaite(runs),
  };
}

/** Scatter pooled over everything known: Σν s²/Σν, with Σν. */
function pool(sides: Side[], history?: { sd: number; dof: number }): { variance: number; dof: number } {
  const dof = sides.reduce((sum, side) => sum + side.n - 1, 0) + (history?.dof ?? 0);
  if (history && history.dof === Infinity) return { variance: history.sd ** 2, dof };
  const squares = sides.reduce((sum, side) => sum + side.squares, 0) + (history ? history.dof * history.sd ** 2 : 0);
  return { variance: dof > 0 ? squares / dof : 0, dof };
}

function scatterComponents(a: Side, b: Side, history: { sd: number; dof: number } | undefined, one: boolean): UncertaintyComponent[] {
  const pooled = history || one ? pool([a, b], history) : null;
  const components: UncertaintyComponent[] = [];
  let pooledVariance = 0;
  for (const [side, label] of [
    [a, 'a'],
    [b, 'b'],
  ] as const) {
    const variance = (pooled ? pooled.variance : side.squares / (side.n - 1)) / side.n;
    if (side.floorVariance > variance) {
      components.push({ name: `doubt of the readings, ${label}`, u: Math.sqrt(side.floorVariance), dof: side.floorDof });
    } else if (pooled) {
      pooledVariance += variance;
    } else {
      components.push({ name: `scatter between runs, ${label}`, u: Math.sqrt(variance), dof: variance > 0 ? side.n - 1 : Infinity });
    }
  }
  if (pooled && pooledVariance > 0)
    components.push({ name: 'scatter between runs, pooled', u: Math.sqrt(pooledVariance), dof: pooled.dof });
  if (components.length === 0) components.push({ name: 'scatter between runs, pooled', u: 0 });
  return components;
}

function judge(difference: number, [low, high]: [number, number], practicalK: number): Verdict {
  if (low >= -practicalK && high <= practicalK) return 'equivalent';
  if (low > 0 || high < 0) return difference > 0 ? 'a-cooler' : 'b-cooler';
  return 'no-call';
}

function repeatsToCall(difference: number, sd: number, independentU: number, coverage: number): number | null {
  const detect = Math.abs(difference);
  if (detect === 0 || sd === 0 || 2 * independentU > detect) return null;
  // By the normal approximation, far beyond anything that could be run: nothing to be searched for.
  if (16 * (sd / detect) ** 2 > 10 * MOST_REPEATS) return null;
  const n = repeatsNeeded({ sd, detect, alpha: 1 - coverage, power: 0.8 });
  return n > MOST_REPEATS ? null : n;
}

/**
 * Difference between two sets of runs, with its doubt and a verdict.
 *
 * A side's variance is max(s²/n, Σu_i²/n²): a run's own u is already inside the scatter between runs and sets only a floor.
 * With `repeatability`, history and both sides are pooled and serve both, with `oneScatter` both sides are; without either each side
 * keeps its own scatter (Welch).
 * An interval inside ±practicalK is 'equivalent', even where it also excludes zero (methods §5).
 *
 * Components common to both sides (same sensor, same room probe) cancel and are not passed. Where u is 0, dof is Infinity:
 * pass the sensor's resolution as an independent line.
 *
 * @throws InsufficientDataError an empty side, or a side of one run without `repeatability` (two of them with `oneScatter`)
 * @throws RangeError negative practicalK, u or sd, dof not above zero, coverage outside 0..1
 * @see JCGM 100:2008; Welch 1947, Biometrika 34
 */
export function compare(input: CompareInput): Comparison {
  const { practicalK, coverage = 0.95, repeatability, oneScatter = false, independent = [], advice = true } = input;
  requireNotNegative(practicalK, 'practicalK');
  requireProbability(coverage, 'coverage');
  if (repeatability) requireEstimate({ value: 0, u: repeatability.sd, dof: repeatability.dof }, 'repeatability');
  const a = describe(input.a, 'a');
  const b = describe(input.b, 'b');
  if (!repeatability && (oneScatter ? a.n + b.n < 3 : a.n === 1 || b.n === 1)) {
    throw new InsufficientDataError('a side with one run has no scatter of its own: pass the repeatability of the bench');
  }
  const budget = combineUncertainty([...scatterComponents(a, b, repeatability, oneScatter), ...independent], { coverage });
  const difference = b.mean - a.mean;
  const interval: [number, number] = [difference - budget.expanded, difference + budget.expanded];
  const verdict = judge(difference, interval, practicalK);
  const sd = Math.sqrt(pool([a, b], repeatability).variance);
  const independentU = Math.hypot(0, ...independent.map((line) => line.u));
  return {
    difference: { value: difference, u: budget.u, dof: budget.dof },
    interval,
    verdict,
    repeatsToCall: advice && verdict === 'no-call' ? repeatsToCall(difference, sd, independentU, coverage) : null,
    repeatsToShowAlike: advice && verdict === 'no-call' ? repeatsToShowAlike({ sd, difference, practicalK, independentU, coverage }) : null,
    budget,
  };
}
