import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { type Study, type StudyBody } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';

/** What a tester has typed and not saved yet, per study, with what it would undo to. */
export interface Draft {
  body: StudyBody;
  /** Version of the study that the draft started from. */
  version: number;
  past: StudyBody[];
  future: StudyBody[];
}

export type Drafts = Record<string, Draft>;

const MOST_UNDO = 100;
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
    JSON.stringify(Object.fromEntries(Object.entries(drafts).map(([id, draft]) => [id, { ...draft, past: [], future: [] }]))),
  );
}

export const draftSlice = createSlice({
  name: 'drafts',
  initialState: (): Drafts => loadDrafts(localStorage),
  reducers: {
    edited: (state, action: PayloadAction<{ study: Study; body: StudyBody }>) => {
      const { study, body } = action.payload;
      const draft = state[study.id];
      if (!draft) state[study.id] = { body, version: study.version, past: [bodyOf(study)], future: [] };
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
    /** Keeps what was typed and puts it on top of the version that is on the server now. */
    rebased: (state, action: PayloadAction<{ id: string; version: number }>) => {
      const draft = state[action.payload.id];
      if (draft) draft.version = action.payload.version;
    },
  },
});

export const { edited, undone, redone, discarded, rebased } = draftSlice.actions;
