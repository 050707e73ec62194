/** A factor with its levels in order; of a two-level factor the first is low and the second high. */
export interface Factor {
  name: string;
  levels: string[];
}

export type Levels = Readonly<Record<string, string>>;

export interface Term {
  /** One factor, or the two of an interaction. */
  names: string[];
  /** For two-level terms the sign in every run; null for a factor of more levels. */
  signs: number[] | null;
  /** Runs sorted into groups by the term, in a form that does not depend on which level is which. */
  partition: string;
  /** Number of different groups. */
  groups: number;
}

/**
 * Checks factors and runs against each other.
 *
 * @throws RangeError a factor without a name, of fewer than two levels, or twice; a level twice; a run without a level or with an
 *   unknown one
 */
export function assertDesign(factors: readonly Factor[], runs: readonly { levels: Levels }[]): void {
  const names = new Set<string>();
  for (const { name, levels } of factors) {
    if (name === '' || names.has(name)) throw new RangeError(`two factors are called "${name}", or one has no name`);
    names.add(name);
    if (levels.length < 2) throw new RangeError(`factor ${name} has ${levels.length} levels; with fewer than two nothing changes`);
    if (new Set(levels).size < levels.length) throw new RangeError(`factor ${name} has a level twice`);
  }
  runs.forEach((run, i) => {
    for (const { name, levels } of factors) {
      const level = run.levels[name];
      if (level === undefined || !levels.includes(level)) throw new RangeError(`run ${i + 1} has no known level of ${name}: "${level}"`);
    }
  });
}

function canonical(labels: readonly (string | number)[]): { partition: string; groups: number } {
  const seen = new Map<string | number, number>();
  const numbers = labels.map((label) => {
    if (!seen.has(label)) seen.set(label, seen.size);
    return seen.get(label)!;
  });
  return { partition: numbers.join(','), groups: seen.size };
}

/** Main effects, then two-factor interactions of two-level factors, as they come out in this set of runs. */
export function termsOf(factors: readonly Factor[], runs: readonly { levels: Levels }[]): Term[] {
  const mains = factors.map((factor): Term => {
    const labels = runs.map((run) => run.levels[factor.name]!);
    const signs = factor.levels.length === 2 ? labels.map((label) => (label === factor.levels[1] ? 1 : -1)) : null;
    return { names: [factor.name], signs, ...canonical(labels) };
  });
  const products = mains.flatMap((a, i) =>
    mains.slice(i + 1).flatMap((b): Term[] => {
      if (!a.signs || !b.signs) return [];
      const signs = a.signs.map((sign, k) => sign * b.signs![k]!);
      return [{ names: [...a.names, ...b.names], signs, ...canonical(signs) }];
    }),
  );
  return [...mains, ...products];
}

/**
 * Groups of terms that this set of runs cannot tell apart: two factors that always changed together, or an interaction that looks
 * just like a factor. What never changes is in no group.
 *
 * @returns lists of terms, each a list of one or two factor names
 * @throws RangeError as assertDesign
 * @see Box, Hunter & Hunter, Statistics for Experimenters, ch. on fractional factorial designs
 */
export function aliasesOf(factors: readonly Factor[], runs: readonly { levels: Levels }[]): string[][][] {
  assertDesign(factors, runs);
  const groups = new Map<string, Term[]>();
  for (const term of termsOf(factors, runs)) {
    if (term.groups < 2) continue;
    groups.set(term.partition, [...(groups.get(term.partition) ?? []), term]);
  }
  return [...groups.values()].filter((group) => group.length > 1).map((group) => group.map((term) => term.names));
}
