import { describe, expect, it } from 'vitest';
import type { ColumnMapBody } from '@red-ember/contract';
import { classByName } from '@red-ember/study';
import { judgedOf } from './judgedOf.ts';

const of = (names: string[], known = false) => {
  const columns = names.map((name, column): ColumnMapBody => ({
    column,
    role: name === 'Room' ? 'room' : 'spot',
    spotId: null,
    spotName: name,
    componentClass: classByName(name, 'card') ?? 'board',
    unit: 'C',
  }));
  const { kept, words } = judgedOf(columns, names, 'card', known);
  return { kept: kept.map(({ column }) => names[column]), words };
};
const PART = ['GPU Temperature', 'GPU Hot Spot', 'Memory Junction'];

describe('which temperatures of a log are judged', () => {
  it('are all of them, where few are of other parts', () => {
    const names = ['Room', 'CPU Package', 'Drive Temperature', ...PART];
    expect(of(names)).toEqual({ kept: names, words: [] });
    expect(of(['stages', 'die'])).toEqual({ kept: ['stages', 'die'], words: [] });
  });

  it('are two of other parts, those that heat it first, where a log holds the whole machine', () => {
    const names = ['Room', 'Motherboard', 'CPU Package', 'CPU Core 0', 'CPU Core 1', 'PCH', 'Drive Temperature', ...PART];
    expect(of(names)).toEqual({
      kept: ['Room', 'CPU Package', 'CPU Core 0', ...PART],
      words: [
        '“Motherboard”, “CPU Core 1”, “PCH” and “Drive Temperature” of other parts are not judged. Choose them at its columns, where they are asked about.',
      ],
    });
    // A study that is there has said what it reads.
    expect(of(names, true).kept).toEqual(names);
  });

  it('are those of the part, where there are more than a study reads', () => {
    const many = Array.from({ length: 40 }, (_, i) => `Sensor ${i}`);
    const { kept, words } = of([...many, ...PART]);
    expect(kept).toHaveLength(32);
    expect(kept).toEqual(expect.arrayContaining(['GPU Temperature', 'GPU Hot Spot']));
    expect(words).toEqual([
      'It holds 43 temperatures, and a study reads 32: those of the part and the first ones are taken. Choose others at its columns.',
    ]);
  });
});
