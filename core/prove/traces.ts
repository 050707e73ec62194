import type { Series } from '../src/index.ts';

/**
 * Traces for the proof: sums of exponentials under correlated noise. A model of its own, apart from the simulated benches and from the
 * fits that are tried with it (docs/proof.md).
 */
export interface TraceModel {
  name: string;
  /** [amplitude K, time constant s]; negative where the part cools. */
  terms: readonly (readonly [number, number])[];
  /** Standard deviation of the noise, K, and how long it stays alike, s; 0 for white. */
  sdK: number;
  correlationS: number;
}

/** What is still to come at t, K. */
export const toCome = ({ terms }: TraceModel, t: number): number => terms.reduce((sum, [k, tau]) => sum + k * Math.exp(-t / tau), 0);

/** When no more than `toleranceK` is left, s. */
export function settledAt(model: TraceModel, toleranceK: number): number {
  let t = 0;
  while (Math.abs(toCome(model, t)) > toleranceK) t += 5;
  return t;
}

/** Uniform numbers by xorshift32: another generator than the tests use. */
export function uniformOf(seed: number): () => number {
  let state = (seed * 2654435761) >>> 0 || 1;
  const next = () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return (state + 0.5) / 4294967296;
  };
  // Seeds near each other begin alike.
  for (let i = 0; i < 20; i++) next();
  return next;
}

/** Normal numbers by Box and Muller. */
export function normalFrom(seed: number): () => number {
  const uniform = uniformOf(seed);
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** A record of `lengthS`, one sample a second. */
export function drawn(model: TraceModel, lengthS: number, seed: number): Series {
  const normal = normalFrom(seed);
  const stays = model.correlationS > 0 ? Math.exp(-1 / model.correlationS) : 0;
  const t = new Float64Array(lengthS);
  const y = new Float64Array(lengthS);
  let noise = model.sdK * normal();
  for (let i = 0; i < lengthS; i++) {
    if (i > 0) noise = stays * noise + model.sdK * Math.sqrt(1 - stays * stays) * normal();
    t[i] = i;
    y[i] = 62 - toCome(model, i) + noise;
  }
  return { t, y };
}

export const upTo = ({ t, y }: Series, n: number): Series => ({ t: t.subarray(0, n), y: y.subarray(0, n) });
