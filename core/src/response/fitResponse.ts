import type { Estimate } from '../estimate.ts';
import { ASSUMED_REPEATABILITY } from '../judge/figure/scatter.ts';
import type { Scatter } from '../judge/types.ts';
import { mean } from '../mean.ts';
import { binned, stepped, type Binned, type Law, type ResponseRecord, type Stepped } from './bins.ts';
import { bestOf, fitsByNeighbourLag, residualsOf, searchLags, type LagFit, type RestKnown, type Searched } from './lagSearch.ts';
import { neighbourOf, type Neighbour } from './neighbour.ts';

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
  /** What the part beside it brings; null where nobody recorded its power, or where that cannot be told from the part's own. */
  neighbour: Neighbour | null;
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

/** Doubt of the gain of the part's own power, of the first `k` lags: over all choices of lags, since the data tell lags only so well. */
function gainOf({ best, rivals, variance, alike }: Searched, k: number): { u: number; uRest: number; covariance: number } {
  const unit = variance * alike;
  const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
  let [weights, spread, within] = [0, 0, 0];
  const at = best.gains.length;
  const gain = sum(best.gains.slice(0, k));
  for (const rival of rivals) {
    const weight = Math.exp(-(rival.squares - best.squares) / (2 * unit));
    weights += weight;
    spread += weight * (sum(rival.gains.slice(0, k)) - gain) ** 2;
    within += weight * unit * sum(rival.inverse.slice(0, k).map((row) => sum(row.slice(0, k))));
  }
  return {
    u: Math.sqrt((spread + within) / weights),
    uRest: Math.sqrt(unit * (best.inverse[at]?.[at] ?? 0)),
    covariance: unit * sum(best.inverse.slice(0, k).map((row) => row[at] ?? 0)),
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
  { powers, mostW, told, neighbourS }: { powers: readonly number[]; mostW: number; told: boolean; neighbourS: readonly number[] },
): Pick<SpotResponse, 'bend' | 'fan'> & { law: Law } {
  // Neither law rests on how finely lags are told apart.
  const few = taus.filter((_, i) => i % 2 === 0);
  const searched = (law: Law) =>
    searchLags(
      steps.map((record) => binned(record, few, law, neighbourS)),
      rest,
      { mostLags: 2, always: neighbourS.map((_, j) => few.length + j) },
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

const movedBy = (watts: readonly number[]): boolean => quantile(watts, 0.98) > LEAST_POWER_SPAN * Math.max(quantile(watts, 0.02), 1e-9);

/** The part beside it took more and less, in the runs or from one to the next. */
const neighbourMoved = (steps: readonly Stepped[]): boolean =>
  steps.every(({ neighbour }) => neighbour) && movedBy(pickedOf(steps, ({ neighbour }) => neighbour));

/** For how long a record shows what came of the largest change of its neighbour's power, s; none where that stood still. */
function seenAfterS({ neighbour, stepS }: Stepped): number {
  const watts = [...neighbour!].filter((value) => !Number.isNaN(value));
  if (!movedBy(watts)) return 0;
  const all = watts.reduce((sum, value) => sum + value, 0);
  let [before, most, at] = [0, -1, 0];
  for (let k = 1; k < watts.length; k++) {
    before += watts[k - 1]!;
    // What the two halves' means differ by, by how many there are of each: where a step is told best.
    const by = (before - (all * k) / watts.length) ** 2 / (k * (watts.length - k));
    if (by > most) [most, at] = [by, k];
  }
  return (watts.length - at) * stepS;
}

/** Lags of a part beside it that its runs can tell: a slower one than a share of the time after its power changed shows its beginning only. */
function neighbourLags(steps: readonly Stepped[], taus: readonly number[]): number[] {
  const most = SLOWEST * Math.max(...steps.map(seenAfterS));
  return taus.filter((tauS, i) => i === 0 || tauS <= most);
}

/**
 * How late a part beside it reaches the spot: looked for over those lags that can be told, with the part's own beside it. Where its power
 * stood still in every run nothing tells how late, and a slow lag would be taken for what was left of the time before: the shortest then.
 */
function neighbourLag(
  steps: readonly Stepped[],
  taus: readonly number[],
  told: readonly number[],
  rest: RestKnown,
  law: Law,
): number | null {
  if (told.length === 1) return told[0]!;
  const few = taus.filter((_, i) => i % 2 === 0);
  const found = told.flatMap((tauS) => {
    const bins = steps.map((record) => binned(record, few, law, [tauS]));
    const one = searchLags(bins, rest, { mostLags: 2, always: [few.length] });
    return one ? [{ tauS, squares: one.best.squares }] : [];
  });
  return found.length === 0 ? null : found.reduce((least, one) => (one.squares < least.squares ? one : least)).tauS;
}

/** A fit of records on even steps, with what a part beside it brings or without; null where none fits, or where that cannot be told. */
function fittedTo(steps: readonly Stepped[], { drivenBy, scatter: known }: ResponseOptions, withNeighbour: boolean): SpotResponse | null {
  const powers = pickedOf(steps, ({ power }) => power);
  const [leastW, mostW] = [quantile(powers, 0.02), quantile(powers, 0.98)];
  if (!(mostW > 0)) return null;
  const told = mostW > LEAST_POWER_SPAN * Math.max(leastW, 1e-9);
  // Watts that are nought heat nothing; a load that is nought leaves the part to its idle, whatever that takes.
  const rest: RestKnown = !told ? 'none' : drivenBy === 'load' ? 'open' : 'small';
  const taus = gridOf(steps);
  const plain: Law = { fan: null, bend: { by: 0, atW: mostW } };
  const slow = withNeighbour ? neighbourLags(steps, taus) : [];
  const first = withNeighbour ? neighbourLag(steps, taus, slow, rest, plain) : null;
  if (withNeighbour && first === null) return null;
  const { bend, fan, law } = lawsOf(steps, taus, rest, { powers, mostW, told, neighbourS: first === null ? [] : [first] });
  const binsOf = (tausS: readonly number[], neighbourS: readonly number[]) => steps.map((record) => binned(record, tausS, law, neighbourS));
  const always = (tausS: readonly number[]) => ({ always: withNeighbour ? [tausS.length] : [] });
  const coarse = searchLags(binsOf(taus, first === null ? [] : [first]), rest, always(taus));
  if (!coarse) return null;
  const ownLags = coarse.best.lags.filter((lag) => lag < taus.length);
  const lates = slow.length > 1 ? fitsByNeighbourLag(binsOf(taus, slow), rest, ownLags) : [];
  const neighbourS = lates.length === 0 ? first : slow[bestOf(lates).lags.at(-1)! - taus.length]!;
  const fine = [...new Set(ownLags.flatMap((lag) => FINE.map((by) => taus[lag]! * by)))].sort((p, q) => p - q);
  const bins = binsOf(fine, neighbourS === null ? [] : [neighbourS]);
  const found = searchLags(bins, rest, always(fine));
  if (!found) return null;
  const { best, variance, dof } = found;
  const own = best.lags.filter((lag) => lag < fine.length);
  const wide = gainOf(coarse, ownLags.length);
  const close = gainOf(found, own.length);
  const scatter = scatterOf(offsets(bins, best), known ?? ASSUMED_REPEATABILITY);
  const brought = withNeighbour ? neighbourOf(bins, found, own.length, scatter, lates) : null;
  if (withNeighbour && !brought) return null;
  const airs = pickedOf(steps, ({ air }) => air);
  const theirs = brought ? pickedOf(steps, ({ neighbour }) => neighbour) : [];
  return {
    lags: own.map((lag, j) => ({ tauS: fine[lag]!, gainKPerW: best.gains[j]! })),
    gain: { value: best.gains.slice(0, own.length).reduce((a, b) => a + b, 0), u: Math.max(wide.u, close.u), dof },
    rest: { value: best.restK, u: close.uRest, dof },
    covariance: close.covariance,
    fan,
    neighbour: brought && {
      ...brought,
      tauS: neighbourS!,
      leastW: quantile(theirs, 0.02),
      mostW: quantile(theirs, 0.98),
      usualW: mean(pickedOf(steps, ({ neighbour }) => neighbour, true)),
    },
    power: { leastW, mostW, told },
    bend,
    air: { leastC: quantile(airs, 0), mostC: quantile(airs, 1) },
    scatter,
    noiseK: Math.sqrt(variance),
    misfit: Math.sqrt(variance) > Math.max(MOST_NOISE_K, MOST_NOISE * spanOf(bins)),
    runs: steps.length,
    longestS: Math.max(...steps.map(({ stepS, rise }) => stepS * rise.length)),
  };
}

/**
 * How a spot answers power, from whole traces whatever the load did: T = air + rest + Σ R_j·(P lagged by τ_j), with up to three lags, none of
 * whose gains is below zero; what is left of the state before each record is fitted with it. Lags are searched over a grid, their number
 * chosen by the Bayesian criterion over as many bins as count as independent; the doubt of the gain holds all choices of lags that the data
 * allow. Where speeds differ the resistance's power of the speed is fitted too, and where loads differ by how much more
 * than in proportion the rise grows. Where every run recorded the power of a part beside it, and that was another now and then, what it
 * brings is fitted with the rest, through a lag of its own.
 *
 * This is the part of a thermal network that heat put in at known places and temperatures read at another can tell: where the heat goes on
 * its way cannot be told from it.
 *
 * @param records equal runs of one set-up; series in s, °C, W and 1/min
 * @returns null where no record lasts for four minutes or no sum of lags fits
 */
export function fitResponse(records: readonly ResponseRecord[], options: ResponseOptions = {}): SpotResponse | null {
  const steps = records.flatMap((record) => stepped(record) ?? []);
  if (steps.length === 0) return null;
  return (neighbourMoved(steps) ? fittedTo(steps, options, true) : null) ?? fittedTo(steps, options, false);
}
