import { describe, expect, it } from 'vitest';
import { readAs, type ReadAs } from './readAs.ts';

const series = (...y: number[]) => ({ t: Float64Array.from(y, (_, i) => i), y: Float64Array.from(y) });
const read = (how: ReadAs, ...y: number[]) => [...readAs(series(...y), how).y];

describe('numbers that were taken for something else', () => {
  it.each<[ReadAs, number[], number[]]>([
    ['fahrenheit', [32, 212, -40], [0, 100, -40]],
    ['kelvin', [273.15, 373.15], [0, 100]],
    ['celsius', [0, 100 / 3], [32, 92]],
    ['thousandth', [206_000], [206]],
    ['thousandfold', [2.4], [2400]],
    ['hundredfold', [0.97], [97]],
    ['as-is', [1, 2], [1, 2]],
  ])('%s', (how, y, expected) => {
    read(how, ...y).forEach((value, i) => expect(value).toBeCloseTo(expected[i]!, 9));
  });
  it('takes °F and °C back and forth to what they were, gaps among them', () => {
    const there = readAs(series(20, NaN, 85.5), 'celsius');
    const back = readAs(there, 'fahrenheit');
    expect(back.y[0]).toBeCloseTo(20, 9);
    expect(back.y[1]).toBeNaN();
    expect(back.t).toBe(there.t);
  });
});
