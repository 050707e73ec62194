/** Complementary error function, relative error about 1e-15: a power series near zero, a continued fraction further out. */
export function erfc(x: number): number {
  if (x < 0) return 2 - erfc(-x);
  if (x < 2) {
    let term = x;
    let sum = x;
    for (let k = 1; k < 100 && Math.abs(term) > 1e-17 * Math.abs(sum); k++) {
      term *= (-x * x) / k;
      sum += term / (2 * k + 1);
    }
    return 1 - (2 / Math.sqrt(Math.PI)) * sum;
  }
  if (x > 27) return 0;
  let fraction = 0; // evaluated from the back: x + (1/2)/(x + (2/2)/(x + …
  for (let k = 80; k >= 1; k--) fraction = k / 2 / (x + fraction);
  return Math.exp(-x * x) / Math.sqrt(Math.PI) / (x + fraction);
}

/** P(Z <= z) of the standard normal distribution. */
export function normalCdf(z: number): number {
  return 0.5 * erfc(-z / Math.SQRT2);
}

/**
 * Quantile of the standard normal distribution: a rough start from the tail expansion, then Newton steps on the exact
 * distribution.
 *
 * @param p probability, 0 < p < 1
 */
export function normalQuantile(p: number): number {
  if (p === 0.5) return 0;
  if (p > 0.5) return -normalQuantile(1 - p);
  const t = Math.sqrt(-2 * Math.log(p));
  // Abramowitz & Stegun 26.2.23, absolute error under 4.5e-4: only the start.
  let z = -(t - (2.515517 + 0.802853 * t + 0.010328 * t * t) / (1 + 1.432788 * t + 0.189269 * t * t + 0.001308 * t ** 3));
  for (let i = 0; i < 4; i++) {
    const error = normalCdf(z) - p;
    const step = error / (Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI));
    z -= step / (1 + 0.5 * z * step); // Halley
  }
  return z;
}
