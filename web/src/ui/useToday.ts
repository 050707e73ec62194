import { useState } from 'react';
import { localDay } from './dates.ts';

/** The day on which the page was opened, where this browser is, YYYY-MM-DD. */
export function useToday(): string {
  const [today] = useState(() => localDay(new Date()));
  return today;
}
