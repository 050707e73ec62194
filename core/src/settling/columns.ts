export function centre(values: Float64Array): Float64Array {
  const n = values.length;
  let mean = 0;
  for (let i = 0; i < n; i++) mean += values[i]! / n;
  for (let i = 0; i < n; i++) values[i] = values[i]! - mean;
  return values;
}

/** Spacing of evenly spaced samples; 0 where they are not. */
export function evenStep(x: Float64Array): number {
  const n = x.length;
  if (n < 3) return 0;
  const step = (x[n - 1]! - x[0]!) / (n - 1);
  for (let i = 1; i < n; i++) if (Math.abs(x[i]! - x[i - 1]! - step) > 1e-9 * step) return 0;
  return step;
}

/** What is carried on by a factor is worked out anew after so many points, so that rounding never adds up. */
const ANEW = 64;

/** e^{−x/τ} at every point. @param step of evenly spaced points, 0 where they are not */
export function decaying(x: Float64Array, step: number, tau: number): Float64Array {
  const n = x.length;
  const values = new Float64Array(n);
  if (step === 0) {
    for (let i = 0; i < n; i++) values[i] = Math.exp(-x[i]! / tau);
    return values;
  }
  // From one point to the next it shrinks by one factor: far cheaper than an exponential each.
  const shrinks = Math.exp(-step / tau);
  for (let from = 0; from < n; from += ANEW) {
    const to = Math.min(n, from + ANEW);
    let now = Math.exp(-x[from]! / tau);
    for (let i = from; i < to; i++) {
      values[i] = now;
      now *= shrinks;
    }
  }
  return values;
}
