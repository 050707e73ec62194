import { InsufficientDataError } from '../../errors.ts';
import { compare, type Comparison } from '../../uncertainty/compare.ts';
import { mean } from '../../mean.ts';
import { differenceLines } from '../figure/doubt.ts';
import type { FigureReading } from '../figure/figureOf.ts';
import { toOnePower } from '../figure/onePower.ts';
import { scatterFor } from '../figure/scatter.ts';
import type { JudgedSpot, JudgeRules, KnownScatter, Reach, Scatter } from '../types.ts';

export interface ComparedAt {
  comparison: Comparison | null;
  /** Scatter that was lent to it; null where each side stood on its own. */
  scatter: KnownScatter | null;
  /** Why there is no comparison; null where there is one. */
  refusal: string | null;
  /** W that both sides were brought to, since their powers differed a little; null where they stand as measured. */
  restatedW: number | null;
  /** Where a side was not settled: the true difference reaches at least, or at most, as far as the one that was read. */
  reach: Reach | null;
}

/** A side that goes on moving away from the other only makes the difference larger; one that comes nearer makes it smaller. */
function reachOf(a: readonly FigureReading[], b: readonly FigureReading[], difference: number): Reach | null {
  const goes = mean(b.map((reading) => reading.toGoK)) - mean(a.map((reading) => reading.toGoK));
  if (Math.abs(goes) < LEAST_REACH_K) return null;
  return goes > 0 === difference > 0 ? 'at-least' : 'at-most';
}

/** What remains of less than this is no bound that anyone would speak of, K. */
const LEAST_REACH_K = 0.1;

/** Two loads of one recording differ by nothing that varies from run to run: no mount, no day, no start. */
const NO_SCATTER: KnownScatter = { sd: 0, dof: Infinity, assumed: false };

function oneRecording(a: readonly FigureReading[], b: readonly FigureReading[]): boolean {
  return a.length === 1 && b.length === 1 && a[0]!.runId === b[0]!.runId;
}

/** A side's readings of one spot, with the name that its lines in the budget carry. */
export interface ReadSide {
  name: string;
  readings: readonly FigureReading[];
}

/**
 * Two sides' readings of one spot held against each other, with one scatter and one doubt wherever two are compared: on the pair, in
 * the ranking, from step to step and at retests.
 *
 * Powers that lie a little apart are brought to one first.
 *
 * @param history how well the bench repeats beside these two (`withScatterOf`)
 * @param options advice: false leaves out how many runs would tell, which costs more than all the rest
 */
export function compareAt(
  asReadA: ReadSide,
  asReadB: ReadSide,
  spot: JudgedSpot,
  rules: JudgeRules,
  history: Scatter | null | undefined,
  options: { advice?: boolean } = {},
): ComparedAt {
  const without = [asReadA, asReadB].filter((side) => side.readings.length === 0).map((side) => side.name);
  if (without.length > 0) {
    const names = without.filter((name) => name !== '').join(' and ');
    return {
      comparison: null,
      scatter: null,
      restatedW: null,
      reach: null,
      refusal: names === '' ? 'No usable reading yet.' : `No usable reading of ${names}.`,
    };
  }
  const within = oneRecording(asReadA.readings, asReadB.readings);
  // Within one recording a step of the power is what was done on purpose.
  const alike = within ? null : toOnePower(asReadA.readings, asReadB.readings);
  const [a, b] = [
    { ...asReadA, readings: alike?.a ?? asReadA.readings },
    { ...asReadB, readings: alike?.b ?? asReadB.readings },
  ];
  const restatedW = alike?.powerW ?? null;
  const scatter = within ? NO_SCATTER : scatterFor(a.readings, b.readings, history);
  try {
    const comparison = compare({
      a: a.readings.map((reading) => reading.figure),
      b: b.readings.map((reading) => reading.figure),
      practicalK: rules.practicalK,
      coverage: rules.coverage,
      ...(scatter ? { repeatability: { sd: scatter.sd, dof: scatter.dof } } : {}),
      independent: [...differenceLines(a, b, spot, rules), ...(alike ? [alike.line] : [])],
      ...options,
    });
    return { comparison, scatter, refusal: null, restatedW, reach: reachOf(a.readings, b.readings, comparison.difference.value) };
  } catch (error) {
    if (!(error instanceof InsufficientDataError)) throw error;
    return { comparison: null, scatter, restatedW, reach: null, refusal: 'Too few runs to tell a difference from scatter.' };
  }
}
