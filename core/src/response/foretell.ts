import { studentCoverage } from '../distributions/studentT.ts';
import { welchSatterthwaite, type Estimate } from '../estimate.ts';
import { EXPONENT_U, FAR } from '../heat/carry.ts';
import { requireFinite, requireNotNegative, requirePositive } from '../errors.ts';
import { bent } from './bins.ts';
import { nextRunSd, type SpotResponse } from './fitResponse.ts';

/** What a figure rests on: the runs themselves, arithmetic over them with figures from elsewhere, or a guess. */
export type Footing = 'measured' | 'calculated' | 'guessed';

/** What is asked: null leaves it as the runs had it. */
export interface WhatIf {
  /** Air that the rise stands on, °C. */
  airC: number | null;
  powerW: number | null;
  /** Into the part beside it, W. */
  neighbourW: number | null;
  /** Speed against that at which the runs ran under load; 1 is the same. */
  fanShare: number | null;
  /** A layer exchanged on the way of the heat: what it takes now and what it would take more (or less), K/W with its standard uncertainty, for the share of the power that goes through it. */
  layer: { nowKPerW: number; moreKPerW: number; u: number; share: number } | null;
  /** Another cooler: K/W from the spot to the air in place of all that is there. */
  cooler: { kPerW: number; u: number } | null;
}

export const AS_IT_RAN: WhatIf = { airC: null, powerW: null, neighbourW: null, fanShare: null, layer: null, cooler: null };

export type WhatIfKey = keyof WhatIf;

/** What one change does by itself, in the order in which they are taken. */
export interface ForetoldChange {
  of: WhatIfKey;
  footing: Footing;
  /** K at the settled spot. */
  byK: number;
  /** Beyond what the runs have seen, in words; null where it is within. */
  beyond: string | null;
}

export interface Foretold {
  /** °C, once everything has settled. */
  settledC: Estimate;
  /** Half of the 95 % interval, K. */
  plusMinusK: number;
  changes: ForetoldChange[];
  /** The weakest of them; measured where nothing was changed. */
  footing: Footing;
  /** Beyond what was measured in any of them: to be shown, never called. */
  beyond: boolean;
}

/** Air farther from any that was measured than this is beyond it, K: what flows by its own buoyancy and what leaks change with it. */
const AIR_MARGIN_K = 15;
/** What a kelvin of air beyond it adds in doubt, K. Our own figure. */
const AIR_DOUBT = 0.03;

const FOOTING: Record<WhatIfKey, Footing> = {
  airC: 'calculated',
  powerW: 'calculated',
  neighbourW: 'calculated',
  fanShare: 'calculated',
  layer: 'calculated',
  cooler: 'guessed',
};

/** The steps from how the runs ran to what is asked, one change after the other. */
function steps(asked: WhatIf): { of: WhatIfKey; upTo: WhatIf }[] {
  let upTo = AS_IT_RAN;
  return (Object.keys(AS_IT_RAN) as WhatIfKey[]).flatMap((of) => {
    if (asked[of] === null) return [];
    upTo = { ...upTo, [of]: asked[of] };
    return [{ of, upTo }];
  });
}

/** Where the runs themselves stood. */
export const airOf = ({ air }: SpotResponse): number => (air.leastC + air.mostC) / 2;

/** Settled spot by the fit, and how its doubt comes about. */
function settled(response: SpotResponse, asked: WhatIf): { valueC: number; parts: { u: number; dof: number }[] } {
  const { gain, rest, covariance, power, fan, neighbour, scatter, air } = response;
  const airC = asked.airC ?? airOf(response);
  const watts = asked.powerW ?? power.mostW;
  const slower = fan === null || asked.fanShare === null ? 0 : -Math.log(asked.fanShare);
  const flow = Math.exp((fan?.exponent.value ?? 0) * slower);
  const law = { by: response.bend.value, atW: power.mostW };
  const effective = bent(watts, law);
  const byFit = asked.cooler === null ? gain.value * effective * flow : asked.cooler.kPerW * watts;
  // What is not known of the bend tells away from the most power that was measured.
  const ofBend = asked.cooler === null ? (gain.value * flow * watts * (watts / power.mostW - 1) * response.bend.u) / (1 + law.by) ** 2 : 0;
  const layer = asked.layer === null ? 0 : asked.layer.moreKPerW * asked.layer.share * watts;
  const neighbourW = asked.neighbourW ?? neighbour?.usualW ?? 0;
  const byNeighbour = (neighbour?.gain.value ?? 0) * neighbourW;
  const withGain = asked.cooler === null ? effective * flow : 0;
  const ofNeighbour = neighbour
    ? (neighbourW * neighbour.gain.u) ** 2 + 2 * neighbourW * (withGain * neighbour.covariance.ofGain + neighbour.covariance.ofRest)
    : 0;
  const outside = Math.max(airC - air.mostC, air.leastC - airC, 0);
  // Beyond the powers that were measured the law is open; where they were alike, at any other power.
  const nearest = Math.min(Math.max(watts, power.told ? power.leastW : power.mostW), power.mostW);
  const open = watts > 0 && nearest > 0 ? Math.abs(Math.log(watts / nearest)) : 0;
  const ofFit = Math.sqrt(Math.max(0, (gain.u * withGain) ** 2 + rest.u ** 2 + 2 * covariance * withGain + ofNeighbour));
  return {
    valueC: airC + rest.value + byFit + byNeighbour + layer,
    parts: [
      { u: ofFit, dof: neighbour ? Math.min(gain.dof, neighbour.gain.dof) : gain.dof },
      { u: nextRunSd(scatter.sd, response.runs), dof: scatter.dof },
      { u: byFit * open * EXPONENT_U, dof: Infinity },
      { u: Math.abs(ofBend), dof: Infinity },
      { u: asked.cooler === null ? Math.abs(byFit * slower) * (fan?.exponent.u ?? 0) : asked.cooler.u * watts, dof: Infinity },
      { u: asked.layer === null ? 0 : asked.layer.u * asked.layer.share * watts, dof: Infinity },
      { u: outside * AIR_DOUBT, dof: Infinity },
    ],
  };
}

function beyondOf(response: SpotResponse, of: WhatIfKey, asked: WhatIf): string | null {
  const { air, power, fan, neighbour } = response;
  if (of === 'airC') {
    const airC = asked.airC!;
    if (airC > air.mostC + AIR_MARGIN_K) return 'warmer air than any run had';
    return airC < air.leastC - AIR_MARGIN_K ? 'cooler air than any run had' : null;
  }
  if (of === 'powerW') {
    if (asked.powerW! > FAR * power.mostW) return 'far above any power that was measured';
    return !power.told && asked.powerW! < power.mostW / FAR ? 'no run took a power as low as that' : null;
  }
  if (of === 'neighbourW') {
    if (!neighbour) return 'no run tells what the part beside it does';
    const spanW = neighbour.mostW - neighbour.leastW;
    return Math.max(asked.neighbourW! - neighbour.mostW, neighbour.leastW - asked.neighbourW!) > spanW
      ? 'far from any power of the part beside it that was measured'
      : null;
  }
  if (of === 'layer')
    return asked.layer!.nowKPerW * asked.layer!.share > response.gain.value
      ? 'the layer alone would take more than the whole way does: its area or its share of the heat cannot be right'
      : null;
  if (of === 'fanShare') {
    if (fan === null) return 'no run recorded the fan';
    return asked.fanShare! < 0.5 || asked.fanShare! > 1.6 ? 'far from any speed that was measured' : null;
  }
  return null;
}

function footingOf(response: SpotResponse, of: WhatIfKey): Footing {
  if (of === 'fanShare' && !response.fan?.told) return 'guessed';
  if (of === 'powerW' && !response.power.told) return 'guessed';
  return FOOTING[of];
}

const WEAKER: Footing[] = ['measured', 'calculated', 'guessed'];

/**
 * Where a spot would settle were something else than it was in the runs that its response was fitted to.
 *
 * The fan is held at the speed asked for: a fan that is free would answer. Doubt: the fit's, the scatter between equal runs, the open law
 * beyond the powers that were measured, and what is said of the change.
 *
 * @throws RangeError air, power, share of the speed or a resistance that is no number; a speed not above zero; a power below zero
 */
export function foretell(response: SpotResponse, asked: WhatIf): Foretold {
  if (asked.airC !== null) requireFinite(asked.airC, 'airC');
  if (asked.powerW !== null) requireNotNegative(asked.powerW, 'powerW');
  if (asked.neighbourW !== null) requireNotNegative(asked.neighbourW, 'neighbourW');
  if (asked.fanShare !== null) requirePositive(asked.fanShare, 'fanShare');
  if (asked.layer !== null) requireFinite(asked.layer.moreKPerW, 'moreKPerW');
  if (asked.cooler !== null) requirePositive(asked.cooler.kPerW, 'kPerW');
  const { valueC, parts } = settled(response, asked);
  let before = settled(response, AS_IT_RAN).valueC;
  const changes = steps(asked).map(({ of, upTo }): ForetoldChange => {
    const after = settled(response, upTo).valueC;
    const byK = after - before;
    before = after;
    return { of, footing: footingOf(response, of), byK, beyond: beyondOf(response, of, asked) };
  });
  const u = Math.hypot(...parts.map((part) => part.u));
  const dof = welchSatterthwaite(parts.filter((part) => part.u > 0));
  return {
    settledC: { value: valueC, u, dof },
    plusMinusK: studentCoverage(0.95, dof) * u,
    changes,
    footing: changes.reduce<Footing>(
      (weakest, { footing }) => (WEAKER.indexOf(footing) > WEAKER.indexOf(weakest) ? footing : weakest),
      'measured',
    ),
    beyond: changes.some(({ beyond }) => beyond !== null),
  };
}

/** The spot from rest on, with the load coming on at 0, °C at each of the seconds asked for; `byK` shifts where it would settle. */
export function foretoldTrace(response: SpotResponse, asked: WhatIf, atS: readonly number[], byK = 0): number[] {
  const endC = settled(response, asked).valueC + byK;
  const idleW = response.power.told ? Math.min(response.power.leastW, asked.powerW ?? Infinity) : 0;
  const startC = settled(response, { ...asked, powerW: idleW }).valueC;
  const all = response.lags.reduce((sum, { gainKPerW }) => sum + gainKPerW, 0);
  return atS.map((s) => {
    const left = all > 0 ? response.lags.reduce((sum, { tauS, gainKPerW }) => sum + (gainKPerW / all) * Math.exp(-s / tauS), 0) : 0;
    return endC - (endC - startC) * left;
  });
}

/** Slower than so many of the slowest lag nothing is left to come. */
const OVER = 8;
/** How fast a spot follows is another at another power and from mount to mount: so much sooner or later, and seconds at least. Our own figures. */
const PACE_DOUBT = 0.3;
const PACE_DOUBT_S = 30;

/** When a spot comes to its limit, seconds after the load comes on: 0 where it lies above it at rest, null where it never does. */
export interface Reached {
  atS: number | null;
  /** Within the doubt of where it would settle and of how fast it follows. */
  earliestS: number | null;
  latestS: number | null;
}

/**
 * When a spot would come to a limit, with the doubt of it. Near where it would settle a kelvin is many minutes, or never.
 *
 * @returns null where another cooler is asked for: how much heat that holds, and so how fast it warms, is not known of it
 */
export function reached(response: SpotResponse, asked: WhatIf, limitC: number): Reached | null {
  if (asked.cooler !== null) return null;
  const longestS = OVER * Math.max(...response.lags.map(({ tauS }) => tauS));
  const doubtK = foretell(response, asked).plusMinusK;
  const crossing = (byK: number): number | null => {
    const at = (s: number) => foretoldTrace(response, asked, [s], byK)[0]!;
    if (at(0) >= limitC) return 0;
    let [before, after] = [0, longestS];
    if (at(after) < limitC) return null;
    // Every gain is above zero, so that the way up never turns.
    while (after - before > 0.5) {
      const middle = (before + after) / 2;
      if (at(middle) < limitC) before = middle;
      else after = middle;
    }
    return after;
  };
  const [atS, earliestS, latestS] = [crossing(0), crossing(doubtK), crossing(-doubtK)];
  return {
    atS,
    earliestS: earliestS === null ? null : Math.max(0, earliestS * (1 - PACE_DOUBT) - PACE_DOUBT_S),
    latestS: latestS === null || latestS === 0 ? latestS : latestS * (1 + PACE_DOUBT) + PACE_DOUBT_S,
  };
}

/**
 * What is to be expected of one variant against another once both are made, b − a of their rises, in the air that b had: the doubts of both
 * as if nothing were common to them, which errs on the wide side where b is a what-if of a.
 */
export function expectedDifference(a: SpotResponse, b: SpotResponse, asked: WhatIf): { byK: number; plusMinusK: number } {
  const airC = airOf(b);
  const [one, other] = [foretell(a, { ...AS_IT_RAN, airC }), foretell(b, { ...asked, airC, powerW: null, neighbourW: null })];
  const u = Math.hypot(one.settledC.u, other.settledC.u);
  const dof = welchSatterthwaite([one.settledC, other.settledC]);
  return { byK: other.settledC.value - one.settledC.value, plusMinusK: studentCoverage(0.95, dof) * u };
}
