import { studentCoverage } from '../../distributions/studentT.ts';
import { welchSatterthwaite, type Estimate } from '../../estimate.ts';
import { unreachable } from '../../errors.ts';
import { midSentence } from '../../format/words.ts';
import { fixed } from '../../format/measured.ts';
import { verdictOf, type ClaimJudgement, type ClaimOutcome, type Claim } from './claim.ts';

/** What one side carries in some air: the component that binds, and what is to be known of the figure. */
export interface CarriedWatts {
  side: string;
  /** Component that binds, and its watts. */
  component: string;
  maxW: Estimate;
  /** Beyond twice the power that was measured, or below half of it. */
  far: boolean;
  /** Largest power that was measured, W. */
  measuredW: number;
  /** Some of its readings were still rising: the true watts are fewer. */
  rising: boolean;
}

const interval = ({ value, u, dof }: Estimate, coverage: number): [number, number] => {
  const half = studentCoverage(coverage, dof) * u;
  return [value - half, value + half];
};

/** @param within what does not matter, W, where no difference is claimed */
function outcomeOf(claim: Claim, [low, high]: [number, number], within = claim.leastEffect): ClaimOutcome {
  const least = claim.leastEffect;
  switch (claim.direction) {
    case 'at-least':
      return low >= least ? 'supported' : high < least ? 'contradicted' : 'not-shown';
    case 'more':
      return low >= least && low > 0 ? 'supported' : high < least ? 'contradicted' : 'not-shown';
    case 'less':
      return high <= -least && high < 0 ? 'supported' : low > -least ? 'contradicted' : 'not-shown';
    case 'no-difference':
    case 'cooler':
    case 'warmer':
      return low >= -within && high <= within ? 'supported' : low > within || high < -within ? 'contradicted' : 'not-shown';
    default:
      return unreachable(claim.direction);
  }
}

/** A figure that lies too far from what was measured, or is an upper bound, cannot bear a claim out; it may still refute it. */
function held(outcome: ClaimOutcome, sides: readonly CarriedWatts[]): ClaimOutcome {
  if (sides.some((side) => side.far)) return 'not-shown';
  return outcome === 'supported' && sides.some((side) => side.rising) ? 'not-shown' : outcome;
}

const shown = (side: CarriedWatts, coverage: number) => {
  const [low, high] = interval(side.maxW, coverage);
  const notes = [
    ...(side.far ? [`measured up to ${fixed(side.measuredW, 0)} W only`] : []),
    ...(side.rising ? ['still rising when it was read, so the true watts are fewer'] : []),
  ];
  const more = notes.length > 0 ? ` (${notes.join('; ')})` : '';
  return `${side.side} carries ${fixed(side.maxW.value, 0)} ± ${fixed((high - low) / 2, 0)} W by ${midSentence(side.component)}${more}`;
};

/**
 * Holds a claim about watts carried against what the binding component allows.
 *
 * "At least" is about the second side alone; more, less and no difference are about the second side against the first, their
 * doubts taken as independent although one sensor may have read both, which errs towards no call.
 *
 * @param of first and second side; null where nothing could be worked out
 * @param air where it is asked for, such as "gallery at 31.5 °C"
 */
export function judgeWattsClaim(
  claim: Claim,
  of: { a: CarriedWatts | null; b: CarriedWatts | null },
  air: string,
  coverage: number,
): ClaimJudgement {
  const { a, b } = of;
  const none = `“${claim.text}” is not shown: no watts carried can be worked out; rises and power of a load are needed${claim.direction === 'at-least' ? '' : ' on both sides'}.`;
  if (!b) return { outcome: 'not-shown', sentence: none };
  if (claim.direction === 'at-least') {
    const outcome = held(outcomeOf(claim, interval(b.maxW, coverage)), [b]);
    return {
      outcome,
      sentence: `“${claim.text}” ${verdictOf(outcome)}: it asks for at least ${claim.leastEffect} W, and in the ${air} ${shown(b, coverage)}.`,
    };
  }
  if (!a) return { outcome: 'not-shown', sentence: none };
  const parts = [a.maxW, b.maxW];
  const difference: Estimate = { value: b.maxW.value - a.maxW.value, u: Math.hypot(a.maxW.u, b.maxW.u), dof: welchSatterthwaite(parts) };
  // Within nothing no measurement could bear it out: what does not matter of a power is meant.
  const within = claim.leastEffect > 0 ? claim.leastEffect : 0.02 * Math.abs(a.maxW.value);
  const outcome = held(outcomeOf(claim, interval(difference, coverage), within), [a, b]);
  const asks =
    claim.direction === 'no-difference'
      ? `no difference beyond ${Number(within.toPrecision(2))} W`
      : `at least ${claim.leastEffect} W ${claim.direction}`;
  return {
    outcome,
    sentence: `“${claim.text}” ${verdictOf(outcome)}: it asks for ${asks}; in the ${air} ${shown(a, coverage)}, ${shown(b, coverage)}.`,
  };
}
