import { fixed } from '../../format/measured.ts';
import { mean } from '../../mean.ts';
import { neighboursApartW, neighbourW } from '../figure/neighbours.ts';
import type { Finding, JudgedSide, JudgedSpot, JudgeRules } from '../types.ts';

/** A side by its name, and what the part beside it took in each of its runs, W. */
interface Side {
  name: string;
  watts: readonly (number | null)[];
}

const took = ({ watts, name }: Side): string => `${fixed(mean(watts.filter((value) => value !== null)), 0)} W with ${name}`;

/** A part beside it that took more with one side, in words for the whole pair; nothing where both took the same or nobody knows. */
export function neighbourFindings(a: JudgedSide, b: JudgedSide, { neighbourIsAsked = false }: JudgeRules): Finding[] {
  const [one, other] = [a, b].map(({ name, runs }): Side => ({ name, watts: runs.map(neighbourW) })) as [Side, Side];
  if (neighboursApartW(one.watts, other.watts) === 0) return [];
  return [
    {
      check: 'heat',
      severity: neighbourIsAsked ? 'note' : 'weakens',
      evidence: `The part beside it took ${took(one)} and ${took(other)}${neighbourIsAsked ? ', as is asked by their names.' : ': what that warmed is in the difference, and in its doubt.'}`,
      remedy: neighbourIsAsked ? '' : 'Hold the load of both parts, and run both sides again.',
      runId: null,
      spotId: null,
    },
  ];
}

/** A run on each side, with a refit, min. Our own figure. */
const AGAIN_MIN = 130;

/** A spot on that other part reads what it took, whatever the sides differ by. */
export function neighbourWithholds(a: Side, b: Side, spot: JudgedSpot, { neighbourIsAsked = false }: JudgeRules): Finding[] {
  if (neighbourIsAsked || !spot.ofNeighbour || neighboursApartW(a.watts, b.watts) === 0) return [];
  return [
    {
      check: 'heat',
      severity: 'withholds',
      evidence: `${spot.name} is on the part beside it, which took ${took(a)} and ${took(b)}.`,
      remedy: 'Hold the load of both parts, and run both sides again.',
      runId: null,
      spotId: spot.id,
      withheld: {
        why: 'that part was not kept at one load',
        earnBy: { what: 'hold the load of both parts and run both sides again', minutes: AGAIN_MIN },
      },
    },
  ];
}
