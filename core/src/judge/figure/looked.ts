import { levelsOfLooks, MOST_LOOKS } from '../../uncertainty/looks.ts';
import type { JudgeRules, Stopping } from '../types.ts';

/** A plan that may be decided early looks first at so many mounts a side where nothing is said: of one nobody knows what another would give. */
export const FIRST_LOOK = 2;

/** Mounts a side at which a plan may look first; one only by what the bench knows of how far mounts lie apart (`tooEarly`). */
export const FIRST_LOOKS = [1, FIRST_LOOK] as const;

/** Mounts a side at a plan's first look. */
export const firstLook = ({ fromASide }: Pick<Stopping, 'fromASide'>): number => fromASide ?? FIRST_LOOK;

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
  const made = mounts - firstLook(stopping) + 1;
  const looks = Math.max(1, Math.min(MOST_LOOKS, stopping.mostASide - firstLook(stopping) + 1));
  const look = Math.max(0, Math.min(looks, made));
  const level = levelsOfLooks(stopping.rule, looks, 1 - coverage)[Math.max(0, look - 1)]!;
  return { look, looks, beyond: made > looks, coverage: 1 - level };
}
