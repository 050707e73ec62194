import type { RunState, TraceSeries } from '../runs/run.ts';

export interface LiveSpot {
  spotId: string;
  valueC: number | null;
  riseK: number | null;
  idleC: number | null;
  headroomK: number | null;
  /** Seconds until it is settled by the fit; 0 when settled; null when it cannot be said. */
  etaS: number | null;
  settlesAtC: number | null;
  etaDoubtS: number | null;
}

/** What the run page shows while a run goes on; sent a few times a second. */
export interface LiveSnapshot {
  runId: string;
  state: RunState;
  nowS: number;
  phaseIndex: number;
  phaseElapsedS: number;
  /** Longest the phase can still take, seconds. */
  phaseMostLeftS: number;
  /** Seconds until every spot is settled, for a phase that waits for it; null when it cannot be said. */
  settledInS: number | null;
  loadPercent: number;
  roomC: number | null;
  roomMinC: number | null;
  roomMaxC: number | null;
  throughputMBps: number | null;
  throttling: boolean;
  /** The rig has gone quiet. */
  rigLost: boolean;
  spots: LiveSpot[];
}

/** New samples since the last message, thinned for drawing. */
export interface LiveSamples {
  runId: string;
  series: Pick<TraceSeries, 'key' | 't' | 'y'>[];
}

export interface RigStatus {
  id: string;
  name: string;
  simulated: boolean;
  connected: boolean;
  busyRunId: string | null;
  channels: { key: string; label: string; quantity: string; unit: string }[];
  setups: { key: string; label: string }[];
}
