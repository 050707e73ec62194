import type { WithSlice } from '@reduxjs/toolkit';
import { rootReducer } from '../../data/store.ts';
import { liveSlice, type LiveState } from './liveSlice.ts';

declare module '../../data/store.ts' {
  export interface StationSlices extends WithSlice<typeof liveSlice> {}
}

const going = liveSlice.injectInto(rootReducer);

/** The run that is followed, as it goes on. */
export const liveIn = (state: ReturnType<typeof rootReducer>): LiveState => going.selectSlice(state);
