import type { Estimate } from '../estimate.ts';
import { recirculation } from '../heat/recirculation.ts';
import { watchLock } from '../hold/watchLock.ts';
import { readWindow } from '../series/readWindow.ts';
import { rejectTemperatureSpikes } from '../series/rejectSpikes.ts';
import { extremes, slice, usable, type Series, type Window } from '../series/series.ts';
import { findLosses } from '../throttling/findLosses.ts';
import { AGAIN } from '../conduct/alterRecipe.ts';
import { loadAbsences, loadWasThere } from '../conduct/loadPresence.ts';
import type { PhaseKind } from '../conduct/recipe.ts';
import { fanMoved } from './fanMoved.ts';
import { heatPathOf } from './heatPath.ts';
import { eachOutput, type Outputs } from './outputs.ts';
import { AIR_AROUND_S, airOf, orNull, readHandPhase, readPhase, type PhaseToRead } from './readPhase.ts';
import {
  DEFAULT_READING_RULES,
  type AirReview,
  type BesideReading,
  type LoadReview,
  type LockReview,
  type ReadingRules,
  type RoomReview,
  type RunPhase,
  type RunRecord,
  type RunReview,
  type ThrottleReview,
  type UncountedLoad,
} from './types.ts';

/** Changes whenever a reading of the same samples could change; stored results of other versions are computed anew. */
export const METHOD_VERSION = 'readings-14';

/** The window of a phase: what the tester chose, held to the phase, or its last minutes. */
function toRead(record: RunRecord, phase: RunPhase, rules: ReadingRules): PhaseToRead {
  const asked = record.windows?.find((window) => record.phases[window.phase] === phase);
  const chosen = asked && { startS: Math.max(phase.startS, asked.startS), endS: Math.min(phase.endS, asked.endS) };
  if (chosen && chosen.endS > chosen.startS) return { phase, window: chosen, chosen: true };
  return { phase, window: { startS: Math.max(phase.startS, phase.endS - rules.windowS), endS: phase.endS }, chosen: false };
}

function reviewRoom(room: Series, window: Window): RoomReview | null {
  const around = { startS: window.startS - AIR_AROUND_S, endS: window.endS + AIR_AROUND_S };
  const part = usable(slice(rejectTemperatureSpikes(slice(room, around)).clean, window));
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
    minC: extremes(part.y).low,
    maxC: extremes(part.y).high,
    driftK: (ty / tt) * (window.endS - window.startS),
  };
}

function meanIn(series: Series | null | undefined, window: Window | null): Estimate | null {
  return series && window ? orNull(() => readWindow(slice(series, window), window).mean) : null;
}

function outputsIn(record: RunRecord, window: Window | null): Outputs {
  return eachOutput((key) => meanIn(record[key], window));
}

function besidesIn({ besides = [] }: RunRecord, window: Window | null): BesideReading[] {
  return besides.flatMap(({ key, series }) => {
    const mean = meanIn(series, window);
    return mean ? [{ key, mean }] : [];
  });
}

function reviewAir(record: RunRecord, room: RoomReview | null, window: Window | null): AirReview | null {
  const intake = meanIn(record.intake, window);
  if (!intake) return null;
  const exhaust = meanIn(record.exhaust, window);
  const warmer = exhaust && room && exhaust.value > room.meanC;
  return {
    intakeC: intake.value,
    exhaustC: exhaust?.value ?? null,
    recirculation: warmer ? recirculation(room.meanC, intake.value, exhaust.value) : null,
  };
}

function reviewThrottling(record: RunRecord, load: RunPhase | null): ThrottleReview | null {
  const of = record.performance ? 'performance' : 'clock';
  const work = record[of];
  if (!work || !load) return null;
  const spot = record.throttle && record.spots.find((candidate) => candidate.id === record.throttle!.spotId);
  const report = orNull(() =>
    findLosses({
      work,
      load: { startS: load.startS, endS: load.endS },
      ...(spot ? { temperature: spot.series, limitC: record.throttle!.limitC } : {}),
      ...(record.utilisation ? { utilisation: record.utilisation } : {}),
      ...(record.power ? { power: record.power } : {}),
      ...(record.powerCapW != null ? { powerCapW: record.powerCapW } : {}),
      ...(record.clock && of !== 'clock' ? { clock: record.clock } : {}),
    }),
  );
  return report && { ...report, limitC: spot ? record.throttle!.limitC : null, of };
}

/** A part that has vanished sends nothing: those samples are missing, not zero, and have to be counted apart. */
function goneShare(performance: Series | null, load: RunPhase | null): number {
  if (!performance || !load) return 0;
  const { y } = slice(performance, { startS: load.startS, endS: load.endS });
  const missing = y.reduce((count, value) => count + (Number.isNaN(value) ? 1 : 0), 0);
  return y.length === 0 ? 0 : missing / y.length;
}

/** A phase asked for less than this is as good as none, percent: nothing can be missing from it. */
const NEXT_TO_NONE = 10;
/** How a phase ends whose load was taken off in the middle. */
const TAKEN_OFF: Record<string, UncountedLoad['why']> = { paused: 'paused', interrupted: 'interrupted' };

/** Loads that were not there all along: what their samples show at the end is no reading under load. */
function uncountedOf(record: RunRecord): UncountedLoad[] {
  return record.phases.flatMap((phase, i): UncountedLoad[] => {
    if (phase.kind !== 'load' || !(phase.endS > phase.startS)) return [];
    const idle = record.phases.slice(0, i).findLast((before) => before.kind === 'idle-soak') ?? null;
    const off = (phase.loadPercent ?? 100) < NEXT_TO_NONE ? [] : loadAbsences(record, phase, idle);
    const why = TAKEN_OFF[phase.endedBy] ?? (loadWasThere(off, phase) ? null : 'off');
    return why === null ? [] : [{ phase: i, name: phase.name, startS: phase.startS, endS: phase.endS, why, off }];
  });
}

/** One that was done once more goes by the name of the one that did not count. */
function nameOf({ name }: RunPhase, uncounted: readonly UncountedLoad[]): string {
  const first = name.endsWith(AGAIN) ? name.slice(0, -AGAIN.length) : null;
  return first !== null && uncounted.some((load) => load.name === first) ? first : name;
}

/**
 * Everything that is read off one run: per spot the idle and load reading with its doubt, settling, peak and K/W; the room and the
 * cooler's air over the load window; throttling, performance, clock, fan, noise and power (methods §§1 to 4).
 *
 * Readings are means over the last `windowS` of a phase, or over the window that the tester chose for it, spikes left out; rise is
 * taken sample by sample. What is said of the run as a whole is said of its last load; a load that was not there all along, or was
 * taken off in the middle, has no reading and stands under `uncounted`.
 *
 * @param record samples in seconds on the run's clock
 * @returns null in place of every reading for which there is too little data
 */
export function reviewRun(record: RunRecord, rules: ReadingRules = DEFAULT_READING_RULES): RunReview {
  const lastOf = (kind: PhaseKind) => [...record.phases].reverse().find((phase) => phase.kind === kind) ?? null;
  const uncounted = uncountedOf(record);
  const counts = (phase: RunPhase | null) => phase !== null && !uncounted.some((load) => record.phases[load.phase] === phase);
  const [idle, last] = [lastOf('idle-soak'), lastOf('load')];
  const load = counts(last) ? last : null;
  const air = airOf(record.room, record.intake ?? null);
  const read = ({ series, byHand }: RunRecord['spots'][number], phase: RunPhase) => {
    const asked = toRead(record, phase, rules);
    return byHand ? readHandPhase(series, record.room, asked, rules, byHand.resolutionK) : readPhase(series, air, asked, rules);
  };
  const window = load && toRead(record, load, rules).window;
  const outputs = outputsIn(record, window);
  const spots = record.spots.map((spot) => {
    const loadReading = load && read(spot, load);
    return { spotId: spot.id, idle: idle && read(spot, idle), load: loadReading, heatPath: heatPathOf(loadReading, outputs.power) };
  });
  const room = record.room && window ? reviewRoom(record.room, window) : null;
  const several = record.phases.flatMap((phase, i) => (phase.kind === 'load' && counts(phase) ? [{ phase, i }] : []));
  return {
    methodVersion: METHOD_VERSION,
    spots,
    room,
    air: reviewAir(record, room, window),
    throttle: reviewThrottling(record, load),
    goneShare: goneShare(record.performance, load),
    ...outputs,
    utilisationPercent: meanIn(record.utilisation, window)?.value ?? null,
    besides: besidesIn(record, window),
    fanMovedShare: load && record.fan && fanMoved(record.fan, load),
    loadS: load ? load.endS - load.startS : null,
    loadEndedBy: load?.endedBy ?? null,
    uncounted,
    atRest: idle && outputsIn(record, toRead(record, idle, rules).window),
    loads: (several.length > 1 || load === null ? several : []).map(({ phase, i }): LoadReview => {
      const { window: inPhase } = toRead(record, phase, rules);
      return {
        phase: i,
        name: nameOf(phase, uncounted),
        startS: phase.startS,
        endS: phase.endS,
        endedBy: phase.endedBy,
        spots: record.spots.map((spot, k) => ({ spotId: spot.id, reading: phase === load ? spots[k]!.load : read(spot, phase) })),
        room: record.room && reviewRoom(record.room, inPhase),
        besides: besidesIn(record, inPhase),
        ...outputsIn(record, inPhase),
      };
    }),
    locks: record.locks.flatMap(({ name, unit, value, tolerance, series }): LockReview[] => {
      const watch = load && orNull(() => watchLock(series, { value, tolerance }, { startS: load.startS, endS: load.endS }));
      return watch ? [{ name, unit, lock: { value, tolerance }, watch }] : [];
    }),
  };
}
