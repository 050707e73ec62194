import { detectableDifference, repeatsNeeded } from '../uncertainty/index.ts';
import { requireNotNegative } from '../errors.ts';

/** Stands in where a bench has no history: scatter of one run's settled mean between equal runs, K. Say that it is assumed. */
export const ASSUMED_REPEATABILITY_K = 0.6;

export interface RepeatsPrice {
  /** Runs a side that see the difference of interest with 80 % chance. */
  needed: number;
  /** The smallest difference that the planned runs see with the same chance, K; null with fewer than two a side. */
  seesK: number | null;
  /** For both sides of one comparison. */
  minutes: number;
}

/**
 * How many repeats a difference needs, what the planned ones could see, and what the needed ones cost.
 *
 * @param input.sd between equal runs, K
 * @param input.detectK difference of interest, K
 * @param input.planned runs a side as planned
 * @param input.minutesPerRun with refitting where it is refitted
 * @throws RangeError as `repeatsNeeded`; negative minutes
 */
export function priceRepeats(input: { sd: number; detectK: number; alpha: number; planned: number; minutesPerRun: number }): RepeatsPrice {
  const { sd, detectK, alpha, planned, minutesPerRun } = input;
  requireNotNegative(minutesPerRun, 'minutesPerRun');
  const needed = repeatsNeeded({ sd, detect: detectK, alpha });
  return {
    needed,
    seesK: planned >= 2 ? detectableDifference({ sd, runs: planned, alpha }) : null,
    minutes: 2 * needed * minutesPerRun,
  };
}
