import { InsufficientDataError, requireFinite } from '../errors.ts';
import { aliasesOf, termsOf, type Factor, type Term } from './aliases.ts';
import { anovaRow, type AnovaRow } from './anovaOneWay.ts';

export interface FactorialResult {
  /** Of a two-level term: mean(high) − mean(low). u null and dof 0 without replicates. */
  effects: { term: string[]; effect: { value: number; u: number | null; dof: number } }[];
  rows: AnovaRow[];
  /** Groups of terms that this set of runs cannot tell apart. */
  aliased: string[][][];
}

/** Columns that describe a term in a linear model: signs, or one indicator a level but the first. */
function columnsOf(term: Term): number[][] {
  if (term.signs) return [term.signs];
  const labels = term.partition.split(',').map(Number);
  return Array.from({ length: term.groups - 1 }, (_, k) => labels.map((label) => (label === k + 1 ? 1 : 0)));
}

/** Orthonormal columns that span `columns` beyond what `basis` spans already (modified Gram-Schmidt, twice for precision). */
function beyond(basis: number[][], columns: number[][]): number[][] {
  const added: number[][] = [];
  for (const column of columns) {
    let v = [...column];
    const before = Math.hypot(...v);
    for (let pass = 0; pass < 2; pass++)
      for (const q of [...basis, ...added]) {
        const along = q.reduce((sum, value, i) => sum + value * v[i]!, 0);
        v = v.map((value, i) => value - along * q[i]!);
      }
    const length = Math.hypot(...v);
    if (length > 1e-9 * before) added.push(v.map((value) => value / length));
  }
  return added;
}

/** Scatter between runs of equal levels, pooled over all cells. */
export function withinCells(
  factors: readonly Factor[],
  runs: readonly { levels: Readonly<Record<string, string>>; value: number }[],
): { sumSq: number; dof: number } {
  const cells = new Map<string, number[]>();
  for (const run of runs) {
    const key = JSON.stringify(factors.map((factor) => run.levels[factor.name]));
    cells.set(key, [...(cells.get(key) ?? []), run.value]);
  }
  let [sumSq, dof] = [0, 0];
  for (const values of cells.values()) {
    const mean = values.reduce((sum, value) => sum + value / values.length, 0);
    sumSq += values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    dof += values.length - 1;
  }
  return { sumSq, dof };
}

/**
 * Main effects and two-factor interactions from runs with factor levels.
 *
 * Effects are contrasts: mean(high) − mean(low), interactions by the product of the signs, levels of two-level factors ordered as
 * given. With replicates the variance within cells, pooled, gives every effect its u; without, there is no u and no test, and a
 * half-normal plot has to do. Factors of more than two levels have a row of their own and no effect.
 *
 * Main effects that always changed together are left out of `effects`: neither can be credited. Other aliased terms stay and are
 * listed in `aliased`; a product that is constant in this set is in neither.
 *
 * @param factors two or more levels each
 * @param runs a level for every factor, and the figure
 * @returns rows: the sum of squares of every term beyond all others, and the residual of the whole model last
 * @throws InsufficientDataError no factors, or fewer than two runs
 * @throws RangeError unknown or missing level, a factor or level twice, a value that is not finite
 * @see Box, Hunter & Hunter, Statistics for Experimenters
 */
export function factorEffects(factors: Factor[], runs: { levels: Record<string, string>; value: number }[]): FactorialResult {
  const aliased = aliasesOf(factors, runs);
  if (factors.length === 0 || runs.length < 2) throw new InsufficientDataError('effects need at least one factor and two runs');
  runs.forEach((run, i) => requireFinite(run.value, `runs[${i}].value`));
  const key = (names: readonly string[]) => names.join('\u0000');
  const terms = termsOf(factors, runs).filter((term) => term.groups > 1);
  const groupOf = (term: Term) => aliased.find((group) => group.some((names) => key(names) === key(term.names)));
  const lost = (term: Term) => term.names.length === 1 && (groupOf(term)?.filter((names) => names.length === 1).length ?? 0) > 1;

  const pure = withinCells(factors, runs);
  const variance = pure.dof > 0 ? pure.sumSq / pure.dof : null;
  const effects = terms.flatMap((term): FactorialResult['effects'] => {
    if (!term.signs || lost(term)) return [];
    const side = (sign: number) => runs.filter((_, i) => term.signs![i] === sign).map((run) => run.value);
    const [high, low] = [side(1), side(-1)];
    const mean = (values: number[]) => values.reduce((sum, value) => sum + value / values.length, 0);
    const u = variance === null ? null : Math.sqrt(variance * (1 / high.length + 1 / low.length));
    return [{ term: term.names, effect: { value: mean(high) - mean(low), u, dof: pure.dof } }];
  });

  // One of each aliased group stands for all of it in the model; the others would add nothing.
  const model = terms.filter((term, i) => terms.findIndex((other) => other.partition === term.partition) === i);
  const shift = runs[0]!.value;
  const y = runs.map((run) => run.value - shift);
  const constant = beyond([], [y.map(() => 1)]);
  const explained = (basis: number[][]) => basis.reduce((sum, q) => sum + q.reduce((s, value, i) => s + value * y[i]!, 0) ** 2, 0);
  const spanOf = (of: readonly Term[]) => of.reduce((basis, term) => [...basis, ...beyond(basis, columnsOf(term))], constant);
  const whole = spanOf(model);
  const fitted = whole.reduce((rest, q) => {
    const along = q.reduce((sum, value, i) => sum + value * rest[i]!, 0);
    return rest.map((value, i) => value - along * q[i]!);
  }, y);
  const scale = Math.max(
    1e-300,
    y.reduce((sum, value) => sum + value ** 2, 0),
  );
  const left = fitted.reduce((sum, value) => sum + value ** 2, 0);
  const residual = { sumSq: left < 1e-24 * scale ? 0 : left, dof: runs.length - whole.length };
  const rows = model.flatMap((term): AnovaRow[] => {
    const others = spanOf(model.filter((other) => other !== term));
    const own = beyond(others, columnsOf(term));
    return own.length === 0 ? [] : [anovaRow(term.names.join('*'), explained(own), own.length, residual)];
  });
  if (residual.dof > 0) rows.push({ term: 'residual', ...residual, meanSq: residual.sumSq / residual.dof, f: null, p: null });
  return { effects, rows, aliased };
}
