import { listWords } from '@red-ember/core';
import type { MergeConflict } from '@red-ember/study';

/** Names of fields as their stations call them, where the field's own is not the word. */
const FIELDS: Record<string, string> = {
  limitC: 'limit',
  limitSource: 'source of the limit',
  cutOutC: 'cut-out',
  durationS: 'length',
  capS: 'cap',
  loadPercent: 'load',
  practicalK: 'what matters',
  expectedK: 'expected change',
};

const shown = (value: unknown): string => (typeof value === 'string' || typeof value === 'number' ? `“${value}”` : 'something else');

/** What differs between two windows, in a sentence: which fields only come together, and which both changed. */
export function conflictWords(conflicts: readonly MergeConflict[]): string {
  if (conflicts.length === 0) return 'You changed different fields: nothing of either is lost if yours are laid on top.';
  const named = conflicts.slice(0, 4).map(({ path, theirs }) => {
    const field = path.map((step) => FIELDS[step] ?? step).join(', ');
    return `${field} (${theirs === undefined ? 'taken away there' : `${shown(theirs)} there`})`;
  });
  const more = conflicts.length > 4 ? [`${conflicts.length - 4} more`] : [];
  return `Both windows changed ${listWords([...named, ...more])}; yours would stand. Everything else is kept from both.`;
}
