import { combineSlices, configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { applyTheme, settingsSlice, storeSettings } from './settings.ts';
import { stopsSlice, storeStops } from './stops.ts';

/**
 * What the stations bring with them: each adds its own slice here by declaration merging and puts it in with `injectInto(rootReducer)`,
 * so that the store knows no station and a station that is not open costs nothing.
 */
// eslint-disable-next-line typescript/no-empty-object-type
export interface StationSlices {}

export const rootReducer = combineSlices(api, settingsSlice, stopsSlice).withLazyLoadedSlices<StationSlices>();

const listener = createListenerMiddleware();

export const store = configureStore({
  reducer: rootReducer,
  // Live traces are large; checking them for mutation at every event would cost more than drawing them.
  middleware: (defaults) =>
    defaults({ immutableCheck: false, serializableCheck: false }).prepend(listener.middleware).concat(api.middleware),
});

export type RootState = ReturnType<typeof rootReducer>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

/** Does something whenever an action of this kind has been reduced; for what a station keeps in the browser. */
export const startListening = listener.startListening.withTypes<RootState, AppDispatch>();

startListening({
  predicate: (action) => action.type.startsWith('settings/'),
  effect: (_action, { getState }) => {
    storeSettings(localStorage, getState().settings);
    applyTheme(getState().settings.theme);
  },
});

startListening({
  predicate: (action) => action.type.startsWith('stops/'),
  effect: (_action, { getState }) => storeStops(localStorage, getState().stops),
});
