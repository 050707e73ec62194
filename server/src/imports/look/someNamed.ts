import { listWords } from '@red-ember/core';

/** A log of the whole machine has dozens of columns of a kind: so many are named. */
const MOST_NAMED = 3;

/** Names of columns as a sentence begins with them; of many the first ones and how many more there are. @param more "5 more columns" */
export function someNamed(names: readonly string[], more: (count: number) => string): string {
  const named = names.slice(0, names.length > MOST_NAMED + 1 ? MOST_NAMED : names.length).map((name) => `“${name}”`);
  const others = names.length - named.length;
  return listWords([...named, ...(others > 0 ? [more(others)] : [])]);
}
