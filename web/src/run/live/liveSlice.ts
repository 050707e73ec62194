import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { LiveSnapshot, Run } from '@red-ember/contract';

/** One run as it goes on; its traces are kept in `liveTraces`. */
export interface LiveState {
  runId: string | null;
  connected: boolean;
  run: Run | null;
  snapshot: LiveSnapshot | null;
}

const empty: LiveState = { runId: null, connected: false, run: null, snapshot: null };

export const liveSlice = createSlice({
  name: 'live',
  initialState: empty,
  reducers: {
    liveOpened: (_state, action: PayloadAction<string>): LiveState => ({ ...empty, runId: action.payload }),
    liveConnected: (state, action: PayloadAction<boolean>) => void (state.connected = action.payload),
    runArrived: (state, action: PayloadAction<Run>) => (state.runId === action.payload.id ? { ...state, run: action.payload } : state),
    snapshotArrived: (state, action: PayloadAction<LiveSnapshot>) =>
      state.runId === action.payload.runId ? { ...state, snapshot: action.payload } : state,
  },
});

export const { liveOpened, liveConnected, runArrived, snapshotArrived } = liveSlice.actions;
