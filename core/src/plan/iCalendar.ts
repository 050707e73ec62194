import ical from 'ical-generator';
import type { Slot } from './layOut.ts';

/** A minute of the plan as the date that reads so in UTC: the file says it without a zone. */
const at = (firstDay: string, minute: number) => new Date(Date.parse(`${firstDay}T00:00:00Z`) + Math.round(minute) * 60_000);

/** From here SEQUENCE is counted, in seconds: it grows with every export and stays a small whole number for decades. */
const COUNTED_FROM_MS = Date.UTC(2026, 0, 1);

/**
 * A plan as a calendar file. Times are local wall-clock times without a zone ("floating"), so that ten o'clock stays ten o'clock on
 * both sides of a change to or from daylight-saving time.
 *
 * Every event keeps its UID from export to export, and its SEQUENCE grows: a calendar that has the plan already moves its events and
 * does not double them.
 *
 * @param input.planId what tells this plan from others, for good
 * @param input.firstDay YYYY-MM-DD
 * @param input.madeAt ISO time in UTC, when the file was made
 * @param input.titleOf words for a slot
 * @throws RangeError a day that does not exist
 * @see RFC 5545, 3.1 (folding), 3.3.5 (form 1, local time), 3.8.4.7 and 3.8.7.4 (UID, SEQUENCE)
 */
export function iCalendar(input: {
  planId: string;
  name: string;
  firstDay: string;
  madeAt: string;
  slots: readonly Slot[];
  titleOf: (slot: Slot) => string;
}): string {
  const { firstDay, madeAt, slots } = input;
  const day = new Date(`${firstDay}T00:00:00Z`);
  if (!/^\d{4}-\d\d-\d\d$/.test(firstDay) || Number.isNaN(day.getTime()) || !day.toISOString().startsWith(firstDay))
    throw new RangeError(`${firstDay} is no day`);
  const stamp = new Date(madeAt);
  const calendar = ical({ name: input.name, prodId: { company: 'Red Ember', product: 'Plan', language: 'EN' } });
  const seen = new Map<string, number>();
  for (const slot of slots) {
    const what = `${input.planId}-${slot.id}-${slot.part}`.replace(/[^\w-]/g, '');
    const nth = seen.get(what) ?? 0;
    seen.set(what, nth + 1);
    calendar.createEvent({
      id: `${what}-${nth}@red-ember`,
      sequence: Math.max(0, Math.floor((stamp.getTime() - COUNTED_FROM_MS) / 1000)),
      stamp,
      start: at(firstDay, slot.startMin),
      end: at(firstDay, slot.endMin),
      floating: true,
      summary: input.titleOf(slot),
    });
  }
  return `${calendar.toString()}\r\n`;
}
