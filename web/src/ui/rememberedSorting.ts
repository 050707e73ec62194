import { useState } from 'react';
import type { SortingState } from '@tanstack/react-table';

const keyOf = (table: string) => `red-ember sorted ${table}`;

function kept(table: string, columns: readonly string[]): SortingState | null {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(keyOf(table)) ?? 'null');
    if (!Array.isArray(read)) return null;
    const known = (read as SortingState).filter(({ id, desc }) => columns.includes(id) && typeof desc === 'boolean');
    return known.length === read.length ? known : null;
  } catch {
    return null;
  }
}

/** How a table is sorted: as it was left in this browser, else as it is at first. A column that is gone takes the rest with it. */
export function useRememberedSorting(
  table: string,
  columns: readonly string[],
  first: SortingState,
): [SortingState, (next: SortingState | ((old: SortingState) => SortingState)) => void] {
  const [sorting, setSorting] = useState(() => kept(table, columns) ?? first);
  return [
    sorting,
    (next) => {
      const now = typeof next === 'function' ? next(sorting) : next;
      setSorting(now);
      try {
        localStorage.setItem(keyOf(table), JSON.stringify(now));
      } catch {
        // A browser that keeps nothing sorts anew the next time.
      }
    },
  ];
}
