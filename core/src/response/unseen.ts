import { studentCoverage } from '../distributions/studentT.ts';
import { binned, stepped, type ResponseRecord } from './bins.ts';
import { fitResponse, nextRunSd, type ResponseOptions, type SpotResponse } from './fitResponse.ts';
import { curveOf } from './lagSearch.ts';

/** How well a response fitted to the other runs foretold one that it had not seen, from what that run's power, air and fan did. */
export interface Unseen {
  id: string;
  /** Read less foretold over the last fifth, K. */
  offK: number;
  /** Half of the 95 % band there, K. */
  bandK: number;
  /** Share of its time within the band, 0..1. */
  within: number;
}

/** Half of the 95 % band about a fit at so many watts, its own and beside it, K: noise, scatter between runs, and the gain's own doubt. */
function band({ gain, rest, covariance, neighbour, scatter, noiseK, runs }: SpotResponse, powerW: number, neighbourW: number): number {
  const own = (gain.u * powerW) ** 2 + rest.u ** 2 + 2 * covariance * powerW;
  const other = neighbour
    ? (neighbour.gain.u * neighbourW) ** 2 + 2 * neighbourW * (powerW * neighbour.covariance.ofGain + neighbour.covariance.ofRest)
    : 0;
  const fit = Math.max(0, own + other);
  return studentCoverage(0.95, Math.min(scatter.dof, gain.dof)) * Math.hypot(noiseK, nextRunSd(scatter.sd, runs), Math.sqrt(fit));
}

/** Reads one record by a response that was fitted to others; null where it is too short, or says nothing of the part beside it where the fit does. */
export function readUnseen(response: SpotResponse, record: ResponseRecord): Unseen | null {
  const steps = stepped(record);
  if (!steps) return null;
  const fan = response.fan && steps.fan ? { n: response.fan.exponent.value, atRpm: response.fan.atRpm } : null;
  const bins = binned(
    steps,
    response.lags.map(({ tauS }) => tauS),
    { fan, bend: { by: response.bend.value, atW: response.power.mostW } },
    response.neighbour ? [response.neighbour.tauS] : [],
  );
  const theirs = bins.lagged[bins.own];
  if (response.neighbour && !theirs) return null;
  const curve = curveOf(bins, {
    lags: bins.lagged.map((_, j) => j),
    gains: [...response.lags.map(({ gainKPerW }) => gainKPerW), ...(response.neighbour ? [response.neighbour.gain.value] : [])],
    restK: response.rest.value,
  });
  const off = bins.rise.map((value, k) => value - curve[k]!);
  const bands = bins.power.map((watts, k) => band(response, watts, theirs?.[k] ?? 0));
  const from = Math.floor(0.8 * bins.n);
  const tail = off.slice(from);
  return {
    id: record.id,
    offK: tail.reduce((sum, value) => sum + value, 0) / tail.length,
    bandK: Math.max(...bands.slice(from)),
    within: off.reduce((sum, value, k) => sum + (Math.abs(value) <= bands[k]! ? 1 : 0), 0) / bins.n,
  };
}

/** Leaves out one run after the other and foretells it from the rest; nothing from a single run. */
export function foretoldUnseen(records: readonly ResponseRecord[], options: ResponseOptions = {}): Unseen[] {
  if (records.length < 2) return [];
  return records.flatMap((record) => {
    const response = fitResponse(
      records.filter((other) => other !== record),
      options,
    );
    return (response && readUnseen(response, record)) ?? [];
  });
}
