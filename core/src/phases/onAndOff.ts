import type { Window } from '../series/series.ts';
import { quantileOf, runningMedian, type Signal } from './signal.ts';

/** Dips and bursts that are shorter than half of this are not looked at, seconds: a collection pause, a splash screen. */
const SMOOTH_S = 16;
/** Without load a part takes or does less than this share of what it does with one. */
const IDLE_SHARE = 0.5;
/** Shares of the way from idle to load at which it counts as come, and as gone again: throttling halves the work and takes less off it. */
const COME = 0.3;
const GONE = 0.15;
/** A load that is away for less than this was not taken off; one that is there for less was none. Seconds. */
const LEAST_S = 30;

/** When the work was on, and what it amounts to with and without load. */
export interface OnAndOff {
  on: Window[];
  idle: number;
  load: number;
}

/** A window of samples, both ends inside. */
interface Stretch {
  from: number;
  to: number;
}

function stretchesOf(level: Float64Array, come: number, gone: number): Stretch[] {
  const found: Stretch[] = [];
  let from: number | null = null;
  for (let i = 0; i < level.length; i++) {
    const value = level[i]!;
    if (from === null && value > come) from = i;
    else if (from !== null && value <= gone) {
      found.push({ from, to: i - 1 });
      from = null;
    }
  }
  return from === null ? found : [...found, { from, to: level.length - 1 }];
}

function joined(stretches: readonly Stretch[], t: Float64Array): Stretch[] {
  const kept: Stretch[] = [];
  for (const stretch of stretches) {
    const before = kept.at(-1);
    if (before && t[stretch.from]! - t[before.to]! < LEAST_S) before.to = stretch.to;
    else kept.push({ ...stretch });
  }
  return kept.filter(({ from, to }) => t[to]! - t[from]! >= LEAST_S);
}

/**
 * When a part was loaded, by power, work or time busy. Idle is not zero: a card that takes 26 W at rest and 206 W under load is off at
 * 30 W. A fast cache that runs out and a part that throttles to half are still loaded.
 *
 * @returns null where the signal never falls below half of its usual level, so that nothing tells load from idle
 */
export function onAndOff(signal: Signal): OnAndOff | null {
  const { t, y } = signal;
  const level = runningMedian(signal, SMOOTH_S);
  const idle = quantileOf(level, 0);
  const top = quantileOf(level, 0.98);
  if (!(top > idle) || top <= 0) return null;
  const load = quantileOf(
    level.map((value) => (value > idle + 0.1 * (top - idle) ? value : NaN)),
    0.5,
  );
  if (Math.max(0, idle) > IDLE_SHARE * load) return null;
  const come = idle + COME * (load - idle);
  const on = joined(stretchesOf(level, come, idle + GONE * (load - idle)), t).map(({ from, to }): Window => {
    // Smoothing moves no edge by more than half its span; the samples themselves say where it stood.
    const first = edge(t, y, from, come);
    const end = after(t, y, to, come);
    return { startS: t[first]!, endS: t[end]! };
  });
  return on.length === 0 ? null : { on, idle, load };
}

/** The first sample above a level around one at which the smoothed signal rises through it. */
function edge(t: Float64Array, y: Float64Array, around: number, level: number): number {
  let at = around;
  while (at > 0 && t[around]! - t[at - 1]! <= SMOOTH_S && y[at - 1]! > level) at--;
  while (at < y.length - 1 && t[at]! - t[around]! <= SMOOTH_S && !(y[at]! > level)) at++;
  return at;
}

/** The sample after the last one above a level; the last of all where it stays there. */
function after(t: Float64Array, y: Float64Array, around: number, level: number): number {
  let at = around;
  while (at < y.length - 1 && t[at + 1]! - t[around]! <= SMOOTH_S && y[at + 1]! > level) at++;
  while (at > 0 && t[around]! - t[at]! <= SMOOTH_S && !(y[at]! > level)) at--;
  return Math.min(y.length - 1, at + 1);
}
