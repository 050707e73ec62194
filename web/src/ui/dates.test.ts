import { afterEach, expect, it } from 'vitest';
import { aYearAfter, clockOf, dayOf, localDay, minuteOf, timeOf, WEEKDAYS } from './dates.ts';

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

it('shows a moment where this browser is, and a day as the day it is', () => {
  process.env.TZ = 'Pacific/Honolulu';
  expect(timeOf('2026-03-01T09:30:00Z')).toBe('28 Feb 2026 23:30');
  expect(dayOf('2026-03-01')).toBe('1 Mar 2026');
  expect(aYearAfter('2028-02-29')).toBe('2029-02-28');
});

it('writes minutes since midnight as a clock, rounded before they are split', () => {
  expect([0, 545, 599.6, 1439.7].map(clockOf)).toEqual(['00:00', '09:05', '10:00', '00:00']);
  expect(minuteOf(clockOf(545))).toBe(545);
  expect(WEEKDAYS[0]).toBe('Sun');
});
