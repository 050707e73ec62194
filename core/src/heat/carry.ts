import { studentCoverage } from '../distributions/studentT.ts';
import { InsufficientDataError, requireFinite, requireNotNegative, requirePositive } from '../errors.ts';
import { sweepAt, type SweepPoint } from '../series/sweepAt.ts';
import { welchSatterthwaite, type Estimate } from '../estimate.ts';
import { typeB } from '../uncertainty/typeB.ts';
import { powerLaw, safePower, type PowerLaw, type PowerPoint } from './safePower.ts';

export interface CarrySpot {
  id: string;
  name: string;
  limitC: number;
  limitSource: string;
  points: readonly PowerPoint[];
  /** Half-width of the sensor's accuracy, K: one sensor reads all points, so it moves them together; default 0. */
  accuracyK?: number;
  /** Scatter between equal runs, K, that every point has beside its own doubt; default 0. */
  scatterK?: number;
}

export interface CarryInput {
  spots: readonly CarrySpot[];
  /** Air that the rise stands on, °C. */
  airC: number;
  /** Kept free below every limit, K. */
  marginK: number;
  /** Of a spot with one point only; default 1. */
  exponent?: number;
  coverage: number;
}

export interface SpotCarry {
  id: string;
  name: string;
  limitC: number;
  limitSource: string;
  points: number;
  /** rise = a · P^b as it was found or stated; null without it. */
  law: PowerLaw | null;
  maxW: Estimate | null;
  /** Half-width of its interval. */
  doubtW: number;
  /** The result lies beyond twice the power that was measured, or below half of it. */
  far: boolean;
  refusal: string | null;
}

export interface Carry {
  /** The one with the least power first. */
  spots: SpotCarry[];
  /** The component that binds; null where none could be worked out. */
  binding: SpotCarry | null;
}

/** Powers that lie closer together than this say nothing of how the rise goes with power: something else was changed between them. */
const LEAST_SPAN = 1.1;

/** Points that a power law may be drawn through: all of them, or the last alone where their powers hardly differ. */
function telling(points: readonly PowerPoint[]): readonly PowerPoint[] {
  const powers = points.map(({ powerW }) => powerW.value);
  return points.length > 1 && Math.max(...powers) < LEAST_SPAN * Math.min(...powers) ? points.slice(-1) : points;
}

/** An accuracy that all points share does not average out: it moves the whole curve, as if the limit itself were in doubt. */
function withAccuracy(maxW: Estimate, law: PowerLaw, spot: CarrySpot, input: CarryInput): Estimate {
  const u = typeB(spot.accuracyK ?? 0, 'rectangular');
  const allowedK = spot.limitC - input.marginK - input.airC;
  const parts = [
    { u: maxW.u, dof: maxW.dof },
    { u: (maxW.value * u) / (law.exponent * allowedK), dof: Infinity },
  ];
  return { value: maxW.value, u: Math.hypot(parts[0]!.u, parts[1]!.u), dof: welchSatterthwaite(parts) };
}

function carryOf(spot: CarrySpot, input: CarryInput): SpotCarry {
  const points = telling(spot.points).map(({ powerW, rise }) => ({ powerW, rise: { ...rise, u: Math.hypot(rise.u, spot.scatterK ?? 0) } }));
  const base = { id: spot.id, name: spot.name, limitC: spot.limitC, limitSource: spot.limitSource, points: points.length };
  try {
    const exponent = input.exponent ?? 1;
    const law = powerLaw(points, exponent);
    const maxW = withAccuracy(
      safePower({ points, limitC: spot.limitC, ambientC: input.airC, marginK: input.marginK, exponent }),
      law,
      spot,
      input,
    );
    const powers = points.map(({ powerW }) => powerW.value);
    return {
      ...base,
      law,
      maxW,
      doubtW: studentCoverage(input.coverage, maxW.dof) * maxW.u,
      far: maxW.value > 2 * Math.max(...powers) || maxW.value < Math.min(...powers) / 2,
      refusal: null,
    };
  } catch (error) {
    if (!(error instanceof RangeError) && !(error instanceof InsufficientDataError)) throw error;
    return { ...base, law: null, maxW: null, doubtW: 0, far: false, refusal: error.message };
  }
}

/** Watts that each component allows, the binding one first (methods §8). */
export function carry(input: CarryInput): Carry {
  requireFinite(input.airC, 'airC');
  requireNotNegative(input.marginK, 'marginK');
  const spots = input.spots.map((spot) => carryOf(spot, input)).sort((p, q) => (p.maxW?.value ?? Infinity) - (q.maxW?.value ?? Infinity));
  return { spots, binding: spots[0]?.maxW ? spots[0] : null };
}

export type LoadVerdict = 'carries' | 'with-a-cap' | 'does-not' | 'no-call';

/** A cap below this share of what a load asks for is no use. */
const LEAST_SHARE = 0.6;

export interface JudgedLoad {
  verdict: LoadVerdict;
  /** Cap that keeps below the limit with the doubt taken off, W; null where none is needed or none would help. */
  capW: number | null;
}

/**
 * Whether a load can be carried: its power against the most that is safe, with the doubt of that.
 *
 * 'carries' where the whole interval lies above the load; 'no-call' where the load lies inside the interval; otherwise 'with a cap'
 * at the lower end of the interval, as long as that is 60 % of the load or more (our own figure).
 *
 * @throws RangeError a load not above zero
 */
export function judgeLoad(loadW: number, maxW: Estimate, doubtW: number): JudgedLoad {
  requirePositive(loadW, 'loadW');
  requireNotNegative(doubtW, 'doubtW');
  const surely = maxW.value - doubtW;
  if (loadW <= surely) return { verdict: 'carries', capW: null };
  const capW = Math.floor(surely);
  if (loadW <= maxW.value + doubtW) return { verdict: 'no-call', capW: capW >= LEAST_SHARE * loadW ? capW : null };
  return capW >= LEAST_SHARE * loadW ? { verdict: 'with-a-cap', capW } : { verdict: 'does-not', capW: null };
}

/** Rise that a law gives at a power, K. @throws RangeError a power not above zero */
export function riseByLaw(law: PowerLaw, powerW: number): number {
  requirePositive(powerW, 'powerW');
  return Math.exp(law.lnA + law.exponent * Math.log(powerW));
}

/**
 * Minutes from cold until a part that approaches its rise by one slow time constant has used up what is allowed:
 * −τ·ln(1 − allowed/rise), the closed form of `timeToLimit` for a single term.
 *
 * @returns null where the rise stays within what is allowed; 0 where nothing is allowed
 * @throws RangeError rise or time constant not above zero
 */
export function minutesToLimit(riseK: number, slowTauS: number, allowedK: number): number | null {
  requirePositive(riseK, 'riseK');
  requirePositive(slowTauS, 'slowTauS');
  requireFinite(allowedK, 'allowedK');
  if (allowedK <= 0) return 0;
  if (riseK <= allowedK) return null;
  return (-slowTauS * Math.log(1 - allowedK / riseK)) / 60;
}

/**
 * Electrolytic capacitors: how many times as long they last as at their limit, twice for every 10 K below it. A rule of thumb, and
 * to be shown as one (methods §8).
 */
export function lifeIndex(spotC: number, limitC: number): number {
  requireFinite(spotC, 'spotC');
  requireFinite(limitC, 'limitC');
  return 2 ** ((limitC - spotC) / 10);
}

/**
 * Least fan duty of a sweep at which a rise is allowed, found between the points and never beyond them.
 *
 * @param sweep rise against duty, falling
 * @returns percent; null where even the fullest fan of the sweep does not reach it; the least duty where that is already enough
 */
export function dutyNeeded(sweep: readonly SweepPoint[], allowedK: number): number | null {
  requireFinite(allowedK, 'allowedK');
  if (sweep.length === 0) throw new InsufficientDataError('a fan sweep needs at least one point');
  const duties = sweep.map((point) => point.x);
  let [low, high] = [Math.min(...duties), Math.max(...duties)];
  const rise = (duty: number) => sweepAt(sweep, duty).value;
  if (rise(high) > allowedK) return null;
  if (rise(low) <= allowedK) return low;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (rise(middle) <= allowedK) high = middle;
    else low = middle;
  }
  return high;
}
