import { InsufficientDataError } from '../errors.ts';
import { mean } from '../mean.ts';
import { slice, usable, type Series } from '../series/series.ts';
import type { BoundedSettling } from '../settling/boundSettling.ts';
import { findThrottling, type Limiter } from '../throttling/findThrottling.ts';
import type { RecipePhase } from './recipe.ts';

export interface LiveSpot {
  spotId: string;
  valueC: number | null;
  /** When it was typed, for a spot that is read by hand; null for others. */
  readAtS: number | null;
  riseK: number | null;
  idleC: number | null;
  headroomK: number | null;
  /** Seconds until it is settled by the fit; 0 when settled; null when it cannot be said. */
  etaS: number | null;
  settlesAtC: number | null;
  etaDoubtS: number | null;
}

/** A lock that a channel watches, as it stands now. */
export interface LiveLock {
  name: string;
  unit: string;
  value: number;
  tolerance: number;
  now: number | null;
  /** When it left its tolerance, seconds of the run's clock; null while it holds. */
  leftAtS: number | null;
  /** Signed largest departure so far. */
  largestOff: number;
}

/** How a run stands at one moment: what its page shows while it goes on. */
export interface LiveFigures {
  nowS: number;
  phaseIndex: number;
  phaseElapsedS: number;
  /** Longest the phase can still take, seconds. */
  phaseMostLeftS: number;
  /** Seconds until every spot is settled, for a phase that waits for it; null when it cannot be said. */
  settledInS: number | null;
  loadPercent: number;
  roomC: number | null;
  roomMinC: number | null;
  roomMaxC: number | null;
  /** Work done now, in the channel's unit. */
  throughput: { value: number; unit: string } | null;
  powerW: number | null;
  throttling: boolean;
  /** What holds it back while it throttles. */
  limiter: Limiter | null;
  /** Every spot is settled: a phase of fixed length may be ended. */
  allSettled: boolean;
  /** By how many seconds the cap will come before the last spot settles; null where it will not. */
  capTooSoonS: number | null;
  locks: LiveLock[];
  /** Next minute of the phase at which something is read by hand, and in how many seconds; null where none is left. */
  nextMark: { minute: number; inS: number } | null;
  /** The part no longer answers. */
  vanished: boolean;
  /** What instruments in somebody's hand show at this moment, on a simulated bench. */
  shows: { spotId: string; valueC: number }[];
  /** The rig has gone quiet. */
  rigLost: boolean;
  spots: LiveSpot[];
}

export interface LiveInput {
  nowS: number;
  phaseIndex: number;
  phaseStartS: number;
  phase: RecipePhase;
  idleEnd: { fromS: number; toS: number } | null;
  loadStartS: number | null;
  room: Series | null;
  throughput: Series | null;
  throughputUnit: string;
  power: Series | null;
  powerCapW: number | null;
  utilisation: Series | null;
  /** Spot whose temperature throttles the part, with its point. */
  throttle: { id: string; throttleC: number | null } | null;
  locks: LiveLock[];
  vanished: boolean;
  shows: { spotId: string; valueC: number | null }[];
  /** What was last judged of a spot in this phase; null where nothing yet. */
  settlingOf: (spotId: string) => BoundedSettling | null;
  spots: { spotId: string; limitC: number; series: Series; byHand?: boolean }[];
  rigLost: boolean;
}

function meanOf(series: Series, fromS: number, toS: number): number | null {
  const { y } = usable(slice(series, { startS: fromS, endS: toS }));
  return y.length === 0 ? null : mean([...y]);
}

function lastOf(series: Series | null): number | null {
  if (!series) return null;
  for (let i = series.y.length - 1; i >= 0 && i > series.y.length - 30; i--) if (!Number.isNaN(series.y[i]!)) return series.y[i]!;
  return null;
}

/** Throttling at this moment, with what holds the part back; null where it is not. */
function throttlingNow(input: LiveInput): Limiter | null {
  const { loadStartS, nowS, throttle, phase } = input;
  // Without a load there is nothing to be held back.
  if (phase.loadPercent === 0 || !input.throughput || loadStartS === null || nowS - loadStartS < 20) return null;
  const temperature = input.spots.find((spot) => spot.spotId === throttle?.id)?.series;
  try {
    const { episodes } = findThrottling({
      performance: input.throughput,
      load: { startS: loadStartS, endS: nowS },
      ...(temperature && throttle?.throttleC != null ? { temperature, limitC: throttle.throttleC } : {}),
      ...(input.utilisation ? { utilisation: input.utilisation } : {}),
      ...(input.power && input.powerCapW !== null ? { power: input.power, powerCapW: input.powerCapW } : {}),
    });
    const last = episodes.at(-1);
    return last !== undefined && nowS - last.endS < 10 ? last.limiter : null;
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}

/** How a run stands at one moment, from the samples so far. */
export function liveFigures(input: LiveInput): LiveFigures {
  const { nowS, phase, phaseStartS, room } = input;
  const elapsedS = nowS - phaseStartS;
  const roomC = lastOf(room);
  const roomValues = room ? usable(room).y : new Float64Array();
  const spots = input.spots.map(({ spotId, limitC, series, byHand }): LiveSpot => {
    const valueC = lastOf(series);
    const settling = byHand ? null : input.settlingOf(spotId);
    const remains = settling?.remains ?? null;
    const knows = settling !== null && settling.etaS !== null;
    return {
      spotId,
      valueC,
      readAtS: byHand ? (series.t.at(-1) ?? null) : null,
      riseK: valueC !== null && roomC !== null ? valueC - roomC : null,
      idleC: input.idleEnd ? meanOf(series, input.idleEnd.fromS, input.idleEnd.toS) : null,
      headroomK: valueC !== null ? limitC - valueC : null,
      etaS: settling?.etaS ?? null,
      settlesAtC: knows && valueC !== null ? valueC + (remains?.bestK ?? 0) : null,
      etaDoubtS: knows && remains && settling.etaS! > 0 ? (remains.etaHighS - remains.etaLowS) / 2 : null,
    };
  });
  const etas = spots.filter((_, i) => !input.spots[i]!.byHand).map((spot) => spot.etaS);
  const mostS = phase.mode === 'fixed' ? phase.durationS : phase.capS;
  const mostLeftS = Math.max(0, mostS - elapsedS);
  const waits = phase.mode === 'until-settled' && etas.length > 0 && etas.every((eta) => eta !== null);
  const slowestS = waits ? Math.max(...(etas as number[])) : null;
  const limiter = throttlingNow(input);
  const mark = (phase.marksMin ?? []).find((minute) => 60 * minute > elapsedS);
  const work = lastOf(input.throughput);
  return {
    nowS,
    phaseIndex: input.phaseIndex,
    phaseElapsedS: elapsedS,
    phaseMostLeftS: mostLeftS,
    settledInS: slowestS,
    loadPercent: phase.loadPercent,
    roomC,
    roomMinC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.min(p, q), Infinity) : null,
    roomMaxC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.max(p, q), -Infinity) : null,
    throughput: work === null || input.vanished ? null : { value: work, unit: input.throughputUnit },
    powerW: lastOf(input.power),
    throttling: limiter !== null,
    limiter,
    allSettled: phase.kind === 'load' && etas.length > 0 && etas.every((eta) => eta === 0),
    capTooSoonS: slowestS !== null && slowestS > mostLeftS ? slowestS - mostLeftS : null,
    locks: input.locks.map(({ name, unit, value, tolerance, now, leftAtS, largestOff }) => ({
      name,
      unit,
      value,
      tolerance,
      now,
      leftAtS,
      largestOff,
    })),
    nextMark: mark === undefined ? null : { minute: mark, inS: 60 * mark - elapsedS },
    vanished: input.vanished,
    shows: input.shows.flatMap(({ spotId, valueC }) => (valueC === null ? [] : [{ spotId, valueC }])),
    rigLost: input.rigLost,
    spots,
  };
}
