import type { SpotResponse, Unseen } from '@red-ember/core';

/** What drives a spot's temperature in a fit: watts that were recorded, or where there are none how far the load was on, in percent. */
export type DrivenBy = 'watts' | 'load';

/** How one spot answers, or why that cannot be said. */
export interface SpotFit {
  spotId: string;
  response: SpotResponse | null;
  /** Empty where there is one. */
  why: string;
  /** Each run foretold from the others; empty with one run. */
  unseen: Unseen[];
}

/** How the spots of a variant answer power, from whole traces of its runs. */
export interface VariantResponses {
  variantId: string;
  drivenBy: DrivenBy;
  runs: { id: string; number: number }[];
  leftOut: { number: number; why: string }[];
  spots: SpotFit[];
}
