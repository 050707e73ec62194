import type { Slot } from './layOut.ts';

/** Text of an iCalendar value: commas, semicolons and line breaks escaped. */
const escape = (text: string) =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/([,;])/g, '\\$1')
    .replace(/\r?\n/g, '\\n');

/** Lines of more than 75 octets are folded, never inside a character. */
function fold(line: string): string {
  const pieces: string[] = [];
  let piece = '';
  let octets = 0;
  for (const character of line) {
    const code = character.codePointAt(0)!;
    const size = code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
    if (octets + size > (pieces.length === 0 ? 75 : 74)) {
      pieces.push(piece);
      [piece, octets] = ['', 0];
    }
    piece += character;
    octets += size;
  }
  return [...pieces, piece].join('\r\n ');
}

/** Local date and time of a minute of the plan, "20260301T093000". */
function stamp(firstDay: string, minute: number): string {
  return new Date(Date.parse(`${firstDay}T00:00:00Z`) + Math.round(minute) * 60_000).toISOString().slice(0, 19).replace(/[-:]/g, '');
}

/**
 * A plan as a calendar file. Times are local wall-clock times without a zone ("floating"), so that ten o'clock stays ten o'clock on
 * both sides of a change to or from daylight-saving time.
 *
 * @param input.firstDay YYYY-MM-DD
 * @param input.madeAt ISO time in UTC, when the file was made
 * @param input.titleOf words for a slot
 * @throws RangeError a day that does not exist
 * @see RFC 5545, 3.1 (folding), 3.3.5 (form 1, local time)
 */
export function iCalendar(input: {
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
  const made = madeAt.slice(0, 19).replace(/[-:]/g, '');
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Red Ember//Plan//EN',
    `X-WR-CALNAME:${escape(input.name)}`,
    ...slots.flatMap((slot, i) => [
      'BEGIN:VEVENT',
      `UID:${made}-${i}-${slot.id.replace(/[^\w-]/g, '')}@red-ember`,
      `DTSTAMP:${made}Z`,
      `DTSTART:${stamp(firstDay, slot.startMin)}`,
      `DTEND:${stamp(firstDay, slot.endMin)}`,
      `SUMMARY:${escape(input.titleOf(slot))}`,
      'END:VEVENT',
    ]),
    'END:VCALENDAR',
  ];
  return `${lines.map(fold).join('\r\n')}\r\n`;
}
