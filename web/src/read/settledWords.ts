import { clock, type PhaseReading } from '@red-ember/core';

const BOUNDS: Record<PhaseReading['bound'], string> = {
  settled: 'settled',
  'still-rising': 'still rising, lower bound',
  'still-falling': 'still falling, upper bound',
  unsteady: 'not steady',
};

/** Whether a phase was settled when it was read, and since when. */
export function settledWords(reading: PhaseReading): string {
  if (reading.bound !== 'settled') return BOUNDS[reading.bound];
  return reading.settling.atS === null ? 'settled' : `settled since ${clock(reading.settling.atS)}`;
}
