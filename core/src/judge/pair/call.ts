import { unreachable } from '../../errors.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import type { Call, Finding } from '../types.ts';

/**
 * What may be said of a difference b − a: the one place where a comparison becomes a call.
 *
 * @param comparison null where there is none, and `refusal` says why
 * @param blockedBy what forbids comparing the two sides (`mayBeCalled`)
 */
export function callOf(comparison: Comparison | null, refusal: string | null, blockedBy: readonly Finding[]): Call {
  if (!comparison) return { kind: 'not-compared', why: refusal };
  const [block] = blockedBy;
  if (block) return { kind: 'blocked', why: block.evidence };
  switch (comparison.verdict) {
    case 'a-cooler':
      return { kind: 'warmer', why: null };
    case 'b-cooler':
      return { kind: 'cooler', why: null };
    case 'equivalent':
    case 'no-call':
      return { kind: comparison.verdict, why: null };
    default:
      return unreachable(comparison.verdict);
  }
}

/** A call names a side: nothing else may be set in a side's colour. */
export const namesASide = ({ kind }: Call): boolean => kind === 'cooler' || kind === 'warmer';

export interface CallWords {
  tone: 'cooler' | 'warmer' | 'plain';
  words: string;
}

/**
 * A call in words, with the tone that it is set in: pages and files take both from here.
 *
 * @param subject the side that is spoken of (b); without it the words stand alone, as in a table of steps
 */
export function callWords({ kind, why }: Call, subject = ''): CallWords {
  const of = subject === '' ? '' : `${subject} `;
  switch (kind) {
    case 'cooler':
    case 'warmer':
      return { tone: kind, words: `${of}${kind}` };
    case 'equivalent':
      return { tone: 'plain', words: 'equivalent' };
    case 'no-call':
      return { tone: 'plain', words: 'no call' };
    case 'withheld':
      return { tone: 'plain', words: why ? `not called: ${why}` : 'not called' };
    case 'blocked':
      return { tone: 'plain', words: 'blocked, not called' };
    case 'not-compared':
      return { tone: 'plain', words: why ?? 'not compared' };
    default:
      return unreachable(kind);
  }
}
