import { elsewhere, pageOf } from './elsewhere.ts';
import { conflictWords } from './conflictWords.ts';
import { beforeAll, describe, expect, it } from 'vitest';
import { type Mount, type Run, type Study } from '@red-ember/contract';
import { blankStudy, bodyOf, rulesWords } from '@red-ember/study';
import { stationStates } from '../frame/stations.ts';

const study = (change: Partial<Study> = {}): Study => ({
  id: 's',
  version: 3,
  createdAt: '',
  updatedAt: '',
  predictionLockedAt: null,
  predictionStamps: {},
  variantsWithRuns: [],
  ...blankStudy('T'),
  question: 'Why?',
  claims: [{ id: 'c', text: 'c', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 1 }],
  spots: [{ channel: 'tc1', sensor: 'TC 1' } as Study['spots'][number]],
  variants: [
    { id: 'a', name: 'bare', subjectId: 'part-1', isReference: true, setup: '', notes: '' },
    { id: 'b', name: 'lid', subjectId: 'part-1', isReference: false, setup: '', notes: '' },
  ],
  recipe: [{ kind: 'load', name: 'Load', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 100 }],
  locks: [{ name: 'Case', value: 'open bench', unit: '', tolerance: null, channel: '', overrides: [] }],
  ...change,
});
const run = (variantId: string, change: Partial<Run> = {}) =>
  ({ variantId, purpose: 'measure', state: 'finished', disposition: 'undecided', ...change }) as Run;
const mount = (variantId: string) => ({ variantId }) as Mount;

// The slice reads remembered drafts from the browser's storage when it is made.
let drafts: typeof import('./draftSlice.ts');
beforeAll(async () => {
  globalThis.localStorage = { getItem: () => null, setItem: () => {} } as unknown as Storage;
  drafts = await import('./draftSlice.ts');
});

describe('stationStates', () => {
  it('leads through the stations in their order', () => {
    expect(stationStates(study({ question: '', claims: [] }), [], []).ask).toBe('next');
    const mounted = stationStates(study(), [mount('a'), mount('b')], []);
    expect(mounted).toMatchObject({ ask: 'done', look: 'done', plan: 'done', mount: 'done', run: 'next', read: 'open' });
    expect(stationStates(study(), [], [run('a'), run('b')])).toMatchObject({
      mount: 'done',
      run: 'done',
      read: 'done',
      judge: 'done',
      report: 'next',
    });
  });
  it('shows trouble until it is signed off', () => {
    expect(stationStates(study(), [], [run('a', { state: 'cut-out' })]).run).toBe('trouble');
    expect(stationStates(study(), [], [run('a', { state: 'cut-out', disposition: 'reject' })]).run).toBe('open');
  });
});

describe('drafts', () => {
  it('remember, undo, redo and discard', () => {
    const { draftSlice, edited, undone, redone, discarded } = drafts;
    const saved = study();
    let state = draftSlice.reducer({}, edited({ study: saved, body: { ...bodyOf(saved), title: 'one' } }));
    state = draftSlice.reducer(state, edited({ study: saved, body: { ...bodyOf(saved), title: 'one', question: 'two' } }));
    expect(state.s!.version).toBe(3);
    expect(drafts.written(state.s!)).toMatchObject({ title: 'one', question: 'two' });
    state = draftSlice.reducer(state, undone('s'));
    expect(drafts.written(state.s!).title).toBe('one');
    state = draftSlice.reducer(draftSlice.reducer(state, undone('s')), redone('s'));
    expect(drafts.written(state.s!).title).toBe('one');
    expect(draftSlice.reducer(state, discarded('s'))).toEqual({});
  });
  it('keep what was typed when put on top of a newer version, and survive broken storage', () => {
    const { draftSlice, edited, rebased, loadDrafts } = drafts;
    const saved = study();
    const state = draftSlice.reducer(
      draftSlice.reducer({}, edited({ study: saved, body: { ...bodyOf(saved), title: 'mine' } })),
      rebased({ ...saved, version: 9, title: 'theirs', question: 'theirs' }),
    );
    expect(state.s!.version).toBe(9);
    expect(drafts.written(state.s!)).toMatchObject({ title: 'mine', question: 'theirs' });
    expect(loadDrafts({ getItem: () => '{broken' })).toEqual({});
  });
});

describe('what is typed while a save is under way', () => {
  it('stays, on top of what was saved', () => {
    const { draftSlice, edited, saved } = drafts;
    const before = study();
    const sent = { ...bodyOf(before), title: 'sent' };
    let state = draftSlice.reducer({}, edited({ study: before, body: sent }));
    state = draftSlice.reducer(state, edited({ study: before, body: { ...sent, question: 'typed since' } }));
    const answered = { ...before, title: 'sent', version: before.version + 1 };
    state = draftSlice.reducer(state, saved({ sent, study: answered }));
    expect(state.s!.version).toBe(answered.version);
    expect(drafts.written(state.s!)).toMatchObject({ title: 'sent', question: 'typed since' });
    expect(draftSlice.reducer(state, saved({ sent: drafts.written(state.s!), study: answered }))).toEqual({});
  });
});

describe('a field that blocks saving', () => {
  const at = (pointer: string) => ({ pointer, sentence: `wrong at ${pointer}` });
  it('is named with the page where it stands, once a page, and not on that page itself', () => {
    const problems = [at('/spots/0/limitC'), at('/spots/1/limitC'), at('/recipe/1/capS'), at('/title')];
    expect(elsewhere(problems, 'ask')).toEqual([
      { to: 'look', name: 'Look', sentence: 'wrong at /spots/0/limitC' },
      { to: 'plan', name: 'Plan', sentence: 'wrong at /recipe/1/capS' },
    ]);
    expect(elsewhere(problems, 'look').map(({ to }) => to)).toEqual(['plan', 'ask']);
  });
  it('has a page for every part of a study', () => {
    const known = Object.keys(bodyOf(study())).filter((key) => pageOf(at(`/${key}`)) === null);
    expect(known).toEqual([]);
  });
});

describe('what both windows changed', () => {
  it('is named, with what the other made of it', () => {
    const { draftSlice, edited, conflictsOf } = drafts;
    const before = study();
    const state = draftSlice.reducer({}, edited({ study: before, body: { ...bodyOf(before), title: 'mine', question: 'mine' } }));
    expect(conflictWords(conflictsOf(state.s!, { ...before, title: 'theirs' }))).toBe(
      'Both windows changed title (“theirs” there); yours would stand. Everything else is kept from both.',
    );
    expect(conflictWords([])).toContain('nothing of either is lost');
  });
});

describe('rulesWords', () => {
  it('is the line that every figure carries', () => {
    expect(rulesWords(study())).toBe(
      'Rise over room · settled mean · synthetic worst case · no fans · open bench · attached sensors · 95 % · matters from 1.0 K',
    );
  });
});
