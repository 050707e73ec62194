import type { Estimate } from '../estimate.ts';
import { mean } from '../mean.ts';
import type { Scatter } from '../judge/types.ts';
import type { Binned } from './bins.ts';
import { bestOf, type LagFit, type Searched } from './lagSearch.ts';

/** What the heat of a part beside it brings at a spot: a processor in the same water, a drive under a card. */
export interface Neighbour {
  /** How late it comes; the shortest that is looked for where its power stood still within every run. */
  tauS: number;
  /** K that one of its watts brings in the end; below zero where its fans bring more than its heat. */
  gain: Estimate;
  /** With the gain of the part's own power, K²/W²; with the rest, K²/W. */
  covariance: { ofGain: number; ofRest: number };
  leastW: number;
  mostW: number;
  /** While the part itself was under load, W. */
  usualW: number;
}

/**
 * A regressor of which the others leave less than this by itself is told by none of them: a variance inflated to ten times.
 * Neter, Wasserman, Kutner, Applied Linear Regression Models, 3rd ed., 9.5.
 */
const LEAST_ALONE = 0.1;

/**
 * The gain of the part beside it, of a fit that has its lag last; null where its power went so much with the part's own that nobody can
 * tell which of them did it.
 *
 * A run that lies off its equals by its mount pulls the gain by as much as its watts lie off theirs: with powers that differ from run to run
 * and not within one, that is most of the doubt.
 *
 * @param ownLags how many of the fit's lags are the part's own
 * @param lates fits with every lag that may be its own instead: they tell the gain only as well as they tell the lag
 */
export function neighbourOf(
  bins: readonly Binned[],
  { best, variance, alike, dof }: Searched,
  ownLags: number,
  scatter: Scatter,
  lates: readonly LagFit[],
): Pick<Neighbour, 'gain' | 'covariance'> | null {
  const unit = variance * alike;
  const column = best.lags[ownLags]!;
  const of = bins.map(({ lagged }) => lagged[column]!);
  const all = mean(of.flatMap((values) => [...values]));
  const spread = of.reduce((sum, values) => sum + values.reduce((squares, value) => squares + (value - all) ** 2, 0), 0);
  const alone = 1 / (best.inverse[ownLags]![ownLags]! * spread);
  if (!(alone >= LEAST_ALONE)) return null;
  const pull = of.reduce((sum, values) => sum + (values.length * (mean([...values]) - all)) ** 2, 0) / (alone * spread) ** 2;
  const u = Math.sqrt(unit * best.inverse[ownLags]![ownLags]! + pull * scatter.sd ** 2 + spreadOf(lates, unit));
  return {
    gain: { value: best.gains[ownLags]!, u, dof: pull > 0 ? Math.min(dof, scatter.dof) : dof },
    covariance: {
      ofGain: unit * best.inverse.slice(0, ownLags).reduce((sum, row) => sum + row[ownLags]!, 0),
      ofRest: unit * (best.inverse[ownLags]![ownLags + 1] ?? 0),
    },
  };
}

/** Variance of the last gain over fits that differ by its lag, about the best of them, by what the squares say of each. */
function spreadOf(fits: readonly LagFit[], unit: number): number {
  if (fits.length === 0) return 0;
  const best = bestOf(fits);
  const weights = fits.map(({ squares }) => Math.exp(-(squares - best.squares) / (2 * unit)));
  const all = weights.reduce((a, b) => a + b, 0);
  return fits.reduce((sum, { gains }, i) => sum + (weights[i]! / all) * (gains.at(-1)! - best.gains.at(-1)!) ** 2, 0);
}
