import { useState } from 'react';
import { ownZone } from '../data/api.ts';

const KEY = 'red-ember zone of logs';

function kept(): string {
  try {
    return localStorage.getItem(KEY) ?? ownZone();
  } catch {
    return ownZone();
  }
}

/** The zone in which this bench's loggers write times without one: the browser's until another was chosen, which is kept. */
export function useZone(): [string, (zone: string) => void] {
  const [zone, setZone] = useState(kept);
  return [
    zone,
    (next) => {
      setZone(next);
      try {
        localStorage.setItem(KEY, next);
      } catch {
        // Asked again the next time.
      }
    },
  ];
}

/** Every zone that can be chosen, the one that is chosen among them. */
export const zones = (chosen: string): string[] => [...new Set([chosen, 'UTC', ...Intl.supportedValuesOf('timeZone')])].sort();
