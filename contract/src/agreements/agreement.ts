import type { Agreement } from '@red-ember/core';

/** Two spots that read one place, held against each other in one run. */
export interface TwinReading {
  runId: string;
  runNumber: number;
  aId: string;
  bId: string;
  agreement: Agreement;
  levelC: number;
  /** What a − b comes to near b's limit, K; above zero, b reads low. */
  biasAtLimitK: number;
  /** The finding in words; null where they agree. */
  flag: string | null;
  /** Thinned for drawing: mean of both (°C) and a − b (K). */
  points: { meanC: number; differenceK: number }[];
}
