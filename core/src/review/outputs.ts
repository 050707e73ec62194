import type { Estimate } from '../estimate.ts';

/**
 * What is read of a run beside temperature: one window mean each, null where it was not recorded. A new quantity is added here; a run,
 * each of its loads, the hash of a stored review and the outcomes then have it, or do not compile.
 */
export const OUTPUT_KEYS = ['performance', 'power', 'fan', 'clock', 'noise', 'whine'] as const;
export type OutputKey = (typeof OUTPUT_KEYS)[number];
/** Units: performance in the part's own (`throughputUnit`), W, rpm, MHz, dB(A) twice. */
export type Outputs = Record<OutputKey, Estimate | null>;

/** Makes one entry for every output. */
export function eachOutput<T>(make: (key: OutputKey) => T): Record<OutputKey, T> {
  return Object.fromEntries(OUTPUT_KEYS.map((key) => [key, make(key)])) as Record<OutputKey, T>;
}

/** The outputs of a run or of one of its loads, and nothing else of it. */
export const outputsOf = (of: Outputs): Outputs => eachOutput((key) => of[key]);
