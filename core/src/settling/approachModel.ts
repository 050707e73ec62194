import { CholeskyDecomposition, Matrix, pseudoInverse } from 'ml-matrix';
import { dot } from '../dot.ts';
import { decaying, spacingOf } from './columns.ts';

/**
 * The curve behind `fitApproach`, in the form in which it is fitted:
 * y(x) = A − Σ c_i·exp(−x/τ_i), x = t − t0, with the c_i of one sign, so that the start is A − Σc_i.
 * With a pinned start S the asymptote is no parameter of its own: A = S + Σc_i.
 */
export interface Curve {
  asymptote: number;
  terms: { c: number; tau: number }[];
}

export interface Problem {
  /** Seconds since t0. */
  x: Float64Array;
  y: Float64Array;
  /** One weight per sample; null for all 1. */
  weight: Float64Array | null;
  /** Pinned start, or null. */
  start: number | null;
  tauMin: number;
  tauMax: number;
  /** Noise decides long before the last digit: a search may stop when it gains a thousand-millionth. */
  quick?: boolean;
}

export function curveAt(curve: Curve, x: number): number {
  let value = curve.asymptote;
  for (const { c, tau } of curve.terms) value -= c * Math.exp(-x / tau);
  return value;
}

/** Weighted sum of squared residuals. */
export function sumOfSquares(problem: Problem, curve: Curve): number {
  const { x, y, weight } = problem;
  let sum = 0;
  for (let i = 0; i < x.length; i++) {
    const r = y[i]! - curveAt(curve, x[i]!);
    sum += (weight ? weight[i]! : 1) * r * r;
  }
  return sum;
}

/** Number of fitted parameters: c and τ per term, and the asymptote unless the start is pinned. */
export function parameterCount(terms: number, pinned: boolean): number {
  return 2 * terms + (pinned ? 0 : 1);
}

/**
 * Derivatives of the curve by its parameters at x, written into `out`: [A?, c_1, ln τ_1, c_2, ln τ_2].
 * Logarithms keep the time constants positive and their scale even.
 *
 * @returns the curve's value there, which costs nothing more
 */
export function gradientAt(curve: Curve, pinned: boolean, x: number, out: Float64Array): number {
  let k = 0;
  let value = curve.asymptote;
  if (!pinned) out[k++] = 1;
  for (const { c, tau } of curve.terms) {
    const e = Math.exp(-x / tau);
    value -= c * e;
    out[k++] = pinned ? 1 - e : -e;
    out[k++] = (-c * e * x) / tau;
  }
  return value;
}

/** Weighted squared residuals with JᵀWJ (row by row, p × p) and JᵀWr at a curve: one pass over the samples for all three. */
interface Evaluation {
  squares: number;
  jtj: Float64Array;
  jtr: Float64Array;
  p: number;
}

function evaluate(problem: Problem, curve: Curve, spacing = spacingOf(problem.x)): Evaluation {
  const pinned = problem.start !== null;
  const { x, y, weight } = problem;
  const n = x.length;
  const p = parameterCount(curve.terms.length, pinned);
  const residuals = y.map((value) => value - curve.asymptote);
  const columns: Float64Array[] = pinned ? [] : [new Float64Array(n).fill(1)];
  for (const { c, tau } of curve.terms) {
    const byAmount = decaying(x, spacing, tau);
    const byTime = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const e = byAmount[i]!;
      residuals[i] = residuals[i]! + c * e;
      byAmount[i] = pinned ? 1 - e : -e;
      byTime[i] = (-c * e * x[i]!) / tau;
    }
    columns.push(byAmount, byTime);
  }
  const weighted = (column: Float64Array) => (weight ? column.map((value, i) => weight[i]! * value) : column);
  const jtj = new Float64Array(p * p);
  const jtr = new Float64Array(p);
  for (let a = 0; a < p; a++) {
    const row = weighted(columns[a]!);
    jtr[a] = dot(row, residuals);
    for (let b = a; b < p; b++) jtj[a * p + b] = jtj[b * p + a] = dot(row, columns[b]!);
  }
  return { squares: dot(weighted(residuals), residuals), jtj, jtr, p };
}

/** Lengths of the columns of J, so that kelvin and log-seconds weigh alike. */
function scaleOf(jtj: Float64Array, p: number): Float64Array {
  const scale = new Float64Array(p);
  for (let a = 0; a < p; a++) scale[a] = Math.sqrt(jtj[a * p + a]!) || 1;
  return scale;
}

/** (JᵀWJ)⁻¹, by way of unit columns so that kelvin and log-seconds do not spoil each other's precision. */
export function inverseInformation(problem: Problem, curve: Curve): Matrix {
  const { jtj, p } = evaluate(problem, curve);
  const scale = scaleOf(jtj, p);
  const unit = Matrix.zeros(p, p);
  for (let a = 0; a < p; a++) for (let b = 0; b < p; b++) unit.set(a, b, jtj[a * p + b]! / (scale[a]! * scale[b]!));
  const cholesky = new CholeskyDecomposition(unit);
  const inverse = cholesky.isPositiveDefinite() ? cholesky.solve(Matrix.eye(p)) : pseudoInverse(unit);
  for (let a = 0; a < p; a++) for (let b = 0; b < p; b++) inverse.set(a, b, inverse.get(a, b) / (scale[a]! * scale[b]!));
  return inverse;
}

function withParameters(curve: Curve, start: number | null, step: Float64Array): Curve {
  let k = 0;
  const freeAsymptote = start === null ? curve.asymptote + step[k++]! : 0;
  const terms = curve.terms.map(({ c, tau }) => ({ c: c + step[k++]!, tau: tau * Math.exp(step[k++]!) }));
  return { asymptote: start === null ? freeAsymptote : start + terms.reduce((sum, term) => sum + term.c, 0), terms };
}

/** Shares are positive (all c of one sign) and the time constants within what the record can hold. */
function isAllowed(problem: Problem, curve: Curve): boolean {
  const rising = curve.terms.every((term) => term.c >= 0);
  const falling = curve.terms.every((term) => term.c <= 0);
  return (rising || falling) && curve.terms.every(({ tau }) => tau >= problem.tauMin && tau <= problem.tauMax);
}

/**
 * Levenberg-Marquardt from a start curve. Steps that worsen the fit, change the sign of a share or leave the range of time
 * constants are refused and retried shorter.
 *
 * @see Levenberg 1944; Marquardt 1963, J. SIAM 11(2); Moré 1978 for the scaling by the diagonal
 */
export function refine(problem: Problem, from: Curve, mostRounds = 200): { curve: Curve; squares: number } {
  let curve = from;
  let idle = 0; // accepted steps in a row that gained next to nothing
  const spacing = spacingOf(problem.x);
  let at = evaluate(problem, curve, spacing);
  let lambda = 1e-3;
  const { p } = at;
  const damped = new Float64Array(p * p);
  const rhs = new Float64Array(p);
  for (let round = 0; round < mostRounds && lambda < 1e12; round++) {
    const scale = scaleOf(at.jtj, p);
    for (let a = 0; a < p; a++) {
      rhs[a] = at.jtr[a]! / scale[a]!;
      for (let b = 0; b < p; b++) damped[a * p + b] = at.jtj[a * p + b]! / (scale[a]! * scale[b]!) + (a === b ? lambda : 0);
    }
    const step = solveSmall(damped, rhs, p);
    if (!step) {
      lambda *= 10;
      continue;
    }
    for (let a = 0; a < p; a++) step[a] = step[a]! / scale[a]!;
    const next = withParameters(curve, problem.start, step);
    const there = isAllowed(problem, next) ? evaluate(problem, next, spacing) : null;
    if (there && there.squares <= at.squares) {
      const gain = at.squares - there.squares;
      curve = next;
      at = there;
      lambda = Math.max(lambda / 10, 1e-15);
      idle = gain <= (problem.quick ? 1e-9 : 1e-13) * at.squares ? idle + 1 : 0;
      if (idle >= 3 || at.squares === 0) break;
    } else {
      lambda *= 10;
    }
  }
  return { curve, squares: at.squares };
}

/**
 * Best amplitudes for any choice out of a grid of time constants: the problem is linear in them (variable projection, Golub &
 * Pereyra 1973). The products of all columns are summed once, so that trying a choice costs no pass over the samples.
 */
export class AmplitudeSearch {
  private readonly gram: Float64Array;
  private readonly rhs: Float64Array;
  private readonly columns: number;
  private readonly base: number;
  private readonly free: boolean;
  private readonly total: number;

  constructor(
    private readonly problem: Problem,
    private readonly taus: readonly number[],
    /** Most time constants in one choice: where it is one, the columns' products with each other are never asked for. */
    most: 1 | 2,
  ) {
    const { x, y, weight, start } = problem;
    this.free = start === null;
    this.base = start ?? y[0]!;
    // Column 0 is the asymptote where the start is free; column k + 1 belongs to the k-th time constant.
    const q = taus.length + 1;
    this.columns = q;
    this.gram = new Float64Array(q * q);
    const spacing = spacingOf(x);
    const columns: Float64Array[] = [new Float64Array(x.length).fill(1)];
    for (const tau of taus) {
      const column = decaying(x, spacing, tau);
      for (let i = 0; i < column.length; i++) column[i] = this.free ? -column[i]! : 1 - column[i]!;
      columns.push(column);
    }
    const values = y.map((value) => value - this.base);
    const weighted = (column: Float64Array) => (weight ? column.map((value, i) => weight[i]! * value) : column);
    this.total = dot(weighted(values), values);
    this.rhs = new Float64Array(q);
    for (let r = 0; r < q; r++) {
      const row = weighted(columns[r]!);
      this.rhs[r] = dot(row, values);
      const last = most === 1 && r > 0 ? r : q - 1;
      for (let c = r; c <= last; c++) this.gram[r * q + c] = dot(row, columns[c]!);
    }
  }

  /** Product of two columns with the asymptote, where it is free, taken out of both. Column −1 stands for the values. */
  private product(r: number, c: number): number {
    return this.free ? this.entry(r, c) - (this.entry(r, 0) * this.entry(0, c)) / this.gram[0]! : this.entry(r, c);
  }

  private entry(r: number, c: number): number {
    if (c === -1) return this.rhs[r]!;
    return r <= c ? this.gram[r * this.columns + c]! : this.gram[c * this.columns + r]!;
  }

  /**
   * @param choice one or two indices into the grid
   * @returns the curve for the chosen time constants; null where shares disagree in sign or columns cannot be told apart
   */
  try(choice: readonly number[]): { curve: Curve; squares: number } | null {
    const [i, j] = [choice[0]! + 1, choice.length > 1 ? choice[1]! + 1 : -1];
    const [gii, ri] = [this.product(i, i), this.product(i, -1)];
    const c: number[] = [];
    let explained: number;
    if (j < 0) {
      if (!(gii > 1e-13 * this.gram[i * this.columns + i]!)) return null;
      c.push(ri / gii);
      explained = c[0]! * ri;
    } else {
      const [gjj, gij, rj] = [this.product(j, j), this.product(i, j), this.product(j, -1)];
      const determinant = gii * gjj - gij * gij;
      if (!(determinant > 1e-12 * gii * gjj)) return null;
      c.push((ri * gjj - rj * gij) / determinant, (rj * gii - ri * gij) / determinant);
      explained = c[0]! * ri + c[1]! * rj;
    }
    let asymptote = this.base;
    if (this.free) {
      // Row 0 of the products holds what each column sums to.
      asymptote += c.reduce((left, value, k) => left - value * this.gram[choice[k]! + 1]!, this.rhs[0]!) / this.gram[0]!;
      explained += this.rhs[0]! ** 2 / this.gram[0]!;
    } else asymptote += c.reduce((total, value) => total + value, 0);
    const curve = { asymptote, terms: choice.map((k, n) => ({ c: c[n]!, tau: this.taus[k]! })) };
    return isAllowed(this.problem, curve) ? { curve, squares: Math.max(0, this.total - explained) } : null;
  }
}

/** Gaussian elimination with pivoting for the few amplitudes; null where the system is singular. */
function solveSmall(a: Float64Array, b: Float64Array, n: number): Float64Array | null {
  const m = Float64Array.from(a);
  const v = Float64Array.from(b);
  let size = 0;
  for (const value of m) size = Math.max(size, Math.abs(value));
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let r = k + 1; r < n; r++) if (Math.abs(m[r * n + k]!) > Math.abs(m[pivot * n + k]!)) pivot = r;
    if (!(Math.abs(m[pivot * n + k]!) > 1e-13 * size)) return null;
    if (pivot !== k) {
      for (let c = 0; c < n; c++) [m[k * n + c], m[pivot * n + c]] = [m[pivot * n + c]!, m[k * n + c]!];
      [v[k], v[pivot]] = [v[pivot]!, v[k]!];
    }
    for (let r = k + 1; r < n; r++) {
      const f = m[r * n + k]! / m[k * n + k]!;
      for (let c = k; c < n; c++) m[r * n + c] = m[r * n + c]! - f * m[k * n + c]!;
      v[r] = v[r]! - f * v[k]!;
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    for (let c = k + 1; c < n; c++) v[k] = v[k]! - m[k * n + c]! * v[c]!;
    v[k] = v[k]! / m[k * n + k]!;
  }
  return v;
}

/** Time constants spread evenly in their logarithm over what the record can hold. */
export function tauGrid(problem: Problem, count: number): number[] {
  const span = problem.x[problem.x.length - 1]! - problem.x[0]!;
  const low = Math.max(problem.tauMin, span / 500);
  const high = Math.min(problem.tauMax, 10 * span);
  return Array.from({ length: count }, (_, i) => low * (high / low) ** (i / (count - 1)));
}
