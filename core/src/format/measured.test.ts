import { describe, expect, it } from 'vitest';
import { clock, decimalsFor, duration, fixed, measured, signed, plainNumber } from '../index.ts';

describe('numbers as a tester reads them', () => {
  it.each([
    [0.8, 1],
    [0.12, 2],
    [0.019, 3],
    [0.02, 2],
    [3, 0],
    [1.2, 1],
    [12, 0],
    [0, 1],
  ])('a doubt of %s deserves %s decimals', (doubt, decimals) => {
    expect(decimalsFor(doubt)).toBe(decimals);
  });
  it('carries unit, sign and doubt', () => {
    expect(measured(61.34, 0.83, 'K')).toBe('61.3 ± 0.8 K');
    expect(measured(-2.236, 0.5, 'K', { sign: true })).toBe('−2.2 ± 0.5 K');
    expect(measured(4.5, 0.62, 'K', { sign: true })).toBe('+4.5 ± 0.6 K');
    expect(measured(50, 12, 'K')).toBe('50 ± 12 K');
    expect(measured(50, 0.001, 'K')).toBe('50.00 ± under 0.01 K');
  });
  it('has no minus nought', () => {
    expect([fixed(-0.04, 1), signed(-0.04, 1), signed(0.04, 1), signed(0.4, 1)]).toEqual(['0.0', '0.0', '0.0', '+0.4']);
  });
  it('tells time', () => {
    expect([duration(40), duration(2820), duration(3900), duration(7140)]).toEqual(['40 s', '47 min', '65 min', '1 h 59 min']);
    expect([clock(1385), clock(3870), clock(-3)]).toEqual(['23:05', '1:04:30', '0:00']);
  });
});

describe('plainNumber', () => {
  it.each<[string, number]>([
    ['61.4', 61.4],
    [' 61,4 ', 61.4],
    ['−3', -3],
    ['+.5', 0.5],
    ['1e3', 1000],
  ])('%s is understood', (text, value) => expect(plainNumber(text)).toBe(value));
  it.each(['', ' ', '0x10', '0b1', '1_000', 'Infinity', 'NaN', '1.2.3', '1,2.3', '--1', '1e', '12a'])('“%s” is no number', (text) =>
    expect(plainNumber(text)).toBeNaN(),
  );
});
