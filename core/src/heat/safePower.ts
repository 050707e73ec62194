import { InsufficientDataError, requireFinite, requireNotNegative, requirePositive } from '../errors.ts';
import { requireEstimate, welchSatterthwaite, type Estimate } from '../estimate.ts';

export interface PowerPoint {
  powerW: Estimate;
  /** Over the air it is referred to, K. */
  rise: Estimate;
}

export interface SafePowerInput {
  points: readonly PowerPoint[];
  limitC: number;
  ambientC: number;
  /** Kept free below the limit, K; default 0. */
  marginK?: number;
  /** Of rise = a · P^b where one point only is known; default 1. */
  exponent?: number;
}

/** rise = a · P^b as a straight line through logarithms. */
export interface PowerLaw {
  lnA: number;
  exponent: number;
}

/** Weighted straight line through the logarithms; weights as given, all equal where no point has a doubt. */
function logLine(lnP: readonly number[], lnR: readonly number[], weights: readonly number[]): PowerLaw {
  const total = weights.reduce((sum, w) => sum + w, 0);
  const mean = (values: readonly number[]) => values.reduce((sum, value, i) => sum + (weights[i]! / total) * value, 0);
  const [p, r] = [mean(lnP), mean(lnR)];
  const spp = lnP.reduce((sum, value, i) => sum + weights[i]! * (value - p) ** 2, 0);
  const spr = lnP.reduce((sum, value, i) => sum + weights[i]! * (value - p) * (lnR[i]! - r), 0);
  const exponent = spr / spp;
  return { lnA: r - exponent * p, exponent };
}

function weightsOf(points: readonly PowerPoint[]): number[] {
  const variances = points.map(({ powerW, rise }) => (rise.u / rise.value) ** 2 + (powerW.u / powerW.value) ** 2);
  // A point without doubt beside others that have one would take all the weight.
  const least = Math.max(...variances) * 1e-6;
  return least === 0 ? points.map(() => 1) : variances.map((variance) => 1 / Math.max(variance, least));
}

/**
 * The law rise = a · P^b through measured points, or through one point with a stated exponent.
 *
 * @throws InsufficientDataError no point, or several that all lie at one power; RangeError a power or rise not above zero, or
 *   a rise that does not grow with power
 */
export function powerLaw(points: readonly PowerPoint[], statedExponent = 1): PowerLaw {
  if (points.length === 0) throw new InsufficientDataError('no measured point to carry a load from');
  for (const { powerW, rise } of points) {
    requireEstimate(powerW, 'powerW');
    requireEstimate(rise, 'rise');
    requirePositive(powerW.value, 'powerW');
    requirePositive(rise.value, 'rise');
  }
  requirePositive(statedExponent, 'exponent');
  if (points.length === 1) {
    const { powerW, rise } = points[0]!;
    return { lnA: Math.log(rise.value) - statedExponent * Math.log(powerW.value), exponent: statedExponent };
  }
  if (points.every(({ powerW }) => powerW.value === points[0]!.powerW.value))
    throw new InsufficientDataError('all points lie at one power: measure at another, or state an exponent for one of them');
  const law = logLine(
    points.map(({ powerW }) => Math.log(powerW.value)),
    points.map(({ rise }) => Math.log(rise.value)),
    weightsOf(points),
  );
  if (!(law.exponent > 0)) throw new RangeError('the rise does not grow with power in these points: something else changed between them');
  return law;
}

/**
 * Largest sustained power that keeps a spot `marginK` below its limit: ((limit − margin − ambient) / a)^(1/b) with
 * rise = a · P^b through the points (methods §8).
 *
 * Weights come from the relative u of rise and power; they are held while the stated u's are propagated.
 *
 * @returns W; u by propagation of every point's rise and power, dof by Welch-Satterthwaite
 * @throws RangeError limit − margin − ambient not above zero, a power or rise not above zero, a rise that does not grow with power
 * @throws InsufficientDataError no point, or several that all lie at one power
 * @see JCGM 100:2008, 5.1.2 and G.4
 */
export function safePower(input: SafePowerInput): Estimate {
  const { points, limitC, ambientC, marginK = 0, exponent = 1 } = input;
  requireFinite(limitC, 'limitC');
  requireFinite(ambientC, 'ambientC');
  requireNotNegative(marginK, 'marginK');
  const allowedK = limitC - marginK - ambientC;
  if (allowedK <= 0) throw new RangeError(`the air (${ambientC} °C) leaves nothing below the limit (${limitC} °C less ${marginK} K)`);
  const law = powerLaw(points, exponent);
  const value = Math.exp((Math.log(allowedK) - law.lnA) / law.exponent);
  const lnValue = Math.log(value);
  const lnP = points.map(({ powerW }) => Math.log(powerW.value));
  const weights = points.length === 1 ? [1] : weightsOf(points);
  const total = weights.reduce((sum, w) => sum + w, 0);
  const middle = lnP.reduce((sum, p, i) => sum + (weights[i]! / total) * p, 0);
  const spread = lnP.reduce((sum, p, i) => sum + weights[i]! * (p - middle) ** 2, 0);
  // ln P_max moves by −1/b times how far the line moves at P_max; a point's power moves the line as b times its rise would.
  const parts = points.flatMap(({ powerW, rise }, i) => {
    const lever = weights[i]! / total + (points.length === 1 ? 0 : (weights[i]! * (lnP[i]! - middle) * (lnValue - middle)) / spread);
    const share = (value * lever) / law.exponent;
    return [
      { u: Math.abs(share * (rise.u / rise.value)), dof: rise.dof },
      { u: Math.abs(share * law.exponent * (powerW.u / powerW.value)), dof: powerW.dof },
    ];
  });
  return { value, u: Math.hypot(...parts.map((part) => part.u)), dof: welchSatterthwaite(parts) };
}
