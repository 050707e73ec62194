import type { PhaseReading, ToGo } from './types.ts';
import { clock, fixed } from '../format/measured.ts';

/**
 * How far a reading stands from its settled value, never without the bound: "0.4 K to go, at most 0.9 K".
 *
 * @param toGo K, signed, as in a phase reading
 */
export function toGoInWords({ likely, lowK, highK }: ToGo): string {
  const falls = -lowK > highK;
  const [best, most] = falls ? [-likely.value, -lowK] : [likely.value, highK];
  const way = falls ? ' down' : '';
  if (best < 0.05) return `at most ${fixed(most, 1)} K${way} to go`;
  return `${fixed(best, 1)} K${way} to go, at most ${fixed(most, 1)} K`;
}

const BOUNDS: Record<PhaseReading['bound'], string> = {
  settled: 'settled',
  'still-rising': 'lower bound',
  'still-falling': 'upper bound',
  unsteady: 'not steady',
};

/** Whether a phase was settled when it was read, and since when; what may still have come otherwise. */
export function settledWords({ bound, toGo, settling }: Pick<PhaseReading, 'bound' | 'toGo' | 'settling'>): string {
  if (bound !== 'settled') return toGo ? `${BOUNDS[bound]}: ${toGoInWords(toGo)}` : BOUNDS[bound];
  return settling.atS === null ? 'settled' : `settled since ${clock(settling.atS)}`;
}
