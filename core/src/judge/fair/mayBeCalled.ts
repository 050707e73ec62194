import { standsInOrder } from './stands.ts';
import { pairFindings } from './pairFindings.ts';
import type { Finding, JudgedSide, JudgeRules } from '../types.ts';

/**
 * What forbids comparing two sides, or withholds a call, whatever their figures say: nothing where they may be called. Every page, file
 * and ranking asks this before it names a side.
 *
 * @param a,b only the runs that take part
 */
export function mayBeCalled(a: JudgedSide, b: JudgedSide, rules: JudgeRules): Finding[] {
  return standsInOrder(pairFindings(a, b, [], rules, null));
}
