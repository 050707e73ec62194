import { lowerBound, medianInPlace, slice, usable, type Series, type Window } from '../series/series.ts';
import type { Limiter } from './findThrottling.ts';

/** What took work away: as in a single trace, or the part was gone. */
export type HeldBy = Limiter | 'vanished';

/** What was recorded beside the work, on one clock; all of it optional. */
export interface Beside {
  temperature?: Series;
  /** Throttling point of `temperature`, °C. */
  limitC?: number;
  power?: Series;
  powerCapW?: number;
  utilisation?: Series;
  clock?: Series;
}

/** At the limit for sure, and at it where the sensor may read so much too low, K. */
const AT_LIMIT_K = 1.5;
const SENSOR_OFF_K = 4;
/** A probe may sit beside the hottest place: this near the limit, heat shows by a temperature that stops rising and stays. */
const NEAR_LIMIT_K = 10;
/** A power within this share of its cap is held by it: meters differ. */
const PINNED = 0.04;
const BUSY_PERCENT = 95;
/** What was before a loss, and its beginning, seconds. */
const BEFORE_S = 60;
const ONSET_S = 30;
/** What goes down within this of the work went with it, seconds. */
const TOGETHER_S = 4;

export function medianIn(series: Series | undefined, window: Window): number | null {
  if (!series) return null;
  const { y } = usable(slice(series, window));
  return y.length === 0 ? null : medianInPlace(y.slice());
}

/** Median before a loss and over its beginning; null where one is missing. */
function across(series: Series | undefined, { startS, endS }: Window): { before: number; during: number } | null {
  const before = medianIn(series, { startS: startS - BEFORE_S, endS: startS - 2 });
  const during = medianIn(series, { startS: startS + 2, endS: Math.max(startS + 5, Math.min(endS, startS + ONSET_S)) });
  return before === null || during === null ? null : { before, during };
}

/** When a series passes halfway from what it was to what it becomes, and stays there for three samples; null where it does not. */
function passes(series: Series, { startS }: Window, { before, during }: { before: number; during: number }): number | null {
  const { t, y } = usable(slice(series, { startS: startS - ONSET_S, endS: startS + 2 * ONSET_S }));
  const halfway = (before + during) / 2;
  for (let i = 0; i + 2 < t.length; i++) if (y[i]! < halfway && y[i + 1]! < halfway && y[i + 2]! < halfway) return t[i]!;
  return null;
}

function hostWaited({ utilisation, clock }: Beside, loss: Window & { depth: number }, work: Series): boolean {
  const busy = across(utilisation, loss);
  if (!busy || busy.during >= BUSY_PERCENT) return false;
  const fell = 1 - busy.during / Math.max(busy.before, 1e-9);
  if (fell < Math.max(0.02, loss.depth / 2)) return false;
  // A part that slows itself down lowers its clock; one that waits does not.
  const ticks = across(clock, loss);
  if (ticks && 1 - ticks.during / ticks.before > loss.depth / 2) return false;
  const done = across(work, loss);
  const [idle, less] = [passes(utilisation!, loss, busy), done && passes(work, loss, done)];
  return idle === null || less === null || idle - less <= TOGETHER_S;
}

/** Power stands at its cap and did not fall with the work: a part that throttles draws less. */
function atPowerCap({ power, powerCapW }: Beside, loss: Window & { depth: number }): boolean {
  const drawn = across(power, loss);
  if (!drawn || powerCapW === undefined || Math.abs(drawn.during / powerCapW - 1) > PINNED) return false;
  return drawn.during / drawn.before - 1 > -0.5 * loss.depth - 0.005;
}

/** Highest temperature around the beginning of a loss, noise left out; null where none was read. */
function hottestAt(temperature: Series | undefined, { startS, endS }: Window): number | null {
  if (!temperature) return null;
  const { y } = usable(slice(temperature, { startS: startS - 10, endS: Math.max(startS + 10, Math.min(endS, startS + 2 * BEFORE_S)) }));
  if (y.length === 0) return null;
  const sorted = y.slice().sort();
  return sorted[Math.floor(0.9 * (sorted.length - 1))]!;
}

/** Rose until the loss began, and neither rises nor falls away after it: something holds it there. */
function heldThere(temperature: Series, { startS, endS }: Window): boolean {
  const over = (from: number, to: number) => medianIn(temperature, { startS: from, endS: to });
  const [early, late] = [over(startS - 2 * BEFORE_S, startS - BEFORE_S), over(startS - 15, startS + 5)];
  const after = over(Math.min(startS + BEFORE_S, endS - 15), Math.min(endS, startS + 5 * BEFORE_S));
  if (early === null || late === null || after === null) return false;
  const rose = late - early;
  return rose > 0.3 && after - late < 0.5 * rose && late - after < 3;
}

function isFlat(series: Series, loss: Window): boolean {
  const level = medianIn(series, loss);
  const { y } = usable(slice(series, loss));
  if (level === null || level === 0 || y.length < 3) return false;
  return medianInPlace(y.map((value) => Math.abs(value - level))) <= 0.005 * Math.abs(level);
}

/** How near the throttling point a loss began. 'unknown': no temperature or no point. */
export function heatAt({ temperature, limitC }: Beside, loss: Window): 'at' | 'close' | 'near' | 'cold' | 'unknown' {
  const highest = hottestAt(temperature, loss);
  if (highest === null || limitC === undefined) return 'unknown';
  const below = limitC - highest;
  if (below <= AT_LIMIT_K) return 'at';
  if (below <= SENSOR_OFF_K) return 'close';
  return below <= NEAR_LIMIT_K ? 'near' : 'cold';
}

/** No work came in for so long, though other channels went on, seconds. */
const GONE_S = 10;

function vanished(work: Series, { temperature, power, utilisation }: Beside, loss: Window): boolean {
  const level = medianIn(work, loss);
  if (level !== null && level > 0) return false;
  return [temperature, power, utilisation].some((series) => {
    if (!series) return false;
    const from = lowerBound(series.t, loss.startS);
    return lowerBound(series.t, Math.min(loss.endS, loss.startS + GONE_S)) > from;
  });
}

/**
 * What took work away, by everything that was recorded beside it.
 *
 * In turn: the part was gone; the host had no work for it (utilisation went down first or with it, and the clock did not); heat, where
 * the temperature stood at its limit; power at its cap that did not fall; heat again, where a sensor that reads too low stood near the
 * limit and was held there; a ceiling, where what is left is level.
 */
export function whyHeld(work: Series, beside: Beside, loss: Window & { depth: number }): HeldBy {
  if (vanished(work, beside, loss)) return 'vanished';
  if (!beside.temperature && !beside.power && !beside.utilisation) return 'unknown';
  if (hostWaited(beside, loss, work)) return 'load';
  const heat = heatAt(beside, loss);
  if (heat === 'at') return 'thermal';
  if (atPowerCap(beside, loss)) return 'power';
  if (heat === 'close' || (heat === 'near' && heldThere(beside.temperature!, loss))) return 'thermal';
  return isFlat(beside.clock ?? work, loss) ? 'voltage-or-clock-cap' : 'unknown';
}
