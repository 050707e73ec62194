import { lowerBound, type Series } from '../series/series.ts';
import { stepOf } from '../series/stepOf.ts';
import { assessWithRegime, type Settling } from './assessSettling.ts';
import { isWithin, likelyWithin, ONE_SIDED, remainingAt, type Remaining, type RemainingOptions } from './remaining.ts';

/** `assessSettling` with what may still be hidden behind a slope of nothing and a best fit that is over. */
export interface BoundedSettling extends Settling {
  /** What remains with its bounds; null where there are too few samples to bound anything. */
  remains: Remaining | null;
}

/** Fewer samples than this bound nothing. */
const FEWEST = 12;
/** A forecast whose band reaches beyond the first many times itself, or below the second part of it, tells nothing. */
const TOLD = { times: 12, part: 3 };
/** Looks that are spent on finding since when a record was settled. */
const LOOKS = 4;

/**
 * Is it steady, since when, and if not, how long still: by the slope over the last window, and by the 95 % bound of what is likely to
 * remain, weighed over every slow time constant up to `longestTauS`. It is settled where both are within tolerance and were so half a
 * window before too.
 *
 * @param series °C or K, shape [n]; NaN is skipped. Spikes are not removed here
 * @returns `etaS` by the best curve, with its band in `remains`; null where that curve is over and only the bound is not, or where the band says nothing
 * @throws InsufficientDataError under 4 usable samples
 * @throws RangeError malformed series, tolerance or window not above zero
 */
export function boundSettling(
  series: Series,
  opts: { toleranceK?: number; windowS?: number } & Pick<RemainingOptions, 'readS' | 'longestTauS'> = {},
): BoundedSettling {
  const { toleranceK = 0.5, windowS = 300, ...more } = opts;
  const { settling, data, regimeStartS, slopeAt } = assessWithRegime(series, toleranceK, windowS);
  const from = lowerBound(data.t, regimeStartS);
  const n = data.t.length;
  if (n - from < FEWEST) return { ...settling, settled: false, atS: null, etaS: null, confirmedInS: null, remains: null };
  const rest = { t: data.t.subarray(from), y: data.y.subarray(from) };
  const stepK = stepOf(rest.y) ?? 0;
  const first = (end: number): Series => ({ t: rest.t.subarray(0, end), y: rest.y.subarray(0, end) });
  const upTo = (end: number): Remaining => remainingAt(first(end), { toleranceK, stepK, ...more });
  const quiet = (index: number) => {
    const { slope, u } = slopeAt(index);
    return (Math.abs(slope) + 2 * u) * windowS <= toleranceK;
  };
  const holds = (end: number) => quiet(from + end - 1) && isWithin(upTo(end).likely, toleranceK);
  const held = (timeS: number) => {
    const end = Math.max(FEWEST, sampleAt(timeS));
    return quiet(from + end - 1) && likelyWithin(first(end), { toleranceK, stepK, ...more });
  };
  const remains = upTo(n - from);
  const remainingK = {
    value: remains.bestK,
    u: Math.max(remains.highK - remains.bestK, remains.bestK - remains.lowK) / ONE_SIDED,
    dof: Infinity,
  };
  const endS = data.t[n - 1]!;
  const sampleAt = (timeS: number) => lowerBound(rest.t, timeS) + 1;
  const known = { ...settling, remainingK, remains };
  const earliestS = rest.t[0]! + windowS;
  const settled =
    endS - data.t[0]! >= windowS &&
    quiet(n - 1) &&
    isWithin(remains.likely, toleranceK) &&
    endS - windowS / 2 >= rest.t[FEWEST]! &&
    holds(sampleAt(endS - windowS / 2));
  if (!settled) {
    const { etaS, etaLowS, etaHighS } = remains;
    const told = etaS > 0 && etaHighS <= TOLD.times * Math.max(etaS, windowS / 2) && etaLowS >= etaS / TOLD.part - windowS / 2;
    const open = told ? etaS : null;
    return { ...known, settled, atS: null, etaS: open, confirmedInS: open === null ? null : Math.max(open, settling.confirmedInS ?? 0) };
  }
  // Bounds tighten with time: the moment from which they held is closed in on, and as time constants count it, in ratios.
  const startS = rest.t[0]!;
  let [before, since] = [Math.min(earliestS, endS - windowS / 2), endS - windowS / 2];
  if (held(before)) since = before;
  for (let look = 0; look < LOOKS && since > before; look++) {
    const middle = startS + Math.sqrt((before - startS) * (since - startS));
    if (held(middle)) since = middle;
    else before = middle;
  }
  return { ...known, settled, atS: since, etaS: 0, confirmedInS: 0 };
}
