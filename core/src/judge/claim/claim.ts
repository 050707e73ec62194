import { fixed, measured } from '../../format/measured.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import { ownIdOf } from '../outcome/outcomes.ts';
import type { JudgedSpot, OwnFigure, OwnOutcome, PairJudgement, WorkJudgement } from '../types.ts';

/** `at-least`: of watts carried, so many and not so many more than the other. */
export type ClaimDirection = 'cooler' | 'warmer' | 'less' | 'more' | 'no-difference' | 'at-least';
export type ClaimOutcome = 'supported' | 'contradicted' | 'not-shown';

/** What a claim can be about, with the unit of its effect. */
export const CLAIM_UNITS = {
  temperature: 'K',
  noise: 'dB',
  clock: 'MHz',
  throughput: '',
  'time-to-throttle': 'min',
  'watts-carried': 'W',
} as const;
export type ClaimAbout = keyof typeof CLAIM_UNITS;

/** Units that a study gives itself: of the work of its part, and of its own figures. */
export interface ClaimUnits {
  throughputUnit?: string;
  own?: readonly Pick<OwnFigure, 'id' | 'name' | 'unit'>[];
}

const ownFigure = (about: Claim['outcome'], { own = [] }: ClaimUnits) => own.find(({ id }) => id === ownIdOf(about));

/** Unit of a claim's effect: work is counted in what the part does, which is not always megabytes. */
export function unitOfClaim(about: Claim['outcome'], units: ClaimUnits): string {
  if (ownIdOf(about) !== null) return ownFigure(about, units)?.unit ?? '';
  return about === 'throughput' ? (units.throughputUnit ?? '') : CLAIM_UNITS[about as ClaimAbout];
}

export interface Claim {
  text: string;
  outcome: ClaimAbout | OwnOutcome;
  /** For a temperature: the spot it is about; null for every spot. */
  spotId: string | null;
  direction: ClaimDirection;
  /** Smallest effect that would bear it out, in the unit of the outcome. */
  leastEffect: number;
}

export interface ClaimJudgement {
  outcome: ClaimOutcome;
  /** One sentence with the numbers. */
  sentence: string;
}

/** Holds the interval of a difference (b − a) against what is claimed of it. */
function judgeInterval(claim: Claim, comparison: Comparison | null, practical: number): ClaimOutcome {
  if (!comparison) return 'not-shown';
  const [low, high] = comparison.interval;
  const least = claim.leastEffect;
  switch (claim.direction) {
    case 'cooler':
    case 'less':
      return high <= -least && high < 0 ? 'supported' : low > -least ? 'contradicted' : 'not-shown';
    case 'warmer':
    case 'more':
      return low >= least && low > 0 ? 'supported' : high < least ? 'contradicted' : 'not-shown';
    case 'no-difference':
      return low >= -practical && high <= practical ? 'supported' : low > practical || high < -practical ? 'contradicted' : 'not-shown';
    case 'at-least':
      return 'not-shown'; // of a difference nothing like it is claimed
  }
}

/**
 * Holds a claim about variant b against the measured differences (b − a).
 *
 * Supported where the whole interval shows at least the claimed effect; contradicted where the whole interval falls short of
 * it; not shown otherwise. A claim about every spot needs each of them, and fails with any one.
 */
export function judgeClaim(
  claim: Claim,
  judgement: PairJudgement,
  spots: readonly JudgedSpot[],
  practicalK: number,
  own: readonly OwnFigure[] = [],
): ClaimJudgement {
  return claim.outcome === 'temperature'
    ? judgeTemperatureClaim(claim, judgement, spots, practicalK)
    : claim.outcome === 'time-to-throttle'
      ? judgeThrottleClaim(claim, judgement)
      : judgeWorkClaim(claim, workCompared(claim.outcome, judgement.work), judgement.work, own);
}

const WORDS = { supported: 'is supported', contradicted: 'is contradicted', 'not-shown': 'is not shown' };

export const verdictOf = (outcome: ClaimOutcome): string => WORDS[outcome];
const ABOUT: Record<ClaimAbout, string> = {
  temperature: 'temperature',
  noise: 'noise',
  clock: 'clock',
  throughput: 'throughput',
  'time-to-throttle': 'time to throttle',
  'watts-carried': 'watts carried',
};

export const nameOfClaim = (about: Claim['outcome'], units: ClaimUnits): string =>
  ownFigure(about, units)?.name ?? ABOUT[about as ClaimAbout] ?? 'such a figure';

function asked(claim: Claim, units: ClaimUnits = {}, within = 0): string {
  return claim.direction === 'no-difference'
    ? `no difference${within > 0 ? ` beyond ${Number(within.toPrecision(2))} ${unitOfClaim(claim.outcome, units)}` : ''}`
    : `at least ${claim.leastEffect} ${unitOfClaim(claim.outcome, units)} ${claim.direction}`;
}

/** How an outcome beside temperature compared between two sides; null where it was not recorded on both, or is no outcome of a pair. */
export function workCompared(outcome: Claim['outcome'], work: WorkJudgement): Comparison | null {
  const id = ownIdOf(outcome);
  if (id !== null) return work.own[id]?.comparison ?? null;
  if (outcome === 'time-to-throttle') return work.timeToThrottle;
  return outcome === 'throughput' || outcome === 'noise' || outcome === 'clock' ? work[outcome] : null;
}

function judgeWorkClaim(
  claim: Claim,
  comparison: Comparison | null,
  { assumed, throughputUnit, practical, own: compared }: WorkJudgement,
  own: readonly OwnFigure[] = [],
): ClaimJudgement {
  const units = { throughputUnit, own };
  const about = nameOfClaim(claim.outcome, units);
  if (!comparison)
    return {
      outcome: 'not-shown',
      sentence: `“${claim.text}” is not shown: no ${about} was recorded often enough on both sides.`,
    };
  // "No difference within nothing" no measurement could bear out: what does not matter of that outcome is meant.
  const id = ownIdOf(claim.outcome);
  const known = claim.outcome === 'time-to-throttle' ? 'timeToThrottle' : (claim.outcome as 'noise');
  const usual = (id === null ? practical[known] : compared[id]?.practical) ?? 0;
  const within = claim.leastEffect > 0 ? claim.leastEffect : usual;
  const outcome = judgeInterval(claim, comparison, within);
  const { difference, budget } = comparison;
  const shown = measured(difference.value, budget.expanded, unitOfClaim(claim.outcome, units), { sign: true });
  return {
    outcome,
    sentence: `“${claim.text}” ${WORDS[outcome]}: it asks for ${asked(claim, units, within)}, and ${about} changed by ${shown}${assumed ? ' (one run on a side; an assumed scatter stands in)' : ''}.`,
  };
}

/** A side that never throttled has no time to throttle, but has lasted longer than every run that did. */
function judgeThrottleClaim(claim: Claim, { a, b, work }: PairJudgement): ClaimJudgement {
  if (work.timeToThrottle) return judgeWorkClaim(claim, work.timeToThrottle, work);
  const { a: ta, b: tb } = work.throttled;
  if (ta.of === 0 || tb.of === 0) return judgeWorkClaim(claim, null, work);
  const say = (outcome: ClaimOutcome, why: string): ClaimJudgement => ({ outcome, sentence: `“${claim.text}” ${WORDS[outcome]}: ${why}` });
  const side = (name: string, t: typeof ta) =>
    t.runs === 0 ? `${name} never throttled in ${fixed(t.watchedMin, 0)} min of load` : `${name} throttled in ${t.runs} of ${t.of} runs`;
  const words = `${side(a.name, ta)}, ${side(b.name, tb)}.`;
  if (ta.runs === 0 && tb.runs === 0) return say(claim.direction === 'no-difference' ? 'supported' : 'not-shown', words);
  const always = (t: typeof ta) => t.runs === t.of;
  if (always(ta) && tb.runs === 0) return say(claim.direction === 'more' ? 'supported' : 'contradicted', words);
  if (ta.runs === 0 && always(tb)) return say(claim.direction === 'less' ? 'supported' : 'contradicted', words);
  return say('not-shown', words);
}

function judgeTemperatureClaim(claim: Claim, judgement: PairJudgement, spots: readonly JudgedSpot[], practicalK: number): ClaimJudgement {
  const [block] = judgement.blockedBy;
  if (block) return { outcome: 'not-shown', sentence: `“${claim.text}” is not shown: the comparison is blocked. ${block.evidence}` };
  const [withheld] = judgement.withheldBy;
  if (withheld)
    return { outcome: 'not-shown', sentence: `“${claim.text}” is not shown: not called, ${withheld.withheld!.why}. ${withheld.evidence}` };
  const subject = claim.spotId ? judgement.spots.filter((spot) => spot.spotId === claim.spotId) : judgement.spots;
  const judged = subject.map((spot) => ({
    spot,
    name: spots.find((candidate) => candidate.id === spot.spotId)?.name ?? spot.spotId,
    outcome: judgeInterval(claim, spot.comparison, practicalK),
  }));
  const readable = judged.filter(({ spot }) => spot.comparison);
  if (readable.length === 0) return { outcome: 'not-shown', sentence: 'There is no comparison yet that the claim could be held against.' };
  const against = readable.filter(({ outcome }) => outcome === 'contradicted');
  const outcome: ClaimOutcome =
    against.length > 0
      ? 'contradicted'
      : readable.length === judged.length && judged.every((entry) => entry.outcome === 'supported')
        ? 'supported'
        : 'not-shown';
  // The evidence worth naming: what speaks most loudly for the outcome.
  const size = (entry: (typeof readable)[number]) => entry.spot.comparison!.difference.value;
  const pool = against.length > 0 ? against : readable;
  const telling = [...pool].sort((p, q) => (claim.direction === 'warmer' ? size(p) - size(q) : size(q) - size(p)))[0]!;
  const { difference, budget } = telling.spot.comparison!;
  const shown = measured(difference.value, budget.expanded, 'K', { sign: true });
  const wanted = claim.direction === 'no-difference' ? `no difference beyond ${practicalK} K` : asked(claim);
  return { outcome, sentence: `“${claim.text}” ${WORDS[outcome]}: it asks for ${wanted}, and ${telling.name} changed by ${shown}.` };
}
