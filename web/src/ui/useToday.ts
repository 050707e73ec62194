import { useState } from 'react';
import { format } from 'date-fns';

/** The day that a moment falls on where this browser is, YYYY-MM-DD. */
export const localDay = (moment: Date): string => format(moment, 'yyyy-MM-dd');

/** The day on which the page was opened, where this browser is, YYYY-MM-DD. */
export function useToday(): string {
  const [today] = useState(() => localDay(new Date()));
  return today;
}
