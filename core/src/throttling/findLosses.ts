import { InsufficientDataError, requirePositive } from '../errors.ts';
import {
  assertSeries,
  assertWindow,
  lowerBound,
  medianInPlace,
  medianInterval,
  slice,
  usable,
  type Series,
  type Window,
} from '../series/series.ts';
import { normalCdf } from '../distributions/normal.ts';
import { levelsOf, type Blocks, type Level } from './levels.ts';
import { heatAt, medianIn, whyHeld, type Beside, type HeldBy } from './whyHeld.ts';

/** A stretch in which less was done, and by what it was held back. */
export interface Loss extends Window {
  /** Mean share of the work lost over the stretch, 0..1. */
  depth: number;
  limiter: HeldBy;
  temperatureAtOnsetC: number | null;
  /** Share of the stretch spent below, 0..1: less than 1 where it comes and goes. */
  duty: number;
}

export interface LossReport {
  /** Level of work that was kept up without a loss, unit of the work; of the last stretch where it was settled upon anew. */
  reference: number;
  /** Losses by heat, and those of which nobody could see whether heat it was. */
  episodes: Loss[];
  /** Losses by anything else. */
  heldBack: Loss[];
  /** From the load's beginning to the first of `episodes`, seconds; null without one. */
  timeToFirstS: number | null;
  /** Of the load, by `episodes`, 0..1. */
  fractionOfTime: number;
  performanceLost: number;
}

export interface LossInput extends Beside {
  /** Clock, throughput or score a second: more is better. */
  work: Series;
  load: Window;
  /** Least share that counts; default 0.03. */
  minDepth?: number;
  /** Least time spent below, seconds; default 5. */
  minDurationS?: number;
}

/** What comes back within so many seconds has not ended: a part that goes in and out of it does so within a minute. */
const JOIN_S = 60;
/** A part gets up to speed, seconds. */
const RAMP_S = 10;
/** A boost is over by then, seconds. */
const BOOST_S = 100;
const MOST_BOOST = 0.3;
/** A fast cache gives more than this over what follows it. */
const LEAST_CACHE = 0.28;
/** Levels that last so long move what is taken for normal. */
const LASTS_S = 30;
/** A level is below another only by so many of its standard deviations. */
const SURE = 3;
/** Within so many seconds of its beginning a loss has to reach half of its depth, or it is a drift. */
const SHARP_S = 30;
/** A level is looked at for what comes and goes from so many blocks on, and for such a share of them. */
const COMES_BLOCKS = 10;
const COMES_SHARE = 0.15;
/** A drift of more than this without a temperature is no matter of warming through. */
const MOST_DRIFT = 0.1;

/** Work without dips that are too short to count: a collection of a second or two is not a level. */
function withoutShortDips(work: Series, minDepth: number, minDurationS: number): Series {
  const { t, y } = work;
  const level = medianInPlace(y.slice());
  const kept = { t: new Float64Array(t.length), y: new Float64Array(t.length) };
  let count = 0;
  const keep = (from: number, to: number) => {
    kept.t.set(t.subarray(from, to), count);
    kept.y.set(y.subarray(from, to), count);
    count += to - from;
  };
  let [near, until] = [level, -Infinity];
  for (let i = 0; i < t.length;) {
    if (t[i]! >= until) {
      until = t[i]! + JOIN_S;
      near = medianInPlace(y.slice(i, lowerBound(t, until)));
    }
    const least = near - Math.max(5 * minDepth * near, 0.1 * level);
    const isLow = y[i]! < least;
    const furthest = isLow ? t.length : lowerBound(t, until);
    let end = i + 1;
    while (end < furthest && y[end]! < least === isLow) end++;
    const lasted = (end < t.length ? t[end]! : t[t.length - 1]!) - t[i]!;
    if (!isLow || lasted >= minDurationS) keep(i, end);
    i = end;
  }
  return { t: kept.t.subarray(0, count), y: kept.y.subarray(0, count) };
}

/** Time below a level and the share of work lost against another, each sample held until the next. */
function lostIn(work: Series, { startS, endS }: Window, reference: number, threshold: number): { depth: number; lowS: number } {
  const { t, y } = slice(work, { startS, endS });
  let [lost, lowS] = [0, 0];
  for (let i = 0; i < t.length; i++) {
    const lasts = (i + 1 < t.length ? t[i + 1]! : endS) - t[i]!;
    lost += (1 - y[i]! / reference) * lasts;
    if (y[i]! < threshold) lowS += lasts;
  }
  return { depth: Math.min(1, Math.max(0, lost / Math.max(1e-9, endS - startS))), lowS };
}

/** A part that goes in and out of a loss for most of a load leaves no quiet stretch to tell noise by; its opening is one. */
const OPENING_S = 20;
const OPENING_SHARE = 1.06;

/**
 * What is kept up at the very beginning, where that lies far above every level that was found.
 *
 * @returns when it ends, seconds; null where the levels say it themselves
 */
function openingOf({ t, y }: Series, load: Window, reference: number): number | null {
  const early = lowerBound(t, load.startS + Math.max(60, (load.endS - load.startS) / 10));
  let [most, at] = [0, -1];
  for (let i = 0; i < early; i = Math.max(i + 1, lowerBound(t, t[i]! + OPENING_S / 8))) {
    const to = Math.max(i + 5, lowerBound(t, t[i]! + OPENING_S));
    if (to > t.length) break;
    // A level counts by what it hardly ever falls below.
    const sorted = y.slice(i, to).sort();
    const level = sorted[Math.floor(sorted.length / 10)]!;
    if (level > most) [most, at] = [level, i];
  }
  if (at < 0 || most < OPENING_SHARE * reference) return null;
  let end = at;
  for (let low = 0; end < t.length && low < 3; end++) low = y[end]! < 0.97 * most ? low + 1 : 0;
  return end < t.length ? t[end - 3]! : null;
}

/** The level that work is kept up at early in the load: the highest that lasts. */
function firstReference(levels: readonly Level[], load: Window): number {
  const early = load.startS + Math.max(60, (load.endS - load.startS) / 10);
  const lasting = levels.filter(({ startS, endS }) => startS < early && endS - startS >= LASTS_S / 2);
  return Math.max(...(lasting.length > 0 ? lasting : levels.slice(0, 1)).map((level) => level.mean));
}

const lasts = ({ startS, endS }: Level) => endS - startS >= LASTS_S;

/** One walk over the levels of a load, with what is taken for normal as it goes. */
class Walk {
  readonly losses: Loss[] = [];
  private reference: number;
  /** Between samples, seconds. */
  private readonly stepS: number;

  constructor(
    private readonly levels: readonly Level[],
    private readonly blocks: Blocks,
    private readonly work: Series,
    private readonly input: LossInput & { minDepth: number; minDurationS: number },
  ) {
    this.reference = firstReference(levels, input.load);
    this.stepS = medianInterval(work.t);
  }

  private isLow(level: Level): boolean {
    const { mean, u } = level;
    if (this.reference - mean <= SURE * u) return false;
    return mean < this.reference * (1 - this.input.minDepth) || this.comesAndGoes(level);
  }

  /** Lies below by its mean only a little, and for a fair share of the time by far more than noise would. */
  private comesAndGoes({ from, to, mean }: Level): boolean {
    const { y, sd } = this.blocks;
    const threshold = this.reference * (1 - this.input.minDepth);
    const byChance = sd > 0 ? normalCdf((threshold - mean) / sd) : 0;
    let below = 0;
    for (let i = from; i < to; i++) if (y[i]! < threshold) below++;
    return to - from >= COMES_BLOCKS && below / (to - from) - byChance > COMES_SHARE;
  }

  /** From one low level to where it has come back for longer than a moment. */
  private stretch(from: number): { last: number; window: Window } {
    let last = from;
    for (let k = from + 1; k < this.levels.length; k++) {
      if (this.isLow(this.levels[k]!)) last = k;
      else if (this.levels[k]!.endS - this.levels[last]!.endS >= JOIN_S) break;
    }
    return { last, window: { startS: this.levels[from]!.startS, endS: this.levels[last]!.endS } };
  }

  /** Work goes down within seconds where something steps in; where it takes minutes it drifts. */
  private isSharp({ startS, depth }: Loss): boolean {
    const before = medianIn(this.work, { startS: startS - SHARP_S, endS: startS - 2 });
    const soon = this.levels.filter((level) => level.startS >= startS && level.startS <= startS + SHARP_S);
    const after = Math.min(...soon.map((level) => level.mean));
    return before === null || 1 - after / before >= depth / 2;
  }

  /** What goes down for good while the part is cold was never there to stay: a boost, a fast cache, a drift as it warms through. */
  private isNewNormal(loss: Loss): boolean {
    const { load } = this.input;
    const heat = heatAt(this.input, loss);
    if (loss.limiter === 'thermal' || loss.limiter === 'load' || loss.limiter === 'vanished') return false;
    const back = (level: Level) => !this.isLow(level) && level.endS > loss.startS && lasts(level);
    const stays = !this.levels.some(back) && !this.levels.some((level) => level.startS >= loss.startS && this.comesAndGoes(level));
    if (!this.isSharp(loss)) return heat === 'unknown' ? loss.depth < MOST_DRIFT : loss.limiter !== 'power';
    if (!stays) return false;
    const early = loss.startS - load.startS <= BOOST_S && loss.depth <= MOST_BOOST;
    if (early) return heat !== 'at';
    // Power or a host that is busy all along would say otherwise.
    return heat !== 'unknown' && heat !== 'at' && loss.limiter !== 'power' && loss.depth >= LEAST_CACHE && this.losses.length === 0;
  }

  private lossOf(window: Window): Loss {
    const { load, minDepth } = this.input;
    const endS = Math.min(window.endS, load.endS);
    const { depth, lowS } = lostIn(this.work, { ...window, endS }, this.reference, this.reference * (1 - minDepth));
    const span = { startS: window.startS, endS, depth };
    const temperature = medianIn(this.input.temperature, { startS: window.startS - 5, endS: window.startS + 5 });
    return {
      ...span,
      limiter: whyHeld(this.work, this.input, span),
      temperatureAtOnsetC: temperature,
      duty: Math.min(1, lowS / Math.max(1e-9, endS - window.startS)),
    };
  }

  /** A level that lasts and is not low is what is normal from then on, but not where heat may be pressing it down little by little. */
  private follow(level: Level): void {
    if (!lasts(level)) return;
    const heat = heatAt(this.input, level);
    if (level.mean > this.reference || heat === 'cold') this.reference = level.mean;
  }

  run(): { losses: Loss[]; reference: number } {
    const { load, minDurationS } = this.input;
    for (let k = 0; k < this.levels.length; k++) {
      const level = this.levels[k]!;
      if (!this.isLow(level)) {
        this.follow(level);
        continue;
      }
      const { last, window } = this.stretch(k);
      if (window.endS - load.startS <= RAMP_S) continue;
      const loss = this.lossOf(window);
      const lowS = loss.duty * (loss.endS - loss.startS);
      // Getting up to speed, in samples too far apart to see it.
      const starts = loss.startS - load.startS < RAMP_S && lowS <= Math.max(RAMP_S, this.stepS);
      if (lowS < minDurationS || starts) {
        k = last;
        continue;
      }
      // The step itself may fall within a block, which is neither here nor there.
      if (this.isNewNormal(loss)) this.reference = (this.levels.slice(k, last + 1).find(lasts) ?? level).mean;
      else {
        this.losses.push(loss);
        k = last;
      }
    }
    return { losses: this.losses, reference: this.reference };
  }
}

/** Stretches of the load in which the part sent nothing while other channels went on. */
function goneFrom({ work, load, temperature, power, utilisation }: LossInput): Window[] {
  const { t } = usable(slice(work, load));
  const others = [temperature, power, utilisation].flatMap((series) => (series ? [usable(slice(series, load)).t] : []));
  const found: Window[] = [];
  const usual = t.length > 1 ? (t[t.length - 1]! - t[0]!) / (t.length - 1) : Infinity;
  for (let i = 0; i < t.length; i++) {
    const until = i + 1 < t.length ? t[i + 1]! : load.endS;
    if (until - t[i]! < Math.max(10, 10 * usual)) continue;
    if (others.some((times) => lowerBound(times, until) - lowerBound(times, t[i]! + usual) > 3)) found.push({ startS: t[i]!, endS: until });
  }
  return found;
}

/**
 * Losses of work under load, and by what: heat by itself, and everything else beside it.
 *
 * Work is cut into levels that noise and its correlation do not explain; a level that lies `minDepth` below what was kept up, and
 * surely so, is a loss, one that comes and goes within a minute a single one. A boost of the first minute, a fast cache that runs
 * out, a drift as the part warms through and dips of a second or two are none: what the part keeps up from then on is what later
 * losses are held against.
 *
 * @param input.work any unit, shape [n]; °C, W and percent beside it
 * @throws InsufficientDataError fewer than two usable samples of work in the load, or none above zero
 * @throws RangeError malformed series or window
 */
export function findLosses(input: LossInput): LossReport {
  const { load, minDepth = 0.03, minDurationS = 5 } = input;
  assertWindow(load, 'load');
  requirePositive(minDepth, 'minDepth');
  requirePositive(minDurationS, 'minDurationS');
  assertSeries(input.work, 'work');
  const work = usable(slice(input.work, load));
  if (work.t.length < 2) throw new InsufficientDataError('fewer than two usable samples of work in the load');
  const steady = withoutShortDips(work, minDepth, minDurationS);
  if (steady.t.length < 2) throw new InsufficientDataError('no level of work lasts in the load');
  const first = levelsOf(steady, load.endS);
  const openingS = openingOf(steady, load, firstReference(first.levels, load));
  const { levels, blocks } = openingS === null ? first : levelsOf(steady, load.endS, openingS);
  if (!levels.some((level) => level.mean > 0)) throw new InsufficientDataError('no work above zero in the load');
  const { losses, reference } = new Walk(levels, blocks, steady, { ...input, minDepth, minDurationS }).run();
  const gone = goneFrom(input).map((window): Loss => ({ ...window, depth: 1, limiter: 'vanished', temperatureAtOnsetC: null, duty: 1 }));
  const seen = input.temperature !== undefined && input.limitC !== undefined;
  const byHeat = ({ limiter }: Loss) =>
    limiter === 'thermal' || (!seen && limiter !== 'load' && limiter !== 'power' && limiter !== 'vanished');
  const episodes = losses.filter(byHeat);
  const lengthS = Math.max(1e-9, load.endS - load.startS);
  const total = (of: (loss: Loss) => number) => episodes.reduce((sum, loss) => sum + of(loss), 0);
  return {
    reference,
    episodes,
    heldBack: [...losses.filter((loss) => !byHeat(loss)), ...gone].sort((p, q) => p.startS - q.startS),
    timeToFirstS: episodes.length > 0 ? episodes[0]!.startS - load.startS : null,
    fractionOfTime: total(({ startS, endS }) => endS - startS) / lengthS,
    performanceLost: total(({ startS, endS, depth }) => depth * (endS - startS)) / lengthS,
  };
}
