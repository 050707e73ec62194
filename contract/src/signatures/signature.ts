import type { BenchSuspect, ControlChart, FeatureKey, Normal, OffNormal } from '@red-ember/core';

/** From where what is normal was taken over, where a study's own clean runs do not say it yet. */
export interface KeptFrom {
  version: number;
  /** ISO. */
  madeAt: string;
  study: { id: string; title: string };
}

/** What was normal before, and is otherwise by more than one more clean run may be. */
export interface MovedNormal {
  key: FeatureKey;
  /** Name of its spot, or its fan; empty where it is of neither. */
  of: string;
  from: number;
  to: number;
}

/** What was known of a set-up at a time: kept on the bench and never changed, a later version stands beside it. */
export interface SignatureVersion extends KeptFrom {
  /** Clean runs that it rests on, by their numbers in its study. */
  of: number[];
  /** Over so much of their load, s. */
  loadS: number;
  /** Against the version before. */
  moved: MovedNormal[];
}

/** What is normal of a run's part and set-up, and what of the run is not. */
export interface RunSignature {
  runId: string;
  /** Clean runs of the same variant that say what is normal, by their numbers. */
  of: number[];
  /** They are another study's; null where they are of its own. */
  kept: KeptFrom | null;
  /** Why that is not known; empty where it is. */
  why: string;
  /** So much of the load was looked at, s: of a run that goes on, all that there is of it yet, in whole minutes. */
  loadS: number;
  normals: Normal[];
  offNormal: OffNormal[];
  /** What may be wrong, the likeliest first. */
  suspects: BenchSuspect[];
}

/** One repeat of a variant, as the chart over time shows it. */
export interface ControlRun {
  runId: string;
  number: number;
  /** When it began, ISO. */
  at: string;
  mountNumber: number | null;
  /** Why it sets no limits; empty where it does. */
  why: string;
}

/** The figure of one spot over every repeat of a variant. */
export interface SpotControl {
  spotId: string;
  name: string;
  /** In the order of the chart's points. */
  runs: ControlRun[];
  /** Null with too few repeats. */
  chart: ControlChart | null;
  off: boolean;
  sentence: string;
}

/** What is normal of a variant: of a part and its set-up. */
export interface VariantNormal {
  variantId: string;
  /** Variants with runs, of which it may be asked. */
  variants: { id: string; name: string; runs: number }[];
  /** Clean runs that say what is normal, by their numbers. */
  of: number[];
  /** They are another study's; null where they are of its own. */
  kept: KeptFrom | null;
  /** Why that is not known; empty where it is. */
  why: string;
  /** What was known of this part and set-up at which time, the newest first. */
  versions: SignatureVersion[];
  /** With how far one more clean run may lie from it. */
  normals: (Normal & { limit: number })[];
  control: SpotControl[];
}
