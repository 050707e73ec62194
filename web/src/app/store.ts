import { configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { draftSlice, storeDrafts } from '../study/draftSlice.ts';
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

listener.startListening.withTypes<RootState, AppDispatch>()({
  predicate: (action) => action.type.startsWith('drafts/'),
  effect: async (_action, api) => {
    api.cancelActiveListeners();
    await api.delay(300); // once per pause in typing
    storeDrafts(localStorage, api.getState().drafts);
  },
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
