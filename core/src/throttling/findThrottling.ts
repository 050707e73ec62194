import { InsufficientDataError, requireFinite, requirePositive } from '../errors.ts';
import { assertSeries, assertWindow, lowerBound, medianInPlace, slice, usable, type Series, type Window } from '../series/series.ts';

export type Limiter = 'thermal' | 'power' | 'voltage-or-clock-cap' | 'load' | 'unknown';

export interface ThrottleEpisode {
  startS: number;
  endS: number;
  /** Mean fraction of the reference performance lost over the episode, 0..1. */
  depth: number;
  limiter: Limiter;
  temperatureAtOnsetC: number | null;
}

export interface ThrottleReport {
  /** Un-throttled performance level found, same unit as `performance`. */
  reference: number;
  episodes: ThrottleEpisode[];
  /** From window start. */
  timeToFirstS: number | null;
  /** 0..1 of the window, merged episodes. */
  fractionOfTime: number;
  /** 0..1, integrated over the window. */
  performanceLost: number;
}

export interface ThrottleInput {
  performance: Series;
  load: Window;
  temperature?: Series;
  limitC?: number;
  power?: Series;
  powerCapW?: number;
  utilisation?: Series;
  /** Default 0.03. */
  minDepth?: number;
  /** Default 5. */
  minDurationS?: number;
  /** Replaces the search for the reference level. */
  referenceHint?: number;
}

/** A temperature this close to its limit counts as at the limit, K (methods §4). */
const AT_LIMIT_K = 1.5;
/** A power within this share of its cap counts as pinned. */
const PINNED = 0.02;
/** Below this a part was not asked to work, percent. */
const BUSY_PERCENT = 95;

/**
 * Upper mode of the early performance: the highest level at which a fair share of the samples lie. Robust where the maximum
 * is not: a short boost or a glitch above the level does not count.
 */
function upperMode(values: Float64Array): number {
  const sorted = values.slice().sort();
  const top = sorted[sorted.length - 1]!;
  const bottom = sorted[0]!;
  // Half-width of a level: two percent of the largest, so that ordinary jitter of a clock or a transfer rate is one level.
  const halfWidth = 0.02 * Math.max(Math.abs(top), Math.abs(bottom));
  if (halfWidth === 0) return 0;
  const inReach = (level: number) => sorted.subarray(firstAtLeast(sorted, level - halfWidth), firstAbove(sorted, level + halfWidth));
  const enough = Math.max(2, 0.15 * sorted.length);
  for (let i = sorted.length - 1; i >= 0; i--) {
    const near = inReach(sorted[i]! - halfWidth);
    if (near.length < enough) continue;
    const centre = medianInPlace(near.slice());
    return medianInPlace(inReach(centre).slice());
  }
  return medianInPlace(sorted);
}

const firstAtLeast = (sorted: Float64Array, value: number) => lowerBound(sorted, value);
function firstAbove(sorted: Float64Array, value: number): number {
  let i = lowerBound(sorted, value);
  while (i < sorted.length && sorted[i]! <= value) i++;
  return i;
}

function median(series: Series, window: Window): number | null {
  const { y } = usable(slice(series, window));
  return y.length === 0 ? null : medianInPlace(y.slice());
}

/** Linear interpolation at `time`; the nearest end value outside the record; null where nothing is usable. */
function interpolate(series: Series, time: number): number | null {
  const { t, y } = usable(series);
  if (t.length === 0) return null;
  const next = lowerBound(t, time);
  if (next === 0) return y[0]!;
  if (next === t.length) return y[next - 1]!;
  const share = (time - t[next - 1]!) / (t[next]! - t[next - 1]!);
  return y[next - 1]! + share * (y[next]! - y[next - 1]!);
}

interface Dip {
  startS: number;
  endS: number;
  lowS: number; // time actually spent below the threshold
}

/** Stretches below the threshold; dips closer together than `joinS` are one. A sample holds until the next one. */
function findDips(performance: Series, threshold: number, endOfLoadS: number, joinS: number): Dip[] {
  const { t, y } = performance;
  const dips: Dip[] = [];
  for (let i = 0; i < t.length; i++) {
    if (y[i]! >= threshold) continue;
    const until = i + 1 < t.length ? t[i + 1]! : endOfLoadS;
    const last = dips[dips.length - 1];
    if (last && t[i]! - last.endS < joinS) {
      last.endS = until;
      last.lowS += until - t[i]!;
    } else {
      dips.push({ startS: t[i]!, endS: until, lowS: until - t[i]! });
    }
  }
  return dips;
}

/** Work that needs a moment to get up to speed is not throttled: the dip at the very start counts only if speed never came. */
function dropRampUp(dips: Dip[], load: Window, graceS: number): Dip[] {
  const first = dips[0];
  return first && first.startS - load.startS <= 1e-9 + graceS / 2 && first.endS - load.startS <= graceS ? dips.slice(1) : dips;
}

/** Mean of 1 − performance/reference over the episode, each sample held until the next. */
function meanLoss(performance: Series, episode: Window, reference: number): number {
  const { t, y } = slice(performance, episode);
  let lost = 0;
  for (let i = 0; i < t.length; i++) {
    const until = i + 1 < t.length ? t[i + 1]! : episode.endS;
    lost += (1 - y[i]! / reference) * (until - t[i]!);
  }
  return Math.min(1, Math.max(0, lost / (episode.endS - episode.startS)));
}

function workRanOut(utilisation: Series, episode: Window, leadS: number): boolean {
  const during = median(utilisation, episode);
  const before = median(utilisation, { startS: episode.startS - 6 * leadS, endS: episode.startS - leadS });
  if (during === null || during >= BUSY_PERCENT || (before !== null && before - during < 1)) return false;
  // "First": utilisation was already down when performance fell, or went down with it.
  const around = usable(slice(utilisation, { startS: episode.startS - leadS, endS: episode.startS + leadS }));
  return around.y.length === 0 || around.y.some((value) => value < BUSY_PERCENT);
}

function wasHot(temperature: Series, limitC: number, episode: Window, leadS: number): boolean {
  const { y } = usable(slice(temperature, { startS: episode.startS - leadS, endS: episode.endS }));
  return y.some((value) => value >= limitC - AT_LIMIT_K);
}

function isFlat(performance: Series, episode: Window): boolean {
  const level = median(performance, episode);
  const { y } = slice(performance, episode);
  if (level === null || level === 0 || y.length < 3) return false;
  const deviations = y.map((value) => Math.abs(value - level));
  return medianInPlace(deviations) <= 0.005 * Math.abs(level);
}

/** Evidence in the order of methods §4: load, thermal, power, ceiling. */
function findLimiter(input: ThrottleInput, performance: Series, episode: Window, leadS: number): Limiter {
  const { temperature, limitC, power, powerCapW, utilisation } = input;
  if (!temperature && !power && !utilisation) return 'unknown';
  if (utilisation && workRanOut(utilisation, episode, leadS)) return 'load';
  if (temperature && limitC !== undefined && wasHot(temperature, limitC, episode, leadS)) return 'thermal';
  if (power && powerCapW !== undefined) {
    const drawn = median(power, episode);
    if (drawn !== null && Math.abs(drawn / powerCapW - 1) <= PINNED) return 'power';
  }
  return isFlat(performance, episode) ? 'voltage-or-clock-cap' : 'unknown';
}

/**
 * Sustained losses of performance (clock, throughput, score rate) during load, and what caused each.
 *
 * The reference is the upper mode in the first 60 s or tenth of the load, whichever is longer. An episode is a relative loss of
 * at least minDepth for at least minDurationS; dips closer together than 2·minDurationS are one episode, so that oscillation
 * around a limit is one episode; one that runs to the end of the load ends at load.endS.
 *
 * @param input.performance any unit in which more is better, shape [n]
 * @param input.load seconds, the stretch in which work was asked for
 * @param input.temperature °C with `limitC`; `power` W with `powerCapW`; `utilisation` percent. Without any of the three the
 *   limiter is 'unknown'
 * @throws InsufficientDataError fewer than two usable performance samples in the load
 * @throws RangeError malformed series or window, minDepth outside 0..1, minDurationS not above zero
 */
export function findThrottling(input: ThrottleInput): ThrottleReport {
  const { load, minDepth = 0.03, minDurationS = 5, referenceHint } = input;
  assertWindow(load, 'load');
  requirePositive(minDurationS, 'minDurationS');
  requirePositive(minDepth, 'minDepth');
  if (minDepth >= 1) throw new RangeError(`minDepth must be under 1, got ${minDepth}`);
  if (referenceHint !== undefined) requirePositive(referenceHint, 'referenceHint');
  if (input.limitC !== undefined) requireFinite(input.limitC, 'limitC');
  if (input.powerCapW !== undefined) requirePositive(input.powerCapW, 'powerCapW');
  for (const name of ['performance', 'temperature', 'power', 'utilisation'] as const) {
    const series = input[name];
    if (series) assertSeries(series, name);
  }
  const performance = usable(slice(input.performance, load));
  if (performance.t.length < 2) throw new InsufficientDataError('fewer than two usable performance samples in the load');
  const lengthS = load.endS - load.startS;
  const earlyS = Math.max(60, lengthS / 10);
  let early = slice(performance, { startS: load.startS, endS: load.startS + earlyS }).y;
  if (early.length < 2) early = performance.y;
  const reference = referenceHint ?? upperMode(early);
  if (!(reference > 0)) throw new InsufficientDataError('no performance above zero early in the load');

  const dips = findDips(performance, reference * (1 - minDepth), load.endS, 2 * minDurationS);
  const episodes = dropRampUp(dips, load, 2 * minDurationS)
    .filter((dip) => dip.lowS >= minDurationS)
    .map(({ startS, endS }): ThrottleEpisode => {
      const span = { startS, endS: Math.min(endS, load.endS) };
      return {
        ...span,
        depth: meanLoss(performance, span, reference),
        limiter: findLimiter(input, performance, span, minDurationS),
        temperatureAtOnsetC: input.temperature ? interpolate(input.temperature, startS) : null,
      };
    });
  const throttledS = episodes.reduce((sum, episode) => sum + episode.endS - episode.startS, 0);
  const lostS = episodes.reduce((sum, episode) => sum + episode.depth * (episode.endS - episode.startS), 0);
  return {
    reference,
    episodes,
    timeToFirstS: episodes.length > 0 ? episodes[0]!.startS - load.startS : null,
    fractionOfTime: lengthS > 0 ? throttledS / lengthS : 0,
    performanceLost: lengthS > 0 ? lostS / lengthS : 0,
  };
}
