import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Theme = 'light' | 'dark' | 'system';

export interface Settings {
  theme: Theme;
  /** Time scale last used for a simulated run. */
  timeScale: number;
}

const KEY = 'red-ember.settings';

/** Remembered choices of this browser. */
export function loadSettings(storage: Pick<Storage, 'getItem'>): Settings {
  const fallback: Settings = { theme: 'system', timeScale: 60 };
  try {
    return { ...fallback, ...(JSON.parse(storage.getItem(KEY) ?? '{}') as Partial<Settings>) };
  } catch {
    return fallback;
  }
}

export function storeSettings(storage: Pick<Storage, 'setItem'>, settings: Settings): void {
  storage.setItem(KEY, JSON.stringify(settings));
}

export const settingsSlice = createSlice({
  name: 'settings',
  initialState: (): Settings => loadSettings(localStorage),
  reducers: {
    themeChosen: (state, action: PayloadAction<Theme>) => void (state.theme = action.payload),
    timeScaleChosen: (state, action: PayloadAction<number>) => void (state.timeScale = action.payload),
  },
});

export const { themeChosen, timeScaleChosen } = settingsSlice.actions;

export function applyTheme(theme: Theme): void {
  const dark = theme === 'dark' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
}
