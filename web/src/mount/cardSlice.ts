import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** How far a card is worked: kept in the browser, since hands are full when a page is closed by mistake. */
export interface CardProgress {
  /** The variant chosen by hand; null for the next of the plan. */
  toId: string | null;
  confirmed: string[];
  /** When each step was ticked, ISO 8601, by its id. */
  done: Record<string, string>;
  skipped: string[];
  note: string;
  serial: string;
}

/** By study. */
export type Cards = Record<string, CardProgress>;

const KEY = 'red-ember.cards';
export const FRESH_CARD: CardProgress = { toId: null, confirmed: [], done: {}, skipped: [], note: '', serial: '' };

export function loadCards(storage: Pick<Storage, 'getItem'>): Cards {
  try {
    const kept = JSON.parse(storage.getItem(KEY) ?? '{}') as Cards;
    return Object.fromEntries(Object.entries(kept).map(([id, card]) => [id, { ...FRESH_CARD, ...card }]));
  } catch {
    return {};
  }
}

export function storeCards(storage: Pick<Storage, 'setItem'>, cards: Cards): void {
  storage.setItem(KEY, JSON.stringify(cards));
}

export const cardSlice = createSlice({
  name: 'cards',
  initialState: (): Cards => loadCards(localStorage),
  reducers: {
    worked: (state, { payload }: PayloadAction<{ studyId: string; part: Partial<CardProgress> }>) => {
      state[payload.studyId] = { ...FRESH_CARD, ...state[payload.studyId], ...payload.part };
    },
    cardDone: (state, { payload }: PayloadAction<string>) => {
      delete state[payload];
    },
  },
});

export const { worked, cardDone } = cardSlice.actions;
