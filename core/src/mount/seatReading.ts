import { requireNotNegative } from '../errors.ts';
import { medianInPlace, slice, usable, type Series } from '../series/series.ts';
import type { SeatMount } from './seatCheck.ts';

/** Seconds of load after which seats are compared; early is when bad contact has shown and a fan that stands still has not. */
export const SEAT_LATE_S = 180;
const SEAT_EARLY_S = 45;
/** Samples this near a moment are taken together. */
const ABOUT_S = 15;

/** Middle value about a moment, so that a spike does not count; null where there is none. */
function about(series: Series, fromS: number, toS: number): number | null {
  const part = usable(slice(series, { startS: fromS, endS: toS }));
  return part.y.length === 0 ? null : medianInPlace(Float64Array.from(part.y));
}

/**
 * What the first minutes of load show of a seat: how far each spot rises above its idle, early and late.
 *
 * @param record spots and, where they were read, room (°C) and power (W); times in seconds
 * @returns null where the load lasted less than three minutes, or no spot was read in it
 * @throws RangeError a load that starts before the record or ends before it starts
 */
export function seatReading(record: {
  spots: readonly { spotId: string; series: Series }[];
  room: Series | null;
  power: Series | null;
  loadStartS: number;
  loadEndS: number;
}): SeatMount | null {
  const { loadStartS, loadEndS } = record;
  requireNotNegative(loadStartS, 'loadStartS');
  requireNotNegative(loadEndS - loadStartS, 'length of the load');
  if (loadEndS - loadStartS < SEAT_LATE_S) return null;
  const idle = (series: Series) => about(series, loadStartS - 2 * ABOUT_S, loadStartS);
  const into = (series: Series, s: number) => about(series, loadStartS + s - ABOUT_S, loadStartS + s + ABOUT_S);
  const roomC = record.room && idle(record.room);
  const spots = record.spots.flatMap(({ spotId, series }) => {
    const [idleC, early, late] = [idle(series), into(series, SEAT_EARLY_S), into(series, SEAT_LATE_S)];
    if (idleC === null || early === null || late === null) return [];
    return [{ spotId, gainK: late - idleC, earlyGainK: early - idleC, idleK: roomC === null ? null : idleC - roomC }];
  });
  if (spots.length === 0) return null;
  const powerW = record.power && about(record.power, loadStartS + ABOUT_S, loadStartS + SEAT_LATE_S);
  return { powerW: powerW !== null && powerW > 0 ? powerW : null, spots };
}
