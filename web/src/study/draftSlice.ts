import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { type Study, type StudyBody } from '@red-ember/contract';
import { bodyOf, merge, type MergeConflict } from '@red-ember/study';
import { alone, firstStep, put, replaced, stepBack, stepOn, type Steps } from '../ui/steps.ts';

/** What a tester has typed and not saved yet, per study, with what it would undo to. */
export interface Draft {
  steps: Steps<StudyBody>;
  /** Version of the study that the draft started from, and what it said. */
  version: number;
  base?: StudyBody;
}

/** A draft as the browser keeps it: undo steps are not worth the room, what was typed is. */
type KeptDraft = Omit<Draft, 'steps'> & { body: StudyBody };

/** What is written in a draft now. */
export const written = (draft: Draft): StudyBody => draft.steps.history.present;

export type Drafts = Record<string, Draft>;

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
/** Changes with the shape of a study: a draft of another shape could not be saved any more. */
const KEY = 'red-ember.drafts-3';

export function loadDrafts(storage: Pick<Storage, 'getItem'>): Drafts {
  try {
    const kept = JSON.parse(storage.getItem(KEY) ?? '{}') as Record<string, KeptDraft>;
    return Object.fromEntries(Object.entries(kept).map(([id, { body, ...draft }]) => [id, { ...draft, steps: firstStep(body) }]));
  } catch {
    return {};
  }
}

export function storeDrafts(storage: Pick<Storage, 'setItem'>, drafts: Drafts): void {
  storage.setItem(
    KEY,
    JSON.stringify(
      Object.fromEntries(
        Object.entries(drafts)
          // One that was discarded or undone altogether is kept for as long as the page is open.
          .filter(([, draft]) => !draft.base || !same(written(draft), draft.base))
          .map(([id, { steps, ...draft }]): [string, KeptDraft] => [id, { ...draft, body: steps.history.present }]),
      ),
    ),
  );
}

export const draftSlice = createSlice({
  name: 'drafts',
  initialState: (): Drafts => loadDrafts(localStorage),
  reducers: {
    edited: {
      prepare: (payload: { study: Study; body: StudyBody }) => ({ payload, meta: { atMs: Date.now() } }),
      reducer: (state, { payload: { study, body }, meta }: PayloadAction<{ study: Study; body: StudyBody }, string, { atMs: number }>) => {
        const draft = (state[study.id] ??= { steps: firstStep(bodyOf(study)), version: study.version, base: bodyOf(study) });
        draft.steps = put(draft.steps, body, meta.atMs);
      },
    },
    /** All that was typed is given up, which can be undone. */
    putBack: (state, action: PayloadAction<Study>) => {
      const draft = state[action.payload.id];
      if (draft) draft.steps = alone(draft.steps, bodyOf(action.payload));
    },
    undone: (state, action: PayloadAction<string>) => {
      const draft = state[action.payload];
      if (draft) draft.steps = stepBack(draft.steps);
    },
    redone: (state, action: PayloadAction<string>) => {
      const draft = state[action.payload];
      if (draft) draft.steps = stepOn(draft.steps);
    },
    discarded: (state, action: PayloadAction<string>) => {
      delete state[action.payload];
    },
    /** A save has come through: what was typed since it was sent stays, on top of it. */
    saved: (state, action: PayloadAction<{ sent: StudyBody; study: Study }>) => {
      const { sent, study } = action.payload;
      const draft = state[study.id];
      if (!draft) return;
      if (same(written(draft), sent)) delete state[study.id];
      else {
        const base = bodyOf(study);
        state[study.id] = { steps: replaced(draft.steps, merge(sent, written(draft), base).value), version: study.version, base };
      }
    },
    /** Lays what was typed over the version that is on the server now, field by field. */
    rebased: (state, action: PayloadAction<Study>) => {
      const study = action.payload;
      const draft = state[study.id];
      if (!draft) return;
      const theirs = bodyOf(study);
      state[study.id] = {
        steps: alone(draft.steps, merge(draft.base ?? theirs, written(draft), theirs).value),
        version: study.version,
        base: theirs,
      };
    },
    /** The version on the server stands in the place of what was typed, which can be undone. */
    takenOver: (state, action: PayloadAction<Study>) => {
      const study = action.payload;
      const draft = state[study.id];
      if (!draft) return;
      const body = bodyOf(study);
      state[study.id] = { steps: alone(draft.steps, body), base: body, version: study.version };
    },
  },
});

export const { edited, putBack, undone, redone, discarded, rebased, saved, takenOver } = draftSlice.actions;

/** What another window saved of what is changed here too: mine stands, theirs is named. */
export const conflictsOf = (draft: Draft, theirs: Study): MergeConflict[] =>
  merge(draft.base ?? bodyOf(theirs), written(draft), bodyOf(theirs)).conflicts;
