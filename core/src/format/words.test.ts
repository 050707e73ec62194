import { describe, expect, it } from 'vitest';
import { counted, headroomWords, listWords, midSentence } from '../index.ts';

describe('distance to a limit in words', () => {
  it.each([
    [12.4, 0, '12 K left'],
    [0.6, 0, '1 K left'],
    [0.4, 0, 'at the limit'],
    [0, 1, 'at the limit'],
    [-0.04, 1, 'at the limit'],
    [-0.06, 1, '0.1 K over'],
    [-3, 0, '3 K over'],
    [-3.25, 1, '3.3 K over'],
  ])('%s K with %s decimals: %s', (headroomK, decimals, words) => {
    expect(headroomWords(headroomK, decimals)).toBe(words);
  });
  it('never says that something is left of what is over, at any precision', () => {
    for (let k = -50; k < 0; k++)
      for (const decimals of [0, 1, 2]) expect(headroomWords(k / 7, decimals)).toMatch(/^(\d+(\.\d+)? K over|at the limit)$/);
  });
});

describe('numbers of things', () => {
  it('have a plural, their own where it is odd', () => {
    expect([0, 1, 2].map((n) => counted(n, 'run'))).toEqual(['0 runs', '1 run', '2 runs']);
    expect(counted(2, 'hypothesis', 'hypotheses')).toBe('2 hypotheses');
  });
});

describe('a list in words', () => {
  it('parts items that hold commas of their own by semicolons', () => {
    expect([listWords([]), listWords(['a']), listWords(['a', 'b', 'c'])]).toEqual(['', 'a', 'a, b and c']);
    expect(listWords(['a, held', 'b', 'c'])).toBe('a, held; b and c');
  });
});

describe('a name in the middle of a sentence', () => {
  it.each([
    ['Flash, underside', 'flash, underside'],
    ['Drive’s own sensor', 'drive’s own sensor'],
    ['GPU', 'GPU'],
    ['Core Temp', 'Core Temp'],
    ['VRM TC1', 'VRM TC1'],
    ['die', 'die'],
    ['', ''],
  ])('%s: %s', (name, words) => {
    expect(midSentence(name)).toBe(words);
  });
});
