import { expect, it } from 'vitest';
import { meanWithin } from '../index.ts';

const series = { t: Float64Array.of(0, 1, 2, 3), y: Float64Array.of(10, NaN, 20, 60) };

it('is the mean of what is there, over a half-open window or all of it, and nothing of nothing', () => {
  expect(meanWithin(series)).toBe(30);
  expect(meanWithin(series, { startS: 0, endS: 3 })).toBe(15);
  expect(meanWithin(series, { startS: 1, endS: 2 })).toBeNull();
  expect(meanWithin({ t: new Float64Array(0), y: new Float64Array(0) })).toBeNull();
});
