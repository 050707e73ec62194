import { requireFinite } from '../errors.ts';
import type { ApproachFit } from './fitApproach.ts';

/**
 * When a fitted approach reaches a limit.
 *
 * @param fit from `fitApproach`
 * @param limitC °C
 * @returns seconds on the clock of the series; `t0` where the limit is passed already then; null where it is never reached
 * @throws RangeError limitC not finite
 */
export function timeToLimit(fit: ApproachFit, limitC: number): number | null {
  requireFinite(limitC, 'limitC');
  const start = fit.start.value;
  const end = fit.asymptote.value;
  const rising = end >= start;
  if (rising ? limitC <= start : limitC >= start) return fit.t0;
  if (rising ? limitC >= end : limitC <= end) return null;
  const passed = (t: number) => (rising ? fit.at(t) >= limitC : fit.at(t) <= limitC);
  const slowest = Math.max(...fit.terms.map((term) => term.tau.value));
  let low = fit.t0;
  let high = fit.t0 + slowest;
  // The limit lies short of the asymptote, so it is passed; a limit within rounding of it counts as never reached.
  for (let tries = 0; !passed(high); tries++) {
    if (tries > 60) return null;
    low = high;
    high += slowest;
  }
  for (let i = 0; i < 200 && high - low > 1e-12 * (Math.abs(high) + slowest); i++) {
    const middle = (low + high) / 2;
    if (passed(middle)) high = middle;
    else low = middle;
  }
  return (low + high) / 2;
}
