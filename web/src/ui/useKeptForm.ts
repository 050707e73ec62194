import { useEffect } from 'react';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';
import { useCheckedForm } from './form.tsx';

function kept<T>(key: string): Partial<T> {
  try {
    const read = JSON.parse(localStorage.getItem(key) ?? '{}') as unknown;
    return typeof read === 'object' && read !== null ? read : {};
  } catch {
    return {};
  }
}

/** Forgets what a form of that name kept. */
export const forgetForm = (key: string): void => localStorage.removeItem(key);

/** A checked form that keeps what is typed in this browser, over other pages and a reload, until it is forgotten. */
export function useKeptForm<T extends object & FieldValues>(
  key: string,
  type: new () => T,
  start: DefaultValues<T>,
): UseFormReturn<T, unknown, T> {
  const form = useCheckedForm<T>(type, { ...start, ...kept<T>(key) });
  const { watch } = form;
  useEffect(() => {
    const { unsubscribe } = watch((values) => {
      try {
        localStorage.setItem(key, JSON.stringify(values));
      } catch {
        // A browser that keeps nothing still works.
      }
    });
    return unsubscribe;
  }, [key, watch]);
  return form;
}
