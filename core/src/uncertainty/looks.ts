import { normalCdf } from '../distributions/normal.ts';
import { requireProbability } from '../errors.ts';

/** How a plan may be decided before all of its runs are made: the same bound at every look, or a strict one that relaxes. */
export type StoppingRule = 'pocock' | 'obrien-fleming';

/** More looks than this nobody plans. */
export const MOST_LOOKS = 10;

/** Points of the grid on which a sum is followed from look to look; odd, for Simpson's rule. */
const GRID = 161;
/** The sum is followed this many of its own deviations out. */
const REACH = 8;

/** How the bound of look k of K relates to that of the last one, in deviations. */
const SHAPES: Record<StoppingRule, (k: number, looks: number) => number> = {
  pocock: () => 1,
  'obrien-fleming': (k, looks) => Math.sqrt(looks / k),
};

/** Simpson's weights times the step. */
function weightsOf(step: number): number[] {
  return Array.from({ length: GRID }, (_, i) => (step / 3) * (i === 0 || i === GRID - 1 ? 1 : i % 2 === 1 ? 4 : 2));
}

/** How likely some look passes its bound where nothing differs: the density of what has not passed yet, from look to look. */
function crossing(bounds: readonly number[]): number {
  const density = (x: number) => Math.exp(-0.5 * x * x) / Math.sqrt(2 * Math.PI);
  let before: { at: number[]; weighed: number[] } | null = null;
  let crossed = 0;
  bounds.forEach((bound, i) => {
    const edge = bound * Math.sqrt(i + 1);
    const inside = Math.min(edge, REACH * Math.sqrt(i + 1));
    const at = Array.from({ length: GRID }, (_, j) => inside * ((2 * j) / (GRID - 1) - 1));
    const weights = weightsOf((2 * inside) / (GRID - 1));
    const last = before;
    crossed += last
      ? last.at.reduce((sum, x, j) => sum + last.weighed[j]! * (normalCdf(x - edge) + normalCdf(-edge - x)), 0)
      : 2 * normalCdf(-edge);
    const still = at.map((y) => (last ? last.at.reduce((sum, x, j) => sum + last.weighed[j]! * density(y - x), 0) : density(y)));
    before = { at, weighed: still.map((value, j) => value * weights[j]!) };
  });
  return crossed;
}

const known = new Map<string, number[]>();

/**
 * Levels that belong to the looks of a plan, two-sided: whoever calls at look k what is beyond its level, and stops, is wrong no more
 * often than `alpha` over all looks where nothing differs. Looks after equally many further runs each.
 *
 * @param looks planned in all, 1 to 10
 * @param alpha over all of them, 0..1
 * @returns shape [looks]
 * @throws RangeError looks out of range, alpha outside 0..1
 * @see Pocock 1977, Biometrika 64; O'Brien & Fleming 1979, Biometrics 35; Armitage, McPherson & Rowe 1969 for the recursion
 */
export function levelsOfLooks(rule: StoppingRule, looks: number, alpha: number): number[] {
  requireProbability(alpha, 'alpha');
  if (!Number.isInteger(looks) || looks < 1 || looks > MOST_LOOKS) throw new RangeError(`looks must be 1 to ${MOST_LOOKS}, got ${looks}`);
  const key = `${rule} ${looks} ${alpha}`;
  const there = known.get(key);
  if (there) return there;
  const boundsAt = (last: number) => Array.from({ length: looks }, (_, i) => last * SHAPES[rule](i + 1, looks));
  let [low, high] = [0, REACH];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (crossing(boundsAt(middle)) > alpha) low = middle;
    else high = middle;
  }
  const levels = boundsAt((low + high) / 2).map((bound) => 2 * normalCdf(-bound));
  known.set(key, levels);
  return levels;
}
