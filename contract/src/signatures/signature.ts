import type { BenchSuspect, Normal, OffNormal } from '@red-ember/core';

/** What is normal of a run's part and set-up, and what of the run is not. */
export interface RunSignature {
  runId: string;
  /** Clean runs of the same variant that say what is normal, by their numbers. */
  of: number[];
  /** Why that is not known; empty where it is. */
  why: string;
  normals: Normal[];
  offNormal: OffNormal[];
  /** What may be wrong, the likeliest first. */
  suspects: BenchSuspect[];
}
