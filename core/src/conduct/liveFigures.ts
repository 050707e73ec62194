import { meanWithin } from '../series/meanWithin.ts';
import { usable, type Series } from '../series/series.ts';
import type { BoundedSettling } from '../settling/boundSettling.ts';
import type { HeldBy } from '../throttling/whyHeld.ts';
import { knownWithinK, type RecipePhase } from './recipe.ts';

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
  /** Where a phase waits until it can be read: half of the 95 % interval of where its least known spot will settle, K; null elsewhere, and while nothing can be said. */
  knownWithinK: number | null;
  loadPercent: number;
  roomC: number | null;
  roomMinC: number | null;
  roomMaxC: number | null;
  /** Work done now, in the channel's unit. */
  throughput: { value: number; unit: string } | null;
  powerW: number | null;
  /** Held back by heat, or by nobody knows what: its temperature is no longer free. */
  throttling: boolean;
  /** What holds it back at this moment; null where nothing does. */
  limiter: HeldBy | null;
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
  /** What holds the part back (`heldNow`), as it was last judged. */
  heldBy: HeldBy | null;
  locks: LiveLock[];
  vanished: boolean;
  shows: { spotId: string; valueC: number | null }[];
  /** What was last judged of a spot in this phase; null where nothing yet. */
  settlingOf: (spotId: string) => BoundedSettling | null;
  spots: { spotId: string; limitC: number; series: Series; byHand?: boolean }[];
  rigLost: boolean;
}

function lastOf(series: Series | null): number | null {
  if (!series) return null;
  for (let i = series.y.length - 1; i >= 0 && i > series.y.length - 30; i--) if (!Number.isNaN(series.y[i]!)) return series.y[i]!;
  return null;
}

/** Of the spots that a sensor reads, half of the widest interval of a settled value, K. */
function leastKnown({ spots, settlingOf }: LiveInput): number | null {
  const within = spots.filter(({ byHand }) => !byHand).map(({ spotId }) => settlingOf(spotId));
  const known = within.map((settling) => (settling === null ? null : knownWithinK(settling)));
  return known.length === 0 || known.includes(null) ? null : Math.max(...(known as number[]));
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
      idleC: input.idleEnd ? meanWithin(series, { startS: input.idleEnd.fromS, endS: input.idleEnd.toS }) : null,
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
  // Without a load there is nothing to be held back.
  const limiter = phase.loadPercent === 0 ? null : input.heldBy;
  const mark = (phase.marksMin ?? []).find((minute) => 60 * minute > elapsedS);
  const work = lastOf(input.throughput);
  return {
    nowS,
    phaseIndex: input.phaseIndex,
    phaseElapsedS: elapsedS,
    phaseMostLeftS: mostLeftS,
    settledInS: slowestS,
    knownWithinK: phase.mode === 'until-read' ? leastKnown(input) : null,
    loadPercent: phase.loadPercent,
    roomC,
    roomMinC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.min(p, q), Infinity) : null,
    roomMaxC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.max(p, q), -Infinity) : null,
    throughput: work === null || input.vanished ? null : { value: work, unit: input.throughputUnit },
    powerW: lastOf(input.power),
    throttling: limiter === 'thermal' || limiter === 'unknown',
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
