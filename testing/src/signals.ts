import { seededUniform, type Series } from '@red-ember/core';

/** Seeded standard normal numbers (Box-Muller). */
export function seededNormal(seed: number): () => number {
  const uniform = seededUniform(seed);
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** y(t) = f(t) plus first-order autoregressive noise with deviation `sd` and lag-one correlation `phi`. */
export function madeTrace(opts: { n: number; dtS?: number; f: (t: number) => number; sd?: number; phi?: number; seed?: number }): Series {
  const { n, dtS = 1, f, sd = 0, phi = 0, seed = 1 } = opts;
  const normal = seededNormal(seed);
  const t = new Float64Array(n);
  const y = new Float64Array(n);
  let noise = sd * normal();
  for (let i = 0; i < n; i++) {
    if (i > 0) noise = phi * noise + sd * Math.sqrt(1 - phi * phi) * normal();
    t[i] = i * dtS;
    y[i] = f(t[i]!) + noise;
  }
  return { t, y };
}

/** Exponential approach from `start` to `end`; `terms` are [share, tau]. */
export function approach(end: number, start: number, terms: [number, number][]): (t: number) => number {
  return (t) => end - (end - start) * terms.reduce((sum, [share, tau]) => sum + share * Math.exp(-t / tau), 0);
}

export function series(t: number[], y: number[]): Series {
  return { t: Float64Array.from(t), y: Float64Array.from(y) };
}
