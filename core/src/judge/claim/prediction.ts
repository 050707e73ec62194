import { decimalsFor, fixed, measured, signed } from '../../format/measured.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import type { JudgedSpot, OwnFigure, PairJudgement } from '../types.ts';
import { nameOfClaim, unitOfClaim, workCompared, type Claim } from './claim.ts';

export interface Prediction {
  /** What is expected to change: the temperature of a spot where nothing is said. */
  outcome?: Claim['outcome'];
  /** For a temperature. */
  spotId: string;
  /** Expected change b − a: K, or the unit of the outcome. */
  expectedK: number;
  /** Half-width the tester gave it, in the same. */
  plusMinusK: number;
}

export interface PredictionOutcome {
  outcome: 'right' | 'missed' | 'open';
  /** How far outside the expectation the measured value lies, in its unit; 0 where inside. */
  missedByK: number;
  /** Measured minus expected, K; null where nothing was measured, or where it was no temperature. */
  errorK: number | null;
  sentence: string;
}

/** What was expected of, and what came of it; `refused` says why it is not told although it may have been measured. */
function measuredOf(
  prediction: Prediction,
  judgement: PairJudgement,
  spots: readonly JudgedSpot[],
  own: readonly OwnFigure[],
): { name: string; unit: string; comparison: Comparison | null; refused: string | null } {
  const { outcome = 'temperature' } = prediction;
  if (outcome !== 'temperature') {
    const units = { throughputUnit: judgement.work.throughputUnit, own };
    const comparison = workCompared(outcome, judgement.work);
    return { name: nameOfClaim(outcome, units), unit: unitOfClaim(outcome, units), comparison, refused: null };
  }
  const name = spots.find((candidate) => candidate.id === prediction.spotId)?.name ?? prediction.spotId;
  const comparison = judgement.spots.find((candidate) => candidate.spotId === prediction.spotId)?.comparison ?? null;
  const [withheld] = judgement.withheldBy;
  const refused = judgement.blockedBy.length > 0 ? 'the comparison is blocked' : withheld ? `not called: ${withheld.withheld!.why}` : null;
  return { name, unit: 'K', comparison, refused };
}

/** Compares what was expected before the runs with what was measured. Open where the doubt is too large to tell. */
export function judgePrediction(
  prediction: Prediction,
  judgement: PairJudgement,
  spots: readonly JudgedSpot[],
  own: readonly OwnFigure[] = [],
): PredictionOutcome {
  const { name, unit, comparison, refused } = measuredOf(prediction, judgement, spots, own);
  const ofTemperature = (prediction.outcome ?? 'temperature') === 'temperature';
  const place = ofTemperature ? 'at' : 'in';
  const inUnit = (text: string) => `${text} ${unit}`.trim();
  const decimals = ofTemperature ? 1 : Math.max(1, decimalsFor(prediction.plusMinusK));
  const said = `Expected ${inUnit(`${signed(prediction.expectedK, decimals)} ± ${fixed(prediction.plusMinusK, decimals)}`)} ${place} ${name}`;
  const open = (why: string): PredictionOutcome => ({ outcome: 'open', missedByK: 0, errorK: null, sentence: `${said}; ${why}.` });
  if (!comparison) return open('not measured yet');
  if (refused) return open(refused);
  const { difference, interval, budget } = comparison;
  const [low, high] = [prediction.expectedK - prediction.plusMinusK, prediction.expectedK + prediction.plusMinusK];
  const errorK = ofTemperature ? difference.value - prediction.expectedK : null;
  const missedByK = Math.max(0, low - difference.value, difference.value - high);
  const got = measured(difference.value, budget.expanded, unit, { sign: true }).trim();
  if (interval[1] < low || interval[0] > high)
    return { outcome: 'missed', missedByK, errorK, sentence: `${said}. Missed by ${inUnit(fixed(missedByK, decimals))}: it was ${got}.` };
  if (missedByK === 0) return { outcome: 'right', missedByK, errorK, sentence: `${said}. Right: it was ${got}.` };
  return { outcome: 'open', missedByK, errorK, sentence: `${said}. Cannot be told: it was ${got}.` };
}
