import { dot } from '../dot.ts';
import { centre, decaying, spacingOf, type Spacing } from './columns.ts';

/** Fast time constants that are tried beside each, before the best is refined. */
const FAST = 24;
/** A slow time constant is at least so many times the fast one. */
export const APART = 1.25;

/** What remains after x: fast·e^{−x/τf} + bend·(x/τf)·e^{−x/τf} + slow·e^{−x/τs}; `bend` moves the fast time constant a little. */
export interface LateCurve {
  fastTau: number;
  slowTau: number;
  fast: number;
  bend: number;
  slow: number;
}

export const CONSTANT: LateCurve = { fastTau: 1, slowTau: 1, fast: 0, bend: 0, slow: 0 };

export function amountAt({ fastTau, slowTau, fast, bend, slow }: LateCurve, x: number): number {
  return (fast + (bend * x) / fastTau) * Math.exp(-x / fastTau) + slow * Math.exp(-x / slowTau);
}

/** Seconds after x at which no more than `toleranceK` is left. */
export function timeTo(curve: LateCurve, x: number, toleranceK: number): number {
  const beyond = (s: number) => Math.abs(amountAt(curve, x + s)) > toleranceK;
  if (!beyond(0)) return 0;
  let [low, high] = [0, curve.slowTau];
  while (beyond(high)) [low, high] = [high, 2 * high];
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2;
    if (beyond(middle)) low = middle;
    else high = middle;
  }
  return high;
}

/** By how much the mean over the last `readS` before x lies above the amount at x. */
export function meanBehind(curve: LateCurve, x: number, readS: number): number {
  if (readS <= 0) return 0;
  const looks = 20;
  let total = 0;
  for (let k = 0; k < looks; k++) total += amountAt(curve, Math.max(0, x - (readS * (k + 0.5)) / looks));
  return total / looks - amountAt(curve, x);
}

/** A time constant's column −e^{−x/τ} with the asymptote taken out, and its own square. */
interface Column {
  tau: number;
  col: Float64Array;
  gg: number;
}

/** Columns over one set of points. Each is worked out once, for both ways in which an approach may go and for all that is asked of it. */
export class Columns {
  private readonly spacing: Spacing;
  private readonly known = new Map<number, Column>();

  constructor(readonly x: Float64Array) {
    this.spacing = spacingOf(x);
  }

  of(tau: number): Column {
    let found = this.known.get(tau);
    if (!found) {
      const col = decaying(this.x, this.spacing, tau);
      for (let i = 0; i < col.length; i++) col[i] = -col[i]!;
      centre(col);
      found = { tau, col, gg: dot(col, col) };
      this.known.set(tau, found);
    }
    return found;
  }

  /** −(x/τ)·e^{−x/τ}, the asymptote taken out: along it the time constant moves a little. */
  bent(tau: number): Float64Array {
    const col = decaying(this.x, this.spacing, tau);
    for (let i = 0; i < col.length; i++) col[i] = (-col[i]! * this.x[i]!) / tau;
    return centre(col);
  }
}

/** Solves a symmetric system of up to three unknowns for several right sides at once; null where its columns cannot be told apart. */
function solve(gram: readonly number[][], rights: readonly number[][]): number[][] | null {
  const n = gram.length;
  const wide = n + rights.length;
  const a: number[][] = [];
  for (let i = 0; i < n; i++) {
    const row = gram[i]!.slice();
    for (const right of rights) row.push(right[i]!);
    a.push(row);
  }
  for (let k = 0; k < n; k++) {
    const pivot = a[k]!;
    if (!(pivot[k]! > 1e-11 * gram[k]![k]!)) return null;
    for (let i = k + 1; i < n; i++) {
      const row = a[i]!;
      const share = row[k]! / pivot[k]!;
      for (let j = k; j < wide; j++) row[j] = row[j]! - share * pivot[j]!;
    }
  }
  const solved: number[][] = [];
  for (let at = n; at < wide; at++) {
    const c: number[] = gram.map(() => 0);
    for (let k = n - 1; k >= 0; k--) {
      let value = a[k]![at]!;
      for (let j = k + 1; j < n; j++) value -= a[k]![j]! * c[j]!;
      c[k] = value / a[k]![k]!;
    }
    solved.push(c);
  }
  return solved;
}

function sum(p: readonly number[], q: readonly number[]): number {
  let total = 0;
  for (let i = 0; i < p.length; i++) total += p[i]! * q[i]!;
  return total;
}

/** Golden-section search: where `f` was seen to be least, after so many looks inside the bracket. */
export function golden(low: number, high: number, looks: number, f: (at: number) => number): number {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [p, q] = [high - ratio * (high - low), low + ratio * (high - low)];
  let [left, right] = [f(p), f(q)];
  for (let k = 2; k < looks; k++) {
    if (left < right) {
      [high, q, right] = [q, p, left];
      p = high - ratio * (high - low);
      left = f(p);
    } else {
      [low, p, left] = [p, q, right];
      q = low + ratio * (high - low);
      right = f(q);
    }
  }
  return left < right ? p : q;
}

/** The best curve of one slow time constant whose parts go one way. */
export interface Profile {
  squares: number;
  curve: LateCurve;
}

/** The best pair so far; changed in place, since there are thousands. */
interface Best {
  squares: number;
  fastTau: number;
  fast: number;
  slow: number;
}

function keep(best: Best, squares: number, fastTau: number, fast: number, slow: number): number {
  if (squares < best.squares) [best.squares, best.fastTau, best.fast, best.slow] = [squares, fastTau, fast, slow];
  return squares;
}

/** A column with its product with the values. */
interface Part extends Column {
  r: number;
}

/** The fast part, the same moved a little, and the slow one: their products, what they share with the values, and what each leaves at the end. */
interface Span {
  products: number[][];
  along: number[];
  g: number[];
}

/** Which parts of a span are used together: all, the two that are apart, a fast one alone, the slow one alone. */
const TOGETHER = [[0, 1, 2], [0, 2], [0, 1], [2]] as const;

/** The points as they are searched: `y` turned so that the approach rises. */
export class LateSearch {
  readonly total: number;
  /** Fast time constants that are tried beside every slow one. */
  private readonly fast: Part[];
  private readonly spans = new Map<LateCurve, Span>();

  constructor(
    private readonly columns: Columns,
    readonly y: Float64Array,
    shortest: number,
    longest: number,
  ) {
    this.total = dot(y, y);
    this.fast = Array.from({ length: FAST }, (_, k) => this.part(shortest * (longest / shortest) ** (k / (FAST - 1))));
  }

  private part(tau: number): Part {
    const { col, gg } = this.columns.of(tau);
    return { tau, col, gg, r: dot(col, this.y) };
  }

  private get end(): number {
    return this.columns.x[this.columns.x.length - 1]!;
  }

  private spanOf(curve: LateCurve): Span {
    const known = this.spans.get(curve);
    if (known) return known;
    const { fastTau, slowTau } = curve;
    const cols = [this.columns.of(fastTau).col, this.columns.bent(fastTau), this.columns.of(slowTau).col];
    const products: number[][] = [[], [], []];
    for (let i = 0; i < 3; i++) for (let j = i; j < 3; j++) products[i]![j] = products[j]![i] = dot(cols[i]!, cols[j]!);
    const left = Math.exp(-this.end / fastTau);
    const span = {
      products,
      along: cols.map((col) => dot(col, this.y)),
      g: [left, (left * this.end) / fastTau, Math.exp(-this.end / slowTau)],
    };
    this.spans.set(curve, span);
    return span;
  }

  /** Least squares with a fast and a slow part, neither below zero; what it leaves over is kept where it is less than before. */
  private tryPair(fast: Part, slow: Part, best: Best): number {
    const cross = dot(fast.col, slow.col);
    const determinant = fast.gg * slow.gg - cross * cross;
    if (determinant > 1e-11 * fast.gg * slow.gg) {
      const p = (fast.r * slow.gg - slow.r * cross) / determinant;
      const q = (slow.r * fast.gg - fast.r * cross) / determinant;
      if (p >= 0 && q >= 0) return keep(best, this.total - p * fast.r - q * slow.r, fast.tau, p, q);
    }
    const [early, late] = [Math.max(0, fast.r) / fast.gg, Math.max(0, slow.r) / slow.gg];
    const [alone, only] = [this.total - early * Math.max(0, fast.r), this.total - late * Math.max(0, slow.r)];
    return fast.gg > 0 && alone < only ? keep(best, alone, fast.tau, early, 0) : keep(best, only, fast.tau, 0, late);
  }

  profile(slowTau: number): Profile {
    const slow = this.part(slowTau);
    const longest = slowTau / APART;
    const best: Best = { squares: Infinity, fastTau: 1, fast: 0, slow: 0 };
    let [place, least] = [0, Infinity];
    for (let k = 0; k < FAST && (k === 0 || this.fast[k]!.tau <= longest); k++) {
      const squares = this.tryPair(this.fast[k]!, slow, best);
      if (squares < least) [place, least] = [k, squares];
    }
    const ends = [this.fast[Math.max(0, place - 1)]!.tau, Math.min(longest, this.fast[Math.min(FAST - 1, place + 1)]!.tau)] as const;
    if (ends[1] > ends[0]) golden(Math.log(ends[0]), Math.log(ends[1]), 8, (log) => this.tryPair(this.part(Math.exp(log)), slow, best));
    const { squares, fastTau, fast, slow: late } = best;
    return { squares, curve: { fastTau, slowTau, fast, bend: 0, slow: late } };
  }

  /**
   * Curves of a profile's time constants, the fast one moved a little, at which what remains at the end is smallest and largest among
   * those that leave no more than a level over: an ellipse cut by a line, in closed form.
   */
  extremes(curve: LateCurve, levels: readonly number[]): LateCurve[][] {
    const { fastTau, slowTau } = curve;
    const { products, along, g: leaves } = this.spanOf(curve);
    const found = levels.map((): LateCurve[] => []);
    for (const use of TOGETHER) {
      const g = use.map((k) => leaves[k]!);
      const right = use.map((k) => along[k]!);
      const solved = solve(
        use.map((p) => use.map((q) => products[p]![q]!)),
        [right, g],
      );
      if (!solved) continue;
      const [c, d] = [solved[0]!, solved[1]!];
      const left = this.total - sum(c, right);
      const reach = sum(g, d);
      if (!(reach > 0)) continue;
      for (let i = 0; i < levels.length; i++) {
        if (!(levels[i]! >= left)) continue;
        const far = Math.sqrt((levels[i]! - left) / reach);
        for (const step of [-far, far]) {
          const amounts = [0, 0, 0];
          for (let k = 0; k < use.length; k++) amounts[use[k]!] = c[k]! + step * d[k]!;
          const there = { fastTau, slowTau, fast: amounts[0]!, bend: amounts[1]!, slow: amounts[2]! };
          if (there.fast >= 0 && there.slow >= 0 && amountAt(there, this.end) >= 0) found[i]!.push(there);
        }
      }
    }
    return found;
  }

  /** What remains at the end by least squares with one slow time constant, not held above zero, and its variance over that of the noise. */
  estimate(curve: LateCurve): { squares: number; k: number; v: number } | null {
    const span = this.spanOf(curve);
    for (const from of [0, 2]) {
      const [g, right] = [span.g.slice(from), span.along.slice(from)];
      const solved = solve(
        span.products.slice(from).map((row) => row.slice(from)),
        [right, g],
      );
      if (solved) return { squares: this.total - sum(solved[0]!, right), k: sum(solved[0]!, g), v: sum(solved[1]!, g) };
    }
    return null;
  }

  residuals(curve: LateCurve): Float64Array {
    return centre(this.y.map((value, i) => value + amountAt(curve, this.columns.x[i]!)));
  }
}
