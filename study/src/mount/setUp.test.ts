import { describe, expect, it } from 'vitest';
import { blankPart } from '../definition/fitting.ts';
import { blankSpot, blankStudy, type StudyDefinition } from '../definition/study.ts';
import { setUpOf } from './setUp.ts';

const study = (change: Partial<StudyDefinition> = {}): StudyDefinition => ({
  ...blankStudy('Wren in spring', 'card'),
  subjects: [{ id: 'p', name: 'Wren 8', details: 'second revision', serial: 'W-1', drive: null, map: null }],
  variants: [
    { id: 'v', name: 'stock', subjectId: 'p', isReference: true, setup: '', notes: '' },
    { id: 'w', name: 'tower', subjectId: 'p', isReference: false, setup: '', notes: '' },
  ],
  parts: [{ ...blankPart('c', 'Tower 90'), kind: 'cooler', variantId: 'w', serial: 'C-1' }],
  locks: [
    { name: 'Fan duty', value: '60', unit: '%', tolerance: 1, channel: 'duty', overrides: [] },
    { name: 'Driver', value: '31.2', unit: '', tolerance: null, channel: '', overrides: [] },
  ],
  ...change,
});
const usual = setUpOf(study(), 'w');

describe('a set-up', () => {
  it('is one, whatever the study is called, asks, limits, pays and calls its ids', () => {
    const [stock, tower] = study().variants;
    const same: Partial<StudyDefinition>[] = [
      { title: 'Another', question: 'Why?' },
      { spots: [blankSpot('s', 'Die', 'die')] },
      { locks: [...study().locks].reverse() },
      { parts: [{ ...study().parts[0]!, price: 40, note: 'lent' }] },
      { subjects: [{ ...study().subjects[0]!, name: 'WREN 8 ' }] },
      { recipe: study().recipe.map((phase) => ({ ...phase, durationS: phase.durationS + 60 })) },
      { variants: [stock!, { ...tower!, notes: 'again' }] },
    ];
    for (const change of same) expect(setUpOf(study(change), 'w'), JSON.stringify(change)).toBe(usual);
  });
  it('is another with another part, cooler, lock, load, fan rule or variant', () => {
    const [first] = study().subjects;
    const others: Partial<StudyDefinition>[] = [
      { subjects: [{ ...first!, serial: 'W-2' }] },
      { subjects: [{ ...first!, details: 'first revision' }] },
      { parts: [{ ...study().parts[0]!, serial: 'C-2' }] },
      { parts: [] },
      { locks: study().locks.slice(1) },
      { recipe: study().recipe.map((phase) => ({ ...phase, loadPercent: phase.loadPercent / 2 })) },
      { rules: { ...study().rules, fans: study().rules.fans === 'locked' ? 'as-shipped' : 'locked' } },
    ];
    for (const change of others) expect(setUpOf(study(change), 'w'), JSON.stringify(change)).not.toBe(usual);
    expect(setUpOf(study(), 'v')).not.toBe(usual);
    // What is on the other variant is no matter of this one.
    expect(setUpOf(study({ parts: [] }), 'v')).toBe(setUpOf(study(), 'v'));
  });
  it('is nobody’s where the part has no name or there is no such variant', () => {
    expect(setUpOf(study({ subjects: blankStudy('x').subjects.map((part) => ({ ...part, id: 'p' })) }), 'w')).toBeNull();
    expect(setUpOf(study(), 'nothing')).toBeNull();
  });
});
