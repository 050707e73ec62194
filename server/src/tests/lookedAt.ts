import type { ScanOptions } from '../imports/look/scanLog.ts';

/** What is known beside a log in tests: these spots, of a drive, and nothing else. */
export const lookedAt = (spots: { id: string; name: string; channel: string }[] = []): ScanOptions => ({
  spots: spots.map((spot) => ({ ...spot, componentClass: 'drive controller' })),
  family: 'drive',
  saved: null,
  zone: 'UTC',
  fileName: 'log.csv',
  siblings: [],
});
