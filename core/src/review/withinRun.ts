import type { Estimate } from '../estimate.ts';
import { mean } from '../mean.ts';
import type { Reach } from './reach.ts';
import type { LoadReview, PhaseReading } from './types.ts';

/** What changed at one spot from one load of a run to the next. */
export interface ChangeWithin {
  spotId: string;
  /** Between the settled values of both, K, with what either may still be off; run-to-run scatter has no part in it. null without a rise. */
  settled: Estimate | null;
  /** How far the change between the readings themselves reaches while the later load goes on its way; null where it stands. */
  reach: Reach | null;
  /** What it would have been had the fan kept the speed of the load before, K; null where the fan kept it, or where the run cannot tell. */
  fanHeld: Estimate | null;
}

/** A fan that moved by less than this share kept its speed. */
const KEPT = 0.02;
/** Speeds nearer to each other than this tell nothing of what speed does. */
const LEAST_SPAN = 1.15;
/** A law that misses by more is none: the cooler itself was changed on the way. */
const MOST_MISFIT = 0.04;
const LEAST_LOADS = 3;
/** How air at the intake follows the fan, as a power of its speed: the openings decide, and nobody measured them. Even from 0 to a half. */
const INTAKE = { middle: 0.25, u: 0.5 / Math.sqrt(12) };
/** Where nothing was measured at the intake one exponent stands for cooler and air together; a change shifts their shares by some tenths. */
const TOGETHER_U = 0.1;

/** Resistance of the cooler to the air it takes in goes as a power of the fan's speed. */
interface FanLaw {
  /** K/W over rpm: resistance ∝ speed^−n. */
  n: number;
  u: number;
  dof: number;
}

interface AtSpot {
  reading: PhaseReading;
  powerW: number;
  fanRpm: number;
  /** Over the air that is taken in, and that air over the room, K; over the room, and null, where nothing was measured at the intake. */
  overAirK: number;
  intakeK: number | null;
}

function at(load: LoadReview, k: number, intake: boolean): AtSpot | null {
  const reading = load.spots[k]?.reading ?? null;
  const { power, fan } = load;
  if (!reading?.rise || !power || !fan || !(power.value > 0) || !(fan.value > 0)) return null;
  if (intake && !reading.overIntake) return null;
  const over = intake ? reading.overIntake! : reading.rise;
  const intakeK = intake ? reading.rise.mean.value - over.mean.value : null;
  return { reading, powerW: power.value, fanRpm: fan.value, overAirK: over.mean.value + (reading.toGo?.likely.value ?? 0), intakeK };
}

/** The law of so many loads; null where they are too few, too alike, or follow none. */
function lawOf(points: readonly AtSpot[]): FanLaw | null {
  const sound = points.filter(({ overAirK }) => overAirK > 0);
  const speeds = sound.map(({ fanRpm }) => fanRpm);
  if (sound.length < LEAST_LOADS || Math.max(...speeds) < LEAST_SPAN * Math.min(...speeds)) return null;
  const x = speeds.map(Math.log);
  const y = sound.map(({ overAirK, powerW }) => Math.log(overAirK / powerW));
  const [mx, my] = [mean(x), mean(y)];
  const xx = x.reduce((sum, value) => sum + (value - mx) ** 2, 0);
  const slope = x.reduce((sum, value, i) => sum + (value - mx) * (y[i]! - my), 0) / xx;
  const dof = sound.length - 2;
  const misfit = Math.sqrt(x.reduce((sum, value, i) => sum + (y[i]! - my - slope * (value - mx)) ** 2, 0) / dof);
  // Three loads can lie on a line by luck; a hundredth is what a window's mean is worth at best.
  const u = Math.max(misfit, 0.01) / Math.sqrt(xx);
  // A fan that cools less the faster it turns is none that was seen to act.
  return misfit > MOST_MISFIT || -slope < -2 * u ? null : { n: Math.max(0, -slope), u, dof };
}

function settledChange(before: PhaseReading, now: PhaseReading): Estimate | null {
  if (!before.rise || !now.rise) return null;
  const togo = (reading: PhaseReading) => reading.toGo?.likely ?? { value: 0, u: 0 };
  return {
    value: now.rise.mean.value + togo(now).value - before.rise.mean.value - togo(before).value,
    u: Math.hypot(now.rise.mean.u, before.rise.mean.u, togo(now).u, togo(before).u),
    dof: Math.min(now.rise.mean.dof, before.rise.mean.dof),
  };
}

/** A change that goes on the way it went will be larger; one that turns back, smaller. Of a load before that was not done either nothing is said. */
function reachOf(before: PhaseReading, now: PhaseReading): Reach | null {
  if (!before.rise || !now.rise || (now.bound !== 'still-rising' && now.bound !== 'still-falling')) return null;
  if (before.bound === now.bound) return null;
  return (now.bound === 'still-rising') === now.rise.mean.value > before.rise.mean.value ? 'at-least' : 'at-most';
}

/** What one spot tells of the fan: over the air at the intake where that was measured, else over the room. */
interface SpotLaw {
  law: FanLaw;
  intake: boolean;
}

/**
 * The law that holds at a spot: of the run's own loads over the intake; else that of the part's other runs over the intake; else the
 * same over the room. The run's own loads tell nothing over the room, nor do those of a run that did the same: whatever was changed in
 * the surroundings stands in them.
 */
function lawAt(own: readonly LoadReview[], others: readonly (readonly LoadReview[])[], k: number): SpotLaw | null {
  const spotId = own[0]!.spots[k]!.spotId;
  const sweeps = others.map((loads) => ({ loads, k: loads[0]?.spots.findIndex((spot) => spot.spotId === spotId) ?? -1 }));
  const pick = (loads: readonly LoadReview[], spot: number, intake: boolean) => loads.flatMap((load) => at(load, spot, intake) ?? []);
  const did = new Set(own.map(({ name }) => name));
  const another = sweeps.filter(({ loads }) => !loads.some(({ name }) => did.has(name)));
  const wide = (of: typeof sweeps, intake: boolean) => of.flatMap((sweep) => lawOf(pick(sweep.loads, sweep.k, intake)) ?? []);
  for (const { laws, intake } of [
    { laws: [lawOf(pick(own, k, true)) ?? []].flat(), intake: true },
    { laws: wide(sweeps, true), intake: true },
    { laws: wide(another, false), intake: false },
  ])
    if (laws.length > 0) return { law: laws.reduce((best, law) => (law.u < best.u ? law : best)), intake };
  return null;
}

/**
 * What each load of one run changed against the load before it. With an automatic fan part of every change is taken up by its speed:
 * what the change would have been at the speed of before follows from the law between speed and resistance that the run's own loads
 * show, fitted to the rise over the air at the intake, and a stated span for how that air follows the fan. Where the run's own loads
 * show none, it is taken from another run of the same part in which the fan was swept.
 *
 * @param loads in order
 * @param others loads of other runs of the same part and set-up, each run in order
 * @returns one list a load, that of the first one empty; a list has an entry a spot
 */
export function changesWithin(loads: readonly LoadReview[], others: readonly (readonly LoadReview[])[] = []): ChangeWithin[][] {
  const spots = loads[0]?.spots ?? [];
  const laws = spots.map((_, k) => lawAt(loads, others, k));
  return loads.map((load, i) => {
    const last = loads[i - 1];
    if (!last) return [];
    return spots.flatMap(({ spotId }, k): ChangeWithin[] => {
      const [before, now] = [last.spots[k]?.reading, load.spots[k]?.reading];
      if (!before || !now) return [];
      const settled = settledChange(before, now);
      const law = laws[k];
      const fanHeld = settled && law ? heldAt(settled, at(last, k, law.intake), at(load, k, law.intake), law.law) : null;
      return [{ spotId, settled, reach: reachOf(before, now), fanHeld }];
    });
  });
}

function heldAt(settled: Estimate, before: AtSpot | null, now: AtSpot | null, law: FanLaw): Estimate | null {
  if (!before || !now) return null;
  const slower = Math.log(now.fanRpm / before.fanRpm);
  if (Math.abs(slower) < KEPT) return null;
  const cooler = now.overAirK * Math.expm1(law.n * slower);
  const air = (now.intakeK ?? 0) * Math.expm1(INTAKE.middle * slower);
  const exponentU = now.intakeK === null ? Math.hypot(law.u, TOGETHER_U) : law.u;
  return {
    value: settled.value + cooler + air,
    u: Math.hypot(settled.u, now.overAirK * slower * exponentU, (now.intakeK ?? 0) * slower * INTAKE.u),
    dof: Math.min(settled.dof, law.dof),
  };
}

/** Rooms nearer to each other than this are one, K. */
const ROOM_MOVED_K = 0.5;

/** From where to where the room went over the loads of a run, °C; null where it stayed, or was not recorded. */
export function roomOverLoads(loads: readonly LoadReview[]): { fromC: number; toC: number } | null {
  const rooms = loads.flatMap(({ room }) => (room ? [room.meanC] : []));
  const [fromC, toC] = [rooms[0], rooms.at(-1)];
  return fromC === undefined || toC === undefined || Math.abs(toC - fromC) < ROOM_MOVED_K ? null : { fromC, toC };
}
