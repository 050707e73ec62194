import { InsufficientDataError } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { readByHand } from './readByHand.ts';
import { watchLock, type LockWatch } from '../hold/watchLock.ts';
import { readWindow, type WindowReading } from '../series/readWindow.ts';
import { rejectSpikes } from '../series/rejectSpikes.ts';
import { riseOverAmbient } from '../series/riseOverAmbient.ts';
import { slice, usable, type Series, type Window } from '../series/series.ts';
import { assessSettling, type Settling } from '../settling/assessSettling.ts';
import { findThrottling, type ThrottleReport } from '../throttling/findThrottling.ts';
import type { PhaseKind, SettledRule } from '../conduct/recipe.ts';
import { DEFAULT_SETTLED_RULE, forSettling } from '../conduct/recipe.ts';

/** Changes whenever a reading of the same samples could change; stored results of other versions are computed anew. */
export const METHOD_VERSION = 'readings-4';

export interface RunPhase {
  kind: PhaseKind;
  name: string;
  startS: number;
  endS: number;
  /** What ended it: its time, settled, its cap, the tester, a cut-out, or the end of a file. */
  endedBy: string;
}

/** One run's samples and phases, on the run's own clock in seconds. */
export interface RunRecord {
  /** `byHand`: typed in by somebody, minutes apart, with the smallest step of the instrument, K. */
  spots: { id: string; series: Series; byHand?: { resolutionK: number } }[];
  room: Series | null;
  performance: Series | null;
  power: Series | null;
  utilisation: Series | null;
  /** Turns of the fan, 1/min; null where none is recorded. */
  fan?: Series | null;
  phases: RunPhase[];
  /** Throttling point of the part, °C, on the spot that throttles it; null where unknown. */
  throttle: { spotId: string; limitC: number } | null;
  /** Power that the part may take, W, where it is held and watched; null where it is not. */
  powerCapW?: number | null;
  /** What was to be held, where a channel recorded it. */
  locks: { name: string; unit: string; value: number; tolerance: number; series: Series }[];
}

export interface ReadingRules {
  /** Length of the window at the end of a phase, seconds. */
  windowS: number;
  settled: SettledRule;
}

export const DEFAULT_READING_RULES: ReadingRules = { windowS: 300, settled: DEFAULT_SETTLED_RULE };

export type Bound = 'settled' | 'still-rising' | 'still-falling' | 'unsteady';

export interface PhaseReading {
  phase: PhaseKind;
  window: Window;
  absolute: WindowReading;
  /** Over room, sample by sample; null where no room was recorded in the window. */
  rise: WindowReading | null;
  settling: Settling;
  /** Settled, or on which side the reading stands to the settled value. */
  bound: Bound;
  spikes: number;
  /** Share of the window's samples left out as spikes, 0..1. */
  spikeShare: number;
  /** Highest sample of the phase with spikes left out, °C. */
  peakC: number;
}

export interface SpotReview {
  spotId: string;
  idle: PhaseReading | null;
  load: PhaseReading | null;
}

export interface RoomReview {
  meanC: number;
  minC: number;
  maxC: number;
  /** Change over the load window by a straight line, K. */
  driftK: number;
}

export interface RunReview {
  methodVersion: string;
  spots: SpotReview[];
  room: RoomReview | null;
  throttle: ThrottleReport | null;
  performance: Estimate | null;
  power: Estimate | null;
  utilisationPercent: number | null;
  /** Length of the load before its reading ended, seconds; null without a load phase. */
  loadS: number | null;
  loadEndedBy: string | null;
  /** Over the whole load. */
  locks: LockReview[];
  /** Each load by itself, in order, where a run has several: after a change, or at each step of a sweep. */
  loads: LoadReview[];
}

/** One of several loads of a run. */
export interface LoadReview {
  name: string;
  startS: number;
  endS: number;
  endedBy: string;
  spots: { spotId: string; reading: PhaseReading | null }[];
  performance: Estimate | null;
  power: Estimate | null;
  fanPerMin: number | null;
}

export interface LockReview {
  name: string;
  unit: string;
  lock: { value: number; tolerance: number };
  watch: LockWatch;
}

function lastOf(phases: RunPhase[], kind: PhaseKind): RunPhase | null {
  return [...phases].reverse().find((phase) => phase.kind === kind) ?? null;
}

function readingWindow(phase: RunPhase, windowS: number): Window {
  return { startS: Math.max(phase.startS, phase.endS - windowS), endS: phase.endS };
}

/** null instead of an error where there is too little to read: a finding, not a misuse. */
function orNull<T>(compute: () => T): T | null {
  try {
    return compute();
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}

function boundOf(settling: Settling): Bound {
  if (settling.settled) return 'settled';
  const toward = settling.remainingK ? settling.remainingK.value : settling.slopeKPerMin.value;
  if (
    settling.remainingK &&
    Math.abs(settling.remainingK.value) < 2 * settling.remainingK.u &&
    Math.abs(settling.slopeKPerMin.value) < 2 * settling.slopeKPerMin.u
  )
    return 'unsteady';
  return toward > 0 ? 'still-rising' : 'still-falling';
}

/** Room samples before and after a window that its ends are interpolated with, seconds; more than a gap may last. */
const AIR_AROUND_S = 60;

interface Air {
  room: Series;
  coarse: Series;
}

function readPhase(spot: Series, air: Air | null, phase: RunPhase, rules: ReadingRules): PhaseReading | null {
  const whole = { startS: phase.startS, endS: phase.endS };
  const window = readingWindow(phase, rules.windowS);
  const { clean, spikes } = rejectSpikes(slice(spot, whole));
  const inWindow = spikes.filter((spike) => spike.t >= window.startS).length;
  return orNull(() => {
    // Only what the window needs is handed on: a check of eight hours costs more than the reading.
    const inside = slice(clean, window);
    const absolute = readWindow(inside, window);
    const near = { startS: window.startS - AIR_AROUND_S, endS: window.endS + AIR_AROUND_S };
    const rise = air && orNull(() => readWindow(riseOverAmbient(inside, slice(air.room, near)), window));
    const settling = assessSettling(rise ? riseOverAmbient(forSettling(clean), air!.coarse) : forSettling(clean), rules.settled);
    return {
      phase: phase.kind,
      window,
      absolute,
      rise,
      settling,
      bound: boundOf(settling),
      spikes: inWindow,
      spikeShare: inWindow / (inWindow + absolute.n),
      peakC: clean.y.reduce((most, value) => (value > most ? value : most), -Infinity),
    };
  });
}

function readHandPhase(spot: Series, room: Series | null, phase: RunPhase, rules: ReadingRules, resolutionK: number): PhaseReading | null {
  // What is typed at the very end of a phase still belongs to it.
  const stretch = { startS: phase.startS, endS: phase.endS + 1e-6 };
  const read = readByHand(spot, room, stretch, { ...rules.settled }, resolutionK);
  return read && { ...read, phase: phase.kind, bound: read.absolute.n < 3 ? 'unsteady' : boundOf(read.settling), spikes: 0, spikeShare: 0 };
}

function reviewRoom(room: Series, window: Window): RoomReview | null {
  const around = { startS: window.startS - AIR_AROUND_S, endS: window.endS + AIR_AROUND_S };
  const part = usable(slice(rejectSpikes(slice(room, around)).clean, window));
  const n = part.t.length;
  if (n < 3) return null;
  const middle = part.t.reduce((sum, t) => sum + t / n, 0);
  const mean = part.y.reduce((sum, y) => sum + y / n, 0);
  let ty = 0;
  let tt = 0;
  for (let i = 0; i < n; i++) {
    ty += (part.t[i]! - middle) * (part.y[i]! - mean);
    tt += (part.t[i]! - middle) ** 2;
  }
  return {
    meanC: mean,
    minC: part.y.reduce((p, q) => Math.min(p, q), Infinity),
    maxC: part.y.reduce((p, q) => Math.max(p, q), -Infinity),
    driftK: (ty / tt) * (window.endS - window.startS),
  };
}

/**
 * Everything that is read off one run: per spot the idle and load reading with its doubt, settling and peak; the room over the
 * load window; throttling, performance and power (methods §§1 to 4).
 *
 * Readings are means over the last `windowS` of a phase, spikes left out; rise is taken sample by sample.
 *
 * @param record samples in seconds on the run's clock
 * @returns null in place of every reading for which there is too little data
 */
export function reviewRun(record: RunRecord, rules: ReadingRules = DEFAULT_READING_RULES): RunReview {
  const idle = lastOf(record.phases, 'idle-soak');
  const load = lastOf(record.phases, 'load');
  const air = record.room && { room: record.room, coarse: forSettling(record.room) };
  const read = ({ series, byHand }: RunRecord['spots'][number], phase: RunPhase) =>
    byHand ? readHandPhase(series, record.room, phase, rules, byHand.resolutionK) : readPhase(series, air, phase, rules);
  const spots = record.spots.map((spot) => ({ spotId: spot.id, idle: idle && read(spot, idle), load: load && read(spot, load) }));
  const loadWindow = load && readingWindow(load, rules.windowS);
  const meanIn = (series: Series | null | undefined, window: Window | null): Estimate | null =>
    series && window ? orNull(() => readWindow(slice(series, window), window).mean) : null;
  const meanOf = (series: Series | null) => meanIn(series, loadWindow);
  const several = record.phases.filter((phase) => phase.kind === 'load');
  const throttleSpot = record.throttle && record.spots.find((spot) => spot.id === record.throttle!.spotId);
  const throttle =
    record.performance && load
      ? orNull(() =>
          findThrottling({
            performance: record.performance!,
            load: { startS: load.startS, endS: load.endS },
            ...(throttleSpot ? { temperature: throttleSpot.series, limitC: record.throttle!.limitC } : {}),
            ...(record.utilisation ? { utilisation: record.utilisation } : {}),
            ...(record.power && record.powerCapW != null ? { power: record.power, powerCapW: record.powerCapW } : {}),
          }),
        )
      : null;
  return {
    methodVersion: METHOD_VERSION,
    spots,
    room: record.room && loadWindow ? reviewRoom(record.room, loadWindow) : null,
    throttle,
    performance: meanOf(record.performance),
    power: meanOf(record.power),
    utilisationPercent: meanOf(record.utilisation)?.value ?? null,
    loadS: load ? load.endS - load.startS : null,
    loadEndedBy: load?.endedBy ?? null,
    loads: (several.length > 1 ? several : []).map((phase): LoadReview => {
      const window = readingWindow(phase, rules.windowS);
      return {
        name: phase.name,
        startS: phase.startS,
        endS: phase.endS,
        endedBy: phase.endedBy,
        spots: record.spots.map((spot, i) => ({ spotId: spot.id, reading: phase === load ? spots[i]!.load : read(spot, phase) })),
        performance: meanIn(record.performance, window),
        power: meanIn(record.power, window),
        fanPerMin: meanIn(record.fan, window)?.value ?? null,
      };
    }),
    locks: record.locks.flatMap(({ name, unit, value, tolerance, series }): LockReview[] => {
      const watch = load && orNull(() => watchLock(series, { value, tolerance }, { startS: load.startS, endS: load.endS }));
      return watch ? [{ name, unit, lock: { value, tolerance }, watch }] : [];
    }),
  };
}
