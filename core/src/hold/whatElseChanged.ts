/** What was held and used in one run, by name, as shown: settings, sensors, recipe, rules. */
export type Conditions = Readonly<Record<string, string>>;

export interface ConditionChange {
  name: string;
  /** null where it was not written down. */
  a: string | null;
  b: string | null;
}

/**
 * Everything that differs between the conditions of two runs, in the order in which the first names it.
 *
 * @param expected names that are meant to differ, such as the variant; they are left out
 */
export function whatElseChanged(a: Conditions, b: Conditions, expected: readonly string[] = []): ConditionChange[] {
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) => !expected.includes(name));
  return names.map((name) => ({ name, a: a[name] ?? null, b: b[name] ?? null })).filter((change) => change.a?.trim() !== change.b?.trim());
}
