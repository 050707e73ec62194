import { describe, expect, it } from 'vitest';
import { LogProblem } from './cells.ts';
import { TextRow } from './cellRow.ts';
import { inZone, isZone, readTime, RowTimes, saysZone, timeFormatOf } from './times.ts';

const at = (iso: string) => Date.parse(iso) / 1000;

describe('dates and times as they are written', () => {
  it.each([
    ['2026-03-01T10:00:00', 'iso', '2026-03-01T10:00:00Z'],
    ['2026/3/1 9:05', 'iso', '2026-03-01T09:05:00Z'],
    ['2026-03-01T10:00:00+02:00', 'iso', '2026-03-01T08:00:00Z'],
    ['2026-03-01 10:00:00.5 Z', 'iso', '2026-03-01T10:00:00.500Z'],
    ['01.03.2026 10:00:00', 'day-month', '2026-03-01T10:00:00Z'],
    ['31/01/26 10:00', 'day-month', '2026-01-31T10:00:00Z'],
    ['01/31/2026 1:05:06 PM', 'month-day', '2026-01-31T13:05:06Z'],
    ['1/31/2026 12:05 a.m.', 'month-day', '2026-01-31T00:05:00Z'],
  ] as const)('%s as %s', (text, format, iso) => {
    expect(readTime(text, format, 2)).toBeCloseTo(at(iso), 3);
  });
  it.each([
    ['31/01/2026 10:00', 'month-day'],
    ['2026-02-30 10:00', 'iso'],
    ['2026-01-01 25:00', 'iso'],
    ['10:00', 'iso'],
    ['nonsense', 'clock'],
  ] as const)('%s is no %s', (text, format) => {
    expect(() => readTime(text, format, 7)).toThrow(LogProblem);
    expect(() => readTime(text, format, 7)).toThrow('Line 7');
  });
  it('of one half of the day are the other half with PM', () => {
    expect(readTime('1:02:03 PM', 'clock', 2) - readTime('1:02:03 AM', 'clock', 2)).toBe(43_200);
    expect(readTime('12:00:00 AM', 'clock', 2)).toBe(0);
  });
  it('say their zone or do not, and are taken in one that is named, over a change of the clocks', () => {
    expect([saysZone('2026-03-01T10:00:00+02:00'), saysZone('2026-03-01T10:00:00Z'), saysZone('2026-03-01T10:00:00')]).toEqual([
      true,
      true,
      false,
    ]);
    expect(inZone(at('2026-03-01T10:00:00Z'), 'Europe/Berlin')).toBe(at('2026-03-01T09:00:00Z'));
    expect(inZone(at('2026-07-01T10:00:00Z'), 'Europe/Berlin')).toBe(at('2026-07-01T08:00:00Z'));
    // An hour after the clocks were put forward.
    expect(inZone(at('2026-03-29T03:30:00Z'), 'Europe/Berlin')).toBe(at('2026-03-29T01:30:00Z'));
    expect([isZone('America/New_York'), isZone('+05:30'), isZone('Nowhere/Land')]).toEqual([true, true, false]);
  });
});

describe('how a log’s times are written', () => {
  const format = (cells: string[], name = 'time') => timeFormatOf(cells, name, '.').format;
  it.each([
    [['0', '1000', '2000'], 'ms', 'elapsed-ms'],
    [['0', '1000', '2000'], 'Time [µs]', 'elapsed-us'],
    [['0.0', '0.0167', '0.0333'], 't (min)', 'elapsed-min'],
    [['0', '0.1', '0.2'], 'elapsed h', 'elapsed-h'],
    [['0', '1', '2'], 'seconds', 'elapsed-s'],
    [['1772359200', '1772359201'], 'time', 'epoch-s'],
    [['1772359200000', '1772359201000'], 'time', 'epoch-ms'],
    [['10:00:00', '10:00:01'], 'time', 'clock'],
    [['10:00:00 pm'], 'time', 'clock'],
    [['2026-03-01 10:00'], 'time', 'iso'],
    [['13/03/2026 10:00', '14/03/2026 10:00'], 'time', 'day-month'],
    [['03/13/2026 10:00'], 'time', 'month-day'],
  ])('%j under “%s”: %s', (cells, name, expected) => {
    expect(format(cells, name)).toBe(expected);
  });
  it('is guessed from its steps where nothing is said, and asked about', () => {
    const seen = (cells: string[]) => timeFormatOf(cells, 'time', '.');
    expect(seen(['0', '500', '1000'])).toMatchObject({ format: 'elapsed-ms', doubt: expect.stringContaining('milliseconds') });
    expect(seen(['0', '0.0167', '0.0333'])).toMatchObject({ format: 'elapsed-min', doubt: expect.stringContaining('minutes') });
    expect(seen(['0', '0.1', '0.2'])).toEqual({ format: 'elapsed-s', doubt: null });
    expect(seen(['0', '60', '120']).format).toBe('elapsed-s');
  });
});

describe('times row after row', () => {
  const two = (value: number) => String(value).padStart(2, '0');
  /** Every 7.3 s from shortly before midnight on. */
  const moments = Array.from({ length: 200 }, (_, i) => {
    const s = 86_100 + 7.3 * i;
    const day = s >= 86_400 ? 2 : 1;
    const [h, mi] = [Math.floor((s % 86_400) / 3600), Math.floor((s % 3600) / 60)];
    return { day, h, mi, seconds: (s % 60).toFixed(1).padStart(4, '0') };
  });
  it.each([
    ['iso', ({ day, h, mi, seconds }) => `2026-03-0${day}T${two(h)}:${two(mi)}:${seconds}`],
    ['iso', ({ day, h, mi, seconds }) => `2026-03-0${day}T${two(h)}:${two(mi)}:${seconds}+02:00`],
    ['iso', ({ day, h, mi, seconds }) => `2026-03-0${day} ${two(h)}:${two(mi)}:${seconds} Z`],
    ['iso', ({ day, h, mi }) => `2026-03-0${day} ${two(h)}:${two(mi)}`],
    ['day-month', ({ day, h, mi, seconds }) => `0${day}.03.2026 ${two(h)}:${two(mi)}:${seconds.replace('.', ',')}`],
    ['month-day', ({ day, h, mi, seconds }) => `03/0${day}/2026 ${(h + 11) % 12 + 1}:${two(mi)}:${seconds} ${h < 12 ? 'AM' : 'PM'}`], // prettier-ignore
    ['clock', ({ h, mi, seconds }) => `${two(h)}:${two(mi)}:${seconds}`],
    ['clock', ({ h, mi }) => `${h}:${two(mi)}`],
  ] satisfies [Parameters<typeof readTime>[1], (moment: (typeof moments)[number]) => string][])(
    'as %s are what each is by itself',
    (timeFormat, write) => {
      const times = new RowTimes({ timeColumn: 0, timeFormat, dateColumn: null }, '.');
      moments.forEach((moment, i) => {
        const text = write(moment);
        expect(times.of(new TextRow(i, [text])), text).toBe(readTime(text, timeFormat, i));
      });
    },
  );
  it('of a date and a clock that stand apart are read together, and what is none is refused where it stands', () => {
    const times = new RowTimes({ timeColumn: 1, timeFormat: 'day-month', dateColumn: 0 }, '.');
    for (const seconds of ['05.5', '05.9', '59'])
      expect(times.of(new TextRow(3, ['31.01.2026', `14:05:${seconds}`]))).toBe(readTime(`31.01.2026 14:05:${seconds}`, 'day-month', 3));
    for (const cell of ['14:05:x', '14:05:', '14:05:5', '14:05:05:06']) {
      const alone = () => readTime(`31.01.2026 ${cell}`, 'day-month', 9);
      let known: number | null = null;
      try {
        known = alone();
      } catch {
        expect(() => times.of(new TextRow(9, ['31.01.2026', cell]))).toThrow('Line 9');
      }
      if (known !== null) expect(times.of(new TextRow(9, ['31.01.2026', cell]))).toBe(known);
    }
  });
});
