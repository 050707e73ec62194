import {
  assessSettling,
  findThrottling,
  InsufficientDataError,
  settlingTrace,
  slice,
  usable,
  type RecipePhase,
  type Series,
  type Settling,
} from '@red-ember/core';
import type { LiveSnapshot, LiveSpot, RunState } from '@red-ember/contract';

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
  spots: { spotId: string; limitC: number; series: Series }[];
  rigLost: boolean;
}

function settlingOf(spot: Series, room: Series | null, fromS: number, toS: number): Settling | null {
  try {
    return assessSettling(settlingTrace(slice(spot, { startS: fromS, endS: toS + 1e-6 }), room));
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
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

function isThrottling(input: SnapshotInput): boolean {
  if (!input.throughput || input.loadStartS === null || input.nowS - input.loadStartS < 20) return false;
  try {
    const { episodes } = findThrottling({ performance: input.throughput, load: { startS: input.loadStartS, endS: input.nowS } });
    const last = episodes.at(-1);
    return last !== undefined && input.nowS - last.endS < 10;
  } catch (error) {
    if (error instanceof InsufficientDataError) return false;
    throw error;
  }
}

/** What the run page shows of a run at one moment, from the samples so far. */
export function takeSnapshot(input: SnapshotInput): LiveSnapshot {
  const { nowS, phase, phaseStartS, room } = input;
  const elapsedS = nowS - phaseStartS;
  const roomC = lastOf(room);
  const roomValues = room ? usable(room).y : new Float64Array();
  const spots = input.spots.map(({ spotId, limitC, series }): LiveSpot => {
    const valueC = lastOf(series);
    const settling = elapsedS > 60 ? settlingOf(series, room, phaseStartS, nowS) : null;
    const remaining = settling?.remainingK ?? null;
    const knows = settling !== null && settling.etaS !== null;
    return {
      spotId,
      valueC,
      riseK: valueC !== null && roomC !== null ? valueC - roomC : null,
      idleC: input.idleEnd ? meanOf(series, input.idleEnd.fromS, input.idleEnd.toS) : null,
      headroomK: valueC !== null ? limitC - valueC : null,
      etaS: settling?.etaS ?? null,
      settlesAtC: knows && valueC !== null ? valueC + (remaining?.value ?? 0) : null,
      etaDoubtS:
        knows && remaining && settling.etaS! > 0 ? ((settling.etaS! * remaining.u) / Math.max(0.1, Math.abs(remaining.value))) * 2 : null,
    };
  });
  const etas = spots.map((spot) => spot.etaS);
  const mostS = phase.mode === 'fixed' ? phase.durationS : phase.capS;
  return {
    runId: input.runId,
    state: input.state,
    nowS,
    phaseIndex: input.phaseIndex,
    phaseElapsedS: elapsedS,
    phaseMostLeftS: Math.max(0, mostS - elapsedS),
    settledInS:
      phase.mode === 'until-settled' && etas.length > 0 && etas.every((eta) => eta !== null) ? Math.max(...(etas as number[])) : null,
    loadPercent: phase.loadPercent,
    roomC,
    roomMinC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.min(p, q), Infinity) : null,
    roomMaxC: roomValues.length > 0 ? roomValues.reduce((p, q) => Math.max(p, q), -Infinity) : null,
    throughputMBps: lastOf(input.throughput),
    throttling: isThrottling(input),
    rigLost: input.rigLost,
    spots,
  };
}
