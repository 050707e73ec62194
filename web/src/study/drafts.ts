import type { WithSlice } from '@reduxjs/toolkit';
import { rootReducer, startListening, store } from '../data/store.ts';
import { discarded, draftSlice, storeDrafts, type Draft, type Drafts } from './draftSlice.ts';

declare module '../data/store.ts' {
  export interface StationSlices extends WithSlice<typeof draftSlice> {}
}

const kept = draftSlice.injectInto(rootReducer);

/** The drafts of this browser. */
const draftsIn = (state: ReturnType<typeof rootReducer>): Drafts => kept.selectSlice(state);

/** What was typed in a study and not saved; undefined where nothing was. */
export const draftOf = (state: ReturnType<typeof rootReducer>, studyId: string): Draft | undefined => draftsIn(state)[studyId];

/** Something was typed or saved that the browser's storage does not know yet. */
let unwritten = false;
function writeDrafts(): void {
  unwritten = false;
  storeDrafts(localStorage, draftsIn(store.getState()));
}
startListening({
  predicate: (action) => action.type.startsWith(`${draftSlice.name}/`),
  effect: async (action, { cancelActiveListeners, delay }) => {
    cancelActiveListeners();
    unwritten = true;
    // Once per pause in typing; but what was saved is forgotten at once, or it would come back over the saved record.
    if (action.type !== discarded.type) await delay(300);
    writeDrafts();
  },
});
// A page that is closed or reloaded within that pause keeps what was typed too.
addEventListener('pagehide', () => {
  if (unwritten) writeDrafts();
});
