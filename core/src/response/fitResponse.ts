import type { Estimate } from '../estimate.ts';
import { ASSUMED_REPEATABILITY } from '../judge/figure/scatter.ts';
import type { Scatter } from '../judge/types.ts';
import { mean } from '../mean.ts';
import { binned, stepped, type Binned, type Law, type ResponseRecord, type Stepped } from './bins.ts';
import { residualsOf, searchLags, type LagFit, type RestKnown, type Searched } from './lagSearch.ts';

/** How a spot answers power: rise = rest + Σ gain·lagged power, with the fan at a stated speed. */
export interface SpotResponse {
  /** Ascending. */
  lags: { tauS: number; gainKPerW: number }[];
  /** Sum of all gains: K that one watt brings in the end. */
  gain: Estimate;
  /** Rise without any power, K: of neighbours and of what was not measured. */
  rest: Estimate;
  /** Of gain and rest, K²/W. */
  covariance: number;
  /** Resistance goes as speed^−exponent. Told by the runs where their speeds differ, guessed elsewhere. null where no speed was recorded. */
  fan: { exponent: Estimate; told: boolean; atRpm: number } | null;
  /** What the runs took. Where it hardly differs, what power does is not told by them. */
  power: { leastW: number; mostW: number; told: boolean };
  /** By how much more than in proportion the rise grows, as `bent` says, at the most power; 0 ± 0 where it was taken at one level. */
  bend: Estimate;
  air: { leastC: number; mostC: number };
  /** Between equal runs, K. */
  scatter: Scatter;
  /** What a bin differs from the fit by, K. */
  noiseK: number;
  /** It differs by more than a part that was left alone does: something else was changed in the runs, or between them. */
  misfit: boolean;
  runs: number;
  /** The longest record, s: slower lags than a third of it are known by their beginning only. */
  longestS: number;
}

export interface ResponseOptions {
  /** What the records hold as power: watts, or how far the load was on, in percent. Default watts. */
  drivenBy?: 'watts' | 'load';
  /** Scatter between equal runs as the bench knows it; what is assumed without history where left out. */
  scatter?: Scatter | null;
}

/** Lags lie so much apart when they are first looked for. */
const COARSE = 1.5;
/** Then between them. */
const FINE = [COARSE ** (-1 / 3), 1, COARSE ** (1 / 3)];
const SHORTEST_S = 3;
const LONGEST_S = 4 * 3600;
/** A lag slower than this share of the longest record shows its beginning only, which any of them fits. */
const SLOWEST = 0.6;
/** Powers nearer to each other do not tell what power does from what is there without it. */
const LEAST_POWER_SPAN = 1.3;
/** Speeds nearer to each other tell nothing of what speed does. */
const LEAST_SPEED_SPAN = 1.15;
const EXPONENTS = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8];
/** What takes less than this share of the most is no load. */
const LEAST_LOAD = 0.3;
/** Loads nearer to each other do not tell whether the rise grows in proportion. */
const LEAST_LEVEL_SPAN = 1.15;
const BENDS = [0, 0.15, 0.3, 0.5, 0.8, 1.2, 2];
const BEND_LEAST_U = 0.05;
/** Between a fan that does nothing and one whose air carries all: even from 0 to 0.8. Our own figure. */
const UNTOLD_EXPONENT: Estimate = { value: 0.4, u: 0.8 / Math.sqrt(12), dof: Infinity };
/** A speed's exponent is never known better than so. Our own figure. */
const EXPONENT_LEAST_U = 0.03;

/** A fit that misses by more of what the rise spans, and by more than a coarse sensor does, explains nothing. Our own figures. */
const MOST_NOISE = 0.06;
const MOST_NOISE_K = 1.5;

/** From the lowest to the highest rise, K. */
function spanOf(records: readonly Binned[]): number {
  const rises = records.flatMap(({ rise }) => [...rise]);
  return quantile(rises, 1) - quantile(rises, 0);
}

function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((p, q) => p - q);
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(share * (sorted.length - 1))))]!;
}

/** Every so-many-th value of all records, those under load alone where asked. */
function pickedOf(records: readonly Stepped[], of: (record: Stepped) => Float64Array | null, underLoad = false): number[] {
  const most = Math.max(...records.map(({ power }) => quantile([...power], 0.95)));
  return records.flatMap((record) => {
    const values = of(record);
    if (!values) return [];
    const every = Math.max(1, Math.floor(values.length / 500));
    const out: number[] = [];
    for (let k = 0; k < values.length; k += every)
      if (!Number.isNaN(values[k]!) && (!underLoad || record.power[k]! > 0.6 * most)) out.push(values[k]!);
    return out;
  });
}

function gridOf(records: readonly Stepped[]): number[] {
  const shortest = Math.max(SHORTEST_S, 2 * Math.max(...records.map(({ stepS }) => stepS)));
  const longest = Math.min(LONGEST_S, SLOWEST * Math.max(...records.map(({ stepS, rise }) => stepS * rise.length)));
  const taus = [shortest];
  while (taus.at(-1)! * COARSE <= longest) taus.push(taus.at(-1)! * COARSE);
  return taus;
}

/** Weighted mean and spread of the gain over all choices of lags, since the data tell lags only so well. */
function gainOf({ best, rivals, variance, alike }: Searched): { u: number; uRest: number; covariance: number } {
  const unit = variance * alike;
  const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
  let [weights, spread, within] = [0, 0, 0];
  const k = best.lags.length;
  const gain = sum(best.gains);
  for (const rival of rivals) {
    const weight = Math.exp(-(rival.squares - best.squares) / (2 * unit));
    weights += weight;
    spread += weight * (sum(rival.gains) - gain) ** 2;
    within += weight * unit * sum(rival.inverse.slice(0, k).map((row) => sum(row.slice(0, k))));
  }
  return {
    u: Math.sqrt((spread + within) / weights),
    uRest: Math.sqrt(unit * (best.inverse[k]?.[k] ?? 0)),
    covariance: unit * sum(best.inverse.slice(0, k).map((row) => row[k] ?? 0)),
  };
}

/** Of laws that are tried, the mean by what the squares say of each, and how far they let it lie. */
function lawOf(tried: readonly number[], least: number, searched: (value: number) => Searched | null): Estimate | null {
  const found = tried.flatMap((value) => {
    const one = searched(value);
    return one ? [{ value, one }] : [];
  });
  if (found.length < 3) return null;
  const best = found.reduce((first, next) => (next.one.best.squares < first.one.best.squares ? next : first)).one;
  const unit = best.variance * best.alike;
  const weights = found.map(({ one }) => Math.exp(-(one.best.squares - best.best.squares) / (2 * unit)));
  const all = weights.reduce((a, b) => a + b, 0);
  const value = found.reduce((sum, one, i) => sum + (weights[i]! / all) * one.value, 0);
  const variance = found.reduce((sum, one, i) => sum + (weights[i]! / all) * (one.value - value) ** 2, 0);
  return { value, u: Math.max(least, Math.sqrt(variance)), dof: Infinity };
}

/** What each run lies off the common fit under load, K. */
function offsets(records: readonly Binned[], fit: LagFit): number[] {
  return records.map((record) => {
    const residuals = residualsOf(record, fit);
    const most = quantile([...record.power], 0.95);
    const hot = [...residuals].filter((_, k) => record.power[k]! > 0.6 * most && k > record.n / 3);
    return mean(hot.length > 0 ? hot : [...residuals]);
  });
}

/** Between runs that were meant to be equal; few say little, so that what is known of the bench, or assumed of one without history, stands with them. */
function scatterOf(off: readonly number[], known: Scatter): Scatter {
  const dof = off.length - 1;
  const squares = off.reduce((sum, value) => sum + value ** 2, 0);
  if (known.dof === Infinity) return known;
  return { sd: Math.sqrt((squares + known.dof * known.sd ** 2) / (dof + known.dof)), dof: dof + known.dof };
}

/** What power and speed do beyond proportion, as far as the records tell it. */
function lawsOf(
  steps: readonly Stepped[],
  taus: readonly number[],
  rest: RestKnown,
  { powers, mostW, told }: { powers: readonly number[]; mostW: number; told: boolean },
): Pick<SpotResponse, 'bend' | 'fan'> & { law: Law } {
  // Neither law rests on how finely lags are told apart.
  const few = taus.filter((_, i) => i % 2 === 0);
  const searched = (law: Law) =>
    searchLags(
      steps.map((record) => binned(record, few, law)),
      rest,
      2,
    );
  const loads = powers.filter((watts) => watts > LEAST_LOAD * mostW);
  const bends = told && quantile(loads, 0.95) > LEAST_LEVEL_SPAN * quantile(loads, 0.05);
  const bend = bends ? lawOf(BENDS, BEND_LEAST_U, (by) => searched({ fan: null, bend: { by, atW: mostW } })) : null;
  const atBend = { by: bend?.value ?? 0, atW: mostW };
  const speeds = pickedOf(steps, ({ fan }) => fan, true).filter((value) => value > 0);
  const atRpm = speeds.length > 0 && steps.every(({ fan }) => fan) ? quantile(speeds, 0.5) : null;
  const moved = atRpm !== null && quantile(speeds, 0.95) > LEAST_SPEED_SPAN * quantile(speeds, 0.05);
  const exponent = moved ? lawOf(EXPONENTS, EXPONENT_LEAST_U, (n) => searched({ fan: { n, atRpm }, bend: atBend })) : null;
  return {
    bend: bend ?? { value: 0, u: 0, dof: Infinity },
    fan: atRpm === null ? null : { exponent: exponent ?? UNTOLD_EXPONENT, told: exponent !== null, atRpm },
    law: { fan: exponent && atRpm !== null ? { n: exponent.value, atRpm } : null, bend: atBend },
  };
}

/** How far one more run may lie from the fit to n of them, where equal runs scatter by `sd`: its own, and that of their mean. */
export const nextRunSd = (sd: number, n: number): number => sd * Math.sqrt(1 + 1 / n);

/**
 * How a spot answers power, from whole traces whatever the load did: T = air + rest + Σ R_j·(P lagged by τ_j), with up to three lags, none of
 * whose gains is below zero; what is left of the state before each record is fitted with it. Lags are searched over a grid, their number
 * chosen by the Bayesian criterion over as many bins as count as independent; the doubt of the gain holds all choices of lags that the data
 * allow. Where speeds differ the resistance's power of the speed is fitted too, and where loads differ by how much more
 * than in proportion the rise grows.
 *
 * This is the part of a thermal network that heat put in at one place and temperatures read at another can tell: where the heat goes on its
 * way cannot be told from it.
 *
 * @param records equal runs of one set-up; series in s, °C, W and 1/min
 * @returns null where no record lasts for four minutes or no sum of lags fits
 */
export function fitResponse(records: readonly ResponseRecord[], options: ResponseOptions = {}): SpotResponse | null {
  const steps = records.flatMap((record) => stepped(record) ?? []);
  if (steps.length === 0) return null;
  const powers = pickedOf(steps, ({ power }) => power);
  const [leastW, mostW] = [quantile(powers, 0.02), quantile(powers, 0.98)];
  if (!(mostW > 0)) return null;
  const told = mostW > LEAST_POWER_SPAN * Math.max(leastW, 1e-9);
  // Watts that are nought heat nothing; a load that is nought leaves the part to its idle, whatever that takes.
  const rest: RestKnown = !told ? 'none' : options.drivenBy === 'load' ? 'open' : 'small';
  const taus = gridOf(steps);
  const { bend, fan, law } = lawsOf(steps, taus, rest, { powers, mostW, told });
  const coarse = searchLags(
    steps.map((record) => binned(record, taus, law)),
    rest,
  );
  if (!coarse) return null;
  const fine = [...new Set(coarse.best.lags.flatMap((lag) => FINE.map((by) => taus[lag]! * by)))].sort((p, q) => p - q);
  const bins = steps.map((record) => binned(record, fine, law));
  const found = searchLags(bins, rest);
  if (!found) return null;
  const { best, variance, dof } = found;
  const wide = gainOf(coarse);
  const close = gainOf(found);
  const airs = pickedOf(steps, ({ air }) => air);
  return {
    lags: best.lags.map((lag, j) => ({ tauS: fine[lag]!, gainKPerW: best.gains[j]! })),
    gain: { value: best.gains.reduce((a, b) => a + b, 0), u: Math.max(wide.u, close.u), dof },
    rest: { value: best.restK, u: close.uRest, dof },
    covariance: close.covariance,
    fan,
    power: { leastW, mostW, told },
    bend,
    air: { leastC: quantile(airs, 0), mostC: quantile(airs, 1) },
    scatter: scatterOf(offsets(bins, best), options.scatter ?? ASSUMED_REPEATABILITY),
    noiseK: Math.sqrt(variance),
    misfit: Math.sqrt(variance) > Math.max(MOST_NOISE_K, MOST_NOISE * spanOf(bins)),
    runs: steps.length,
    longestS: Math.max(...steps.map(({ stepS, rise }) => stepS * rise.length)),
  };
}
