import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changeOverMinutes, iCalendar, InsufficientDataError, layOut, type PlannedTask, type WorkingHours } from '../index.ts';

const hours: WorkingHours = { fromMin: 540, toMin: 1020, lunchFromMin: 720, lunchMin: 60, weekdays: [1, 2, 3, 4, 5] };
const task = (id: string, change: Partial<PlannedTask> = {}): PlannedTask => ({
  id,
  handsMin: 30,
  cureMin: 0,
  runMin: 60,
  unattended: false,
  ...change,
});
const clock = (minute: number) =>
  `${Math.floor(minute / 1440)}d ${Math.floor((minute % 1440) / 60)}:${String(minute % 60).padStart(2, '0')}`;
const shown = (tasks: PlannedTask[], weekday = 1) =>
  layOut(tasks, hours, weekday).map((slot) => `${slot.id} ${slot.part} ${clock(slot.startMin)}`);

describe('layOut', () => {
  it('works through the morning, leaves nothing half-done over lunch, and goes on', () => {
    expect(shown([task('a'), task('b'), task('c')])).toEqual([
      'a hands 0d 9:00',
      'a run 0d 9:30',
      'b hands 0d 10:30',
      'b run 0d 11:00',
      'c hands 0d 13:00',
      'c run 0d 13:30',
    ]);
  });
  it('waits for Monday, and lets cure run through the night', () => {
    expect(shown([task('a', { cureMin: 16 * 60 })], 5)).toEqual(['a hands 0d 9:00', 'a cure 0d 9:30', 'a run 3d 9:00']);
  });
  it('starts an unattended run in working hours and lets it outlast them', () => {
    const slots = layOut([task('a', { runMin: 600, unattended: true }), task('b')], hours, 1);
    expect(slots.map((slot) => [slot.part, clock(slot.startMin), clock(slot.endMin)])).toEqual([
      ['hands', '0d 9:00', '0d 9:30'],
      ['run', '0d 9:30', '0d 19:30'],
      ['hands', '1d 9:00', '1d 9:30'],
      ['run', '1d 9:30', '1d 10:30'],
    ]);
  });
  it('never overlaps, keeps the order, and keeps hands inside hours, whatever the tasks', () => {
    const any = fc.record({
      id: fc.constant('x'),
      handsMin: fc.integer({ min: 0, max: 180 }),
      cureMin: fc.integer({ min: 0, max: 2000 }),
      runMin: fc.integer({ min: 1, max: 180 }),
      unattended: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 6 }), (tasks, weekday) => {
        const slots = layOut(tasks, hours, weekday);
        slots.forEach((slot, i) => {
          if (i > 0) expect(slot.startMin).toBeGreaterThanOrEqual(slots[i - 1]!.endMin);
          if (slot.part !== 'hands') return;
          const [from, to] = [slot.startMin % 1440, (slot.startMin % 1440) + slot.endMin - slot.startMin];
          expect(from >= 540 && to <= 1020 && (to <= 720 || from >= 780)).toBe(true);
          expect(hours.weekdays).toContain((weekday + Math.floor(slot.startMin / 1440)) % 7);
        });
      }),
    );
  });
  it('says what is longer than the day allows, and refuses senseless days', () => {
    expect(() => layOut([task('a', { runMin: 300 })], hours, 1)).toThrow(/an attended run takes 300 min, longer than any stretch/);
    expect(() => layOut([task('a')], { ...hours, weekdays: [] }, 1)).toThrow(/no working day/);
    expect(() => layOut([task('a')], { ...hours, toMin: 500 }, 1)).toThrow(/end after it begins/);
    expect(() => layOut([], hours, 1)).toThrow(InsufficientDataError);
    expect(() => layOut([task('a', { handsMin: -1 })], hours, 1)).toThrow(RangeError);
    expect(() =>
      layOut(
        Array.from({ length: 1200 }, (_, i) => task(`${i}`, { cureMin: 1440 })),
        hours,
        1,
      ),
    ).toThrow(/within a year/);
  });
});

describe('iCalendar', () => {
  const file = (firstDay: string, name = 'Plan', madeAt = '2026-03-20T08:00:00.000Z') =>
    iCalendar({
      planId: 's-1',
      name,
      firstDay,
      madeAt,
      slots: layOut([task('a', { cureMin: 1440 })], hours, new Date(`${firstDay}T00:00:00Z`).getUTCDay()),
      titleOf: (slot) => `${slot.part}: bare, then lid; again`,
    });

  it('keeps wall-clock time across a change to daylight-saving time', () => {
    // Friday before the last Sunday of March: the run waits until Monday and still starts at nine.
    const text = file('2026-03-27');
    expect(text.match(/DTSTART:(\S+)/g)).toEqual(['DTSTART:20260327T090000', 'DTSTART:20260327T093000', 'DTSTART:20260330T090000']);
    expect(text).not.toMatch(/DT(START|END):\d+T\d+Z/);
  });
  it('keeps its events from export to export: the same UIDs, each once, with a higher SEQUENCE', () => {
    const of = (text: string, name: string) => [...text.matchAll(new RegExp(`^${name}:(.*)$`, 'gm'))].map(([, value]) => value!.trim());
    const [first, later] = [file('2026-03-27'), file('2026-04-02', 'Plan', '2026-03-21T08:00:00.000Z')];
    expect(of(later, 'UID')).toEqual(of(first, 'UID'));
    expect(new Set(of(first, 'UID')).size).toBe(3);
    expect(Number(of(later, 'SEQUENCE')[0])).toBeGreaterThan(Number(of(first, 'SEQUENCE')[0]));
    expect(Number(of(later, 'SEQUENCE')[0])).toBeLessThan(2 ** 31);
  });
  it('escapes and folds by the octet, and ends every line as it must', () => {
    const text = file('2026-03-27', `Ünïcode ${'long name '.repeat(12)}`);
    expect(text).toContain('SUMMARY:hands: bare\\, then lid\\; again');
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    expect(text.replace(/\r\n /g, '')).toContain(`X-WR-CALNAME:Ünïcode ${'long name '.repeat(12)}`);
    expect(text.startsWith('BEGIN:VCALENDAR\r\nVERSION:2.0\r\n')).toBe(true);
  });
  it('refuses days that do not exist', () => {
    for (const day of ['2026-02-30', 'tomorrow', '2026-3-1']) expect(() => file(day)).toThrow(RangeError);
  });
});

describe('changeOverMinutes', () => {
  const costs = { factorMin: { Cooler: 25, Pad: 10 }, mountMin: 15, remountMin: 12, otherMin: 20 };
  it('adds the factors that differ; the same variant again is a remount', () => {
    const run = (variantId: string, Cooler: string, Pad: string) => ({ variantId, levels: { Cooler, Pad } });
    const { changeMin, startMin } = changeOverMinutes(
      [run('a', 'lid', 'P6'), run('b', 'lid', 'P12'), run('c', 'sink', 'P6'), run('a', 'lid', 'P6')],
      costs,
    );
    expect(changeMin[0]).toEqual([12, 10, 25, 12]);
    expect(changeMin[1]![2]).toBe(35);
    expect(startMin).toEqual([15, 15, 15, 15]);
    const bare = changeOverMinutes(
      [
        { variantId: 'a', levels: {} },
        { variantId: 'b', levels: {} },
      ],
      costs,
    );
    expect(bare.changeMin[0]![1]).toBe(20);
  });
});
