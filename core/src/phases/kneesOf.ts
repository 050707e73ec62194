import { lowerBound } from '../series/series.ts';
import { medianOf, quantileOf, type Signal } from './signal.ts';

/** Where a temperature begins to rise or to fall, with its slope after it, K/min. */
export interface Knee {
  atS: number;
  way: 'rises' | 'falls';
}

/** A temperature that ranges less than this tells nothing, K. */
const LEAST_RANGE_K = 3;
/** Times at which slopes are compared. */
const PLACES = 1500;

/** Slope of the straight line through the samples in [fromS, toS), K/s; NaN of fewer than three. */
function slopeIn({ t, y }: Signal, fromS: number, toS: number): number {
  const from = lowerBound(t, fromS);
  const to = lowerBound(t, toS);
  let n = 0;
  let st = 0;
  let sy = 0;
  for (let i = from; i < to; i++) {
    if (y[i] !== y[i]) continue;
    n++;
    st += t[i]!;
    sy += y[i]!;
  }
  if (n < 3) return NaN;
  let tt = 0;
  let ty = 0;
  for (let i = from; i < to; i++) {
    if (y[i] !== y[i]) continue;
    tt += (t[i]! - st / n) ** 2;
    ty += (t[i]! - st / n) * (y[i]! - sy / n);
  }
  return tt === 0 ? NaN : ty / tt;
}

/**
 * Knees of a temperature: where it was near steady and begins to rise, or turns to fall. Settling bends slowly and is none; the ends of
 * a load are sharp, since heat comes and goes at once. For logs in which nothing but temperatures was written down.
 *
 * @param signal °C, one spot or the mean of several
 */
export function kneesOf(signal: Signal): Knee[] {
  const { t, y } = signal;
  const lengthS = t.length === 0 ? 0 : t[t.length - 1]! - t[0]!;
  const range = quantileOf(y, 0.99) - quantileOf(y, 0.01);
  if (!(range >= LEAST_RANGE_K)) return [];
  const span = Math.min(120, Math.max(20, lengthS / 100));
  const at = Array.from({ length: PLACES }, (_, k) => t[0]! + span + (k * (lengthS - 2 * span)) / PLACES);
  const before = at.map((s) => slopeIn(signal, s - span, s));
  const after = at.map((s) => slopeIn(signal, s, s + span));
  const bend = Float64Array.from(at, (_, k) => after[k]! - before[k]!);
  const noise = medianOf(bend.map(Math.abs), 0, bend.length);
  // A knee changes what the temperature does within the span by a good part of all that it ever does.
  const least = Math.max(8 * noise, (0.15 * range) / span / 4);
  const knees: (Knee & { size: number })[] = [];
  for (let k = 0; k < at.length; k++) {
    const size = Math.abs(bend[k]!);
    if (!(size >= least)) continue;
    const rises = bend[k]! > 0 && after[k]! > least / 2;
    const falls = bend[k]! < 0 && after[k]! < -least / 2;
    if (!rises && !falls) continue;
    const knee = { atS: at[k]!, way: rises ? ('rises' as const) : ('falls' as const), size };
    const last = knees.at(-1);
    if (!last || last.way !== knee.way || knee.atS - last.atS > span) knees.push(knee);
    else if (size > last.size) knees[knees.length - 1] = knee;
  }
  return knees.map(({ atS, way }) => ({ atS: onset(signal, atS, span, way), way }));
}

/** Samples in a row that have to leave the line that went before. */
const STAY = 4;

/** When the samples leave the straight line that they followed before a knee: the slopes alone tell it only to half a span. */
function onset({ t, y }: Signal, kneeS: number, span: number, way: Knee['way']): number {
  const from = lowerBound(t, kneeS - 2 * span);
  const calm = lowerBound(t, kneeS - span / 2);
  const slope = slopeIn({ t, y }, t[from]!, t[calm] ?? kneeS);
  const middle = medianOf(y, from, calm);
  const middleS = (t[from]! + (t[calm] ?? kneeS)) / 2;
  const off = (i: number) => (way === 'rises' ? 1 : -1) * (y[i]! - middle - slope * (t[i]! - middleS));
  const quiet = Float64Array.from({ length: Math.max(0, calm - from) }, (_, k) => Math.abs(off(from + k)));
  const least = Math.max(0.2, 5 * medianOf(quiet, 0, quiet.length));
  // What was still settling leaves its line by itself.
  if (!(Math.abs(slope) * span < least)) return kneeS;
  for (let i = calm; i < t.length - STAY && t[i]! <= kneeS + span; i++)
    if (Array.from({ length: STAY }, (_, k) => off(i + k)).every((d) => d > least)) return t[i]!;
  return kneeS;
}
