import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { type Study, type StudyBody } from '@red-ember/contract';
import { bodyOf, merge, type MergeConflict } from '@red-ember/study';

/** What a tester has typed and not saved yet, per study, with what it would undo to. */
export interface Draft {
  body: StudyBody;
  /** Version of the study that the draft started from, and what it said. */
  version: number;
  base?: StudyBody;
  past: StudyBody[];
  future: StudyBody[];
}

export type Drafts = Record<string, Draft>;

const MOST_UNDO = 100;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
/** Changes with the shape of a study: a draft of another shape could not be saved any more. */
const KEY = 'red-ember.drafts-3';

export function loadDrafts(storage: Pick<Storage, 'getItem'>): Drafts {
  try {
    return JSON.parse(storage.getItem(KEY) ?? '{}') as Drafts;
  } catch {
    return {};
  }
}

export function storeDrafts(storage: Pick<Storage, 'setItem'>, drafts: Drafts): void {
  // Undo steps are not worth the room; what was typed is.
  storage.setItem(
    KEY,
    JSON.stringify(
      Object.fromEntries(
        Object.entries(drafts)
          // One that was discarded or undone altogether is kept for as long as the page is open.
          .filter(([, draft]) => !draft.base || !same(draft.body, draft.base))
          .map(([id, draft]) => [id, { ...draft, past: [], future: [] }]),
      ),
    ),
  );
}

export const draftSlice = createSlice({
  name: 'drafts',
  initialState: (): Drafts => loadDrafts(localStorage),
  reducers: {
    edited: (state, action: PayloadAction<{ study: Study; body: StudyBody }>) => {
      const { study, body } = action.payload;
      const draft = state[study.id];
      const base = bodyOf(study);
      if (!draft) state[study.id] = { body, version: study.version, base, past: [base], future: [] };
      else {
        draft.past = [...draft.past, draft.body].slice(-MOST_UNDO);
        draft.body = body;
        draft.future = [];
      }
    },
    undone: (state, action: PayloadAction<string>) => {
      const draft = state[action.payload];
      const last = draft?.past.pop();
      if (!draft || !last) return;
      draft.future.push(draft.body);
      draft.body = last;
    },
    redone: (state, action: PayloadAction<string>) => {
      const draft = state[action.payload];
      const next = draft?.future.pop();
      if (!draft || !next) return;
      draft.past.push(draft.body);
      draft.body = next;
    },
    discarded: (state, action: PayloadAction<string>) => {
      delete state[action.payload];
    },
    /** A save has come through: what was typed since it was sent stays, on top of it. */
    saved: (state, action: PayloadAction<{ sent: StudyBody; study: Study }>) => {
      const { sent, study } = action.payload;
      const draft = state[study.id];
      if (!draft) return;
      if (same(draft.body, sent)) delete state[study.id];
      else {
        const base = bodyOf(study);
        state[study.id] = { ...draft, body: merge(sent, draft.body, base).value, version: study.version, base };
      }
    },
    /** Lays what was typed over the version that is on the server now, field by field. */
    rebased: (state, action: PayloadAction<Study>) => {
      const study = action.payload;
      const draft = state[study.id];
      if (!draft) return;
      const theirs = bodyOf(study);
      state[study.id] = {
        ...draft,
        body: merge(draft.base ?? theirs, draft.body, theirs).value,
        past: [...draft.past, draft.body].slice(-MOST_UNDO),
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
      state[study.id] = { body, base: body, version: study.version, past: [...draft.past, draft.body].slice(-MOST_UNDO), future: [] };
    },
  },
});

export const { edited, undone, redone, discarded, rebased, saved, takenOver } = draftSlice.actions;

/** What another window saved of what is changed here too: mine stands, theirs is named. */
export const conflictsOf = (draft: Draft, theirs: Study): MergeConflict[] =>
  merge(draft.base ?? bodyOf(theirs), draft.body, bodyOf(theirs)).conflicts;
