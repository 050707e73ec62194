import FFT from 'fft.js';

/**
 * Σ a[i]·b[i − lag] for every lag at once, by the convolution theorem; `at(lag)` reads it. Time and memory grow with n·log n, where the
 * sums themselves grow with n².
 *
 * @param a shape [n], nothing missing
 * @param b shape [m], nothing missing; `a` itself for its autocovariances
 * @see Press et al. 2007, Numerical Recipes §13.2
 */
export function correlate(a: Float64Array, b: Float64Array): (lag: number) => number {
  const size = 2 ** Math.ceil(Math.log2(Math.max(2, a.length + b.length)));
  const fft = new FFT(size);
  const padded = new Float64Array(size);
  const spectrum = (values: Float64Array) => {
    padded.fill(0);
    padded.set(values);
    const out = new Float64Array(2 * size);
    fft.realTransform(out, padded);
    fft.completeSpectrum(out);
    return out;
  };
  const p = spectrum(a);
  const q = a === b ? p : spectrum(b);
  const product = new Float64Array(2 * size);
  for (let i = 0; i < 2 * size; i += 2) {
    product[i] = p[i]! * q[i]! + p[i + 1]! * q[i + 1]!;
    product[i + 1] = p[i + 1]! * q[i]! - p[i]! * q[i + 1]!;
  }
  const sums = new Float64Array(2 * size);
  fft.inverseTransform(sums, product);
  return (lag) => sums[2 * ((lag + size) % size)]!;
}
