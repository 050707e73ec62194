import type { WithSlice } from '@reduxjs/toolkit';
import { rootReducer, startListening } from '../data/store.ts';
import { cardSlice, FRESH_CARD, storeCards, type CardProgress } from './cardSlice.ts';

declare module '../data/store.ts' {
  export interface StationSlices extends WithSlice<typeof cardSlice> {}
}

const kept = cardSlice.injectInto(rootReducer);

/** How far the card of a study is worked. */
export const cardOf = (state: ReturnType<typeof rootReducer>, studyId: string): CardProgress =>
  kept.selectSlice(state)[studyId] ?? FRESH_CARD;

startListening({
  predicate: (action) => action.type.startsWith(`${cardSlice.name}/`),
  effect: (_action, { getState }) => storeCards(localStorage, kept.selectSlice(getState())),
});
