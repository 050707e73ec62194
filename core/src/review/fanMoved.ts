import { medianInPlace, slice, usable, type Series, type Window } from '../series/series.ts';

/** A fan that is held needs a moment to come up, s. */
const COMES_UP_S = 120;
/** Speeds are looked at by middles of so long, s: a reading that jumps about is no fan that moves. */
const STRETCH_S = 60;

/**
 * How far a fan moved under a load, as a share of its middle speed: between the slowest and the fastest minute once it has come up.
 *
 * @returns null where there are fewer than three minutes of it, or it stood
 */
export function fanMoved(fan: Series, load: Window): number | null {
  const middles: number[] = [];
  for (let at = load.startS + COMES_UP_S; at + STRETCH_S <= load.endS; at += STRETCH_S) {
    const { y } = usable(slice(fan, { startS: at, endS: at + STRETCH_S }));
    if (y.length > 0) middles.push(medianInPlace(Float64Array.from(y)));
  }
  if (middles.length < 3) return null;
  const middle = medianInPlace(Float64Array.from(middles));
  return middle > 0 ? (Math.max(...middles) - Math.min(...middles)) / middle : null;
}
