import { describe, expect, it } from 'vitest';
import { measuredChanges } from './measured.ts';
import { blankStudy, type StudyDefinition, type StudyRecord } from './study.ts';

const variant = (id: string, paste: string, change = {}) => ({ id, name: `paste ${paste}`, subjectId: 'part-1', isReference: id === 'k', setup: 'open', notes: '', levels: [{ factor: 'Paste', level: paste }], ...change }); // prettier-ignore
const definition = (change: Partial<StudyDefinition> = {}): StudyDefinition => ({
  ...blankStudy('Pastes', 'card'),
  factors: [{ name: 'Paste', levels: ['K', 'L'], changeMin: 10 }],
  variants: [variant('k', 'K'), variant('l', 'L')],
  ...change,
});
const before: StudyRecord = { ...definition(), id: 's', version: 1, createdAt: '', updatedAt: '', predictionLockedAt: null, predictionStamps: {}, variantsWithRuns: ['k'] }; // prettier-ignore
const sentences = (change: Partial<StudyDefinition>) => measuredChanges(before, definition(change)).map(({ sentence }) => sentence);

describe('a change of a study that has runs', () => {
  it('that turns measured runs into others is named', () => {
    expect(
      sentences({ factors: [{ name: 'Paste', levels: ['W', 'L'], changeMin: 10 }], variants: [variant('k', 'W'), variant('l', 'L')] }),
    ).toEqual(['paste K has runs with Paste K. They would become runs with Paste W.']);
    expect(sentences({ variants: [variant('k', 'K', { setup: 'tower' }), variant('l', 'L')] })).toEqual(['paste K has runs with the set-up open. They would become runs with the set-up tower.']); // prettier-ignore
    expect(sentences({ subjects: [...definition().subjects, { ...definition().subjects[0]!, id: 'p2', name: 'Another card' }], variants: [variant('k', 'K', { subjectId: 'p2' }), variant('l', 'L')] })[0]).toContain('Another card'); // prettier-ignore
  });
  it('of a variant without runs, of names, of notes, and a level more, is none', () => {
    expect(
      sentences({ variants: [variant('k', 'K', { name: 'the old paste', notes: 'x' }), variant('l', 'W', { setup: 'other' })] }),
    ).toEqual([]);
    expect(sentences({ factors: [{ name: 'Paste', levels: ['K', 'L', 'M'], changeMin: 12 }] })).toEqual([]);
  });
  it('of a factor’s own name is none', () => {
    const renamed = (id: string, level: string) => variant(id, level, { levels: [{ factor: 'Grease', level }] });
    expect(sentences({ factors: [{ name: 'Grease', levels: ['K', 'L'], changeMin: 10 }], variants: [renamed('k', 'K'), renamed('l', 'L')] })).toEqual([]); // prettier-ignore
  });
});
