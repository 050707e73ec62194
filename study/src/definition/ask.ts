import { CLAIM_UNITS, type ClaimAbout, type ClaimDirection, type OwnOutcome } from '@red-ember/core';

/** What a claim can be about. */
export const CLAIM_OUTCOMES = Object.keys(CLAIM_UNITS) as ClaimAbout[];

/** What can be predicted: whatever two sides are compared by. */
export type PredictedOutcome = Exclude<ClaimAbout, 'watts-carried'> | OwnOutcome;
export const PREDICTED_OUTCOMES = CLAIM_OUTCOMES.filter((outcome) => outcome !== 'watts-carried');

export const OUTCOME_NAMES: Record<ClaimAbout, string> = {
  temperature: 'temperature',
  noise: 'noise',
  clock: 'clock',
  throughput: 'throughput',
  'time-to-throttle': 'time to throttle',
  'watts-carried': 'watts carried',
};

/** What is claimed of the variant, and how large an effect would bear it out. */
export interface ClaimEntry {
  id: string;
  text: string;
  /** One of the known outcomes, or a figure that the study names itself. */
  outcome: ClaimAbout | OwnOutcome;

  /** The variant that it is about, held against the reference; null or nothing where it is about whichever is compared. */
  variantId?: string | null;

  /** For a temperature: the spot, or null for every spot. */
  spotId: string | null;

  /** Cooler or warmer for a temperature, less or more for anything else, or no difference; of watts carried also at least so many. */
  direction: ClaimDirection;

  /** In the unit of the outcome. */
  leastEffect: number;
}

/** What the tester expects, written before the runs. Locked once the first run has started. */
export interface PredictionEntry {
  id: string;
  text: string;

  /** The variant that it is about, as of a claim. */
  variantId?: string | null;

  /** What is expected to change: the temperature of a spot where nothing is said. */
  outcome?: PredictedOutcome;

  /** For a temperature; empty for anything else. */
  spotId: string;

  /** In K, or in the unit of the outcome, as its give and take. */
  expectedK: number;
  plusMinusK: number;
}

/** How this study reports and judges. Chosen once; every figure carries it. */
export interface HouseRulesEntry {
  basis: 'rise' | 'held-room' | 'as-found';
  figure: 'settled-mean' | 'settled-value' | 'peak' | 'hottest';
  fans: 'not-applicable' | 'locked' | 'as-shipped' | 'equal-noise';
  load: 'application' | 'worst-case';
  duration: 'until-settled' | 'fixed';
  place: 'open-bench' | 'enclosure' | 'both';
  sensorOfRecord: 'attached' | 'own' | 'infrared';
  stress: 'as-used' | 'pushed';
  ladder: 'one-change' | 'full';
  paste: 'spread' | 'dot';
  practicalK: number;
  coverage: number;
  roomMinC: number;
  roomMaxC: number;
}
