/** Air in which the part will work later, for restating bench readings. */
export interface EnclosureEntry {
  name: string;
  airC: number;
  powerTempCo: number;
}

/** One subject is held at another value: boards need different load-line levels to hold one voltage. */
export interface LockOverrideEntry {
  subjectId: string;
  value: string;
}

/** Something held the same from run to run. */
export interface LockEntry {
  name: string;

  /** A number where a channel watches it. */
  value: string;
  unit: string;

  /** Half-width within which it counts as held; needed where a channel watches it. */
  tolerance: number | null;

  /** Channel that records it; empty where it is confirmed by hand for every run. */
  channel: string;
  overrides: LockOverrideEntry[];
}

/** Names of what is usually held, in the order in which it usually matters. */
export const USUAL_LOCKS = [
  'Workload',
  'Firmware',
  'Driver',
  'Orientation',
  'Case',
  'Fan duty',
  'Power cap',
  'Voltage under load',
  'Load-line level',
  'Core clock',
  'Memory clock',
  'Panels',
  'Scene',
  'Soak time',
  'Paste batch',
] as const;

/** At what a lock is held for one subject, with its unit. */
export function lockValue(lock: LockEntry, subjectId: string): string {
  const value = lock.overrides.find((override) => override.subjectId === subjectId)?.value ?? lock.value;
  return lock.unit ? `${value} ${lock.unit}` : value;
}
