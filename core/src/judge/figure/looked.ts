import { levelsOfLooks, MOST_LOOKS } from '../../uncertainty/looks.ts';
import type { JudgeRules } from '../types.ts';

/** A plan that may be decided early looks first at so many mounts a side: of one nobody knows what another would give. */
export const FIRST_LOOK = 2;

export interface Looked {
  /** Which look it is, from 1; 0 before the first. */
  look: number;
  looks: number;
  /** There are more mounts than the plan looks at. */
  beyond: boolean;
  /** Coverage that belongs to this look. */
  coverage: number;
}

/**
 * Which of the plan's looks a comparison is: a look at every further mount of both sides, its level by the rule that was set beforehand.
 *
 * @param mounts of the side that has fewer
 * @returns null where the plan sets no rule
 */
export function lookedAt({ stopping, coverage }: Pick<JudgeRules, 'stopping' | 'coverage'>, mounts: number): Looked | null {
  if (!stopping) return null;
  const looks = Math.max(1, Math.min(MOST_LOOKS, stopping.mostASide - FIRST_LOOK + 1));
  const look = Math.max(0, Math.min(looks, mounts - FIRST_LOOK + 1));
  const level = levelsOfLooks(stopping.rule, looks, 1 - coverage)[Math.max(0, look - 1)]!;
  return { look, looks, beyond: mounts - FIRST_LOOK + 1 > looks, coverage: 1 - level };
}
