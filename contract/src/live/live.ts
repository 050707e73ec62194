import type { Limiter } from '@red-ember/core';
import type { LinkControl } from '../link/messages.ts';
import type { RunState, TraceSeries } from '../runs/run.ts';

export interface LiveSpot {
  spotId: string;
  valueC: number | null;
  /** When it was typed, for a spot that is read by hand; null for others. */
  readAtS: number | null;
  riseK: number | null;
  idleC: number | null;
  headroomK: number | null;
  /** Seconds until it is settled by the fit; 0 when settled; null when it cannot be said. */
  etaS: number | null;
  settlesAtC: number | null;
  etaDoubtS: number | null;
}

/** A lock that a channel watches, as it stands now. */
export interface LiveLock {
  name: string;
  unit: string;
  value: number;
  tolerance: number;
  now: number | null;
  /** When it left its tolerance, seconds of the run's clock; null while it holds. */
  leftAtS: number | null;
  /** Signed largest departure so far. */
  largestOff: number;
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
  /** Work done now, in the channel's unit. */
  throughput: { value: number; unit: string } | null;
  powerW: number | null;
  throttling: boolean;
  /** What holds it back while it throttles. */
  limiter: Limiter | null;
  /** Every spot is settled: a phase of fixed length may be ended. */
  allSettled: boolean;
  /** By how many seconds the cap will come before the last spot settles; null where it will not. */
  capTooSoonS: number | null;
  locks: LiveLock[];
  /** Next minute of the phase at which something is read by hand, and in how many seconds; null where none is left. */
  nextMark: { minute: number; inS: number } | null;
  /** The part no longer answers. */
  vanished: boolean;
  /** What instruments in somebody's hand show at this moment, on a simulated bench. */
  shows: { spotId: string; valueC: number }[];
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
  channels: { key: string; label: string; quantity: string; unit: string; byHand?: boolean }[];
  setups: { key: string; label: string }[];
  controls: LinkControl[];
  faults: { key: string; label: string }[];
}
