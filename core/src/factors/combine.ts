import { assertDesign, type Factor, type Levels } from './aliases.ts';

/** More combinations than this are nobody's plan. */
export const MOST_COMBINATIONS = 5000;

/** Levels that cannot be had together, such as a duct without its fan, with the reason. */
export interface Impossible {
  levels: Levels;
  reason: string;
}

/** Number of combinations of all levels. */
export function countCombinations(factors: readonly Factor[]): number {
  return factors.reduce((product, factor) => product * factor.levels.length, 1);
}

export function isImpossible(levels: Levels, impossible: readonly Impossible[]): Impossible | null {
  return impossible.find((rule) => Object.entries(rule.levels).every(([name, level]) => levels[name] === level)) ?? null;
}

/**
 * Every combination of levels, the last factor changing fastest; the impossible ones struck out with their reason.
 *
 * @throws RangeError more than 5000 combinations, saying how many and how to cut them down; a factor of fewer than two levels
 */
export function combinations(
  factors: readonly Factor[],
  impossible: readonly Impossible[] = [],
): { levels: Record<string, string>; struck: string | null }[] {
  assertDesign(factors, []);
  const count = countCombinations(factors);
  if (count > MOST_COMBINATIONS)
    throw new RangeError(
      `${count} combinations are more than any bench can run: drop levels or factors until ${MOST_COMBINATIONS} or fewer are left, or make a ladder`,
    );
  let all: Record<string, string>[] = [{}];
  for (const factor of factors) all = all.flatMap((levels) => factor.levels.map((level) => ({ ...levels, [factor.name]: level })));
  return all.map((levels) => ({ levels, struck: isImpossible(levels, impossible)?.reason ?? null }));
}

/**
 * A ladder: the first levels of all factors, then one change kept at a time, factor by factor and level by level.
 *
 * @returns the steps from the start on; one that would be impossible is struck out, and the next starts from the last possible one
 */
export function ladder(
  factors: readonly Factor[],
  impossible: readonly Impossible[] = [],
): { levels: Record<string, string>; struck: string | null }[] {
  assertDesign(factors, []);
  let levels = Object.fromEntries(factors.map((factor) => [factor.name, factor.levels[0]!]));
  const steps = [{ levels, struck: isImpossible(levels, impossible)?.reason ?? null }];
  for (const factor of factors)
    for (const level of factor.levels.slice(1)) {
      const next = { ...levels, [factor.name]: level };
      const struck = isImpossible(next, impossible)?.reason ?? null;
      steps.push({ levels: next, struck });
      if (struck === null) levels = next;
    }
  return steps;
}
