import { studentCoverage } from '../distributions/studentT.ts';
import { InsufficientDataError, requireFinite, requireNotNegative, requirePositive } from '../errors.ts';
import { sweepAt, type SweepPoint } from '../series/sweepAt.ts';
import { welchSatterthwaite, type Estimate } from '../estimate.ts';
import { typeB } from '../uncertainty/typeB.ts';
import { distinctPowers, growingLosses, powerByLosses, riseByLosses, type GrowingLosses } from './growingLosses.ts';
import { powerLaw, safePower, type PowerLaw, type PowerPoint } from './safePower.ts';

export interface CarrySpot {
  id: string;
  name: string;
  limitC: number;
  limitSource: string;
  points: readonly PowerPoint[];
  /** At rest, with everything held as under load: points like the others, but for the power law. */
  idle?: readonly PowerPoint[];
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
  /** rise = r0 + a·P + c·P² where powers enough were measured: the watts are read off it; null elsewhere. */
  losses: GrowingLosses | null;
  maxW: Estimate | null;
  /** Half-width of its interval. */
  doubtW: number;
  /** The result lies beyond 1.3 times the highest power that was measured, or below half of the lowest. */
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

/** How far from 1 the exponent may lie where one power only was measured, as a standard deviation. Our own figure. */
export const EXPONENT_U = 0.12;
/** Carried beyond so many times the highest power that was measured a figure is far. */
export const FAR = 1.3;

/** What a spot allows by one law, with the doubt of the points, the laws and the sensor. */
interface Allowed {
  law: PowerLaw;
  losses: GrowingLosses | null;
  maxW: Estimate;
  /** How steep the rise is there, K/W. */
  slope: number;
}

/** One power and nothing else: the exponent is stated, and its doubt grows with the way that it is carried. */
function byOnePower(points: readonly PowerPoint[], law: PowerLaw, maxW: Estimate): Estimate {
  const ratio = maxW.value / points[0]!.powerW.value;
  const u = (maxW.value * Math.abs(Math.log(ratio)) * EXPONENT_U) / law.exponent;
  return { ...maxW, u: Math.hypot(maxW.u, u) };
}

/** At rest and at one power: between losses in proportion and losses by resistance alone, and nothing says which. */
function byIdle(idle: PowerPoint, at: PowerPoint, allowedK: number, maxW: Estimate): Estimate {
  const grows = at.rise.value - idle.rise.value;
  const left = allowedK - idle.rise.value;
  if (!(grows > 0) || left <= 0) return maxW;
  const [linear, resistive] = [
    idle.powerW.value + ((at.powerW.value - idle.powerW.value) * left) / grows,
    Math.sqrt(idle.powerW.value ** 2 + ((at.powerW.value ** 2 - idle.powerW.value ** 2) * left) / grows),
  ];
  return { ...maxW, value: (linear + resistive) / 2, u: Math.hypot(maxW.u, Math.abs(linear - resistive) / Math.sqrt(12)) };
}

function allowedBy(spot: CarrySpot, points: readonly PowerPoint[], idle: readonly PowerPoint[], input: CarryInput): Allowed {
  const exponent = input.exponent ?? 1;
  const allowedK = spot.limitC - input.marginK - input.airC;
  const law = powerLaw(points, exponent);
  const byLaw = safePower({ points, limitC: spot.limitC, ambientC: input.airC, marginK: input.marginK, exponent });
  const slopeOf = (watts: number) => (law.exponent * allowedK) / watts;
  const all = [...idle, ...points];
  if (distinctPowers(all) >= 3) {
    const losses = growingLosses(all);
    const byLosses = powerByLosses(losses, allowedK, all);
    // Neither law is known to hold: half of what they differ by is in doubt.
    const maxW = { ...byLosses, u: Math.hypot(byLosses.u, (byLaw.value - byLosses.value) / 2) };
    return { law, losses, maxW, slope: losses.a + 2 * losses.c * maxW.value };
  }
  if (points.length > 1) return { law, losses: null, maxW: byLaw, slope: slopeOf(byLaw.value) };
  const maxW = idle.length > 0 ? byIdle(idle[0]!, points[0]!, allowedK, byLaw) : byOnePower(points, law, byLaw);
  return { law, losses: null, maxW, slope: slopeOf(maxW.value) };
}

/** An accuracy that all points share does not average out: it moves the whole curve, as if the limit itself were in doubt. */
function withAccuracy({ maxW, slope }: Allowed, accuracyK: number): Estimate {
  const parts = [
    { u: maxW.u, dof: maxW.dof },
    { u: typeB(accuracyK, 'rectangular') / slope, dof: Infinity },
  ];
  return { value: maxW.value, u: Math.hypot(parts[0]!.u, parts[1]!.u), dof: welchSatterthwaite(parts) };
}

function carryOf(spot: CarrySpot, input: CarryInput): SpotCarry {
  const scattered = ({ powerW, rise }: PowerPoint) => ({ powerW, rise: { ...rise, u: Math.hypot(rise.u, spot.scatterK ?? 0) } });
  const points = telling(spot.points).map(scattered);
  const base = { id: spot.id, name: spot.name, limitC: spot.limitC, limitSource: spot.limitSource, points: points.length };
  try {
    const allowed = allowedBy(spot, points, (spot.idle ?? []).map(scattered), input);
    const maxW = withAccuracy(allowed, spot.accuracyK ?? 0);
    const powers = points.map(({ powerW }) => powerW.value);
    return {
      ...base,
      law: allowed.law,
      losses: allowed.losses,
      maxW,
      doubtW: studentCoverage(input.coverage, maxW.dof) * maxW.u,
      far: maxW.value > FAR * Math.max(...powers) || maxW.value < Math.min(...powers) / 2,
      refusal: null,
    };
  } catch (error) {
    if (!(error instanceof RangeError) && !(error instanceof InsufficientDataError)) throw error;
    return { ...base, law: null, losses: null, maxW: null, doubtW: 0, far: false, refusal: error.message };
  }
}

/** Rise that was found at a power, K: by losses that grow where they are known, by the power law elsewhere; null without either. */
export function riseOf({ law, losses }: Pick<SpotCarry, 'law' | 'losses'>, powerW: number): number | null {
  if (losses) return riseByLosses(losses, powerW);
  return law ? riseByLaw(law, powerW) : null;
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
