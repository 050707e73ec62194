import { welchSatterthwaite } from '../../estimate.ts';
import type { UncertaintyComponent } from '../../uncertainty/combineUncertainty.ts';
import { mean } from '../../mean.ts';
import { typeB } from '../../uncertainty/typeB.ts';
import type { FigureReading } from './figureOf.ts';
import { byMount } from './byMount.ts';
import { neighbourLine, neighboursApartW } from './neighbours.ts';
import { WARMED_ALIKE_K } from './roomWithLoad.ts';
import { withScatterOf } from './scatter.ts';
import type { JudgedSpot, JudgeRules, Scatter } from '../types.ts';

/** Half-width of the room assumed where none was recorded, K (methods §1). */
const ASSUMED_ROOM_K = 2;
/** Half-width of a room probe that nobody wrote down, K. */
const USUAL_ROOM_PROBE_K = 0.5;

/** What a sensor leaves in doubt that another reading by the same sensor in the same place shares. */
function sensorLines(spot: JudgedSpot, whose = ''): UncertaintyComponent[] {
  const name = (line: string) => (whose === '' ? line : `${line}, ${whose}`);
  return [
    { name: name('sensor accuracy'), u: typeB(spot.accuracyK, 'rectangular') },
    { name: name('place and contact'), u: typeB(spot.placementK, 'rectangular') },
  ];
}

/** What the room leaves in doubt of a single figure: nothing where temperatures are absolute in a held room. */
function roomLines({ basis, roomAccuracyK = USUAL_ROOM_PROBE_K }: JudgeRules, whose = ''): UncertaintyComponent[] {
  const name = (line: string) => (whose === '' ? line : `${line}, ${whose}`);
  if (basis === 'as-found') return [{ name: name('room not recorded'), u: typeB(ASSUMED_ROOM_K, 'rectangular') }];
  return basis === 'rise' && whose === '' ? [{ name: 'room probe', u: typeB(roomAccuracyK, 'rectangular') }] : [];
}

/**
 * How far runs of one side err alike in what remained: drawn, from none on heavy sinks to this on coarse sensors (docs/proof.md). Two sides
 * err alike as well; nothing is taken off for it, since a heavier sink need not.
 */
const ERR_ALIKE = 0.4;

/** Of one run's doubt about what remained, the share that is left in the mean of so many. */
export const leftInMeanOf = (runs: number): number => Math.sqrt(ERR_ALIKE + (1 - ERR_ALIKE) / runs);

/** What remained of the mean of a side's runs: they fall short alike, and are partly wrong alike about by how much. */
const remainedU = (readings: readonly FigureReading[]): number =>
  Math.hypot(
    mean(readings.map(({ remained }) => remained.byK)),
    leftInMeanOf(readings.length) * mean(readings.map(({ remained }) => remained.u)),
  );

/** What remained when a side was read, and the steps it was read in, which repeats do not average away. */
function readingLines(readings: readonly FigureReading[], whose = ''): UncertaintyComponent[] {
  const name = (line: string) => (whose === '' ? line : `${line}, ${whose}`);
  return [
    { name: name('what still remained'), u: remainedU(readings) },
    { name: name('sensor resolution'), u: mean(readings.map((reading) => reading.resolutionU)) },
  ];
}

/**
 * Budget lines of one side's figure standing by itself: nothing in it cancels. Lines that are nothing are left out.
 *
 * @param scatter known beforehand (`scatterFor`); null where the side stands on its own
 */
export function sideLines(
  readings: readonly FigureReading[],
  spot: JudgedSpot,
  rules: JudgeRules,
  scatter: Scatter | null,
): UncertaintyComponent[] {
  const figures = byMount(readings).map((mount) => mount.figure);
  const n = figures.length;
  const own = withScatterOf(scatter, [figures]);
  const floor = Math.hypot(...figures.map((figure) => figure.u)) / n;
  const between = (own?.sd ?? 0) / Math.sqrt(n);
  const [remaining, resolution] = readingLines(readings);
  return [
    between >= floor
      ? { name: 'scatter between mounts', u: between, dof: own?.dof ?? Infinity }
      : { name: 'noise in the window', u: floor, dof: welchSatterthwaite([...figures]) },
    remaining!,
    ...sensorLines(spot),
    resolution!,
    ...roomLines(rules),
  ].filter((line, i) => i === 0 || line.u > 0);
}

/** Fans this far apart did not do the same, and are no matter of doubt (`pairFindings`). */
export const SAME_FAN_SHARE = 0.05;
/** Rise goes about with the fan's turns to the minus this. */
const FAN_EXPONENT = 0.7;

/** Fans that did about the same: what the rest of it may have cooled. */
function fanLine(a: readonly FigureReading[], b: readonly FigureReading[], { fans, restate }: JudgeRules): UncertaintyComponent[] {
  if (restate?.kind === 'noise' || fans === undefined || fans === 'not-applicable') return [];
  const [fa, fb] = [a, b].map((side) => mean(side.flatMap(({ fanRpm }) => fanRpm ?? []))) as [number, number];
  const off = Math.abs(fb / fa - 1);
  if (!(off > 0) || off > SAME_FAN_SHARE) return [];
  const rises = [...a, ...b].flatMap(({ heat }) => heat?.riseK ?? []);
  const u = rises.length === 0 ? 0 : typeB(FAN_EXPONENT * off * Math.abs(mean(rises)), 'rectangular');
  return u > 0 ? [{ name: 'fans not quite alike', u }] : [];
}

/**
 * A room that was read warmer with the load of one side than with that of the other: it was, or its probe stood in air that the part had
 * warmed, and the rises are wrong by that.
 */
function roomLine(a: readonly FigureReading[], b: readonly FigureReading[], { basis }: JudgeRules): UncertaintyComponent[] {
  const [wa, wb] = [a, b].map((side) => side.flatMap((reading) => reading.roomWithLoadK ?? [])) as [number[], number[]];
  if (basis !== 'rise' || wa.length === 0 || wb.length === 0) return [];
  const apartK = Math.abs(mean(wa) - mean(wb));
  return apartK > WARMED_ALIKE_K ? [{ name: 'room warmer with one side’s load', u: typeB(apartK, 'rectangular') }] : [];
}

/**
 * Budget lines of a difference beside the scatter between runs. One sensor left in its place cancels but for its resolution; of two
 * sensors nothing does. The room probe is one on both sides and cancels; a room that nobody recorded does not.
 */
export function differenceLines(
  a: { name: string; readings: readonly FigureReading[] },
  b: { name: string; readings: readonly FigureReading[] },
  spot: JudgedSpot,
  rules: JudgeRules,
): UncertaintyComponent[] {
  const sides = [a, b];
  const sensors = new Set(sides.flatMap((side) => side.readings.flatMap((reading) => reading.sensor ?? [])));
  const ofSides = sides.flatMap(({ name, readings }) => [
    ...readingLines(readings, name).filter((line) => line.u > 0),
    ...(sensors.size > 1 ? sensorLines(spot, name) : []),
    ...roomLines(rules, name),
  ]);
  const [na, nb] = sides.map(({ readings }) => readings.map((reading) => reading.neighbourW)) as [(number | null)[], (number | null)[]];
  return [
    ...ofSides,
    ...fanLine(a.readings, b.readings, rules),
    ...roomLine(a.readings, b.readings, rules),
    ...(rules.neighbourIsAsked ? [] : neighbourLine(neighboursApartW(na, nb))),
  ];
}
