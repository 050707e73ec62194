import type { Estimate } from '../estimate.ts';
import { inverse } from '../inverse.ts';
import { mean } from '../mean.ts';
import { slice, usable, type Series, type Window } from '../series/series.ts';
import { stepOf } from '../series/stepOf.ts';
import { typeB } from '../uncertainty/typeB.ts';

/** When a spot began to move after something was changed. */
export interface Onset {
  /** Seconds after the change, with its doubt; null where it cannot be told. */
  afterS: Estimate | null;
  /** Which way it went; null where it did not move. */
  goes: 'up' | 'down' | null;
  /** Why it cannot be told; null where it can. `moving`: it was still on its way from what was before. */
  why: 'still' | 'moving' | 'too-few' | null;
}

/** What lies around a change, seconds of the series' clock. */
export interface Around {
  changeS: number;
  /** Where what was before began, and where what came of it ended. */
  fromS: number;
  toS: number;
}

/** What was before is looked at over so many seconds, and no more. */
const BEFORE_S = 120;
/** What came is looked at as briefly as it shows: a short look needs no assumption of what follows. Seconds. */
const LOOKS_S = [60, 120, 240, 480];
/** A mark is set by hand: the spot may have moved a little before it. */
const EARLY_S = 30;
const MOST_POINTS = 240;
const LEAST_POINTS = 8;
/** Shapes after the onset: an approach of one of these, seconds, with a straight line beside it. */
const SHAPES_S = [8, 25, 80, 250];
/** Twice the log-likelihood that movement has to be worth: at least, and enough not to look any longer. */
const MOVED = 25;
const PLAINLY = 60;
/** The same for a bend in what was before, and for a part of the way that is gone before the next sample. */
const BENT = 20;
const JUMPED = 20;
/** Of a chi-squared distribution with one degree of freedom at 95 %. */
const CHI2_95 = 3.841;
const COARSELY = 40;
const FINELY = 20;
/** Parameters of a line that is left: two of the line, the time, an approach and a ramp; a jump has one more. */
const PARAMETERS = 5;
/** Time constants of a jump, in samples: over at once, or within the next. */
const JUMPS = [0, 0.5];

interface Points {
  /** Seconds from the change. */
  x: number[];
  y: number[];
  /** Between two points, seconds. */
  apartS: number;
}

/** Means over equal stretches, so that a look costs the same at any rate. */
function pointsIn(series: Series, changeS: number, startS: number, endS: number): Points {
  const { t, y } = usable(slice(series, { startS, endS }));
  const usual = t.length > 1 ? (t.at(-1)! - t[0]!) / (t.length - 1) : Infinity;
  const apartS = Math.max(usual, (endS - startS) / MOST_POINTS);
  const points: Points = { x: [], y: [], apartS };
  for (let i = 0; i < t.length;) {
    let [n, xs, ys] = [0, 0, 0];
    const until = t[i]! + apartS * 0.999;
    do {
      n++;
      xs += t[i]!;
      ys += y[i]!;
      i++;
    } while (i < t.length && t[i]! < until);
    points.x.push(xs / n - changeS);
    points.y.push(ys / n);
  }
  return points;
}

interface Fit {
  squares: number;
  coefficients: number[];
  residuals: number[];
}

/** Least squares of y on columns; null where they are not independent. */
function fit(columns: readonly (readonly number[])[], y: readonly number[]): Fit | null {
  const normal = columns.map((p) => columns.map((q) => p.reduce((sum, value, i) => sum + value * q[i]!, 0)));
  const turned = inverse(normal);
  if (!turned) return null;
  const right = columns.map((p) => p.reduce((sum, value, i) => sum + value * y[i]!, 0));
  const coefficients = turned.map((row) => row.reduce((sum, value, k) => sum + value * right[k]!, 0));
  const residuals = y.map((value, i) => value - columns.reduce((sum, column, k) => sum + coefficients[k]! * column[i]!, 0));
  return { squares: residuals.reduce((sum, value) => sum + value * value, 0), coefficients, residuals };
}

/** So many independent samples are residuals worth, by how far neighbours are alike. */
function worth(residuals: readonly number[]): number {
  let [own, next] = [0, 0];
  residuals.forEach((value, i) => {
    own += value * value;
    if (i > 0) next += value * residuals[i - 1]!;
  });
  const alike = own > 0 ? Math.min(0.95, Math.max(0, next / own)) : 0;
  return Math.max(4, (residuals.length * (1 - alike)) / (1 + alike));
}

/** Nothing is read finer than its step allows: squares that even a perfect fit leaves. */
const floorOf = (n: number, stepK: number): number => n * Math.max(1e-8, stepK ** 2 / 12);

interface Look {
  /** Twice the log-likelihood that the movement is worth. */
  gain: number;
  /** What the best curve leaves, K². */
  squares: number;
  /** So many independent samples that is of. */
  n: number;
  atS: number;
  u: number;
  goes: 'up' | 'down';
}

/** The best curve of one time at which the line is left. */
interface Tried extends Fit {
  onsetS: number;
  shape: number;
}

/** So long a sensor that reads in steps may not show that anything moves, seconds. */
function hiddenS(moved: (s: number) => number, mostS: number, stepK: number): number {
  for (let s = 0; s < mostS; s++) if (Math.abs(moved(s)) >= stepK) return s;
  return mostS;
}

/**
 * A straight line that something leaves at an unknown time, within so many seconds after the change.
 *
 * @param jumps some of the way is gone before the next sample
 */
function look(points: Points, stepK: number, jumps = false): Look | null {
  const { x, y, apartS } = points;
  const last = x.at(-1)!;
  const ones = x.map(() => 1);
  const floor = floorOf(x.length, stepK);
  const straight = fit([ones, x], y);
  if (!straight) return null;
  const at = (onsetS: number): Tried | null => {
    const since = x.map((value) => Math.max(0, value - onsetS));
    let best: Tried | null = null;
    for (const quickS of jumps ? JUMPS.map((samples) => samples * apartS) : [null])
      for (const shape of SHAPES_S) {
        const jump = quickS === null ? [] : [x.map((value) => (value <= onsetS ? 0 : 1 - Math.exp(-(value - onsetS) / quickS)))];
        const made = fit([ones, x, since.map((s) => -Math.expm1(-s / shape)), since, ...jump], y);
        if (made && (!best || made.squares < best.squares)) best = { ...made, onsetS, shape };
      }
    return best;
  };
  const grid = (from: number, to: number, count: number) =>
    Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1)).flatMap((onsetS) => at(onsetS) ?? []);
  const least = (fits: ReturnType<typeof grid>) => fits.reduce((best, one) => (one.squares < best.squares ? one : best));
  const earliest = Math.max(-EARLY_S, x[0]! + 3 * apartS);
  const coarse = grid(earliest, last - 4 * apartS, COARSELY);
  if (coarse.length === 0) return null;
  const near = least(coarse);
  const spanS = (last - earliest) / COARSELY;
  const all = [...coarse, ...grid(Math.max(earliest, near.onsetS - 2 * spanS), near.onsetS + 2 * spanS, FINELY)];
  const best = least(all);
  const n = worth(best.residuals);
  const lost = ({ squares }: Fit) => n * Math.log(Math.max(squares, floor) / Math.max(best.squares, floor));
  // Few samples leave the noise itself in doubt.
  const mostLost = n * Math.log1p(CHI2_95 / Math.max(1, n - PARAMETERS - Number(jumps)));
  const allowed = all.filter((one) => lost(one) <= mostLost).map(({ onsetS }) => onsetS);
  const [low, high] = [Math.min(...allowed), Math.max(...allowed)];
  const [, , approach, ramp, jump = 0] = best.coefficients as [number, number, number, number, number?];
  const tail = last - best.onsetS;
  const moved = (s: number) => jump - approach * Math.expm1(-s / best.shape) + ramp * s;
  // Between the last sample before a jump and the first after it one time is as good as another.
  const atS = jumps ? (low + high) / 2 : best.onsetS;
  return {
    gain: lost(straight),
    squares: Math.max(best.squares, floor),
    n,
    atS,
    u: Math.hypot(
      Math.max(high - atS, atS - low) / Math.sqrt(CHI2_95),
      apartS / Math.sqrt(12),
      stepK === 0 ? 0 : typeB(hiddenS(moved, tail, stepK), 'rectangular'),
    ),
    goes: moved(tail) > 0 ? 'up' : 'down',
  };
}

/** What was before went neither level nor straight. */
function wasMoving(points: Points, stepK: number): boolean {
  const before = points.x.flatMap((x, i) => (x < 0 ? [{ x, y: points.y[i]! }] : []));
  if (before.length < 2 * LEAST_POINTS) return false;
  const x = before.map((point) => point.x);
  const y = before.map((point) => point.y);
  const middle = mean(x);
  const [straight, bent] = [fit([x.map(() => 1), x], y), fit([x.map(() => 1), x, x.map((value) => (value - middle) ** 2)], y)];
  if (!straight || !bent) return false;
  const floor = floorOf(x.length, stepK);
  return worth(bent.residuals) * Math.log(Math.max(straight.squares, floor) / Math.max(bent.squares, floor)) > BENT;
}

/** The stretch about a change that is looked at, and no more of a record: so much of it has to be read. */
export const lookedAtAround = ({ changeS, fromS, toS }: Around): Window => ({
  startS: Math.max(fromS, changeS - BEFORE_S),
  endS: Math.min(toS, changeS + LOOKS_S.at(-1)!),
});

/**
 * When a spot began to move after a change: a straight line that is left at an unknown time for an approach and a line, with a jump before
 * it where a part of the way is gone before the next sample, fitted over the shortest look that shows it; the time's doubt by its
 * likelihood, with noise that stays alike counted for less. A sensor's own lag is
 * in the time, and no trace tells it.
 *
 * @param series °C over seconds, as it was recorded
 */
export function findOnset(series: Series, { changeS, fromS, toS }: Around): Onset {
  const none = (why: Onset['why']): Onset => ({ afterS: null, goes: null, why });
  const { startS, endS } = lookedAtAround({ changeS, fromS, toS });
  const stepK = stepOf(slice(series, { startS, endS }).y) ?? 0;
  let found: Look | null = null;
  for (const lookS of LOOKS_S) {
    const points = pointsIn(series, changeS, startS, Math.min(toS, changeS + lookS));
    const after = points.x.filter((x) => x >= 0).length;
    if (points.x.length - after < LEAST_POINTS || after < LEAST_POINTS) {
      if (changeS + lookS >= toS) break;
      continue;
    }
    if (wasMoving(points, stepK)) return none('moving');
    const made = look(points, stepK);
    if (made && made.gain > MOVED) found = withJump(made, points, stepK);
    if ((found && found.gain > PLAINLY) || changeS + lookS >= toS) return found ? told(found) : none('still');
  }
  return found ? told(found) : none(anyIn(series, startS, endS) ? 'still' : 'too-few');
}

/** Steps between neighbours that are no more than this many times those of what was before hold no jump. */
const PLAIN_STEPS = 4;

/** Whether one step from point to point stands out at all: where none does, nobody need look for a jump. */
function mayJump({ x, y }: Points, stepK: number): boolean {
  let [squares, before, largest] = [0, 0, 0];
  for (let i = 1; i < y.length; i++) {
    const step = Math.abs(y[i]! - y[i - 1]!);
    if (x[i]! < -EARLY_S || (x[i]! < 0 && before < LEAST_POINTS)) {
      squares += step * step;
      before++;
    } else largest = Math.max(largest, step);
  }
  return largest > PLAIN_STEPS * Math.max(stepK, Math.sqrt(squares / Math.max(1, before)), 1e-6);
}

/** The same where some of the way was gone before the next sample: a curve without a jump would have to begin long before. */
function withJump(smooth: Look, points: Points, stepK: number): Look {
  const jumped = mayJump(points, stepK) ? look(points, stepK, true) : null;
  return jumped && jumped.n * Math.log(smooth.squares / jumped.squares) > JUMPED ? jumped : smooth;
}

const told = ({ atS, u, goes }: Look): Onset => ({ afterS: { value: atS, u, dof: Infinity }, goes, why: null });

const anyIn = (series: Series, startS: number, endS: number): boolean =>
  usable(slice(series, { startS, endS })).t.length >= 4 * LEAST_POINTS;
