import { describe, expect, it } from 'vitest';
import { labelSides } from './labelSides.ts';

const at = (name: string, x: number, y: number) => ({ name, x, y });

describe('names of points on a plot', () => {
  it('stand to the right where nothing is near', () => {
    expect([...labelSides([at('a', 0, 0), at('b', 1, 1)]).values()]).toEqual(['right', 'right']);
    expect(labelSides([at('alone', 1, 1)]).get('alone')).toBe('right');
    expect(labelSides([]).size).toBe(0);
  });
  it('step aside for a neighbour and for its name', () => {
    const sides = labelSides([
      at('paste K', 0.49, 62.4),
      at('paste M', 0.55, 63),
      at('paste N', 0.41, 64.6),
      at('paste L', 0.63, 61),
      at('paste Q', 1.94, 59.4),
      at('paste Z', 0.4, 74),
    ]);
    // M stands to the right of K.
    expect(sides.get('paste K')).not.toBe('right');
    expect(sides.get('paste Q')).toBe('right');
    expect(sides.get('paste Z')).toBe('right');
  });
  it('leaves two points on one place with their names on two sides', () => {
    const sides = labelSides([at('one', 1, 1), at('other', 1, 1), at('far', 5, 5)]);
    expect(sides.get('one')).not.toBe(sides.get('other'));
  });
});
