import type { HeldBack } from '@red-ember/core';

/** One run's last load: what held the part back, and its clock or work against its temperature. */
export interface RunHeldBack extends HeldBack {
  runId: string;
  runNumber: number;
  variantId: string;
  /** What was watched: the work itself, or the clock where no work was recorded. */
  of: 'performance' | 'clock';
  /** Drawn against the temperature: the clock where one was recorded, else the work; x in °C. */
  cloudOf: 'clock' | 'performance';
  cloud: { x: number; y: number }[];
  /** Spot whose temperature it is: the one with a throttling point, else the hottest. */
  spotId: string | null;
  /** Over the window that was read; null where it was not recorded. */
  powerW: number | null;
  wallW: number | null;
}

/** What held the parts of a study back, run by run. */
export interface StudyHeldBack {
  runs: RunHeldBack[];
  /**
   * The best that any run kept up over a fifth of its load or more with nothing against it, or, where none did, with nothing but its power
   * limit; null where there is no such run.
   */
  best: { value: number; runNumber: number; atLimit: boolean } | null;
}
