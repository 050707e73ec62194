import FFT from 'fft.js';

/** Transforms that were asked for last: windows of one run are of a few lengths, and the table of one costs as much as a transform. */
const known = new Map<number, FFT>();
const MOST_KNOWN = 3;

function transformOf(size: number): FFT {
  const fft = known.get(size) ?? new FFT(size);
  // Last in, last out.
  known.delete(size);
  known.set(size, fft);
  if (known.size > MOST_KNOWN) known.delete(known.keys().next().value!);
  return fft;
}

/** Room for sums over all lags of two sequences, without their ends meeting. */
const sizeFor = (n: number, m: number) => 2 ** Math.ceil(Math.log2(Math.max(2, n + m)));

function spectrum(fft: FFT, values: Float64Array): Float64Array {
  const padded = new Float64Array(fft.size);
  padded.set(values);
  const out = new Float64Array(2 * fft.size);
  fft.realTransform(out, padded);
  fft.completeSpectrum(out);
  return out;
}

/**
 * Σ a[i]·b[i − lag] for every lag at once, by the convolution theorem; `at(lag)` reads it. Time and memory grow with n·log n, where the
 * sums themselves grow with n².
 *
 * @param a shape [n], nothing missing
 * @param b shape [m], nothing missing
 * @see Press et al. 2007, Numerical Recipes §13.2
 */
export function correlate(a: Float64Array, b: Float64Array): (lag: number) => number {
  const size = sizeFor(a.length, b.length);
  const fft = transformOf(size);
  const [p, q] = [spectrum(fft, a), spectrum(fft, b)];
  const product = new Float64Array(2 * size);
  for (let i = 0; i < 2 * size; i += 2) {
    product[i] = p[i]! * q[i]! + p[i + 1]! * q[i + 1]!;
    product[i + 1] = p[i + 1]! * q[i]! - p[i]! * q[i + 1]!;
  }
  const sums = new Float64Array(2 * size);
  fft.inverseTransform(sums, product);
  return (lag) => sums[2 * ((lag + size) % size)]!;
}

/**
 * The same of a sequence with itself, for half of the work: its spectrum is real and even, and so a real transform leads back.
 *
 * @param a shape [n], nothing missing
 * @param mostLag beyond it nothing is asked for: what room that leaves need not be transformed
 */
export function correlateWithItself(a: Float64Array, mostLag = a.length): (lag: number) => number {
  const size = sizeFor(a.length, mostLag);
  const fft = transformOf(size);
  const p = spectrum(fft, a);
  const power = new Float64Array(size);
  for (let i = 0; i < size; i++) power[i] = p[2 * i]! * p[2 * i]! + p[2 * i + 1]! * p[2 * i + 1]!;
  fft.realTransform(p, power);
  return (lag) => p[2 * Math.abs(lag)]! / size;
}
