/** A part of a record that is looked at, s of its own clock. */
export interface Stretch {
  fromS: number;
  toS: number;
}

/** Nothing is looked at more closely than this, s: hardly a sample would be left. */
const LEAST_S = 2;
/** A key or a button moves on by this share of what is seen. */
export const MOVES_BY = 0.25;

/** Inside a record of that length, as wide as it was where it fits; null where it is all of it. */
function within(fromS: number, wideS: number, wholeS: number): Stretch | null {
  if (wideS >= wholeS) return null;
  const start = Math.min(Math.max(0, fromS), wholeS - wideS);
  return { fromS: start, toS: start + wideS };
}

/**
 * As much of a record, earlier or later.
 *
 * @param byS positive towards the end
 * @param wholeS length of the record
 */
export const movedBy = ({ fromS, toS }: Stretch, byS: number, wholeS: number): Stretch | null =>
  within(fromS + byS, Math.max(LEAST_S, toS - fromS), wholeS);

/**
 * Less of it, or more.
 *
 * @param factor below 1 to look closer
 * @param aroundS stays where it is; the middle where nothing is said
 */
export function zoomedBy({ fromS, toS }: Stretch, factor: number, wholeS: number, aroundS = (fromS + toS) / 2): Stretch | null {
  const wideS = Math.max(LEAST_S, (toS - fromS) * factor);
  const share = (aroundS - fromS) / (toS - fromS);
  return within(aroundS - share * wideS, wideS, wholeS);
}
