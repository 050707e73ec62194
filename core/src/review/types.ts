import type { PhaseKind, SettledRule } from '../conduct/recipe.ts';
import { DEFAULT_SETTLED_RULE } from '../conduct/recipe.ts';
import type { Estimate } from '../estimate.ts';
import type { LockWatch } from '../hold/watchLock.ts';
import type { WindowReading } from '../series/readWindow.ts';
import type { Series, Window } from '../series/series.ts';
import type { BoundedSettling } from '../settling/boundSettling.ts';
import type { LossReport } from '../throttling/findLosses.ts';
import type { OutputKey, Outputs } from './outputs.ts';

export interface RunPhase {
  kind: PhaseKind;
  name: string;
  startS: number;
  endS: number;
  /** What ended it: its time, settled, its cap, the tester, a cut-out, or the end of a file. */
  endedBy: string;
  /** What was asked of the part, percent; left out where nobody knows, as in a log. */
  loadPercent?: number;
}

/** A load that is not read: it was taken off, or was not there. */
export interface UncountedLoad extends Window {
  /** Index of the phase. */
  phase: number;
  name: string;
  why: 'paused' | 'interrupted' | 'off';
  /** Stretches in which power, work and utilisation stood at idle. */
  off: Window[];
}

/** A window that the tester chose for a phase in place of its last minutes. */
export interface ChosenWindow extends Window {
  /** Index of the phase. */
  phase: number;
}

/** Series beside the spots that a review reads. */
export type FedSeries = OutputKey | 'room' | 'intake' | 'exhaust' | 'utilisation';

/** The mean of a channel that no figure is made of, over the window of a load. */
export interface BesideReading {
  /** The channel's. */
  key: string;
  mean: Estimate;
}

/** One run's samples and phases, on the run's own clock in seconds. */
export interface RunRecord extends Record<FedSeries, Series | null> {
  /** `byHand`: typed in by somebody, minutes apart, with the smallest step of the instrument, K. */
  spots: { id: string; series: Series; byHand?: { resolutionK: number } }[];
  phases: RunPhase[];
  /** Windows that the tester chose; phases without one are read at their end. */
  windows?: ChosenWindow[];
  /** Throttling point of the part, °C, on the spot that throttles it; null where unknown. */
  throttle: { spotId: string; limitC: number } | null;
  /** Power that the part may take, W, where it is held and watched; null where it is not. */
  powerCapW?: number | null;
  /** Recorded beside all that a figure is made of: whoever looks for what else changed asks for it. */
  besides?: { key: string; series: Series }[];
  /** What was to be held, where a channel recorded it. */
  locks: { name: string; unit: string; value: number; tolerance: number; series: Series }[];
}

export interface ReadingRules {
  /** Length of the window at the end of a phase, seconds. */
  windowS: number;
  settled: SettledRule;
}

export const DEFAULT_READING_RULES: ReadingRules = { windowS: 300, settled: DEFAULT_SETTLED_RULE };

export type Bound = 'settled' | 'still-rising' | 'still-falling' | 'unsteady';

/** From a reading to the settled value, K, signed: in all likelihood, and one-sided 95 % bounds over every slow time constant. */
export interface ToGo {
  likely: { value: number; u: number };
  lowK: number;
  highK: number;
}

export interface PhaseReading {
  phase: PhaseKind;
  window: Window;
  /** The tester chose the window. */
  chosen: boolean;
  absolute: WindowReading;
  /** Over room, sample by sample; null where no room was recorded in the window. */
  rise: WindowReading | null;
  /** Over the air that the cooler takes in; null where no probe reads it. */
  overIntake: WindowReading | null;
  settling: BoundedSettling;
  /** How far the settled value may lie from the mean of the window; null where nothing could be bounded. */
  toGo: ToGo | null;
  /** Settled, or on which side the reading stands to the settled value. */
  bound: Bound;
  spikes: number;
  /** Smallest step in which the phase was given, K (0: fine; null: all alike, or not known), and what flickers from one sample of the window to the next, K. */
  steps: { stepK: number | null; scatterK: number };
  /** Share of the window's samples left out as spikes, 0..1. */
  spikeShare: number;
  /** Highest sample of the phase with spikes left out, °C. */
  peakC: number;
}

/** What a spot's rise says of the way of the heat, by the power over the same window. */
export interface HeatPath {
  toRoomKPerW: Estimate | null;
  toIntakeKPerW: Estimate | null;
  /** Slow time constant of the load's approach, seconds; null where none stands out. */
  slowTauS: number | null;
  /** What is shed for good: 1/R to room, W/K. */
  carryWPerK: number | null;
  /** What is soaked up first: τ/R to room, J/K. */
  delayJPerK: number | null;
}

export interface SpotReview {
  spotId: string;
  idle: PhaseReading | null;
  load: PhaseReading | null;
  /** null where no power was recorded. */
  heatPath: HeatPath | null;
}

export interface RoomReview {
  meanC: number;
  minC: number;
  maxC: number;
  /** Change over the load window by a straight line, K. */
  driftK: number;
}

/** Air at the cooler over the load window, °C, and the share of exhaust that is breathed again. */
export interface AirReview {
  intakeC: number;
  exhaustC: number | null;
  recirculation: { fraction: number; raw: number } | null;
}

/** Losses of work, by heat and by anything else. */
export interface ThrottleReview extends LossReport {
  /** Throttling point of the spot that they were held against, °C; null where none was known or read. */
  limitC: number | null;
  /** What was watched: the work itself, or the clock where no work was recorded. */
  of: 'performance' | 'clock';
}

export interface RunReview extends Outputs {
  methodVersion: string;
  /** Figures that somebody has worked out, with no trace behind them. */
  asGiven?: boolean;
  spots: SpotReview[];
  room: RoomReview | null;
  air: AirReview | null;
  throttle: ThrottleReview | null;
  /** Share of the last load during which the part did not answer: no performance came, 0..1; 0 where none is recorded. */
  goneShare: number;
  utilisationPercent: number | null;
  /** Of the last load; nothing where nothing of the kind was recorded. */
  besides?: BesideReading[];
  /** How far the fan moved over the whole load once it had come up, as a share; null where it was not seen. */
  fanMovedShare: number | null;
  /** Length of the load before its reading ended, seconds; null without a load phase. */
  loadS: number | null;
  loadEndedBy: string | null;
  /** Over the whole load. */
  locks: LockReview[];
  /** At rest, over the window of the idle reading; null without one. */
  atRest: Outputs | null;
  /** Each load by itself, in order, where a run has several: after a change, or at each step of a sweep. */
  loads: LoadReview[];
  /** Loads that have no reading because the load was not there all along, in order. */
  uncounted: UncountedLoad[];
}

/** One of several loads of a run. */
export interface LoadReview extends Outputs {
  /** Index of the phase. */
  phase: number;
  name: string;
  startS: number;
  endS: number;
  endedBy: string;
  spots: { spotId: string; reading: PhaseReading | null }[];
  room: RoomReview | null;
  besides?: BesideReading[];
  /** Level freed of the room's floor, dB(A); null where it lies too close to it; left out where no floor was measured. */
  freedDb?: number | null;
}

export interface LockReview {
  name: string;
  unit: string;
  lock: { value: number; tolerance: number };
  watch: LockWatch;
}
