import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A Stop that was pressed, until the rig has confirmed that its load is off. */
export interface StopWish {
  runId: string;
  /** What is to be stopped, in words. */
  what: string;
  reason: string;
  /** When it was pressed, ms since 1970. */
  at: number;
  /** The server has taken it. */
  taken: boolean;
  /** The rig has confirmed it. */
  off: boolean;
  /** What the rig last reported, as far as the server knows. */
  connected: boolean;
  reportedPercent: number | null;
}

const KEY = 'red-ember.stops';

/** Wishes that an earlier page left behind: a Stop outlives a reload, a crash and a closed window. */
function loadStops(storage: Pick<Storage, 'getItem'>): StopWish[] {
  try {
    const kept = JSON.parse(storage.getItem(KEY) ?? '[]') as StopWish[];
    return Array.isArray(kept) ? kept.filter((wish) => typeof wish?.runId === 'string') : [];
  } catch {
    return [];
  }
}

export function storeStops(storage: Pick<Storage, 'setItem'>, stops: readonly StopWish[]): void {
  storage.setItem(KEY, JSON.stringify(stops.filter((wish) => !wish.off)));
}

export const stopsSlice = createSlice({
  name: 'stops',
  initialState: (): StopWish[] => loadStops(localStorage),
  reducers: {
    stopWished: (stops, { payload }: PayloadAction<Pick<StopWish, 'runId' | 'what' | 'reason' | 'at'>>) => {
      if (stops.some((wish) => wish.runId === payload.runId)) return;
      stops.push({ ...payload, taken: false, off: false, connected: true, reportedPercent: null });
    },
    stopHeard: (stops, { payload }: PayloadAction<{ runId: string } & Partial<StopWish>>) => {
      const wish = stops.find((candidate) => candidate.runId === payload.runId);
      if (wish) Object.assign(wish, payload);
    },
    stopSettled: (stops, { payload }: PayloadAction<string>) => stops.filter((wish) => wish.runId !== payload),
  },
});

export const { stopWished, stopHeard, stopSettled } = stopsSlice.actions;
