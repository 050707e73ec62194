import type { RunHeldBack } from '@red-ember/contract';

/** What held a run back: nothing, over half an hour, until something else is said. */
export const runHeldBack = (variantId: string, change: Partial<RunHeldBack> = {}): RunHeldBack => ({
  runId: 'r',
  runNumber: 1,
  variantId,
  of: 'performance',
  loadS: 1800,
  by: [],
  free: 1,
  workMean: 100,
  keptUp: 100,
  cloudOf: 'clock',
  cloud: [],
  spotId: null,
  powerW: null,
  wallW: null,
  ...change,
});
