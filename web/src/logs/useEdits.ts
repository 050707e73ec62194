import { useState } from 'react';
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
  const [edits, setEdits] = useState<LogEdits>(kept);
  const [before, setBefore] = useState<LogEdits[]>([]);
  const put = (next: LogEdits) => {
    setEdits(next);
    keep(next);
  };
  return {
    edits,
    edit(ids: readonly string[], part: LogEdit) {
      setBefore([...before.slice(-49), edits]);
      put({ ...edits, ...Object.fromEntries(ids.map((id) => [id, { ...edits[id], ...part }])) });
    },
    /** Null where there is nothing to take back. */
    undo:
      before.length === 0
        ? null
        : () => {
            put(before.at(-1)!);
            setBefore(before.slice(0, -1));
          },
    forget(ids: readonly string[]) {
      put(Object.fromEntries(Object.entries(edits).filter(([id]) => !ids.includes(id))));
      setBefore([]);
    },
  };
}
