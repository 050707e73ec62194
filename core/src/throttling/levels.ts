import { lowerBound, medianInPlace, medianInterval, type Series } from '../series/series.ts';

/** A record cut into blocks, with what noise does to each of them. */
export interface Blocks {
  startS: Float64Array;
  endS: Float64Array;
  y: Float64Array;
  /** Standard deviation that noise gives a block. */
  sd: number;
}

/** A stretch of one level of work, over blocks [from, to). */
export interface Level {
  from: number;
  to: number;
  startS: number;
  endS: number;
  mean: number;
  /** Standard deviation of `mean`, correlation allowed for. */
  u: number;
}

/** Blocks that a load is cut into are no shorter than this, seconds, nor than three samples. */
const BLOCK_S = 3;
/** A split has to explain so many times the variance that noise brings; chance among thousands of places reaches about 15. */
const GAIN = 25;
/** Lags by whose differences noise is told from steps. */
const LAGS = [1, 2, 4];
const MOST_ALIKE = 0.97;

/** Where neighbours differ by so many times the variance of the quietest stretch, something comes and goes: it is not noise. */
const UNQUIET = 3;
/** Blocks of a stretch that noise is looked for in; a short load still has a dozen stretches. */
const STRETCH = { least: 12, most: 60, of: 12 };

function blocksOf({ t, y }: Series, endS: number): Omit<Blocks, 'sd'> {
  const width = Math.max(BLOCK_S, 3 * medianInterval(t));
  const starts: number[] = [];
  const values: number[] = [];
  let [from, sum, count] = [t[0]!, 0, 0];
  const close = (next: number) => {
    if (count > 0) {
      starts.push(from);
      values.push(sum / count);
    }
    [from, sum, count] = [next, 0, 0];
  };
  for (let i = 0; i < t.length; i++) {
    if (t[i]! - from >= width) close(t[i]!);
    sum += y[i]!;
    count++;
  }
  close(endS);
  return { startS: Float64Array.from(starts), endS: Float64Array.from([...starts.slice(1), endS]), y: Float64Array.from(values) };
}

/** Middle of squared differences between values so far apart, over stretches; 0 where there are too few. */
function differing(stretches: readonly Float64Array[], lag: number): number {
  const differences = stretches.flatMap((y) =>
    Array.from({ length: Math.max(0, y.length - lag) }, (_, i) => Math.abs(y[i + lag]! - y[i]!)),
  );
  return differences.length < 4 ? 0 : (medianInPlace(Float64Array.from(differences)) / 0.6745) ** 2;
}

/** Stretches in which nothing comes and goes: all of them where they differ no more than chance lets them. */
function quietOf(y: Float64Array): Float64Array[] {
  const stretches: Float64Array[] = [];
  const length = Math.min(STRETCH.most, Math.max(STRETCH.least, Math.round(y.length / STRETCH.of)));
  for (let i = 0; i < y.length; i += length) stretches.push(y.subarray(i, i + length));
  const spreads = stretches.map((stretch) => differing([stretch], 1));
  const least = Math.min(...spreads.filter((_, i) => stretches[i]!.length >= length / 2));
  const quiet = stretches.filter((_, i) => spreads[i]! <= UNQUIET * least);
  return quiet.length === 0 ? [y] : quiet;
}

/** Variance of a block and how much correlation widens that of a mean, by differences that a few steps do not reach. */
function noiseOf(y: Float64Array): { variance: number; widened: number } {
  const quiet = quietOf(y);
  const whole = quiet.reduce((sum, stretch) => sum + stretch.length, 0) === y.length;
  const [one, two, four] = LAGS.map((lag) => differing(whole ? [y] : quiet, lag)) as [number, number, number];
  if (!(one > 0)) return { variance: 0, widened: 1 };
  // Differences two apart are 1 + ρ times those of neighbours, four apart 1 + ρ + ρ² + ρ³.
  const near = two / one - 1;
  let far = 0;
  while (far < MOST_ALIKE && 1 + far + far ** 2 + far ** 3 < four / one) far += 0.01;
  const alike = Math.min(MOST_ALIKE, Math.max(0, Math.min(near, far)));
  return { variance: one / (2 * (1 - alike)), widened: (1 + alike) / (1 - alike) };
}

/**
 * Levels of work by binary segmentation: a stretch is split where that explains more than noise, with its correlation, could.
 *
 * @param series nothing missing, at least two samples
 * @param breakS where a level is known to end
 * @see Vostrikova 1981, Soviet Mathematics Doklady 24, for the method
 */
export function levelsOf(series: Series, endS: number, breakS?: number): { levels: Level[]; blocks: Blocks } {
  const blocks = blocksOf(series, endS);
  const n = blocks.y.length;
  const { variance, widened } = noiseOf(blocks.y);
  const sums = new Float64Array(n + 1);
  for (let i = 0; i < n; i++) sums[i + 1] = sums[i]! + blocks.y[i]!;
  const meanOf = (from: number, to: number) => (sums[to]! - sums[from]!) / (to - from);
  // A level that is given without noise still needs more than the last digit to change.
  const least = Math.max(variance * widened, (1e-4 * meanOf(0, n)) ** 2);
  const known = breakS === undefined ? n : lowerBound(blocks.startS, breakS);
  const ends: number[] = known > 0 && known < n ? [known, n] : [n];
  const stack = ends.map((to, i): [number, number] => [i === 0 ? 0 : ends[i - 1]!, to]);
  while (stack.length > 0) {
    const [from, to] = stack.pop()!;
    let [at, most] = [-1, GAIN * least];
    for (let k = from + 1; k < to; k++) {
      const gain = (((k - from) * (to - k)) / (to - from)) * (meanOf(from, k) - meanOf(k, to)) ** 2;
      if (gain > most) [at, most] = [k, gain];
    }
    if (at < 0) continue;
    ends.push(at);
    stack.push([from, at], [at, to]);
  }
  ends.sort((p, q) => p - q);
  const levels = ends.map((to, i): Level => {
    const from = i === 0 ? 0 : ends[i - 1]!;
    return {
      from,
      to,
      startS: blocks.startS[from]!,
      endS: blocks.endS[to - 1]!,
      mean: meanOf(from, to),
      u: Math.sqrt((variance * widened) / (to - from)),
    };
  });
  return { levels, blocks: { ...blocks, sd: Math.sqrt(variance) } };
}
