import { InsufficientDataError, requirePositive } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { assertSeries, blockMeans, lowerBound, usable, type Series } from '../series/series.ts';
import { fitApproachDetailed, timeAtDistance, uOfRemaining, type DetailedFit } from './fitApproach.ts';
import { curveAt } from './approachModel.ts';
import { lastRegimeStart } from './regime.ts';

export interface Settling {
  settled: boolean;
  /** First time (clock of the series) from which it stays settled, or null. */
  atS: number | null;
  /** Plain least squares over the last window. */
  slopeKPerMin: Estimate;
  /** Asymptote minus the fitted value at the last sample (negative when cooling); null where no approach stands out from the noise. */
  remainingK: Estimate | null;
  /** Seconds until what remains is within tolerance; 0 when settled; null when it cannot be said. */
  etaS: number | null;
  /** Seconds until the slope over the window would confirm it too; never before `etaS`; null with it. */
  confirmedInS: number | null;
  /** Slow time constant of the fitted approach, seconds; null where none stands out, or where the record is too short to hold it. */
  slowTauS: number | null;
}

/** Points handed to the fit; the slope always uses every sample. */
const FIT_POINTS = 200;
const REGIME_POINTS = 120;
/** F ratio above which an approach stands out from the noise; generous, since the noise of a thermal mass is correlated. */
const STANDS_OUT = 12;

/** Running sums for least-squares slopes over any stretch of the record, times and values centred against loss of digits. */
class SlopeSums {
  private readonly st: Float64Array;
  private readonly sy: Float64Array;
  private readonly stt: Float64Array;
  private readonly sty: Float64Array;
  private readonly syy: Float64Array;

  constructor({ t, y }: Series) {
    const n = t.length;
    const sums = () => new Float64Array(n + 1);
    [this.st, this.sy, this.stt, this.sty, this.syy] = [sums(), sums(), sums(), sums(), sums()];
    const tMid = (t[0]! + t[n - 1]!) / 2;
    const yMid = y.reduce((sum, value) => sum + value / n, 0);
    for (let i = 0; i < n; i++) {
      const a = t[i]! - tMid;
      const b = y[i]! - yMid;
      this.st[i + 1] = this.st[i]! + a;
      this.sy[i + 1] = this.sy[i]! + b;
      this.stt[i + 1] = this.stt[i]! + a * a;
      this.sty[i + 1] = this.sty[i]! + a * b;
      this.syy[i + 1] = this.syy[i]! + b * b;
    }
  }

  /** Slope per second of samples [from, to) and its u; needs three samples. */
  slope(from: number, to: number): { slope: number; u: number } {
    // Asked for sample after sample of a long record: nothing is made here but the answer.
    const n = to - from;
    const { st, sy, stt, sty, syy } = this;
    const t = st[to]! - st[from]!;
    const y = sy[to]! - sy[from]!;
    const tt = stt[to]! - stt[from]! - (t * t) / n;
    const ty = sty[to]! - sty[from]! - (t * y) / n;
    const yy = syy[to]! - syy[from]! - (y * y) / n;
    const slope = ty / tt;
    const residual = Math.max(0, yy - slope * ty);
    return { slope, u: Math.sqrt(residual / (n - 2) / tt) };
  }
}

/**
 * Whether the slope over the last window alone rules out that it is settled: the cheap half of `assessSettling`, which needs no fit.
 *
 * @param data nothing missing, ascending; fewer than 4 samples rule nothing out
 */
export function slopeForbids(data: Series, toleranceK: number, windowS: number): boolean {
  const n = data.t.length;
  if (n < 4) return false;
  const from = Math.min(lowerBound(data.t, data.t[n - 1]! - windowS), n - 3);
  const { slope, u } = new SlopeSums({ t: data.t.subarray(from), y: data.y.subarray(from) }).slope(0, n - from);
  // Sums over another stretch round differently: a hair beyond the tolerance is left to the full judgement.
  return (Math.abs(slope) + 2 * u) * windowS > toleranceK * (1 + 1e-9);
}

/** Whether the fitted approach explains clearly more than a constant would. */
function standsOut(points: Series, detailed: DetailedFit): boolean {
  const n = points.y.length;
  const mean = points.y.reduce((sum, value) => sum + value / n, 0);
  const constant = points.y.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const extra = n - 1 - detailed.dof;
  if (detailed.squares <= 1e-18 * constant) return true;
  return (constant - detailed.squares) / extra / ((detailed.squares / detailed.dof) * detailed.inflation) > STANDS_OUT;
}

/** What the fitted curve alone does to the slope criterion at time t: the change it makes over the window before t. */
function slopeOverWindow(detailed: DetailedFit, t: number, windowS: number): number {
  // Least-squares slope of A − Σc·e^{−x/τ} over [t − w, t]: 12/w³·∫(s − mid)·curve ds, by 40 midpoints.
  const points = 40;
  let sum = 0;
  for (let i = 0; i < points; i++) {
    const s = ((i + 0.5) / points - 0.5) * windowS;
    sum += s * curveAt(detailed.curve, t - windowS / 2 + s - detailed.t0);
  }
  return Math.abs((12 / windowS ** 3) * sum * (windowS / points)) * windowS;
}

/**
 * Is it steady, since when, and if not, how long still?
 *
 * Settled needs both: |slope|·windowS + 2u·windowS <= toleranceK over the last window, and |remaining| <= toleranceK by the
 * fitted approach. Slope alone calls a slow sink settled far too early; the fit alone trusts a curve over the evidence
 * (methods §2). Where no approach stands out from the noise the slope decides alone. Works from above as from below.
 *
 * The fit starts at the last change of regime (a step, or a knee that the approach fitted from the first sample cannot follow),
 * else at the first sample. `etaS` is null where the slow time constant exceeds twice the record, or where the doubt of the
 * asymptote exceeds what remains.
 *
 * @param series °C or K, shape [n]; NaN is skipped. Spikes are not removed here
 * @param opts.toleranceK default 0.5
 * @param opts.windowS default 300; a record shorter than this is not settled, atS and etaS null
 * @throws InsufficientDataError under 4 usable samples
 * @throws RangeError malformed series, tolerance or window not above zero
 */
export function assessSettling(series: Series, opts: { toleranceK?: number; windowS?: number } = {}): Settling {
  const { toleranceK = 0.5, windowS = 300 } = opts;
  const { settling, settledSince } = assessWithRegime(series, toleranceK, windowS);
  return settling.settled ? { ...settling, atS: settledSince() } : settling;
}

/** @internal the work of `assessSettling` but for since when it was settled, which is looked for when it is asked for */
export interface WithRegime {
  /** `atS` is null. */
  settling: Settling;
  /** What was looked at: the series without what is missing. */
  data: Series;
  /** Where the last regime began, seconds. */
  regimeStartS: number;
  /** Slope per second over the window up to a sample. */
  slopeAt(index: number): { slope: number; u: number };
  /** Of a record that is settled at its end: the first time from which both held without a break, seconds. */
  settledSince(): number;
}

/** @internal */
export function assessWithRegime(series: Series, toleranceK: number, windowS: number): WithRegime {
  requirePositive(toleranceK, 'toleranceK');
  requirePositive(windowS, 'windowS');
  assertSeries(series, 'series');
  const data = usable(series);
  const n = data.t.length;
  if (n < 4) throw new InsufficientDataError(`${n} usable samples; settling needs four`);
  const endS = data.t[n - 1]!;
  const sums = new SlopeSums(data);
  const windowStart = (index: number) => Math.min(lowerBound(data.t, data.t[index]! - windowS), Math.max(0, index - 2));
  const from = windowStart(n - 1);
  const last = sums.slope(from, n);
  const slopeKPerMin: Estimate = { value: last.slope * 60, u: last.u * 60, dof: n - from - 2 };

  const coarse = blockMeans(data, REGIME_POINTS);
  const regimeStartS = coarse.t[lastRegimeStart(coarse, toleranceK)]!;
  const regimeFrom = lowerBound(data.t, regimeStartS);
  const rest = { t: data.t.subarray(regimeFrom), y: data.y.subarray(regimeFrom) };
  const detailed = approachOf(blockMeans(rest, FIT_POINTS));
  const remaining = (t: number) => detailed!.curve.asymptote - curveAt(detailed!.curve, t - detailed!.t0);
  const remainingK: Estimate | null = detailed && {
    value: remaining(endS),
    u: uOfRemaining(detailed, endS, false),
    dof: detailed.dof,
  };
  const slowTauS = detailed && slowestOf(detailed) <= 2 * (endS - data.t[0]!) ? slowestOf(detailed) : null;
  const slopeAt = (index: number) => sums.slope(windowStart(index), index + 1);
  const quiet = ({ slope, u }: { slope: number; u: number }) => (Math.abs(slope) + 2 * u) * windowS <= toleranceK;
  const close = (index: number) => detailed === null || !(Math.abs(remaining(data.t[index]!)) > toleranceK);
  const settledSince = (): number => {
    // A window that reaches back over the change of regime is not evidence for what came after it.
    const earliest = Math.min(n - 1, lowerBound(data.t, Math.max(data.t[0]!, regimeFrom > 0 ? regimeStartS : data.t[0]!) + windowS));
    let first = n - 1;
    // The window's start moves back with its end.
    let start = from;
    while (first > earliest) {
      const before = first - 1;
      while (start > 0 && (start > before - 2 || data.t[start - 1]! >= data.t[before]! - windowS)) start--;
      if (!close(before) || !quiet(sums.slope(start, before + 1))) break;
      first = before;
    }
    return data.t[first]!;
  };
  const given = (settling: Pick<Settling, 'settled' | 'etaS' | 'confirmedInS'>): WithRegime => ({
    settling: { ...settling, atS: null, slopeKPerMin, remainingK, slowTauS },
    data,
    regimeStartS,
    slopeAt,
    settledSince,
  });
  if (endS - data.t[0]! < windowS) return given({ settled: false, etaS: null, confirmedInS: null });
  if (close(n - 1) && quiet(slopeAt(n - 1))) return given({ settled: true, etaS: 0, confirmedInS: 0 });
  return given({ settled: false, ...forecast(detailed, remainingK, data.t[0]!, endS, toleranceK, windowS) });
}

/**
 * The approach that the points show, or null where none stands out from the noise. A second, slow term can creep in by noise alone
 * and then promises kelvins that nothing bears out: one whose remainder is lost in its own doubt gives way to the single term.
 */
function approachOf(points: Series): DetailedFit | null {
  try {
    const chosen = fitApproachDetailed(points, { autocorrelated: true });
    if (!standsOut(points, chosen)) return null;
    const endS = points.t[points.t.length - 1]!;
    const remaining = chosen.curve.asymptote - curveAt(chosen.curve, endS - chosen.t0);
    if (chosen.curve.terms.length === 1 || Math.abs(remaining) >= 2 * uOfRemaining(chosen, endS, false)) return chosen;
    const single = fitApproachDetailed(points, { autocorrelated: true, terms: 1 });
    return standsOut(points, single) ? single : chosen;
  } catch (error) {
    if (error instanceof InsufficientDataError) return null; // flat: nothing approaches anything
    throw error;
  }
}

const slowestOf = (detailed: DetailedFit) => Math.max(...detailed.curve.terms.map((term) => term.tau));

function forecast(
  detailed: DetailedFit | null,
  remainingK: Estimate | null,
  startS: number,
  endS: number,
  toleranceK: number,
  windowS: number,
): { etaS: number | null; confirmedInS: number | null } {
  const unknown = { etaS: null, confirmedInS: null };
  if (!detailed || !remainingK) return unknown;
  if (slowestOf(detailed) > 2 * (endS - startS) || detailed.fit.asymptote.u > Math.abs(remainingK.value)) return unknown;
  const etaS = Math.max(0, detailed.t0 + timeAtDistance(detailed.curve, toleranceK) - endS);
  // The window that confirms it slides along; half the tolerance is left for noise.
  let confirmed = etaS;
  const step = windowS / 60;
  while (confirmed < etaS + windowS && slopeOverWindow(detailed, endS + confirmed, windowS) > 0.75 * toleranceK) confirmed += step;
  return { etaS: Math.abs(remainingK.value) > toleranceK ? etaS : confirmed, confirmedInS: confirmed };
}
