import { dot } from '../dot.ts';
import { correlateWithItself } from './correlate.ts';

/** As many lags are summed one by one: nearly every record has ended by then, and a transform would cost more. */
const DIRECT_LAGS = 64;
/** A sequence this short is never transformed. */
const SHORT = 4 * DIRECT_LAGS;
/** Lags beyond this part of a sequence are rarely asked for, and transformed when they are. */
const USUAL_PART = 0.25;

/** Σ c[i]·c[i + lag]/n by lag, asked for in turn from none on: one by one at first, then many at once. */
function autocovariancesOf(centred: Float64Array): (lag: number) => number {
  const n = centred.length;
  let reach = n < SHORT ? n : DIRECT_LAGS;
  let many: ((lag: number) => number) | null = null;
  return (lag) => {
    if (lag >= reach) {
      reach = many === null ? Math.floor(USUAL_PART * n) + 1 : n;
      many = correlateWithItself(centred, reach);
    }
    return (many === null ? dot(centred.subarray(0, n - lag), centred.subarray(lag)) : many(lag)) / n;
  };
}

/**
 * How many samples of a correlated sequence count as one: 1 + 2Σρ_k by Geyer's initial positive sequence, at least 1.
 *
 * Sums of neighbouring autocovariances of a reversible process are positive and decreasing, so the sum stops at the first
 * pair that is not positive: beyond it there is only noise.
 *
 * @param values shape [n], nothing missing
 * @see Geyer 1992, Statistical Science 7(4)
 */
export function correlationFactor(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 4) return 1;
  const centred = new Float64Array(values);
  let mean = 0;
  for (let i = 0; i < n; i++) mean += centred[i]! / n;
  for (let i = 0; i < n; i++) centred[i] = centred[i]! - mean;
  const autocovariance = autocovariancesOf(centred);
  const variance = autocovariance(0);
  if (!(variance > 0)) return 1;
  let pairs = 0;
  for (let lag = 0; lag + 1 < n; lag += 2) {
    const pair = (autocovariance(lag) + autocovariance(lag + 1)) / variance;
    if (pair <= 0) break;
    pairs += pair;
  }
  return Math.min(n, Math.max(1, 2 * pairs - 1));
}

/** Groups that a record is cut into: correlation over fewer of them is that of noise which lasts. */
const GROUPS = 60;
/** As good as never forgotten. */
const MOST_ALIKE = 0.985;

/**
 * How many samples a mean is worth where noise lasts long against the record: by the correlation of neighbouring groups, which comes
 * out too small by about (1 + 4ρ)/m and is put right, with the part of the variance that the mean has taken with it.
 *
 * Where a sequence remembers for a tenth of its length and more, sums of its own autocovariances hide most of that.
 *
 * @param values shape [n], nothing missing, evenly spaced
 * @returns variance of the samples (with n − 1) over that of their mean, at most n; may be under 1
 * @see Marriott & Pope 1954, Biometrika 41(3/4), for the bias of ρ where the mean is estimated too
 */
export function worthOfMean(values: ArrayLike<number>): number {
  const n = values.length;
  const size = Math.max(1, Math.floor(n / GROUPS));
  const m = Math.floor(n / size);
  if (m < 4) return n;
  const groups = new Float64Array(m);
  let mean = 0;
  for (let i = 0; i < m; i++) {
    for (let j = 0; j < size; j++) groups[i] = groups[i]! + values[i * size + j]! / size;
    mean += groups[i]! / m;
  }
  let [squares, lagged] = [0, 0];
  for (let i = 0; i < m; i++) {
    squares += (groups[i]! - mean) ** 2;
    if (i > 0) lagged += (groups[i]! - mean) * (groups[i - 1]! - mean);
  }
  if (!(squares > 0)) return n;
  const found = Math.max(0, lagged / squares);
  // What chance alone gives is not made more of.
  const alike = found < 1 / Math.sqrt(m) ? found : Math.min(MOST_ALIKE, found + (1 + 4 * found) / m);
  let ofMean = 1 / m;
  for (let lag = 1, power = alike; lag < m; lag++, power *= alike) ofMean += (2 * (1 - lag / m) * power) / m;
  const variance = (squares / m / (1 - ofMean)) * ofMean;
  let [whole, all] = [0, 0];
  for (let i = 0; i < n; i++) whole += values[i]! / n;
  for (let i = 0; i < n; i++) all += (values[i]! - whole) ** 2;
  return Math.min(n, all / (n - 1) / variance);
}
