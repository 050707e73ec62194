import { slice, type Series, type Window } from '../series/series.ts';

/** What shows whether a load was there: any of them that was recorded. */
export interface LoadWitnesses {
  power: Series | null;
  /** Work done. */
  performance: Series | null;
  /** Percent. */
  utilisation: Series | null;
}

/** The load is looked at in steps of this length, seconds. */
const STEP_S = 5;
/** A load takes this long to come up, seconds. */
const GRACE_S = 30;
/** The load was gone for good: not the pause between two rounds of a benchmark. Seconds. */
export const ABSENT_S = 60;
/** Share of a phase for which its load may be gone in short pauses. */
const ABSENT_SHARE = 0.1;
/** Share of the way from idle to load below which a witness says that there is none. */
const OFF_BELOW = 0.15;
/** Percent of utilisation that is none. */
const IDLE_PERCENT = 3;

/** A part that has sent no work for this long has vanished, seconds. */
const VANISHED_S = 20;

/** Per step: whether the part has vanished, since work was recorded and none has come for a while. */
function vanishedIn(performance: Series | null, load: Window): boolean[] {
  if (!performance) return [];
  const values = stepped(performance, load);
  const gone = Array.from(values, () => false);
  for (let from = 0; from < values.length;) {
    let to = from;
    while (to < values.length && Number.isNaN(values[to]!)) to++;
    // Before the first and after the last value nobody knows whether it was recorded at all, unless some came.
    if ((to - from) * STEP_S >= VANISHED_S && to - from < values.length) gone.fill(true, from, to);
    from = to + 1;
  }
  return gone;
}

/** Means in steps of `STEP_S` from the window's start; NaN where nothing was read. */
function stepped(series: Series, { startS, endS }: Window): Float64Array {
  const n = Math.max(1, Math.ceil((endS - startS) / STEP_S));
  const sums = new Float64Array(n);
  const counts = new Float64Array(n);
  const { t, y } = slice(series, { startS, endS });
  for (let i = 0; i < t.length; i++) {
    if (y[i] !== y[i]) continue;
    const step = Math.min(n - 1, Math.floor((t[i]! - startS) / STEP_S));
    sums[step]! += y[i]!;
    counts[step]!++;
  }
  return sums.map((sum, i) => sum / counts[i]!);
}

/** The value that nine in ten stay below: what the witness shows when the load is there, if it ever is. */
function high(values: Float64Array): number | null {
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  return sorted.length === 0 ? null : sorted[Math.floor(0.9 * (sorted.length - 1))]!;
}

/** What a witness shows without load: its middle, and what nine in ten of its steps stay below. */
function atIdle(series: Series | null, idle: Window | null): { middle: number; top: number } | null {
  const values = series && idle ? stepped(series, idle).filter((value) => !Number.isNaN(value)) : null;
  if (!values || values.length === 0) return null;
  return { middle: values.reduce((sum, value) => sum + value, 0) / values.length, top: high(values)! };
}

/** Per step: 1 off, 0 on, NaN where the witness says nothing. */
function offBy(series: Series, load: Window, low: number, isNone: (level: number) => boolean): Float64Array | null {
  const values = stepped(series, load);
  const level = high(values);
  if (level === null) return null;
  if (isNone(level)) return values.map((value) => (Number.isNaN(value) ? NaN : 1));
  if (!(level > low)) return null;
  const limit = low + OFF_BELOW * (level - low);
  return values.map((value) => (Number.isNaN(value) ? NaN : value <= limit ? 1 : 0));
}

/**
 * Stretches of a load phase in which its load was not there: power, work and utilisation stood at their idle. What is missing says
 * nothing: a part that has vanished sends no work, takes no power, and is not idle for that. A witness is heard only with what it shows at idle: work
 * and utilisation are nought there, power is taken from `idle`. Where witnesses differ the load counts as there: a part that waits for
 * its host is busy with nothing, and a part that has cut its own clock still takes power.
 *
 * @param load the phase, seconds of the run's clock
 * @param idle a stretch without load before it, or null
 * @returns stretches of at least ten seconds, in order; none within the first half minute unless they last longer; empty where nothing
 * witnesses the load
 */
export function loadAbsences(witnesses: LoadWitnesses, load: Window, idle: Window | null): Window[] {
  const restPower = atIdle(witnesses.power, idle);
  const heard = [
    witnesses.utilisation && offBy(witnesses.utilisation, load, 0, (level) => level <= IDLE_PERCENT),
    witnesses.performance && offBy(witnesses.performance, load, 0, (level) => level <= 0),
    // Without an idle nobody knows what this part takes at rest.
    witnesses.power &&
      restPower &&
      offBy(witnesses.power, load, restPower.middle, (level) => level <= Math.max(1.1 * restPower.middle, 1.05 * restPower.top)),
  ].filter((off): off is Float64Array => off instanceof Float64Array);
  if (heard.length === 0) return [];
  const vanished = vanishedIn(witnesses.performance, load);
  const found: Window[] = [];
  let from: number | null = null;
  const steps = heard[0]!.length;
  for (let i = 0; i <= steps; i++) {
    const says = i < steps ? heard.map((off) => off[i]!).filter((off) => !Number.isNaN(off)) : [0];
    // A part that is gone takes no power and does no work, whatever it is asked.
    if (vanished[i]) says.push(0);
    const off = says.length > 0 ? says.every((value) => value === 1) : from !== null;
    if (off) from ??= i;
    if (off || from === null) continue;
    const gone = { startS: load.startS + STEP_S * from, endS: Math.min(load.endS, load.startS + STEP_S * i) };
    from = null;
    if (gone.endS - gone.startS >= 2 * STEP_S && gone.endS - load.startS > GRACE_S) found.push(gone);
  }
  return found;
}

/** A phase counts only if its load was there: gone for a minute at once, or for a tenth of the phase, it has no reading. */
export function loadWasThere(absences: readonly Window[], load: Window): boolean {
  const gone = absences.map(({ startS, endS }) => endS - startS);
  return gone.every((s) => s < ABSENT_S) && gone.reduce((sum, s) => sum + s, 0) < ABSENT_SHARE * (load.endS - load.startS);
}
