import type { SpotResponse, Unseen } from '@red-ember/core';

/** What drives a spot's temperature in a fit: watts that were recorded, or where there are none how far the load was on, in percent. */
export type DrivenBy = 'watts' | 'load';

/** Air that a rise stands on in a fit: the room's, or what the part breathes where that was recorded. */
export const STANDS_ON = ['room', 'intake'] as const;
export type StandsOn = (typeof STANDS_ON)[number];

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
  standsOn: StandsOn;
  /** Every run recorded what the part beside it took. */
  neighbour: boolean;
  /** Those that every run recorded. */
  airs: StandsOn[];
  runs: { id: string; number: number }[];
  leftOut: { number: number; why: string }[];
  spots: SpotFit[];
}
