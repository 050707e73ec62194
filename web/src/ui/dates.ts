import { addMinutes, addYears, format, formatDistanceToNowStrict, parseISO, setDay } from 'date-fns';

/**
 * Every way in which a page writes a day or a time, once. Moments are ISO 8601 with their zone and are shown where this browser is; a day
 * is YYYY-MM-DD and belongs to no zone.
 */
const of = (moment: string | Date): Date => (typeof moment === 'string' ? parseISO(moment) : moment);

/** 3 Nov 2026 */
export const dayOf = (moment: string | Date): string => format(of(moment), 'd MMM yyyy');
/** 3 Nov, where the year is plain. */
export const shortDayOf = (moment: string | Date): string => format(of(moment), 'd MMM');
/** Tue 3 Nov, of a plan. */
export const weekdayOf = (moment: string | Date): string => format(of(moment), 'EEE d MMM');
/** Tuesday 3 November, as a heading. */
export const longWeekdayOf = (moment: string | Date): string => format(of(moment), 'EEEE d MMMM');
/** 3 Nov 2026 14:05 */
export const timeOf = (moment: string | Date): string => format(of(moment), 'd MMM yyyy HH:mm');
/** 3 Nov, 14:05, where the year is plain. */
export const shortTimeOf = (moment: string | Date): string => format(of(moment), 'd MMM, HH:mm');
/** 3 Nov 2026 14:05:09, where two may fall into one minute. */
export const secondOf = (moment: string | Date): string => format(of(moment), 'd MMM yyyy HH:mm:ss');
/** 3 minutes ago */
export const sinceOf = (moment: string | Date): string => formatDistanceToNowStrict(of(moment), { addSuffix: true });

/** The day that a moment falls on where this browser is, YYYY-MM-DD. */
export const localDay = (moment: Date): string => format(moment, 'yyyy-MM-dd');
/** The same day of the next year; the last of February where there is no 29th. */
export const aYearAfter = (day: string): string => localDay(addYears(parseISO(day), 1));

/** A date of summer in no time of change, so that its minutes are those of the clock. */
const ANY_DAY = new Date(2026, 6, 1);
/** 09:05, of minutes since midnight; rounded before it is split, as in the calendar file: 59.6 minutes past nine are ten o'clock. */
export const clockOf = (minute: number): string => format(addMinutes(ANY_DAY, Math.round(minute) % 1440), 'HH:mm');
/** Minutes since midnight of 09:05. */
export const minuteOf = (clock: string): number => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3, 5));
/** Sun to Sat, by the number that a date gives its day. */
export const WEEKDAYS = [0, 1, 2, 3, 4, 5, 6].map((day) => format(setDay(ANY_DAY, day), 'EEE'));
