import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { onlyChannels } from './onlyChannels.ts';
import { JSON_LINES } from './lines.ts';
import { printedLines } from './printed.ts';
import { wholeLines } from './serial.ts';

describe('what a logger prints', () => {
  it('is read as names with figures and units, in the units of the link', () => {
    const reader = printedLines();
    expect(reader.read('T1: 45.2 °C, T2=113 F; fan 1: 1180 rpm  Power: 61500 mW')).toEqual({ T1: 45.2, T2: 45, fan: 1180, power: 61.5 });
    expect([reader.kindOf('T1')?.unit, reader.kindOf('fan')?.unit, reader.kindOf('power')?.quantity]).toEqual(['°C', 'rpm', 'power']);
    // A probe that is not there prints a word: it is missing, and no zero.
    expect(reader.read('T1: nan, T2=open; fan 1: 1181 rpm')).toEqual({ T1: null, T2: null, fan: 1181 });
    expect(reader.read('T1=45,7 T2=113 F')).toEqual({ T1: 45.7, T2: 45 });
  });
  it('is read as columns by the line of names before it, which may come again', () => {
    const reader = printedLines();
    expect(reader.read('time;Chip (°F);Raum;Lüfter [rpm]')).toBeNull();
    expect(reader.read('10:00:01;212;22,4;900')).toEqual({ time: null, Chip: 100, room: 22.4, fan: 900 });
    expect(reader.read('time;Chip (°F);Raum;Lüfter [rpm]')).toBeNull();
    expect(reader.read('10:00:02;---;22,5;901')).toMatchObject({ Chip: null, room: 22.5, fan: 901 });
    expect(reader.kindOf('fan')).toEqual({ quantity: 'rotation', unit: 'rpm' });
  });
  it('is read as plain numbers, named by their place or as told', () => {
    expect(printedLines().read('45.1, 44.9, 22.0')).toEqual({ 'column 1': 45.1, 'column 2': 44.9, 'column 3': 22 });
    expect(printedLines(['lid', '', 'room']).read('45.1\t44.9\t22.0')).toEqual({ lid: 45.1, room: 22 });
  });
  it('says what is no reading', () => {
    expect(printedLines().read('Logger 2 ready')).toBeNull();
    const banner = printedLines();
    expect(banner.read('Logger ready')).toBeNull();
    expect(banner.read('45, nan, 22')).toEqual({ 'column 1': 45, 'column 2': null, 'column 3': 22 });
    expect(printedLines(['a', 'b']).read('nan nan')).toBeNull();
    expect(printedLines().read('T1: open, T2: 4x')).toBeNull();
    expect(printedLines().read('{"tc1": 44')).toBe('not JSON');
    expect(printedLines().read('{"tc1": 44}')).toEqual({ tc1: 44 });
  });
  it('is left out where a line is too long to be one, at once', () => {
    for (const line of ['a'.repeat(60_000), `a${' '.repeat(60_000)}`, '1,'.repeat(30_000)])
      expect(printedLines().read(line)).toBe('longer than 4000 signs');
    // As long as may be, and made to be looked through in vain.
    for (const line of ['a'.repeat(4000), `a${' '.repeat(3999)}`, 'a b '.repeat(1000), 'a:'.repeat(2000)])
      expect(printedLines().read(line)).toBeNull();
    expect(Object.keys(printedLines().read('1,'.repeat(1900) + '1') as object)).toHaveLength(1901);
  });
  it('never makes a number that was not printed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        const line = printedLines().read(text);
        if (line === null || typeof line === 'string') return;
        for (const value of Object.values(line)) expect(value === null || Number.isFinite(value)).toBe(true);
        expect(/\d/.test(text)).toBe(true);
      }),
    );
  });
});

describe('channels of the tester’s own names', () => {
  const printed = () => printedLines();
  it('are picked from a feed, with the unit that they are told to be in', () => {
    const reader = onlyChannels(printed(), ['room=T2', 'pump [rpm]=speed', 'board (°F)=T1']);
    expect(reader.read('T1: 104, T2: 22.5, T3: 9, speed: 2400')).toEqual({ board: 40, room: 22.5, pump: 2400 });
    expect(reader.kindOf('pump')).toEqual({ quantity: 'rotation', unit: 'rpm' });
    expect(reader.kindOf('nothing')).toBeNull();
  });
  it('are not taken to °C twice where the logger says its unit itself', () => {
    const reader = onlyChannels(printed(), ['board (°F)=T1']);
    expect(reader.read('T1: 104')).toEqual({ board: 40 });
    expect(reader.read('T1: 104 F')).toEqual({ board: 40 });
  });
  it('that are not there are missing, and named once', () => {
    const said: string[] = [];
    const reader = onlyChannels(JSON_LINES, ['room=amb', 'lid=tc1'], (text) => said.push(text));
    expect(reader.read('{"tc1": 44, "tc2": 3}')).toEqual({ room: null, lid: 44 });
    reader.read('{"tc1": 44, "tc2": 3}');
    expect(said).toEqual(['There is no amb; there are tc1, tc2.']);
    expect(reader.read('{"tc2": 3}')).toBe('without a reading that was chosen');
  });
  it('are refused where they cannot be read', () => {
    expect(() => onlyChannels(printed(), ['room'])).toThrow('“room” is no channel');
    expect(() => onlyChannels(printed(), ['room=a', 'room=b'])).toThrow('Two channels are called room');
  });
});

describe('lines that come in pieces', () => {
  const linesOf = (...pieces: string[]) => {
    const lines: string[] = [];
    const take = wholeLines((line) => lines.push(line));
    pieces.forEach(take);
    return lines;
  };
  it('are whole; the first is left out where it may be the end of one', () => {
    expect(linesOf('5.2 °C\nT1: 4', '4.9 °C\n', 'T1: 45')).toEqual(['T1: 44.9 °C']);
    // A board that starts anew when its line is opened says its names first.
    expect(linesOf('chip,room\n44,', '22\n')).toEqual(['chip,room', '44,22']);
  });
});
