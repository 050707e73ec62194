import { mean } from '../../mean.ts';
import type { PhaseReading, RunReview } from '../../review/types.ts';

/** A room that goes on as it went stands this share of a straight line's way within the window; one that came with the load stands still. */
const STANDS_SHARE = 0.5;
/** Rooms that warmed this much more with one side's load than with the other's are as rooms are, K. */
export const WARMED_ALIKE_K = 1;

const roomAt = (reading: PhaseReading | null): number | null =>
  reading?.rise ? reading.absolute.mean.value - reading.rise.mean.value : null;

/**
 * By how much warmer the room was read under load than at rest, where it came with the load and stood: a probe in air that the part has
 * warmed reads so. A room that went on rising or falling is none of that.
 *
 * @returns K, signed, 0 where it only drifted; null where there was no rest, or no room
 */
export function roomWithLoadK({ spots, room }: Pick<RunReview, 'spots' | 'room'>): number | null {
  const spot = spots.find(({ idle, load }) => roomAt(idle) !== null && load !== null);
  if (!spot || !room) return null;
  const [idle, load] = [spot.idle!.window, spot.load!.window];
  const warmedK = room.meanC - roomAt(spot.idle)!;
  const ownK = (warmedK * (load.endS - load.startS)) / (mean([load.startS, load.endS]) - mean([idle.startS, idle.endS]));
  return room.driftK / ownK < STANDS_SHARE ? warmedK : 0;
}
