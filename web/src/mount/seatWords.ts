import { fixed, type SeatCause, type SeatCheck } from '@red-ember/core';

export const CAUSES: Record<SeatCause, string> = {
  contact: 'A film left on, a pad that does not reach, or screws that are not down: it shows within the first minute.',
  'one-part': 'One part alone: its pad is missing, too thin, or has slipped.',
  fan: 'A fan that stands still, or is plugged to a header that follows another sensor.',
  room: 'It was warmer before the load already: heat left from before, or the air around it.',
  power: 'More or less work than before: compare what it drew.',
  better: 'A better seat than the others had.',
};

/** The seat in one sentence. */
export function seatSentence(check: SeatCheck, nameOf: (spotId: string) => string): string {
  const { worst, earlier } = check;
  if (check.verdict === 'unknown' || !worst) return 'The first mount of this variant that was measured: nothing to compare with yet.';
  if (check.verdict === 'alike') return earlier === 1 ? 'The seat looks like the one before.' : `The seat looks like the last ${earlier}.`;
  const off = [...check.spots]
    .filter((spot) => spot.verdict === check.verdict)
    .sort((a, b) => Math.abs(b.differenceK!) - Math.abs(a.differenceK!))[0]!;
  return `${nameOf(off.spotId)}: ${fixed(Math.abs(off.differenceK!), 1)} K ${off.differenceK! > 0 ? 'above' : 'below'} expected${check.equalPower ? ' at equal power' : '; power was not read'}.`;
}
