import { describe, expect, it } from 'vitest';
import { unusedWords } from './words.ts';

const names = ['CPU Clock [MHz]', 'Memory Clock [MHz]', 'A', 'B', 'C', 'D', 'E'];
const of = (columns: number[], another = false) => columns.map((column) => ({ column, another }));

describe('columns that nothing is made of', () => {
  it('are said, each with its reason', () => {
    expect(unusedWords([...of([0], true), ...of([1])], [], names)).toEqual([
      '“CPU Clock [MHz]” is not used: it speaks of another part of the machine.',
      '“Memory Clock [MHz]” is not used: nothing says what it holds, or another column holds it already.',
    ]);
  });
  it('are counted where there are many, and one more than are named is named as well', () => {
    expect(unusedWords(of([2, 3, 4, 5]), [], names)).toEqual([
      '“A”, “B”, “C” and “D” are not used: nothing says what they hold, or another column holds it already.',
    ]);
    expect(unusedWords(of([2, 3, 4, 5, 6]), [], names)).toEqual([
      '“A”, “B”, “C” and 2 more columns are not used: nothing says what they hold, or another column holds it already.',
    ]);
  });
  it('are none where a table has taken them', () => {
    expect(unusedWords(of([2]), [{ column: 2, role: 'spot', spotId: null }], names)).toEqual([]);
  });
});
