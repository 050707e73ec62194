import { expect, it } from 'vitest';
import { tellApart } from './tellApart.ts';

it('leaves names that fit, or that begin otherwise', () => {
  expect(tellApart(['paste K', 'paste L'], 20)).toEqual(['paste K', 'paste L']);
  expect(tellApart(['Factory shroud and its fan', 'Big tower sink with strips'], 20)).toEqual([
    'Factory shroud and its fan',
    'Big tower sink with strips',
  ]);
});

it('keeps of names that begin alike what differs, the end first', () => {
  const sink = 'Big tower sink with adhesive strips';
  expect(tellApart([`${sink} … 120 mm fan as shipped`, `${sink} on … 120 mm fan tuned`], 18)).toEqual([
    '… mm fan as shipped',
    '… 120 mm fan tuned',
  ]);
  // Where they end alike too, what differs is in the middle.
  expect(tellApart([`${sink} left, second-hand fan`, `${sink} right, second-hand fan`], 16)).toEqual([
    '… left, second-hand fan',
    '… right, second-hand fan',
  ]);
});
