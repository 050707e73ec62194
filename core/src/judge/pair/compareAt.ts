import { InsufficientDataError } from '../../errors.ts';
import { compare, type Comparison } from '../../uncertainty/compare.ts';
import { mean } from '../../mean.ts';
import { neighbourWithholds } from '../fair/neighbours.ts';
import { differenceLines } from '../figure/doubt.ts';
import { atItsEnd, type FigureReading } from '../figure/figureOf.ts';
import { toOnePower } from '../figure/onePower.ts';
import { byMount, type MountFigure } from '../figure/byMount.ts';
import { toOneTime } from '../figure/oneTime.ts';
import { scatterFor, withScatterOf, type ScatterRule } from '../figure/scatter.ts';
import { fixed } from '../../format/measured.ts';
import { capital, counted, listWords } from '../../format/words.ts';
import { FIRST_LOOK, firstLook, lookedAt } from '../figure/looked.ts';
import type { Reach } from '../../review/reach.ts';
import type { Finding, JudgedSpot, JudgeRules, KnownScatter, Scatter } from '../types.ts';

export interface ComparedAt {
  comparison: Comparison | null;
  /** Scatter that was lent to it; null where each side stood on its own. */
  scatter: KnownScatter | null;
  /** Why there is no comparison; null where there is one. */
  refusal: string | null;
  /** W that both sides were brought to, since their powers differed a little; null where they stand as measured. */
  restatedW: number | null;
  /** At which it was held: the study's, or what belongs to this look. */
  coverage: number;
  /** What stands against calling it, of these readings alone (`callOf`). */
  stands: Finding[];
  /** Where a side was not settled: the true difference reaches at least, or at most, as far as the one that was read. */
  reach: Reach | null;
}

/** A side that goes on moving away from the other only makes the difference larger; one that comes nearer makes it smaller. */
function reachOf(a: readonly FigureReading[], b: readonly FigureReading[], difference: number): Reach | null {
  const goes = mean(b.map((reading) => reading.toGoK)) - mean(a.map((reading) => reading.toGoK));
  if (Math.abs(goes) < LEAST_REACH_K) return null;
  return goes > 0 === difference > 0 ? 'at-least' : 'at-most';
}

/** What a load that is run on until it is settled usually takes, with the idle before it, min. Our own figure. */
const LONG_RUN_MIN = 100;

/** A side that is likely to go on by more than what matters may take the whole difference with it: then nothing is told yet. */
function mayVanish(a: ReadSide, b: ReadSide, difference: number, spot: JudgedSpot, practicalK: number): Finding[] {
  const [cooler, warmer] = difference < 0 ? [b, a] : [a, b];
  const rising = cooler.readings.filter(({ toGoK }) => toGoK > practicalK);
  const falling = warmer.readings.filter(({ toGoK }) => toGoK < -practicalK);
  if (rising.length === 0 && falling.length === 0) return [];
  const goes =
    rising.reduce((sum, { mayGoK }) => sum + mayGoK.up / cooler.readings.length, 0) +
    falling.reduce((sum, { mayGoK }) => sum + mayGoK.down / warmer.readings.length, 0);
  if (goes < Math.abs(difference)) return [];
  const side = rising.length > 0 ? cooler : warmer;
  const why = `${side.name} was not settled, and what remains may take it all`;
  return [
    {
      check: 'settled',
      severity: 'withholds',
      evidence: `${spot.name}: ${side.name} may go on by ${fixed(goes, 1)} K, and the difference is ${fixed(Math.abs(difference), 1)} K.`,
      remedy: 'Repeat with a longer load.',
      runId: null,
      spotId: spot.id,
      withheld: { why, earnBy: { what: `load ${side.name} until it is settled`, minutes: LONG_RUN_MIN } },
    },
  ];
}

/**
 * A plan that may be decided early is not decided before its first look, nor by a single mount where an assumed scatter stands for what
 * the bench knows of how far mounts lie apart.
 */
function tooEarly(a: ReadSide, b: ReadSide, { stopping }: JudgeRules, scatter: KnownScatter | null): Finding[] {
  if (!stopping) return [];
  const mounts = (side: ReadSide) => byMount(side.readings).length;
  const from = firstLook(stopping);
  const unknown = scatter?.assumed === true;
  const least = unknown ? Math.max(from, FIRST_LOOK) : from;
  const lacking = [a, b].filter((side) => mounts(side) < least);
  if (lacking.length === 0) return [];
  const before = lacking.some((side) => mounts(side) < from);
  const why = before
    ? `the plan looks first at ${counted(from, 'mount')} a side`
    : 'the bench does not know yet how far mounts lie apart, and one a side does not tell';
  const names = listWords(lacking.map((side) => side.name));
  const minutes = lacking.length * ONE_RUN_MIN;
  return [
    {
      check: 'looks',
      severity: 'withholds',
      evidence: `${capital(why)}.`,
      remedy: `Refit ${names} and run again.`,
      runId: null,
      spotId: null,
      withheld: { why, earnBy: { what: `refit ${names} and run again`, minutes } },
    },
  ];
}

/** A run with its idle and a refit, as long as they usually take, min. Our own figure. */
const ONE_RUN_MIN = 65;

/** What remains of less than this is no bound that anyone would speak of, K. */
const LEAST_REACH_K = 0.1;

/** Two loads of one recording differ by nothing that varies from run to run: no mount, no day, no start. */
const WITHIN_ONE: ScatterRule = { lent: { sd: 0, dof: Infinity, assumed: false }, shared: true };

/** Every mount stands on both sides, as where two loads of the same runs are compared: its contact cancels. */
function mountsShared(a: ReadSide, b: ReadSide): boolean {
  const [of, to] = [a, b].map((side) => new Set(side.readings.map(({ mount }) => mount))) as [Set<string | null>, Set<string | null>];
  return !of.has(null) && of.size === to.size && [...of].every((mount) => to.has(mount));
}

/** The lines of a comparison of mounts by their name. */
function inMounts(compared: Comparison): Comparison {
  const shares = compared.budget.shares.map((line) => ({
    ...line,
    name: line.name.replace('scatter between runs', 'scatter between mounts'),
  }));
  return { ...compared, budget: { ...compared.budget, shares } };
}

function oneRecording(a: readonly FigureReading[], b: readonly FigureReading[]): boolean {
  return a.length === 1 && b.length === 1 && a[0]!.runId === b[0]!.runId;
}

/** A side's readings of one spot, with the name that its lines in the budget carry. */
export interface ReadSide {
  name: string;
  readings: readonly FigureReading[];
}

/** What a bench shows beside two sides that are compared. */
export interface BesideTheTwo {
  /** How well it repeats: its history, and the scatter of every other side (`withScatterOf`). */
  scatter: Scatter | null | undefined;
  /** Mounts of every other side (`timedMounts`): what they repeat tells a drift. */
  timed: readonly (readonly MountFigure[])[];
}

/**
 * Two sides' readings of one spot held against each other, with one scatter and one doubt wherever two are compared: on the pair, in
 * the ranking, from step to step and at retests.
 *
 * Powers that lie a little apart are brought to one first, times as far as a drift of the bench can be told; and the mount is the unit.
 *
 * @param beside what is known of the bench beside these two
 * @param options advice: false leaves out how many runs would tell, which costs more than all the rest
 */
export function compareAt(
  readA: ReadSide,
  readB: ReadSide,
  spot: JudgedSpot,
  rules: JudgeRules,
  beside: BesideTheTwo,
  options: { advice?: boolean } = {},
): ComparedAt {
  // Beside one that was not settled, whose difference is a bound, readings stand as they are.
  const settled = [readA, readB].every((side) => side.readings.every(({ lacks }) => lacks !== null));
  const ended = (side: ReadSide): ReadSide => (settled ? { ...side, readings: side.readings.map(atItsEnd) } : side);
  const [asReadA, asReadB] = [ended(readA), ended(readB)];
  const without = [asReadA, asReadB].filter((side) => side.readings.length === 0).map((side) => side.name);
  if (without.length > 0) {
    const names = without.filter((name) => name !== '').join(' and ');
    return {
      comparison: null,
      scatter: null,
      restatedW: null,
      reach: null,
      coverage: rules.coverage,
      stands: [],
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
  const shareMounts = mountsShared(a, b);
  const units = [a, b].map((side) => (shareMounts ? side.readings : byMount(side.readings))) as [MountFigure[], MountFigure[]];
  const figures = (side: readonly MountFigure[]) => side.map((unit) => unit.figure);
  const looked = within ? null : lookedAt(rules, Math.min(...units.map((side) => side.length)));
  const coverage = looked?.coverage ?? rules.coverage;
  const { lent: scatter, shared } = within ? WITHIN_ONE : scatterFor(figures(units[0]), figures(units[1]), beside.scatter);
  const sd = withScatterOf(scatter, units.map(figures))?.sd ?? 0;
  const timed = within ? null : toOneTime(units[0], units[1], sd, rules.drift?.kPerH, beside.timed);
  try {
    const compared = compare({
      a: figures(timed?.a ?? units[0]),
      b: figures(timed?.b ?? units[1]),
      practicalK: rules.practicalK,
      coverage,
      ...(scatter ? { repeatability: { sd: scatter.sd, dof: scatter.dof } } : {}),
      oneScatter: shared,
      independent: [...differenceLines(a, b, spot, rules), ...(alike ? [alike.line] : []), ...(timed?.line ? [timed.line] : [])],
      ...options,
    });
    const comparison = inMounts(compared);
    const { value } = comparison.difference;
    const watts = (side: ReadSide) => ({ name: side.name, watts: side.readings.map(({ neighbourW }) => neighbourW) });
    const stands = [
      ...mayVanish(a, b, value, spot, rules.practicalK),
      ...neighbourWithholds(watts(a), watts(b), spot, rules),
      ...(looked ? tooEarly(a, b, rules, scatter) : []),
    ];
    return { comparison, scatter, refusal: null, restatedW, coverage, reach: reachOf(a.readings, b.readings, value), stands };
  } catch (error) {
    if (!(error instanceof InsufficientDataError)) throw error;
    return {
      comparison: null,
      scatter,
      restatedW,
      coverage,
      reach: null,
      stands: [],
      refusal: 'Too few runs to tell a difference from scatter.',
    };
  }
}
