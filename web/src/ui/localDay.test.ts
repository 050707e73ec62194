import { afterEach, expect, it } from 'vitest';
import { localDay } from './useToday.ts';

const pinned = process.env.TZ;
afterEach(() => void (process.env.TZ = pinned));

it.each([
  ['Pacific/Honolulu', '2026-03-01T09:30:00Z', '2026-02-28'],
  ['Pacific/Honolulu', '2026-03-01T10:30:00Z', '2026-03-01'],
  ['Pacific/Tongatapu', '2026-03-01T10:30:00Z', '2026-03-01'],
  ['Pacific/Tongatapu', '2026-03-01T11:30:00Z', '2026-03-02'],
  ['UTC', '2026-03-01T23:59:00Z', '2026-03-01'],
])('the day in %s at %s is %s', (zone, moment, day) => {
  process.env.TZ = zone;
  expect(localDay(new Date(moment))).toBe(day);
});
