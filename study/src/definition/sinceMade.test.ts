import { describe, expect, it } from 'vitest';
import { blankSpot } from '../index.ts';
import { madeAs, sinceMade } from './sinceMade.ts';
import { blankStudy, type StudyDefinition } from './study.ts';

const study = (change: Partial<StudyDefinition> = {}): StudyDefinition => ({
  ...blankStudy('Pastes', 'card'),
  factors: [{ name: 'Paste', levels: ['K', 'L'], changeMin: 10 }],
  spots: [{ ...blankSpot('chip', 'Chip', 'tc1'), limitC: 105, throttleC: 95 }],
  variants: [{ id: 'k', name: 'paste K', subjectId: 'part-1', isReference: true, setup: 'open', notes: '', levels: [{ factor: 'Paste', level: 'K' }] }], // prettier-ignore
  ...change,
});
const made = madeAs(study(), 'k');
const said = (change: Partial<StudyDefinition>) => sinceMade(made, study(change), 'k');
const spot = (change: object) => ({ spots: [{ ...study().spots[0]!, ...change }] });

describe('what a study says otherwise than when a run was started', () => {
  it('is nothing where nothing that the run keeps has changed', () => {
    expect(said({})).toEqual([]);
    expect(said({ title: 'Other', question: 'Other?', ...spot({ sensor: 'TC 7', name: 'Chip' }) })).toEqual([]);
    expect(sinceMade(null, study({ variants: [] }), 'k')).toEqual([]);
  });

  it('names names, set-ups and levels', () => {
    const [variant] = study().variants;
    const renamed = { ...variant!, name: 'Grease', setup: 'tower', levels: [{ factor: 'Paste', level: 'K2' }] };
    expect(said({ variants: [renamed], subjects: [{ ...study().subjects[0]!, name: 'Wren 9' }] })).toEqual([
      'It was called paste K then.',
      expect.stringMatching(/^Its part was called .* then\.$/),
      'It was run on the set-up open.',
      'Paste was called K then, K2 now.',
    ]);
  });

  it('says that a limit is another now, and against which runs are held', () => {
    expect(said(spot({ limitC: 110 }))).toEqual(['The limit of Chip was 105 °C then, 110 °C now: runs are held against what stands now.']);
    expect(said(spot({ throttleC: null }))).toEqual([
      'The throttling point of Chip was 95 °C then, unknown now: runs are held against what stands now.',
    ]);
    // A spot that is gone is not held against anything.
    expect(said({ spots: [] })).toEqual([]);
  });
});
