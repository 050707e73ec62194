import {
  findThrottling,
  InsufficientDataError,
  slice,
  usable,
  type Limiter,
  type RecipePhase,
  type Series,
  type Settling,
} from '@red-ember/core';
import type { LiveLock, LiveSnapshot, LiveSpot, RunState } from '@red-ember/contract';

export interface SnapshotInput {
  runId: string;
  state: RunState;
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
  settlingOf: (spotId: string) => Settling | null;
  spots: { spotId: string; limitC: number; series: Series; byHand?: boolean }[];
  rigLost: boolean;
}

function meanOf(series: Series, fromS: number, toS: number): number | null {
  const { y } = usable(slice(series, { startS: fromS, endS: toS }));
  return y.length === 0 ? null : y.reduce((sum, value) => sum + value / y.length, 0);
}

function lastOf(series: Series | null): number | null {
  if (!series) return null;
  for (let i = series.y.length - 1; i >= 0 && i > series.y.length - 30; i--) if (!Number.isNaN(series.y[i]!)) return series.y[i]!;
  return null;
}

/** Throttling at this moment, with what holds the part back; null where it is not. */
function throttlingNow(input: SnapshotInput): Limiter | null {
  const { loadStartS, nowS, throttle } = input;
  if (!input.throughput || loadStartS === null || nowS - loadStartS < 20) return null;
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

/** What the run page shows of a run at one moment, from the samples so far. */
export function takeSnapshot(input: SnapshotInput): LiveSnapshot {
  const { nowS, phase, phaseStartS, room } = input;
  const elapsedS = nowS - phaseStartS;
  const roomC = lastOf(room);
  const roomValues = room ? usable(room).y : new Float64Array();
  const spots = input.spots.map(({ spotId, limitC, series, byHand }): LiveSpot => {
    const valueC = lastOf(series);
    const settling = byHand ? null : input.settlingOf(spotId);
    const remaining = settling?.remainingK ?? null;
    const knows = settling !== null && settling.etaS !== null;
    return {
      spotId,
      valueC,
      readAtS: byHand ? (series.t.at(-1) ?? null) : null,
      riseK: valueC !== null && roomC !== null ? valueC - roomC : null,
      idleC: input.idleEnd ? meanOf(series, input.idleEnd.fromS, input.idleEnd.toS) : null,
      headroomK: valueC !== null ? limitC - valueC : null,
      etaS: settling?.etaS ?? null,
      settlesAtC: knows && valueC !== null ? valueC + (remaining?.value ?? 0) : null,
      etaDoubtS:
        knows && remaining && settling.etaS! > 0 ? ((settling.etaS! * remaining.u) / Math.max(0.1, Math.abs(remaining.value))) * 2 : null,
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
    runId: input.runId,
    state: input.state,
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
