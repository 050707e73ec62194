import { useEffect } from 'react';
import { useUndoable } from '../ui/steps.ts';
import type { LogEdit, LogEdits } from './rows.ts';

/** What was put right of logs that lie on the server is kept in this browser: a page that is opened again loses nothing. */
const KEY = 'red-ember logs put right';

function kept(): LogEdits {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(KEY) ?? '{}');
    return read !== null && typeof read === 'object' && !Array.isArray(read) ? (read as LogEdits) : {};
  } catch {
    return {};
  }
}

function keep(edits: LogEdits): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(edits));
  } catch {
    // A browser that keeps nothing still works; a reload loses what was put right.
  }
}

export function useEdits() {
  const { value: edits, put, undo, redo, begin } = useUndoable(kept);
  useEffect(() => keep(edits), [edits]);
  return {
    edits,
    undo,
    redo,
    edit(ids: readonly string[], part: LogEdit) {
      put({ ...edits, ...Object.fromEntries(ids.map((id) => [id, { ...edits[id], ...part }])) });
    },
    forget(ids: readonly string[]) {
      begin(Object.fromEntries(Object.entries(edits).filter(([id]) => !ids.includes(id))));
    },
  };
}
