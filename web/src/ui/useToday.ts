import { useState } from 'react';

/** The day on which the page was opened, YYYY-MM-DD. */
export function useToday(): string {
  const [today] = useState(() => new Date().toISOString().slice(0, 10));
  return today;
}
