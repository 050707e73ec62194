import { configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { discarded, draftSlice, storeDrafts } from '../study/draftSlice.ts';
import { cardSlice, storeCards } from '../mount/cardSlice.ts';
import { liveSlice } from '../run/liveSlice.ts';
import { api } from './api.ts';
import { applyTheme, settingsSlice, storeSettings } from './settings.ts';

const listener = createListenerMiddleware();

export const store = configureStore({
  reducer: {
    [api.reducerPath]: api.reducer,
    drafts: draftSlice.reducer,
    live: liveSlice.reducer,
    cards: cardSlice.reducer,
    settings: settingsSlice.reducer,
  },
  // Live traces are large; checking them for mutation at every event would cost more than drawing them.
  middleware: (defaults) =>
    defaults({ immutableCheck: false, serializableCheck: false }).prepend(listener.middleware).concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

/** Something was typed or saved that the browser's storage does not know yet. */
let unwritten = false;
function writeDrafts(): void {
  unwritten = false;
  storeDrafts(localStorage, store.getState().drafts);
}
listener.startListening.withTypes<RootState, AppDispatch>()({
  predicate: (action) => action.type.startsWith('drafts/'),
  effect: async (action, api) => {
    api.cancelActiveListeners();
    unwritten = true;
    // Once per pause in typing; but what was saved is forgotten at once, or it would come back over the saved record.
    if (action.type !== discarded.type) await api.delay(300);
    writeDrafts();
  },
});
// A page that is closed or reloaded within that pause keeps what was typed too.
addEventListener('pagehide', () => {
  if (unwritten) writeDrafts();
});
listener.startListening.withTypes<RootState, AppDispatch>()({
  predicate: (action) => action.type.startsWith('cards/'),
  effect: (_action, api) => storeCards(localStorage, api.getState().cards),
});
listener.startListening.withTypes<RootState, AppDispatch>()({
  predicate: (action) => action.type.startsWith('settings/'),
  effect: (_action, api) => {
    storeSettings(localStorage, api.getState().settings);
    applyTheme(api.getState().settings.theme);
  },
});
