import { anovaRow, type AnovaRow } from './anovaOneWay.ts';

/** What a model of main effects and two-level interactions leaves over beyond the scatter of equal runs. */
const BEYOND_MODEL = 'what factors do together beyond this';
const WITHIN_CELLS = 'within cells';

/**
 * An analysis of variance whose terms are tested against the scatter of equal runs, where there are repeats: what interactions leave over
 * is no noise, and stands in a row of its own.
 *
 * @param rows of terms and their residual (`factorEffects`)
 * @param within scatter within cells (`withinCells`)
 * @returns the rows as they are where no combination was run twice
 * @see Box, Hunter & Hunter, Statistics for Experimenters, ch. on replicated factorials
 */
export function againstRepeats(rows: readonly AnovaRow[], within: { sumSq: number; dof: number }): AnovaRow[] {
  if (within.dof === 0) return [...rows];
  const terms = rows.filter(({ term }) => term !== 'residual');
  const residual = rows.find(({ term }) => term === 'residual');
  const over = residual && { sumSq: Math.max(0, residual.sumSq - within.sumSq), dof: residual.dof - within.dof };
  const tested = [...terms, ...(over && over.dof > 0 ? [{ term: BEYOND_MODEL, ...over }] : [])];
  return [
    ...tested.map(({ term, sumSq, dof }) => anovaRow(term, sumSq, dof, within)),
    { term: WITHIN_CELLS, ...within, meanSq: within.sumSq / within.dof, f: null, p: null },
  ];
}
