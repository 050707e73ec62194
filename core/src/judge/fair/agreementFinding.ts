import { fixed } from '../../format/measured.ts';
import type { Agreement } from '../../instruments/agreement.ts';
import type { Finding } from '../types.ts';

/** Two spots held against each other in one run; `b` is the one in doubt. */
export interface TwinAgreement {
  a: { id: string; name: string };
  b: { id: string; name: string; limitC: number };
  /** On one place; else a is the hottest that is attached to a part of b's kind, and b reads the part by itself. */
  samePlace: boolean;
  runLabel: string;
  /** Of a − b. */
  agreement: Agreement;
  /** Mean level at which they were compared, °C. */
  levelC: number;
}

/** A sensor that reads this much low near the limit hides the headroom that is not there, K. */
const LOW_K = 1;

/** What a − b comes to near b's limit, by the bias and its trend, K; above zero, b reads low. */
export function biasAtLimit({ agreement, b, levelC }: TwinAgreement): number {
  const { bias, trendPerK } = agreement;
  // A trend lost in its own doubt is not carried to the limit.
  const trend = Math.abs(trendPerK.value) > 2 * trendPerK.u ? trendPerK.value : 0;
  return bias.value + trend * (b.limitC - levelC);
}

/**
 * The finding that a sensor earns by disagreeing with another on its place; null where they agree within a kelvin near the limit.
 *
 * Reading low on the same place weakens whatever rests on it, reading high is a note: it errs on the safe side. A part's own sensor that
 * lies lower than what is attached elsewhere on it is said, and no more: the two may well differ.
 */
export function agreementFinding(twin: TwinAgreement): Finding | null {
  const atLimit = biasAtLimit(twin);
  if (Math.abs(atLimit) < Math.max(LOW_K, 2 * twin.agreement.bias.u)) return null;
  const low = atLimit > 0;
  // Elsewhere on the part it may well be warmer than there; only what lies lower matters.
  if (!twin.samePlace && !low) return null;
  const off = fixed(Math.abs(atLimit), 1);
  const evidence = twin.samePlace
    ? `${twin.b.name} reads about ${off} K ${low ? 'low' : 'high'} near its limit, by ${twin.a.name} on the same place (${twin.runLabel}).`
    : `${twin.b.name} reads about ${off} K less near its limit than ${twin.a.name}, the hottest attached to a part of its kind (${twin.runLabel}).`;
  return {
    check: 'agreement',
    severity: low && twin.samePlace ? 'weakens' : 'note',
    evidence,
    remedy: low ? `Judge the headroom by ${twin.a.name}.` : 'It errs on the safe side.',
    runId: null,
    spotId: twin.b.id,
  };
}
