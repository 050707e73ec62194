import type { LiveFigures } from '@red-ember/core';
import type { Family } from '@red-ember/study';
import type { LinkControl } from '../link/messages.ts';
import type { Rehearsal } from '../rehearsals/rehearsal.ts';
import type { RunState, TraceSeries } from '../runs/run.ts';

/** What the run page shows while a run goes on; sent a few times a second. */
export interface LiveSnapshot extends LiveFigures {
  runId: string;
  state: RunState;
  /** The record cannot be written now, and why; the load is off until somebody says go on. */
  trouble: string | null;
  /** The rig reports a load that nobody asks for. */
  runsAway: boolean;
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
  /** Of parts that it is made for; null for any. */
  family: Family | null;
  /** From one sample to the next at its fastest, ms. */
  fastestMs: number;
  connected: boolean;
  busyRunId: string | null;
  channels: { key: string; label: string; quantity: string; unit: string; byHand?: boolean }[];
  setups: { key: string; label: string }[];
  controls: LinkControl[];
  faults: { key: string; label: string }[];
}

export interface BenchRig extends RigStatus {
  /** The rehearsal under way, or the newest; null where it never rehearsed. */
  rehearsal: Rehearsal | null;
}
