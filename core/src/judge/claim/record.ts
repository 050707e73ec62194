import type { PredictionOutcome } from './prediction.ts';

/** A tester's record over all predictions that were written before the runs. */
export interface PredictionRecord {
  right: number;
  missed: number;
  /** Not measured, or with too much doubt to tell. */
  open: number;
  /** Of those told, 0..1; null where none was. */
  shareRight: number | null;
  /** Mean of how far measured lay from the middle of what was expected, K; null where none was told. */
  meanErrorK: number | null;
  /** The same with its sign: above zero, parts come out warmer than expected. */
  biasK: number | null;
}

/**
 * Scores predictions: how often right, and how far off.
 *
 * @param scored outcome of each, with measured minus expected in K (null where there was nothing measured)
 */
export function predictionRecord(scored: readonly { outcome: PredictionOutcome['outcome']; errorK: number | null }[]): PredictionRecord {
  const count = (outcome: PredictionOutcome['outcome']) => scored.filter((entry) => entry.outcome === outcome).length;
  const [right, missed] = [count('right'), count('missed')];
  const errors = scored.flatMap((entry) => (entry.outcome === 'open' || entry.errorK === null ? [] : [entry.errorK]));
  const mean = (values: number[]) => (values.length === 0 ? null : values.reduce((sum, value) => sum + value / values.length, 0));
  return {
    right,
    missed,
    open: scored.length - right - missed,
    shareRight: right + missed === 0 ? null : right / (right + missed),
    meanErrorK: mean(errors.map(Math.abs)),
    biasK: mean(errors),
  };
}
