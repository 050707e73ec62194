import type { Degrees } from '@red-ember/core';
import { asInitials } from '@red-ember/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Theme = 'light' | 'dark' | 'system';

export interface Settings {
  theme: Theme;
  /** Time scale last used for a simulated run. */
  timeScale: number;
  /** Unit of a hand reading that is typed without one. */
  handUnit: 'C' | 'F';
  /** What calls the tester to a mark or a new phase; nothing by itself. */
  atMarks: AtMarks;
  /** Of whoever sits here: what runs are signed off with. */
  initials: string;
  /** In which degrees results are shown. */
  degrees: Degrees;
  /** The study that is walked through, by its id; empty for none. */
  tour: string;
}

export type AtMarks = 'nothing' | 'flash' | 'sound' | 'notification';

const KEY = 'red-ember.settings';

/** Remembered choices of this browser. */
function loadSettings(storage: Pick<Storage, 'getItem'>): Settings {
  const fallback: Settings = { theme: 'system', timeScale: 60, handUnit: 'C', atMarks: 'nothing', initials: '', degrees: 'C', tour: '' };
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
    degreesChosen: (state, action: PayloadAction<Degrees>) => void (state.degrees = action.payload),
    initialsTyped: (state, action: PayloadAction<string>) => void (state.initials = asInitials(action.payload)),
    handUnitChosen: (state, action: PayloadAction<'C' | 'F'>) => void (state.handUnit = action.payload),
    atMarksChosen: (state, action: PayloadAction<AtMarks>) => void (state.atMarks = action.payload),
    tourWalked: (state, action: PayloadAction<string>) => void (state.tour = action.payload),
    timeScaleChosen: (state, action: PayloadAction<number>) => void (state.timeScale = action.payload),
  },
});

export const { themeChosen, degreesChosen, timeScaleChosen, handUnitChosen, initialsTyped, atMarksChosen, tourWalked } = settingsSlice.actions;

export function applyTheme(theme: Theme): void {
  const dark = theme === 'dark' || (theme === 'system' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.theme = dark ? 'dark' : 'light';
}
