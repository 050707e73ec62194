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
  let mean = 0;
  for (let i = 0; i < n; i++) mean += values[i]! / n;
  const centred = new Float64Array(n);
  for (let i = 0; i < n; i++) centred[i] = values[i]! - mean;
  const autocovariance = (lag: number): number => {
    let sum = 0;
    for (let i = 0; i + lag < n; i++) sum += centred[i]! * centred[i + lag]!;
    return sum / n;
  };
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
