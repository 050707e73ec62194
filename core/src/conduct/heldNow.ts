import { InsufficientDataError } from '../errors.ts';
import type { Series } from '../series/series.ts';
import { findLosses } from '../throttling/findLosses.ts';
import type { Beside, HeldBy } from '../throttling/whyHeld.ts';

/** A load that has only just come up is not judged, seconds. */
const LEAST_S = 20;
/** A loss that ended so long ago is over, seconds. */
const NOW_S = 10;

/**
 * What holds a part back at this moment of a load that goes on, by the same rule by which the run is read afterwards; null where nothing
 * does, or where it is too early to say.
 *
 * @param work NaN where the part does not answer
 */
export function heldNow(work: Series, load: { startS: number; nowS: number }, beside: Beside): HeldBy | null {
  if (load.nowS - load.startS < LEAST_S) return null;
  try {
    const { episodes, heldBack } = findLosses({ work, load: { startS: load.startS, endS: load.nowS }, ...beside });
    const last = [...episodes, ...heldBack].sort((p, q) => p.endS - q.endS).at(-1);
    return last !== undefined && load.nowS - last.endS < NOW_S ? last.limiter : null;
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}
