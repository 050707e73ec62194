/** Date and time as a field of the browser holds them, in its own zone; empty where there is none. */
export function localOf(iso: string | null): string {
  if (!iso) return '';
  const at = new Date(iso);
  return new Date(at.getTime() - 60_000 * at.getTimezoneOffset()).toISOString().slice(0, 16);
}

/** The moment that such a field means; null where it is empty. */
export const isoOf = (local: string): string | null => (local === '' ? null : new Date(local).toISOString());
