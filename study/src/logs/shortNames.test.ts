import { expect, it } from 'vitest';
import { shortNames } from './shortNames.ts';

const SINK = 'Big tower sink with adhesive strips on memory and inductors second-hand 120 mm fan';

it('leaves what fits, and keeps beginning and end of what does not', () => {
  const short = shortNames();
  expect(short('bare')).toBe('bare');
  expect(short(`${SINK} as shipped`)).toMatch(/^Big tower sink with adhesive … 120 mm fan as shipped \([0-9a-z]{2}\)$/);
  expect(short(`${SINK} tuned`)).toMatch(/^Big tower sink with adhesive strips … 120 mm fan tuned \([0-9a-z]{2}\)$/);
  expect(short('x'.repeat(90))).toHaveLength(59);
});

it('never makes one of two that are called otherwise', () => {
  const short = shortNames();
  const middles = ['left', 'right', 'upper', 'lower'].map(
    (side) => `Big tower sink with adhesive strips on the ${side} row of inductors and second-hand fan`,
  );
  const all = middles.map(short);
  expect(new Set(all).size).toBe(4);
  expect(all.every((name) => name.length <= 60)).toBe(true);
  // Put down on another day, by itself, each is what it was.
  expect(middles.map((name) => shortNames()(name))).toEqual(all);
  // The same once more is the same, however it is written.
  expect(middles.map((name) => short(name.toUpperCase()).toLowerCase())).toEqual(all.map((name) => name.toLowerCase()));
});
