import { fisherTail } from '../distributions/fisherF.ts';
import { InsufficientDataError, requireFinite } from '../errors.ts';

export interface AnovaRow {
  term: string;
  sumSq: number;
  dof: number;
  meanSq: number;
  f: number | null;
  p: number | null;
}

/** A row of a term, tested against the residual; f and p null where the residual is 0 or has no dof. */
export function anovaRow(term: string, sumSq: number, dof: number, residual: { sumSq: number; dof: number }): AnovaRow {
  const meanSq = sumSq / dof;
  const testable = residual.dof > 0 && residual.sumSq > 0;
  const f = testable ? meanSq / (residual.sumSq / residual.dof) : null;
  return { term, sumSq, dof, meanSq, f, p: f === null ? null : fisherTail(f, dof, residual.dof) };
}

/**
 * One-way analysis of variance: do several groups of runs share one mean?
 *
 * Sums of squares are taken about means, and all values first shifted by the first of them, so that readings that agree to many
 * digits lose none.
 *
 * @param groups one list of figures a level, shape [k][n_i]
 * @returns two rows, 'between' and 'residual'; f and p null where the residual is 0, and in the residual's own row
 * @throws InsufficientDataError one group, an empty group, or no residual dof
 * @throws RangeError a value is not finite
 * @see certified values of NIST StRD SiRstv and AtmWtAg
 */
export function anovaOneWay(groups: number[][]): { rows: AnovaRow[]; residualSd: number } {
  if (groups.length < 2) throw new InsufficientDataError(`${groups.length} groups; a comparison needs two`);
  groups.forEach((group, i) => {
    if (group.length === 0) throw new InsufficientDataError(`group ${i + 1} is empty`);
    group.forEach((value, j) => requireFinite(value, `groups[${i}][${j}]`));
  });
  const n = groups.reduce((sum, group) => sum + group.length, 0);
  const dof = { between: groups.length - 1, residual: n - groups.length };
  if (dof.residual < 1) throw new InsufficientDataError('one value in every group: nothing is left to judge the scatter by');
  const shift = groups[0]![0]!;
  const mean = (values: number[]) => values.reduce((sum, value) => sum + (value - shift), 0) / values.length;
  const means = groups.map(mean);
  const grand = groups.reduce((sum, group, i) => sum + group.length * means[i]!, 0) / n;
  const between = groups.reduce((sum, group, i) => sum + group.length * (means[i]! - grand) ** 2, 0);
  const residual = groups.reduce((sum, group, i) => sum + group.reduce((s, value) => s + (value - shift - means[i]!) ** 2, 0), 0);
  const row = anovaRow('between', between, dof.between, { sumSq: residual, dof: dof.residual });
  const meanSq = residual / dof.residual;
  return {
    rows: [row, { term: 'residual', sumSq: residual, dof: dof.residual, meanSq, f: null, p: null }],
    residualSd: Math.sqrt(meanSq),
  };
}
