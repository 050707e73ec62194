/** Where both sides changed the same thing: the path to it, and what the other side made of it. */
export interface MergeConflict {
  path: string[];
  theirs: unknown;
}

export interface Merged<T> {
  value: T;
  conflicts: MergeConflict[];
}

type Bag = Record<string, unknown>;

const isBag = (value: unknown): value is Bag => typeof value === 'object' && value !== null && !Array.isArray(value);
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What tells the members of a list apart; null for a list whose members have nothing of the kind. */
function keyOf(member: unknown): string | null {
  if (!isBag(member)) return null;
  const key = member.id ?? member.name;
  return typeof key === 'string' && key !== '' ? key : null;
}

/** A list as a bag by key, or null where its members cannot be told apart. */
function byKey(list: unknown): Map<string, unknown> | null {
  if (!Array.isArray(list)) return null;
  const map = new Map<string, unknown>();
  for (const member of list) {
    const key = keyOf(member);
    if (key === null || map.has(key)) return null;
    map.set(key, member);
  }
  return map;
}

function mergeLists(
  base: Map<string, unknown>,
  mine: Map<string, unknown>,
  theirs: Map<string, unknown>,
  path: string[],
): Merged<unknown[]> {
  const conflicts: MergeConflict[] = [];
  const value: unknown[] = [];
  // My order, with what only they have at the end.
  for (const key of [...mine.keys(), ...[...theirs.keys()].filter((other) => !mine.has(other))]) {
    const name = String((mine.get(key) as Bag | undefined)?.name ?? (theirs.get(key) as Bag | undefined)?.name ?? key);
    const [was, here, there] = [base.get(key), mine.get(key), theirs.get(key)];
    if (here !== undefined && there !== undefined) {
      const merged = mergeThree(was, here, there, [...path, name]);
      value.push(merged.value);
      conflicts.push(...merged.conflicts);
    } else if (here !== undefined) {
      // They took it away: it goes, unless I changed it since.
      if (was === undefined || !same(was, here)) value.push(here);
      if (was !== undefined && !same(was, here)) conflicts.push({ path: [...path, name], theirs: undefined });
    } else if (was === undefined || !same(was, there)) {
      // New on their side, or taken away here and changed there: what was changed is not lost.
      value.push(there);
      if (was !== undefined) conflicts.push({ path: [...path, name], theirs: there });
    }
  }
  return { value, conflicts };
}

function mergeThree(base: unknown, mine: unknown, theirs: unknown, path: string[]): Merged<unknown> {
  if (same(mine, theirs) || same(base, theirs)) return { value: mine, conflicts: [] };
  if (same(base, mine)) return { value: theirs, conflicts: [] };
  if (isBag(mine) && isBag(theirs)) {
    const value: Bag = {};
    const conflicts: MergeConflict[] = [];
    const was = isBag(base) ? base : {};
    for (const key of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
      const merged = mergeThree(was[key], mine[key], theirs[key], [...path, key]);
      if (merged.value !== undefined) value[key] = merged.value;
      conflicts.push(...merged.conflicts);
    }
    return { value, conflicts };
  }
  const [was, here, there] = [byKey(base ?? []), byKey(mine), byKey(theirs)];
  if (was && here && there) return mergeLists(was, here, there, path);
  return { value: mine, conflicts: [{ path, theirs }] };
}

/**
 * Two changes of one thing brought together, field by field; lists by the ids, or names, of their members. What only one side changed
 * is taken from it; where both changed the same, mine stands and theirs is named.
 *
 * @param base what both started from
 */
export function merge<T>(base: T, mine: T, theirs: T): Merged<T> {
  return mergeThree(base, mine, theirs, []) as Merged<T>;
}
