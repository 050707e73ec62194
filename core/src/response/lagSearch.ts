import { correlationFactor } from '../series/autocorrelation.ts';
import type { Binned } from './bins.ts';

/** A sum of lags as it fits a set of records. */
export interface LagFit {
  /** Index of each lag in the grid it was chosen from. */
  lags: number[];
  /** K/W of each lag; none of the part's own below zero. */
  gains: number[];
  /** Rise without any power, K. */
  restK: number;
  squares: number;
  /** Inverse of the information of (gains…, rest), in units of the residual variance. */
  inverse: number[][];
}

/** Solves a small symmetric system and inverts it (Gauss–Jordan with pivots); null where it is singular. */
function inverted(matrix: readonly (readonly number[])[]): number[][] | null {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r]![c]!) > Math.abs(rows[pivot]![c]!)) pivot = r;
    const top = rows[pivot]!;
    if (!(Math.abs(top[c]!) > 1e-12 * Math.abs(matrix[c]![c]!) + 1e-300)) return null;
    [rows[pivot], rows[c]] = [rows[c]!, top];
    const by = top[c]!;
    for (let j = 0; j < 2 * n; j++) top[j]! /= by;
    for (let r = 0; r < n; r++) {
      const factor = rows[r]![c]!;
      if (r === c || factor === 0) continue;
      for (let j = 0; j < 2 * n; j++) rows[r]![j]! -= factor * top[j]!;
    }
  }
  return rows.map((row) => row.slice(n));
}

/** Sums of products of a record's columns: lags, one, what fades, rise. */
interface Gram {
  m: number;
  own: number;
  /** Of one bin, K. */
  weighK: number;
  weightOfBefore: number;
  at(i: number, j: number): number;
}

function gramOf(record: Binned): Gram {
  const { n, lagged, fading, rise } = record;
  const one = new Float64Array(n).fill(1);
  const columns = [...lagged, one, ...fading, rise];
  const size = columns.length;
  const sums = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = i; j < size; j++) {
      const [p, q] = [columns[i]!, columns[j]!];
      let sum = 0;
      for (let k = 0; k < n; k++) sum += p[k]! * q[k]!;
      sums[i * size + j] = sum;
      sums[j * size + i] = sum;
    }
  return {
    m: lagged.length,
    own: record.own,
    weighK: weighOf(record),
    weightOfBefore: weightOfBefore(record),
    at: (i, j) => sums[i * size + j]!,
  };
}

/** Rise without any power is that of neighbours and of what was not measured: some kelvin, and no better known before than so. */
const REST_K = 4;
/** So near to settled is a part that stood at rest when its record began, K; of one in the middle of a load nobody knows. */
const BEFORE_AT_REST_K = 3;
const BEFORE_K = 60;
/**
 * A bin tells a rise to about so much, K, with what goes on from bin to bin: what the three above are weighed against. There are many bins,
 * so that they count only where those tell nothing: a lag that fades over hours looks like a rest.
 */
const WEIGH_K = 2;
/** Readings by hand are few and far apart, each with an error of its own and none that goes on. */
const WEIGH_BY_HAND_K = 0.5;

const weighOf = ({ byHand }: Pick<Binned, 'byHand'>): number => (byHand ? WEIGH_BY_HAND_K : WEIGH_K);

const weightOfBefore = (record: Pick<Binned, 'byHand' | 'beganAtRest'>): number =>
  (weighOf(record) / (record.beganAtRest ? BEFORE_AT_REST_K : BEFORE_K)) ** 2;

/** What is known of the rise without any of what drives it: none, a few kelvin at most, or nothing. */
export type RestKnown = 'none' | 'small' | 'open';

/** Least squares over all records with the lags of one choice: gains and rest in common, what fades of the state before for each by itself. */
function fitted(grams: readonly Gram[], lags: readonly number[], rest: RestKnown): LagFit | null {
  const k = lags.length;
  const common = rest !== 'none' ? k + 1 : k;
  const normal = Array.from({ length: common }, () => Array.from({ length: common }, () => 0));
  const right = Array.from({ length: common }, () => 0);
  let squares = 0;
  for (const { m, weightOfBefore: before, at } of grams) {
    const cols = [...lags, ...(rest !== 'none' ? [m] : [])];
    const own = lags.map((lag) => m + 1 + lag);
    const y = 2 * m + 1;
    const block = inverted(own.map((i) => own.map((j) => at(i, j) + (i === j ? before : 0))));
    if (!block) return null;
    const apply = (column: number) => own.map((_, i) => own.reduce((sum, j, b) => sum + block[i]![b]! * at(j, column), 0));
    const applied = cols.map(apply);
    const appliedY = apply(y);
    const less = (column: number, by: readonly number[]) => own.reduce((sum, j, b) => sum + at(j, column) * by[b]!, 0);
    cols.forEach((p, i) => {
      cols.forEach((q, j) => (normal[i]![j]! += at(p, q) - less(p, applied[j]!)));
      right[i]! += at(p, y) - less(p, appliedY);
    });
    squares += at(y, y) - less(y, appliedY);
  }
  if (rest === 'small') normal[k]![k]! += (Math.max(...grams.map(({ weighK }) => weighK)) / REST_K) ** 2;
  const inverse = inverted(normal);
  if (!inverse) return null;
  const solution = inverse.map((row) => row.reduce((sum, value, j) => sum + value * right[j]!, 0));
  const gains = solution.slice(0, k);
  // A part beside it may cool it, by the air that its own fans move.
  if (gains.some((gain, j) => !(gain >= 0 || (lags[j]! >= grams[0]!.own && Number.isFinite(gain))))) return null;
  const explained = solution.reduce((sum, value, i) => sum + value * right[i]!, 0);
  return { lags: [...lags], gains, restK: rest !== 'none' ? solution[k]! : 0, squares: Math.max(0, squares - explained), inverse };
}

function* choicesOf(count: number, of: number, from = 0): Generator<number[]> {
  if (of === 0) yield [];
  else for (let i = from; i < count; i++) for (const rest of choicesOf(count, of - 1, i + 1)) yield [i, ...rest];
}

/** Rise by a fit, bin by bin, with what fades of the state before fitted to the record itself; or without, where nobody has seen the record. */
export function curveOf(record: Binned, { lags, gains, restK }: Pick<LagFit, 'lags' | 'gains' | 'restK'>): Float64Array {
  const curve = new Float64Array(record.n).fill(restK);
  lags.forEach((lag, j) => record.lagged[lag]!.forEach((value, k) => (curve[k]! += gains[j]! * value)));
  return curve;
}

/** Residuals of a record, what fades of the state before taken out by least squares. */
export function residualsOf(record: Binned, fit: LagFit): Float64Array {
  const left = curveOf(record, fit).map((value, k) => record.rise[k]! - value);
  const own = fit.lags.map((lag) => record.fading[lag]!);
  const dot = (p: Float64Array, q: Float64Array) => p.reduce((sum, value, k) => sum + value * q[k]!, 0);
  const block = inverted(own.map((p, i) => own.map((q, j) => dot(p, q) + (i === j ? weightOfBefore(record) : 0))));
  if (!block) return left;
  const right = own.map((p) => dot(p, left));
  const sizes = block.map((row) => row.reduce((sum, value, j) => sum + value * right[j]!, 0));
  return left.map((value, k) => value - own.reduce((sum, p, j) => sum + sizes[j]! * p[k]!, 0));
}

/** The best fit of each number of lags, and every fit that comes close to it. */
export interface Searched {
  best: LagFit;
  /** All fits with as many lags, for what their differences say of the gain. */
  rivals: LagFit[];
  n: number;
  /** How many bins count as one, since residuals go on from bin to bin. */
  alike: number;
  /** Residual variance, K². */
  variance: number;
  /** Bins beyond what is fitted to them. */
  dof: number;
}

const MOST_LAGS = 3;

/** The one that misses by least. */
export const bestOf = (fits: readonly LagFit[]): LagFit => fits.reduce((least, fit) => (fit.squares < least.squares ? fit : least));

/** A fit for each of the lags of a part beside it while the part's own stay as they are, those that are none left out. */
export function fitsByNeighbourLag(records: readonly Binned[], rest: RestKnown, ownLags: readonly number[]): LagFit[] {
  const grams = records.map(gramOf);
  const { own, lagged } = records[0]!;
  return lagged.slice(own).flatMap((_, j) => fitted(grams, [...ownLags, own + j], rest) ?? []);
}

/** How lags are searched. */
export interface SearchOptions {
  mostLags?: number;
  /** Lags of the part beside it that every fit has, after its own. */
  always?: readonly number[];
}

/**
 * Searches the part's own lags out of a grid; the number of them by the Bayesian criterion over the bins that count.
 *
 * @returns null where none fits
 */
export function searchLags(
  records: readonly Binned[],
  rest: RestKnown,
  { mostLags = MOST_LAGS, always = [] }: SearchOptions = {},
): Searched | null {
  const grams = records.map(gramOf);
  const count = records[0]!.own;
  const n = records.reduce((sum, record) => sum + record.n, 0);
  const byNumber: { best: LagFit; all: LagFit[] }[] = [];
  for (let k = 1; k <= Math.min(mostLags, count); k++) {
    const all: LagFit[] = [];
    for (const lags of choicesOf(count, k)) {
      const fit = fitted(grams, [...lags, ...always], rest);
      if (fit) all.push(fit);
    }
    if (all.length === 0) continue;
    byNumber.push({ best: bestOf(all), all });
  }
  if (byNumber.length === 0) return null;
  const finest = byNumber.at(-1)!.best;
  const alike = records.reduce((sum, record) => sum + (record.n / n) * correlationFactor(residualsOf(record, finest)), 0);
  const counting = Math.max(8, n / alike);
  const criterion = ({ best }: { best: LagFit }) =>
    counting * Math.log(Math.max(best.squares, 1e-12) / n) + (2 * best.lags.length + 1) * Math.log(counting);
  const { best, all } = byNumber.reduce((least, one) => (criterion(one) < criterion(least) ? one : least));
  const dof = Math.max(1, n - 2 * best.lags.length - 1 - records.length * best.lags.length);
  return { best, rivals: all, n, alike, variance: best.squares / dof, dof };
}
