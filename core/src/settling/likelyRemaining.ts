import type { LateSearch, Profile } from './lateSearch.ts';

/** How much a slow term usually carries of what a part warms by. Our own figure, and no more than a scale. */
const USUAL_SHARE = 0.25;
/** Places at which what remains is tried for each time constant. */
const PLACES = 24;

/**
 * Mean and standard deviation of what remains over all time constants, each as likely as the next before the points are seen (evenly in
 * their logarithm), with an amplitude that falls off exponentially: what the bound says of the worst, this says of the usual.
 *
 * @param variance of the noise of a point, K²
 * @param wayK by how much the part has moved in all
 * @returns null where nothing can be weighed
 */
export function likelyOf(
  all: readonly { profile: Profile; search: LateSearch; sign: number }[],
  least: number,
  variance: number,
  end: number,
  wayK: number,
): { value: number; u: number } | null {
  const amplitudeK = Math.max(1, USUAL_SHARE * wayK);
  const tried: { log: number; k: number }[] = [];
  for (const sign of [1, -1]) {
    const mine = all.filter((entry) => entry.sign === sign).sort((p, q) => p.profile.curve.slowTau - q.profile.curve.slowTau);
    const logTau = (i: number) => Math.log(mine[Math.max(0, Math.min(mine.length - 1, i))]!.profile.curve.slowTau);
    mine.forEach(({ profile: { curve, squares }, search }, i) => {
      const width = (logTau(i + 1) - logTau(i - 1)) / 2;
      // What cannot be the case need not be worked out.
      if (!(width > 0) || squares - least > 60 * variance) return;
      const found = search.estimate(curve);
      if (!found) return;
      const v = found.v * variance;
      const rate = Math.exp(Math.min(700, end / curve.slowTau)) / amplitudeK;
      const step = Math.min(Math.max(0, found.k) + 4 * Math.sqrt(v), 12 / rate) / PLACES;
      if (!(step > 0)) return;
      const misfit = Math.max(0, found.squares - least) / (2 * variance);
      for (let j = 0; j < PLACES; j++) {
        const k = (j + 0.5) * step;
        tried.push({ log: Math.log(width * rate * step) - misfit - (k - found.k) ** 2 / (2 * v) - rate * k, k: sign * k });
      }
    });
  }
  const peak = tried.reduce((most, { log }) => Math.max(most, log), -Infinity);
  if (!Number.isFinite(peak)) return null;
  let [weight, first, second] = [0, 0, 0];
  for (const { log, k } of tried) {
    const w = Math.exp(log - peak);
    weight += w;
    first += w * k;
    second += w * k * k;
  }
  const value = first / weight;
  return { value, u: Math.sqrt(Math.max(0, second / weight - value * value)) };
}
