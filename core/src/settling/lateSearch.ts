import { evenStep } from './approachModel.ts';

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

export function centre(values: Float64Array): Float64Array {
  let mean = 0;
  for (const value of values) mean += value / values.length;
  for (let i = 0; i < values.length; i++) values[i] = values[i]! - mean;
  return values;
}

export function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** A column with the asymptote taken out: −(x/τ)^power·e^{−x/τ}. @param step of evenly spaced points, 0 where they are not */
function column(x: Float64Array, step: number, tau: number, power: 0 | 1 = 0): Float64Array {
  const values = new Float64Array(x.length);
  // From one point to the next it shrinks by one factor: far cheaper than an exponential each.
  const shrinks = Math.exp(-step / tau);
  let now = Math.exp(-x[0]! / tau);
  for (let i = 0; i < x.length; i++) {
    if (step === 0) now = Math.exp(-x[i]! / tau);
    values[i] = power === 0 ? -now : (-now * x[i]!) / tau;
    now *= shrinks;
  }
  return centre(values);
}

/** Solves a symmetric system of up to three unknowns; null where its columns cannot be told apart. */
function solve(gram: number[][], right: number[]): number[] | null {
  const n = right.length;
  const a = gram.map((row, i) => [...row, right[i]!]);
  for (let k = 0; k < n; k++) {
    if (!(a[k]![k]! > 1e-11 * gram[k]![k]!)) return null;
    for (let i = k + 1; i < n; i++) {
      const share = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= n; j++) a[i]![j] = a[i]![j]! - share * a[k]![j]!;
    }
  }
  const c = Array.from({ length: n }, () => 0);
  for (let k = n - 1; k >= 0; k--) {
    let value = a[k]![n]!;
    for (let j = k + 1; j < n; j++) value -= a[k]![j]! * c[j]!;
    c[k] = value / a[k]![k]!;
  }
  return c;
}

const sum = (p: readonly number[], q: readonly number[]) => p.reduce((total, value, i) => total + value * q[i]!, 0);

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

/** A column of a time constant with its own square and its product with the values. */
interface Part {
  tau: number;
  col: Float64Array;
  gg: number;
  r: number;
}

/** The points as they are searched: `y` turned so that the approach rises. */
export class LateSearch {
  readonly total: number;
  private readonly step: number;
  /** Fast time constants that are tried beside every slow one. */
  private readonly fast: Part[];

  constructor(
    readonly x: Float64Array,
    readonly y: Float64Array,
    shortest: number,
    longest: number,
  ) {
    this.total = dot(y, y);
    this.step = evenStep(x);
    this.fast = Array.from({ length: FAST }, (_, k) => this.part(shortest * (longest / shortest) ** (k / (FAST - 1))));
  }

  private part(tau: number): Part {
    const col = column(this.x, this.step, tau);
    return { tau, col, gg: dot(col, col), r: dot(col, this.y) };
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
  extremes({ fastTau, slowTau }: LateCurve, levels: readonly number[]): LateCurve[][] {
    const end = this.x[this.x.length - 1]!;
    const e = Math.exp(-end / fastTau);
    const parts = [
      { col: column(this.x, this.step, fastTau), g: e },
      { col: column(this.x, this.step, fastTau, 1), g: (e * end) / fastTau },
      { col: column(this.x, this.step, slowTau), g: Math.exp(-end / slowTau) },
    ];
    const products = parts.map((p) => parts.map((q) => dot(p.col, q.col)));
    const along = parts.map((p) => dot(p.col, this.y));
    const found = levels.map((): LateCurve[] => []);
    for (const use of [[0, 1, 2], [0, 2], [0, 1], [2]]) {
      const g = use.map((k) => parts[k]!.g);
      const gram = use.map((p) => use.map((q) => products[p]![q]!));
      const right = use.map((k) => along[k]!);
      const c = solve(gram, right);
      const d = solve(gram, g);
      if (!c || !d) continue;
      const left = this.total - sum(c, right);
      const reach = sum(g, d);
      if (!(reach > 0)) continue;
      levels.forEach((level, i) => {
        if (!(level >= left)) return;
        for (const side of [-1, 1]) {
          const step = side * Math.sqrt((level - left) / reach);
          const value = (k: number) => (use.includes(k) ? c[use.indexOf(k)]! + step * d[use.indexOf(k)]! : 0);
          const curve = { fastTau, slowTau, fast: value(0), bend: value(1), slow: value(2) };
          if (curve.fast >= 0 && curve.slow >= 0 && amountAt(curve, end) >= 0) found[i]!.push(curve);
        }
      });
    }
    return found;
  }

  /** What remains at the end by least squares with one slow time constant, not held above zero, and its variance over that of the noise. */
  estimate({ fastTau, slowTau }: LateCurve): { squares: number; k: number; v: number } | null {
    const end = this.x[this.x.length - 1]!;
    const e = Math.exp(-end / fastTau);
    const cols = [column(this.x, this.step, fastTau), column(this.x, this.step, fastTau, 1), column(this.x, this.step, slowTau)];
    const g = [e, (e * end) / fastTau, Math.exp(-end / slowTau)];
    for (const from of [0, 2]) {
      const use = cols.slice(from);
      const gram = use.map((p) => use.map((q) => dot(p, q)));
      const right = use.map((p) => dot(p, this.y));
      const [c, d] = [solve(gram, right), solve(gram, g.slice(from))];
      if (c && d) return { squares: this.total - sum(c, right), k: sum(c, g.slice(from)), v: sum(d, g.slice(from)) };
    }
    return null;
  }

  residuals(curve: LateCurve): Float64Array {
    return centre(this.y.map((value, i) => value + amountAt(curve, this.x[i]!)));
  }
}
