import { fixed, measured, signed } from '../../format/measured.ts';
import type { JudgedSpot, PairJudgement } from '../types.ts';

export interface Prediction {
  spotId: string;
  /** Expected change b − a, K. */
  expectedK: number;
  /** Half-width the tester gave it, K. */
  plusMinusK: number;
}

export interface PredictionOutcome {
  outcome: 'right' | 'missed' | 'open';
  /** How far outside the expectation the measured value lies, K; 0 where inside. */
  missedByK: number;
  /** Measured minus expected, K; null where nothing was measured. */
  errorK: number | null;
  sentence: string;
}

/** Compares what was expected before the runs with what was measured. Open where the doubt is too large to tell. */
export function judgePrediction(prediction: Prediction, judgement: PairJudgement, spots: readonly JudgedSpot[]): PredictionOutcome {
  const spot = judgement.spots.find((candidate) => candidate.spotId === prediction.spotId);
  const name = spots.find((candidate) => candidate.id === prediction.spotId)?.name ?? prediction.spotId;
  const said = `Expected ${signed(prediction.expectedK, 1)} ± ${fixed(prediction.plusMinusK, 1)} K at ${name}`;
  if (!spot?.comparison) return { outcome: 'open', missedByK: 0, errorK: null, sentence: `${said}; not measured yet.` };
  if (judgement.blockedBy.length > 0)
    return { outcome: 'open', missedByK: 0, errorK: null, sentence: `${said}; the comparison is blocked.` };
  if (judgement.withheldBy.length > 0)
    return { outcome: 'open', missedByK: 0, errorK: null, sentence: `${said}; not called: ${judgement.withheldBy[0]!.withheld!.why}.` };
  const { difference, interval, budget } = spot.comparison;
  const [low, high] = [prediction.expectedK - prediction.plusMinusK, prediction.expectedK + prediction.plusMinusK];
  const errorK = difference.value - prediction.expectedK;
  const missedByK = Math.max(0, low - difference.value, difference.value - high);
  const got = measured(difference.value, budget.expanded, 'K', { sign: true });
  if (interval[1] < low || interval[0] > high)
    return { outcome: 'missed', missedByK, errorK, sentence: `${said}. Missed by ${fixed(missedByK, 1)} K: it was ${got}.` };
  if (missedByK === 0) return { outcome: 'right', missedByK, errorK, sentence: `${said}. Right: it was ${got}.` };
  return { outcome: 'open', missedByK, errorK, sentence: `${said}. Cannot be told: it was ${got}.` };
}
