import type { Estimate } from '../../estimate.ts';
import type { PowerPoint } from '../../heat/safePower.ts';
import type { PhaseReading } from '../../review/types.ts';
import { changesWithin } from '../../review/withinRun.ts';
import { projectAmbient } from '../../heat/projectAmbient.ts';
import { mean } from '../../mean.ts';
import { mayBeCalled } from '../fair/mayBeCalled.ts';
import { runFindings } from '../fair/runFindings.ts';
import { OF_TEMPERATURE, sortOut } from '../fair/sortOut.ts';
import { besidesOf, type Beside } from '../figure/besides.ts';
import { doubtOf, figureOf, whenceOf, type FigureReading, type ReadingDoubt } from '../figure/figureOf.ts';
import { stillToCome } from '../figure/sideFigure.ts';
import { HOTTEST_SPOT_ID, hottestIn, withHottest } from '../figure/hottest.ts';
import { byMount, timedMounts, type MountFigure } from '../figure/byMount.ts';
import { withScatterOf } from '../figure/scatter.ts';
import { outcomeKeys, outcomeKind } from '../outcome/outcomes.ts';
import type { BesideTheTwo } from '../pair/compareAt.ts';
import type { Disposition, Finding, JudgedSide, JudgedSpot, JudgeRules, LeftOut, OutcomeKey, Scatter } from '../types.ts';

/** Figures of one run: what every view over several variants works from. */
export interface LineUpRun {
  id: string;
  label: string;
  mountNo: number | null;
  /** Which fitting it was made on (`mountOf`), and when; null where nobody knows. */
  mount: string | null;
  atMs: number | null;
  disposition: Disposition;
  /** The study's figure, by spot id; the hottest of them under `HOTTEST_SPOT_ID`. */
  figures: Record<string, Estimate>;
  /** What read it, by spot id; a spot of which nobody wrote it down is missing. */
  sensors: Record<string, string>;
  /** What repeats do not average away of a spot's figure, by spot id. */
  doubts: Record<string, ReadingDoubt>;
  outcomes: Partial<Record<OutcomeKey, Estimate>>;
  /** Name of the hottest spot. */
  hottest: string;
  /** It throttled at all; null where nothing was watched. */
  throttled: boolean | null;
  loadMin: number;
  roomC: number | null;
  settings: Record<string, string>;
  /** Channels that no figure is made of; none where nothing is said. */
  besides?: Beside[];
  /** Rise and power of every load, by spot id: what a safe power is worked out from. */
  points: Record<string, { powerW: Estimate; rise: Estimate; settled: boolean; load: string }[]>;
  /** The same at rest, where everything that was recorded stood as under load. */
  atRest: Record<string, PowerPoint | null>;
  /** Of a load of a run with several: what it would have changed against the load before had the fan kept its speed, by spot id, K. */
  fanHeld: Record<string, Estimate>;
  /** Slow time constant of the last load's approach, by spot id, seconds; null where none stands out. */
  slowTauS: Record<string, number | null>;
}

/** One variant with the runs that take part. */
export interface LineUpSide {
  variantId: string;
  name: string;
  subject: string;
  levels: Record<string, string>;
  runs: LineUpRun[];
  /** Runs that count for work and time, though their temperature was not free. */
  workRuns: LineUpRun[];
  leftOut: LeftOut[];
}

/** All variants of a study, side by side. */
export interface LineUp {
  sides: LineUpSide[];
  spots: JudgedSpot[];
  rules: JudgeRules;
  findings: Finding[];
  /** Pairs of sides that must not be called against each other, with what forbids it (`mayBeCalled`). */
  stands: { a: string; b: string; by: Finding[] }[];
  /** The bench's pooled scatter from other studies, by spot id. */
  history: Record<string, Scatter>;
}

/** What forbids or withholds calling two sides of a line-up against each other; nothing where they may be. */
export function standsBetween({ stands }: LineUp, p: string, q: string): Finding[] {
  return stands.find(({ a, b }) => (a === p && b === q) || (a === q && b === p))?.by ?? [];
}

/** Only what forbids comparing them. */
export const blockedBetween = (of: LineUp, p: string, q: string): Finding[] =>
  standsBetween(of, p, q).filter(({ severity }) => severity === 'blocks');

/** The settled value that a reading tells of, with what it may still be off: a bound counts as what it will come to, and doubts it. */
function settledRise({ rise, toGo }: PhaseReading): Estimate | null {
  if (!rise || !toGo) return rise?.mean ?? null;
  return { value: rise.mean.value + toGo.likely.value, u: Math.hypot(rise.mean.u, toGo.likely.u), dof: rise.mean.dof };
}

/** A fan that turns otherwise at rest than under load makes the two incomparable; as a share. */
const FAN_ALIKE = 0.05;

function pointAtRest({ review }: JudgedSide['runs'][number], spotId: string): PowerPoint | null {
  const reading = review.spots.find((spot) => spot.spotId === spotId)?.idle;
  const rest = review.atRest;
  const rise = reading && settledRise(reading);
  if (!rise || !rest?.power || rest.power.value < 0) return null;
  const [slow, fast] = [rest.fan?.value ?? 0, review.fan?.value ?? 0];
  return Math.abs(fast - slow) > FAN_ALIKE * Math.max(fast, slow) ? null : { powerW: rest.power, rise };
}

function pointsOf(run: JudgedSide['runs'][number], spotId: string): LineUpRun['points'][string] {
  const { review } = run;
  const last = { name: '', spots: review.spots.map((spot) => ({ spotId: spot.spotId, reading: spot.load })), power: review.power };
  return (review.loads.length > 0 ? review.loads : [last]).flatMap((load) => {
    const reading = load.spots.find((spot) => spot.spotId === spotId)?.reading;
    const rise = reading && settledRise(reading);
    const usable = rise && load.power && load.power.value > 0 && rise.value > 0;
    return usable ? [{ powerW: load.power!, rise, settled: reading.bound === 'settled', load: load.name }] : [];
  });
}

function fanHeldAt({ id, review, atLoad }: JudgedSide['runs'][number], side: JudgedSide): LineUpRun['fanHeld'] {
  const i = review.loads.findIndex(({ name }) => name === atLoad);
  const others = side.runs.filter((run) => run.id !== id).map((run) => run.review.loads);
  const changes = i < 1 ? [] : changesWithin(review.loads, others)[i]!;
  return Object.fromEntries(changes.flatMap(({ spotId, fanHeld }) => (fanHeld ? [[spotId, fanHeld]] : [])));
}

function lineUpRun(run: JudgedSide['runs'][number], side: JudgedSide, spots: readonly JudgedSpot[], rules: JudgeRules): LineUpRun {
  const real = spots.filter((spot) => spot.id !== HOTTEST_SPOT_ID);
  const figures: Record<string, Estimate> = {};
  for (const spot of spots) {
    const figure = figureOf(run, spot.id, rules);
    if (figure) figures[spot.id] = figure;
  }
  const outcomes: LineUpRun['outcomes'] = {};
  for (const key of outcomeKeys(rules)) {
    const read = outcomeKind(key, rules).read(run);
    if (read) outcomes[key] = read;
  }
  const { throttle } = run.review;
  const { mount, atMs } = whenceOf(run, side);
  return {
    id: run.id,
    mount,
    atMs,
    label: run.label,
    mountNo: run.mountNo,
    disposition: run.disposition,
    figures,
    doubts: Object.fromEntries(spots.map((spot) => [spot.id, doubtOf(run, spot, rules)])),
    outcomes,
    sensors: run.sensors,
    hottest: real.find((spot) => spot.id === hottestIn(run, real))?.name ?? '',
    throttled: throttle && throttle.timeToFirstS !== null,
    loadMin: (run.review.loadS ?? 0) / 60,
    roomC: run.review.room?.meanC ?? null,
    settings: run.settings,
    besides: besidesOf(run),
    points: Object.fromEntries(real.map((spot) => [spot.id, pointsOf(run, spot.id)])),
    atRest: Object.fromEntries(real.map((spot) => [spot.id, pointAtRest(run, spot.id)])),
    fanHeld: fanHeldAt(run, side),
    slowTauS: Object.fromEntries(
      real.map((spot) => [spot.id, run.review.spots.find((candidate) => candidate.spotId === spot.id)?.load?.settling.slowTauS ?? null]),
    ),
  };
}

/**
 * Puts all variants side by side: which of their runs take part, their figures, and which pairs must not be called. Where a study has
 * several spots the hottest of them stands first.
 */
export function lineUp(
  asked: readonly JudgedSide[],
  askedSpots: readonly JudgedSpot[],
  rules: JudgeRules,
  history: LineUp['history'],
): LineUp {
  const { sides, spots } = withHottest(asked, askedSpots);
  // Side by side: one run may stand in several, at different loads, and what speaks against one does not against another.
  const found = sides.map((side) => side.runs.flatMap((run) => runFindings(run, askedSpots, rules, side.runs)));
  const sorted = sides.map((side, i) => ({
    side,
    ...sortOut(side, found[i]!, rules),
    work: sortOut(side, found[i]!, rules, OF_TEMPERATURE).used,
    // A rise that is held by the part or not at its end still says what watts do; one of a room that wandered does not.
    carries: new Set(sortOut(side, found[i]!, rules, ['throttled', 'settled']).used.runs.map((run) => run.id)),
  }));
  return {
    sides: sorted.map(({ side, used, leftOut, work, carries }): LineUpSide => ({
      variantId: side.variantId,
      name: side.name,
      subject: side.subject ?? '',
      levels: { ...side.levels },
      runs: used.runs.map((run) => lineUpRun(run, side, spots, rules)),
      workRuns: work.runs.map((run) => ({
        ...lineUpRun(run, side, spots, rules),
        ...(carries.has(run.id) ? {} : { points: {}, atRest: {} }),
      })),
      leftOut,
    })),
    spots,
    rules,
    findings: found.flat(),
    stands: sorted.flatMap((p, i) =>
      sorted.slice(i + 1).flatMap((q) => {
        const by = mayBeCalled(p.used, q.used, rules);
        return by.length === 0 ? [] : [{ a: p.side.variantId, b: q.side.variantId, by }];
      }),
    ),
    history,
  };
}

/** What a view looks at: a spot by its id, or an outcome beside temperature. */
export type LineUpKey = { spotId: string } | { outcome: OutcomeKey };

/** A ranking asks for every side's readings once for each pair of the others; a side does not change. */
function onceASide<T>(make: (side: LineUpSide, spotId: string) => T): (side: LineUpSide, spotId: string) => T {
  const made = new WeakMap<LineUpSide, Map<string, T>>();
  return (side, spotId) => {
    const known = made.get(side) ?? new Map<string, T>();
    made.set(side, known);
    const read = known.get(spotId) ?? make(side, spotId);
    known.set(spotId, read);
    return read;
  };
}

const figuresOfMounts = onceASide((side, spotId): Estimate[] => byMount(figuresAt(side, spotId)).map((mount) => mount.figure));
const timedAt = onceASide((side, spotId): MountFigure[] => timedMounts(figuresAt(side, spotId)));

/** A side's readings of it: of a spot one a mount, whose runs share its contact; of an outcome one a run. */
export function readingsOf(side: LineUpSide, key: LineUpKey): Estimate[] {
  if ('spotId' in key) return figuresOfMounts(side, key.spotId);
  return side.workRuns.flatMap((run) => run.outcomes[key.outcome] ?? []);
}

const NO_DOUBT: ReadingDoubt = {
  remained: { byK: 0, u: 0 },
  lacks: null,
  resolutionU: 0,
  heat: null,
  toGoK: 0,
  mayGoK: { up: 0, down: 0 },
  fanRpm: null,
  roomWithLoadK: null,
  neighbourW: null,
};

/** A side's figures at a spot, as comparisons take them. */
export function figuresAt(side: LineUpSide, spotId: string): FigureReading[] {
  return side.runs.flatMap((run) => {
    const figure = run.figures[spotId];
    const { id: runId, mount, atMs } = run;
    return figure ? [{ runId, mount, atMs, figure, sensor: run.sensors[spotId], ...(run.doubts[spotId] ?? NO_DOUBT) }] : [];
  });
}

/**
 * How well the bench repeats at a spot, as a comparison of these sides is lent it: its history, and the scatter of every other side.
 *
 * @param compared the sides that bring their own scatter into the comparison
 */
export function historyBeside(of: LineUp, spotId: string, compared: readonly LineUpSide[]): Scatter | null {
  const mounts = sidesBeside(of, compared).map((side) => readingsOf(side, { spotId }));
  return withScatterOf(of.history[spotId], mounts);
}

/** What is known beside these sides where two of them are compared at a spot. */
export const benchBeside = (of: LineUp, spotId: string, compared: readonly LineUpSide[]): BesideTheTwo => ({
  scatter: historyBeside(of, spotId, compared),
  timed: sidesBeside(of, compared).map((side) => timedAt(side, spotId)),
});

function sidesBeside(of: LineUp, compared: readonly LineUpSide[]): LineUpSide[] {
  const ids = new Set(compared.map((side) => side.variantId));
  return of.sides.filter((side) => !ids.has(side.variantId));
}

/** Readings of an outcome on every side but these, a group a side. */
export const groupsBeside = (of: LineUp, outcome: OutcomeKey, compared: readonly LineUpSide[]): Estimate[][] =>
  sidesBeside(of, compared).map((side) => readingsOf(side, { outcome }));

/** A spot of the line-up, by its id. @throws RangeError one that is not in it */
export function spotOf(of: LineUp, spotId: string): JudgedSpot {
  const spot = of.spots.find((candidate) => candidate.id === spotId);
  if (!spot) throw new RangeError(`there is no spot ${spotId} in this study`);
  return spot;
}

/** Mean of an outcome over the runs of a side that count for work; null where none recorded it. */
export function meanOutcome(side: LineUpSide, outcome: OutcomeKey): number | null {
  const read = readingsOf(side, { outcome });
  return read.length === 0 ? null : mean(read.map((estimate) => estimate.value));
}

/** Mean of the study's figure at a spot over the mounts of a side that take part; null where none was read. */
export function meanFigure(side: LineUpSide, spotId: string): number | null {
  const read = readingsOf(side, { spotId });
  return read.length === 0 ? null : mean(read.map((estimate) => estimate.value));
}

/** How many of its runs read it. */
export const runsOf = (side: LineUpSide, key: LineUpKey): number =>
  'spotId' in key ? figuresAt(side, key.spotId).length : readingsOf(side, key).length;

/**
 * Where a side stands on the bench and restated for another air, °C.
 *
 * @param figure the study's figure, K over room or °C as its rules have it
 * @returns nulls where the room was not recorded
 */
export function inBothAirs(
  side: LineUpSide,
  spotId: string,
  figure: number,
  basis: JudgeRules['basis'],
  air: { airC: number; powerTempCo: number },
): { benchC: number | null; warmC: number | null } {
  const rooms = side.runs.flatMap((run) => run.roomC ?? []);
  const roomC = rooms.length > 0 ? mean(rooms) : null;
  const settled = figure + stillToCome(side.runs.flatMap(({ doubts }) => doubts[spotId] ?? []));
  const benchC = basis !== 'rise' ? settled : roomC === null ? null : roomC + settled;
  if (benchC === null || roomC === null) return { benchC, warmC: null };
  const warm = projectAmbient({ value: benchC, u: 0, dof: Infinity }, roomC, air.airC, { powerTempCo: air.powerTempCo });
  return { benchC, warmC: warm.value };
}
