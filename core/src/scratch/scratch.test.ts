import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { notedNumber, notedTemperature, scratchAnswers, type ScratchNote } from '../index.ts';

const off = (value: number, plusMinus = 0) => ({ value, plusMinus });
/** A note that says nothing but what is given. */
const note = (change: Partial<ScratchNote>): ScratchNote => ({
  room: null,
  intake: null,
  exhaust: null,
  powerW: null,
  spots: [],
  otherAirC: null,
  otherPowerW: null,
  levels: [],
  floorDb: null,
  joint: null,
  ...change,
});
const answers = (change: Partial<ScratchNote>) => Object.fromEntries(scratchAnswers(note(change)).map((entry) => [entry.key, entry]));
const chip = (tempC: number, limitC: number | null = null, plusMinus = 0) => ({ name: 'Chip', tempC: off(tempC, plusMinus), limitC });

describe('a note', () => {
  it('of room 22, intake 29, exhaust 41 and 210 W says what a spreadsheet would', () => {
    const said = answers({ room: off(22), intake: off(29), exhaust: off(41), powerW: off(210), spots: [chip(83, 95)], otherAirC: 34 });
    const value = (key: string) => said[key]!.value!.value;
    expect(value('breathed')).toBeCloseTo((100 * 7) / 19, 9);
    expect(value('cooler-air')).toBeCloseTo(7, 9);
    expect(value('rise-room')).toBeCloseTo(61, 9);
    expect(value('rise-intake')).toBeCloseTo(54, 9);
    expect(value('kpw-room')).toBeCloseTo(61 / 210, 12);
    expect(value('kpw-intake')).toBeCloseTo(54 / 210, 12);
    expect(value('other-air')).toBeCloseTo(95, 9);
    expect(value('left')).toBeCloseTo(12, 9);
    expect(value('watts')).toBeCloseTo((210 * 73) / 61, 9);
    expect(said.watts!.how).toContain('41.3 W more than now');
    expect(said.breathed!.how).toBe('(intake − room) / (exhaust − room) = 7.0 / 19.0');
  });

  it('carries what was typed behind ± through, as drawn values scatter', () => {
    const ranges = {
      room: off(22, 0.5),
      intake: off(29, 0.5),
      exhaust: off(41, 1),
      powerW: off(210, 6),
      spots: [chip(83, 95, 1)],
      otherPowerW: 260,
    };
    const said = answers(ranges);
    let seed = 3;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const draw = ({ value, plusMinus }: { value: number; plusMinus: number }) => value + plusMinus * (2 * uniform() - 1);
    // The law's exponent is no number off the note: it is drawn apart.
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const drawn: Record<string, number[]> = {};
    for (let i = 0; i < 20_000; i++) {
      const [room, intake, exhaust, watts, top] = [ranges.room, ranges.intake, ranges.exhaust, ranges.powerW, ranges.spots[0]!.tempC].map(draw) as [number, number, number, number, number]; // prettier-ignore
      const b = 1 + 0.12 * normal();
      const put = (key: string, value: number) => (drawn[key] ??= []).push(value);
      put('breathed', (100 * (intake - room)) / (exhaust - room));
      put('kpw-room', (top - room) / watts);
      put('watts', watts * ((95 - room) / (top - room)) ** (1 / b));
      put('other-power', (top - room) * (260 / watts) ** b);
    }
    for (const [key, values] of Object.entries(drawn)) {
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
      const sd = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1));
      expect(said[key]!.value!.u / sd, key).toBeGreaterThan(0.9);
      expect(said[key]!.value!.u / sd, key).toBeLessThan(1.1);
    }
  });

  it('answers nothing that the note does not hold, and says why where it cannot', () => {
    expect(scratchAnswers(note({}))).toEqual([]);
    expect(Object.keys(answers({ spots: [chip(83)] }))).toEqual([]);
    expect(Object.keys(answers({ spots: [chip(83)], room: off(22) }))).toEqual(['rise-room']);
    expect(answers({ room: off(22), intake: off(21), exhaust: off(20) }).breathed).toMatchObject({ value: null, how: expect.stringContaining('warmer than the room') }); // prettier-ignore
    expect(answers({ room: off(22), intake: off(21) })['cooler-air']).toBeUndefined();
    expect(answers({ room: off(22), powerW: off(100), spots: [chip(20, 95)] }).watts).toMatchObject({ value: null });
    expect(answers({ room: off(22), powerW: off(0), spots: [chip(50, 95)], otherPowerW: 50 })['other-power']).toMatchObject({
      value: null,
    });
  });

  it('adds levels and frees them of the room, unless the room drowns them', () => {
    expect(answers({ levels: [30, 30] }).sum!.value!.value).toBeCloseTo(33.0103, 4);
    expect(answers({ levels: [36], floorDb: 30 }).free!.value!.value).toBeCloseTo(34.744, 3);
    expect(answers({ levels: [31], floorDb: 30 }).free).toMatchObject({ value: null, how: expect.stringContaining('a guess') });
    expect(answers({ levels: [29], floorDb: 30 }).free).toMatchObject({ value: null, how: expect.stringContaining('no louder') });
  });

  it('says what a pad or paste costs, and where a pad does not reach', () => {
    const joint = { thickMm: 1.5, gapMm: 1.2, conductivityWPerMK: 6, areaMm2: 100, heatW: 10 };
    const pad = answers({ joint }).joint!;
    // 1.2 mm / (6 W/(m·K) × 100 mm²) = 2 K/W.
    expect(pad.value!.value).toBeCloseTo(20, 9);
    expect(pad.how).toContain('squeezed by 20 %');
    expect(answers({ joint: { ...joint, gapMm: 2 } }).joint).toMatchObject({ value: null, how: expect.stringContaining('does not reach') });
    expect(answers({ joint: { ...joint, thickMm: 0.05, gapMm: null } }).joint!.value!.value).toBeCloseTo((10 * 1000 * 0.05) / 600, 9);
    expect(answers({ joint: { ...joint, areaMm2: 0 } }).joint).toMatchObject({ value: null });
  });

  it('never says a number that is none', () => {
    const some = fc.option(
      fc.record({ value: fc.double({ min: -60, max: 500, noNaN: true }), plusMinus: fc.double({ min: 0, max: 20, noNaN: true }) }),
    );
    const bare = fc.option(fc.double({ min: -10, max: 500, noNaN: true }));
    fc.assert(
      fc.property(some, some, some, some, some, bare, bare, fc.array(fc.double({ min: 0, max: 120, noNaN: true }), { maxLength: 4 }), (room, intake, exhaust, powerW, top, otherAirC, otherPowerW, levels) => {
        const spots = top ? [{ name: 'Chip', tempC: top, limitC: otherAirC }] : [];
        for (const { value, how } of scratchAnswers(note({ room, intake, exhaust, powerW, spots, otherAirC, otherPowerW: otherPowerW === null ? null : Math.abs(otherPowerW), levels, floorDb: otherAirC }))) {
          expect(how.length).toBeGreaterThan(3);
          if (value) expect(Number.isFinite(value.value) && Number.isFinite(value.u)).toBe(true);
        }
      }),
      { numRuns: 400, seed: 5 },
    ); // prettier-ignore
  });
});

describe('what is typed off a note', () => {
  it.each([
    ['83', 83, 0],
    ['83,5 ± 0.5', 83.5, 0.5],
    ['181F', 82.78, 0],
    ['181 ± 1.8 °F', 82.78, 1],
    ['356.15 K', 83, 0],
    [' 22 +/- 1 c', 22, 1],
  ])('%s is a temperature', (typed, value, plusMinus) => {
    const read = notedTemperature(typed);
    expect(read).toMatchObject({ kind: 'value', noted: { value: expect.closeTo(value, 2), plusMinus: expect.closeTo(plusMinus, 6) } });
  });
  it('is taken for nothing, or for what it is not', () => {
    expect(notedTemperature(' ')).toEqual({ kind: 'empty' });
    expect(notedTemperature('warm')).toMatchObject({ kind: 'unclear', why: expect.stringContaining('warm') });
    expect(notedTemperature('83 ± x')).toMatchObject({ kind: 'unclear' });
    expect(notedTemperature('72', 'F')).toMatchObject({ kind: 'value', noted: { value: expect.closeTo(22.22, 2) } });
    expect(notedNumber('210 W')).toEqual({ kind: 'value', noted: { value: 210, plusMinus: 0 } });
    expect(notedNumber('36,5 ± 0,5 dB(A)')).toEqual({ kind: 'value', noted: { value: 36.5, plusMinus: 0.5 } });
    expect(notedNumber('0x10')).toMatchObject({ kind: 'unclear' });
    expect(notedNumber('')).toEqual({ kind: 'empty' });
  });
});
