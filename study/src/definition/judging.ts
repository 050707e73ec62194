import type { OwnOutcome } from '@red-ember/core';

/** What choices are held against each other by. */
export const CRITERIA = ['temperature', 'noise', 'cost', 'minutes', 'weight', 'throughput', 'conductive', 'cleaning', 'cure'] as const;
export type CriterionKey = (typeof CRITERIA)[number];

/** Something that the part will be asked to carry, such as a processor or a kind of work. */
export interface CarriedLoadEntry {
  id: string;
  name: string;
  powerW: number;
}

export interface WeightEntry {
  /** One of the known criteria, or a figure that the study names itself. */
  criterion: CriterionKey | OwnOutcome;
  weight: number;
}

/** A kind of reader, and what counts for it. */
export interface ProfileEntry {
  id: string;
  name: string;
  weights: WeightEntry[];
}

/** What the study's verdict is held against beside its claims. */
export interface JudgingEntry {
  /** Kept free below every limit, K. */
  marginK: number;
  loads: CarriedLoadEntry[];
  profiles: ProfileEntry[];
}

/** A variant that is another one with one suspect changed, to find out what made it an outlier. */
export interface RetestEntry {
  variantId: string;
  suspect: string;
}

/** Nothing to carry yet, and two kinds of reader to start from. */
export function blankJudging(): JudgingEntry {
  return {
    marginK: 5,
    loads: [],
    profiles: [
      { id: 'coolest', name: 'Wants it coolest', weights: [{ criterion: 'temperature', weight: 1 }] },
      {
        id: 'many',
        name: 'Fits hundreds',
        weights: [
          { criterion: 'temperature', weight: 1 },
          { criterion: 'cost', weight: 2 },
          { criterion: 'minutes', weight: 3 },
        ],
      },
    ],
  };
}
