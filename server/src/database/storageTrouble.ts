const WORDS: Record<string, string> = {
  SQLITE_FULL: 'the disk is full',
  SQLITE_BUSY: 'another program holds the database',
  SQLITE_LOCKED: 'another program holds the database',
  SQLITE_READONLY: 'the data may not be written',
  SQLITE_CORRUPT: 'the database is damaged',
  SQLITE_CANTOPEN: 'the database cannot be opened',
};

/** Why the record could not be written, in plain words; null for an error that is not of the storage. */
export function storageTrouble(error: unknown): string | null {
  const { code } = error as { code?: unknown };
  if (typeof code !== 'string' || !code.startsWith('SQLITE_') || code.startsWith('SQLITE_CONSTRAINT')) return null;
  return Object.entries(WORDS).find(([start]) => code.startsWith(start))?.[1] ?? 'the disk cannot be written';
}

/** Another connection writes: it is a matter of moments. */
export const isBusy = (error: unknown): boolean => /^SQLITE_(BUSY|LOCKED)/.test(String((error as { code?: unknown }).code));
