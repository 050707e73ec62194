export function centre(values: Float64Array): Float64Array {
  const n = values.length;
  let mean = 0;
  for (let i = 0; i < n; i++) mean += values[i]! / n;
  for (let i = 0; i < n; i++) values[i] = values[i]! - mean;
  return values;
}

/** How samples lie: evenly, or each a little off its place, as means of groups do of which a sample is missing. */
export interface Spacing {
  /** Seconds from one to the next; 0 where they lie anyhow. */
  step: number;
  /** How far each lies off its place, seconds; null where none does. */
  off: Float64Array | null;
  /** The farthest of those. */
  mostOff: number;
}

const ANYHOW: Spacing = { step: 0, off: null, mostOff: 0 };
/** Farther off its place than this part of a step it lies anyhow. */
const NEAR = 0.25;

/** @param x shape [n], ascending */
export function spacingOf(x: Float64Array): Spacing {
  const n = x.length;
  if (n < 3) return ANYHOW;
  const step = (x[n - 1]! - x[0]!) / (n - 1);
  const off = new Float64Array(n);
  let mostOff = 0;
  for (let i = 0; i < n; i++) {
    off[i] = x[i]! - (x[0]! + i * step);
    mostOff = Math.max(mostOff, Math.abs(off[i]!));
  }
  if (!(mostOff <= NEAR * step)) return ANYHOW;
  return mostOff > 1e-9 * step ? { step, off, mostOff } : { step, off: null, mostOff: 0 };
}

/** What is carried on by a factor is worked out anew after so many points, so that rounding never adds up. */
const ANEW = 64;
/** Up to so much of a time constant, five terms of the exponential's series give all of its digits but the last three. */
const SERIES = 1 / 128;

/** e^{−x/τ} at every point. */
export function decaying(x: Float64Array, { step, off, mostOff }: Spacing, tau: number): Float64Array {
  const n = x.length;
  const values = new Float64Array(n);
  if (step === 0 || mostOff > SERIES * tau) {
    for (let i = 0; i < n; i++) values[i] = Math.exp(-x[i]! / tau);
    return values;
  }
  // From one point to the next it shrinks by one factor: far cheaper than an exponential each.
  const shrinks = Math.exp(-step / tau);
  for (let from = 0; from < n; from += ANEW) {
    const to = Math.min(n, from + ANEW);
    let now = Math.exp(-(x[0]! + from * step) / tau);
    for (let i = from; i < to; i++) {
      values[i] = now;
      now *= shrinks;
    }
  }
  if (off)
    for (let i = 0; i < n; i++) {
      const u = off[i]! / tau;
      values[i] = values[i]! * (1 - u * (1 - (u / 2) * (1 - (u / 3) * (1 - u / 4))));
    }
  return values;
}
