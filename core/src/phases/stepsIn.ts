import { lowerBound, type Window } from '../series/series.ts';
import { medianOf, type Signal } from './signal.ts';

/** Level before and after a step is taken over this long, and it has to stay; seconds. */
const STAY_S = 90;
/** A step is taken within so many seconds to either side; what takes longer is a drift. */
const SHARP_S = 10;

export interface Step {
  atS: number;
  before: number;
  after: number;
}

/** Half of the width within which half of the samples lie around their middle. */
function spread(y: Float64Array, from: number, to: number, middle: number): number {
  return medianOf(
    y.slice(from, to).map((value) => Math.abs(value - middle)),
    0,
    to - from,
  );
}

/**
 * Steps of a level that stay: its middle over a minute and a half before and after differs by `least` or more, is steady on both sides,
 * and changes within seconds. What a regulated fan does by itself is none, and neither is a drift.
 */
export function stepsIn({ t, y }: Signal, { startS, endS }: Window, least: number): Step[] {
  const found: (Step & { size: number })[] = [];
  const step = Math.max(2, (endS - startS) / 5000);
  for (let c = startS + STAY_S / 2; c <= endS - STAY_S / 2; c += step) {
    const at = (s: number) => lowerBound(t, s);
    const [from, close, past, to] = [
      at(Math.max(startS, c - STAY_S)),
      at(c - SHARP_S / 2),
      at(c + SHARP_S / 2),
      at(Math.min(endS, c + STAY_S)),
    ];
    if (close - from < 5 || to - past < 5) continue;
    const before = medianOf(y, from, close);
    const after = medianOf(y, past, to);
    const size = Math.abs(after - before);
    if (!(size >= least)) continue;
    if (spread(y, from, close, before) > size / 5 || spread(y, past, to, after) > size / 5) continue;
    const near = Math.abs(
      medianOf(y, past, Math.max(past + 3, at(c + 2 * SHARP_S))) - medianOf(y, Math.min(close - 3, at(c - 2 * SHARP_S)), close),
    );
    if (near < 0.8 * size) continue;
    const last = found.at(-1);
    const here = { atS: crossing(t, y, c, (before + after) / 2, after > before), before, after, size };
    if (!last || here.atS - last.atS > STAY_S / 2) found.push(here);
    else if (size > last.size) found[found.length - 1] = here;
  }
  return found.map(({ atS, before, after }) => ({ atS, before, after }));
}

/** Where the samples pass a level next to a time. */
function crossing(t: Float64Array, y: Float64Array, near: number, level: number, up: boolean): number {
  const from = lowerBound(t, near - 1.5 * SHARP_S);
  const to = lowerBound(t, near + 1.5 * SHARP_S);
  for (let i = from; i < to; i++) {
    const beyond = (k: number) => (up ? y[k]! > level : y[k]! < level);
    if (beyond(i) && beyond(Math.min(i + 1, y.length - 1)) && beyond(Math.min(i + 2, y.length - 1))) return t[i]!;
  }
  return near;
}
