import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { LiveSamples, LiveSnapshot, Run, Trace } from '@red-ember/contract';

export interface LiveChannel {
  t: number[];
  y: (number | null)[];
}

/** One run as it goes on. Channels hold a few hundred points each: enough to draw, never the whole record. */
export interface LiveState {
  runId: string | null;
  connected: boolean;
  run: Run | null;
  snapshot: LiveSnapshot | null;
  channels: Record<string, LiveChannel>;
}

const MOST_POINTS = 1400;

/** Every second point of the older three quarters goes; what is new keeps its detail. */
export function thin(channel: LiveChannel): LiveChannel {
  if (channel.t.length <= MOST_POINTS) return channel;
  const recent = Math.floor(channel.t.length * 0.75);
  const keep = (_: unknown, i: number) => i >= recent || i % 2 === 0;
  return { t: channel.t.filter(keep), y: channel.y.filter(keep) };
}

const empty: LiveState = { runId: null, connected: false, run: null, snapshot: null, channels: {} };

export const liveSlice = createSlice({
  name: 'live',
  initialState: empty,
  reducers: {
    liveOpened: (_state, action: PayloadAction<string>): LiveState => ({ ...empty, runId: action.payload }),
    liveConnected: (state, action: PayloadAction<boolean>) => void (state.connected = action.payload),
    runArrived: (state, action: PayloadAction<Run>) => {
      if (state.runId === action.payload.id) state.run = action.payload;
    },
    snapshotArrived: (state, action: PayloadAction<LiveSnapshot>) => {
      if (state.runId === action.payload.runId) state.snapshot = action.payload;
    },
    traceArrived: (state, action: PayloadAction<Trace>) => {
      if (state.runId !== action.payload.runId) return;
      for (const { key, t, y } of action.payload.series) {
        // Samples that came by event while the trace was fetched are newer than it.
        const live = state.channels[key] ?? { t: [], y: [] };
        const from = live.t.findIndex((time) => time > (t.at(-1) ?? -1));
        state.channels[key] = from < 0 ? { t, y } : { t: [...t, ...live.t.slice(from)], y: [...y, ...live.y.slice(from)] };
      }
    },
    samplesArrived: (state, action: PayloadAction<LiveSamples>) => {
      if (state.runId !== action.payload.runId) return;
      for (const { key, t, y } of action.payload.series) {
        const channel = state.channels[key] ?? { t: [], y: [] };
        const last = channel.t.at(-1) ?? -1;
        const from = t.findIndex((time) => time > last);
        if (from < 0) continue;
        state.channels[key] = thin({ t: [...channel.t, ...t.slice(from)], y: [...channel.y, ...y.slice(from)] });
      }
    },
  },
});

export const { liveOpened, liveConnected, runArrived, snapshotArrived, traceArrived, samplesArrived } = liveSlice.actions;
