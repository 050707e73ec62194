import { studentCoverage } from '../distributions/studentT.ts';
import { requireNotNegative, requireProbability } from '../errors.ts';

export interface AlikeInput {
  /** Deviation between repeats, K. */
  sd: number;
  /** Difference that is there, K. */
  difference: number;
  /** Smaller differences do not matter, K. */
  practicalK: number;
  /** What repeats do not average away of the difference, standard uncertainty, K; default none. */
  independentU?: number;
  /** Default 0.95. */
  coverage?: number;
}

/** In so many of all draws it shall be shown: as `repeatsNeeded` asks for. */
const POWER = 0.8;

/** Beyond this many nobody repeats. */
const MOST = 1000;

/**
 * Smallest number of repeats per side whose interval lies inside ±practicalK in four of five draws: what it takes to show that two are
 * alike, where `repeatsNeeded` says what it takes to tell them apart. By the nearer end alone.
 *
 * @returns null where no number up to a thousand would do
 * @throws RangeError negative sd, practicalK or independentU, coverage outside 0..1
 */
export function repeatsToShowAlike({ sd, difference, practicalK, independentU = 0, coverage = 0.95 }: AlikeInput): number | null {
  requireNotNegative(sd, 'sd');
  requireNotNegative(practicalK, 'practicalK');
  requireNotNegative(independentU, 'independentU');
  requireProbability(coverage, 'coverage');
  const room = practicalK - Math.abs(difference);
  const fits = (n: number) => {
    const scatter = sd * Math.sqrt(2 / n);
    const u = Math.hypot(scatter, independentU);
    const dof = scatter === 0 ? Infinity : (2 * n - 2) * (u / scatter) ** 4;
    return (studentCoverage(coverage, dof) + studentCoverage(2 * POWER - 1, dof)) * u <= room;
  };
  if (room <= 0 || !fits(MOST)) return null;
  let [tooFew, enough] = [1, MOST];
  while (enough - tooFew > 1) {
    const middle = Math.floor((tooFew + enough) / 2);
    if (fits(middle)) enough = middle;
    else tooFew = middle;
  }
  return enough;
}
