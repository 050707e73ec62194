import { studentCdf } from '../../distributions/studentT.ts';
import { unreachable } from '../../errors.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import { standsInOrder } from '../fair/stands.ts';
import type { ComparedAt } from './compareAt.ts';
import type { Call, Finding } from '../types.ts';

/** Chances by the same model as the interval: b − a below nothing, below minus what matters, above it. */
function likelyOf({ difference }: Comparison, practicalK: number): Call['likely'] {
  const below = (limit: number) => {
    if (difference.u === 0) return difference.value < limit ? 1 : 0;
    return studentCdf((limit - difference.value) / difference.u, difference.dof);
  };
  return { cooler: below(0), coolerByThreshold: below(-practicalK), warmerByThreshold: 1 - below(practicalK) };
}

/**
 * What may be said of a difference b − a: the one place where a comparison becomes a call.
 *
 * @param made what was compared, and what stands against it by itself (`compareAt`)
 * @param between what forbids or withholds calling the two sides (`mayBeCalled`)
 */
export function callOf(
  { comparison, refusal, stands: own }: Pick<ComparedAt, 'comparison' | 'refusal' | 'stands'>,
  between: readonly Finding[],
  practicalK: number,
): Call {
  const stands = [...between, ...own];
  if (!comparison) return { kind: 'not-compared', why: refusal, earnBy: null, likely: null, byItself: false };
  const likely = likelyOf(comparison, practicalK);
  const [first] = standsInOrder(stands);
  if (first?.severity === 'blocks') return { kind: 'blocked', why: first.evidence, earnBy: null, likely, byItself: false };
  const open = { why: null, earnBy: null, likely, byItself: false };
  switch (comparison.verdict) {
    case 'a-cooler':
    case 'b-cooler': {
      if (first) return { kind: 'withheld', why: first.withheld!.why, earnBy: first.withheld!.earnBy, likely, byItself: false };
      return { ...open, kind: comparison.verdict === 'a-cooler' ? 'warmer' : 'cooler' };
    }
    case 'equivalent':
      // That two are alike has to be earned as well.
      return first
        ? { kind: 'withheld', why: first.withheld!.why, earnBy: first.withheld!.earnBy, likely, byItself: false }
        : { ...open, kind: 'equivalent' };
    case 'no-call':
      return { ...open, kind: 'no-call' };
    default:
      return unreachable(comparison.verdict);
  }
}

/** A call names a side: nothing else may be set in a side's colour. */
export const namesASide = ({ kind }: Pick<Call, 'kind'>): boolean => kind === 'cooler' || kind === 'warmer';

export interface CallWords {
  tone: 'cooler' | 'warmer' | 'plain';
  words: string;
}

/**
 * A call in words, with the tone that it is set in: pages and files take both from here.
 *
 * @param subject the side that is spoken of (b); without it the words stand alone, as in a table of steps
 */
export function callWords({ kind, why, byItself }: Pick<Call, 'kind' | 'why' | 'byItself'>, subject = ''): CallWords {
  const of = subject === '' ? '' : `${subject} `;
  switch (kind) {
    case 'cooler':
    case 'warmer':
      return { tone: kind, words: byItself ? `${of}${kind} by itself` : `${of}${kind}` };
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
