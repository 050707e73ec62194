import { InsufficientDataError } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { correlationFactor } from '../series/autocorrelation.ts';
import { riseOverAmbient } from '../series/riseOverAmbient.ts';
import type { Series } from '../series/series.ts';

export interface Agreement {
  /** Mean of a − b, K. */
  bias: Estimate;
  /** 95 % limits of agreement, bias ± 1.96 sd, K. */
  lower: number;
  upper: number;
  /** Change of a − b per kelvin of their mean. */
  trendPerK: Estimate;
  n: number;
}

/** Times, means and differences of two sensors where both read; b is interpolated to a's times as in `riseOverAmbient`. */
export function pairedDifferences(a: Series, b: Series): { t: number[]; mean: number[]; difference: number[] } {
  const apart = riseOverAmbient(a, b);
  const pairs = { t: [] as number[], mean: [] as number[], difference: [] as number[] };
  apart.y.forEach((d, i) => {
    if (Number.isNaN(d)) return;
    pairs.t.push(a.t[i]!);
    pairs.mean.push(a.y[i]! - d / 2);
    pairs.difference.push(d);
  });
  return pairs;
}

/**
 * Whether two sensors on one place tell the same: bias, 95 % limits of agreement, and whether the bias grows with the level.
 *
 * The trend is the least-squares slope of a − b on their mean; both its u and that of the bias allow for autocorrelation.
 *
 * @param a,b °C, any clock rates on one clock; b is interpolated to a's times
 * @throws InsufficientDataError fewer than three times at which both read
 * @throws RangeError malformed series
 * @see Bland & Altman 1986, The Lancet 327; 1999, Stat. Methods Med. Res. 8 for the trend
 */
export function agreement(a: Series, b: Series): Agreement {
  const { mean, difference } = pairedDifferences(a, b);
  const n = difference.length;
  if (n < 3) throw new InsufficientDataError(`${n} times at which both sensors read; agreement needs three`);
  const first = difference[0]!;
  const bias = first + difference.reduce((sum, d) => sum + (d - first) / n, 0);
  const sd = Math.sqrt(difference.reduce((sum, d) => sum + (d - bias) ** 2, 0) / (n - 1));
  const nEffective = Math.min(n, Math.max(1, n / correlationFactor(difference)));
  const level = mean.reduce((sum, m) => sum + m / n, 0);
  const mm = mean.reduce((sum, m) => sum + (m - level) ** 2, 0);
  const md = mean.reduce((sum, m, i) => sum + (m - level) * (difference[i]! - bias), 0);
  const trend = mm > 0 ? md / mm : 0;
  const residuals = difference.map((d, i) => d - bias - trend * (mean[i]! - level));
  const residualSd = Math.sqrt(residuals.reduce((sum, r) => sum + r ** 2, 0) / (n - 2));
  const inflation = correlationFactor(residuals);
  return {
    bias: { value: bias, u: sd / Math.sqrt(nEffective), dof: Math.max(1, nEffective - 1) },
    lower: bias - 1.96 * sd,
    upper: bias + 1.96 * sd,
    trendPerK: {
      value: trend,
      u: mm > 0 ? residualSd * Math.sqrt(inflation / mm) : 0,
      dof: Math.max(1, n / inflation - 2),
    },
    n,
  };
}
