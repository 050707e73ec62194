import { Matrix, pseudoInverse } from 'ml-matrix';
import { InsufficientDataError, requireFinite } from '../errors.ts';
import { assertDesign, type Factor } from './aliases.ts';
import { withinCells } from './factorEffects.ts';

export interface FittedEffect {
  factor: string;
  /** Second level against the first, every other factor held. */
  value: number;
  /** Null where neither repeats nor runs beyond the fitted ones are there. */
  u: number | null;
  dof: number;
}

export interface MainEffectsFit {
  /** Of two-level factors that can be told apart; a factor of more levels is fitted, and has none. */
  effects: FittedEffect[];
  /** Two-level factors whose columns lie within those of others. */
  lost: string[];
  /** What the doubt rests on: scatter of equal runs, what the fit leaves over (interactions among it), or nothing. */
  doubtFrom: 'repeats' | 'residual' | 'nothing';
}

/**
 * Main effects of a set of runs in which factors did not change independently of each other, as where combinations are missing: all of
 * them fitted together by least squares, so that each is what its factor does with the others held. Interactions are not in the model.
 *
 * @param factors two or more levels each
 * @param runs a level for every factor, and the figure
 * @returns u by the variance within cells where there are repeats, else by what the fit leaves over
 * @throws InsufficientDataError no factors, or fewer runs than two
 * @throws RangeError as `factorEffects`
 * @see Draper & Smith, Applied Regression Analysis
 */
export function fitMainEffects(
  factors: readonly Factor[],
  runs: readonly { levels: Readonly<Record<string, string>>; value: number }[],
): MainEffectsFit {
  if (factors.length === 0 || runs.length < 2) throw new InsufficientDataError('effects need at least one factor and two runs');
  assertDesign(factors, runs);
  runs.forEach((run, i) => requireFinite(run.value, `runs[${i}].value`));
  const columns = factors.flatMap((factor) =>
    factor.levels.slice(1).map((level) => ({
      factor,
      of: runs.map((run) =>
        factor.levels.length === 2 ? (run.levels[factor.name] === level ? 0.5 : -0.5) : Number(run.levels[factor.name] === level),
      ),
    })),
  );
  const x = new Matrix(runs.map((_, i) => [1, ...columns.map((column) => column.of[i]!)]));
  const y = Matrix.columnVector(runs.map((run) => run.value));
  const inverse = pseudoInverse(x.transpose().mmul(x));
  const beta = inverse.mmul(x.transpose()).mmul(y);
  // A coefficient can be told where its unit vector lies in the row space: (XᵀX)⁺XᵀX maps it onto itself.
  const reach = inverse.mmul(x.transpose()).mmul(x);
  const told = (k: number) =>
    columns.every((_, j) => Math.abs(reach.get(k, j + 1) - (j + 1 === k ? 1 : 0)) < 1e-8) && Math.abs(reach.get(k, 0)) < 1e-8;
  let rank = 0;
  for (let k = 0; k < x.columns; k++) rank += reach.get(k, k);
  const residual = Matrix.sub(y, x.mmul(beta)).to1DArray();
  const left = { sumSq: residual.reduce((sum, value) => sum + value ** 2, 0), dof: runs.length - Math.round(rank) };
  const pure = withinCells(factors, runs);
  const from = pure.dof > 0 ? pure : left.dof > 0 ? left : null;
  const two = columns.flatMap(({ factor }, i) => (factor.levels.length === 2 ? [{ factor: factor.name, k: i + 1 }] : []));
  return {
    effects: two
      .filter(({ k }) => told(k))
      .map(({ factor, k }) => ({
        factor,
        value: beta.get(k, 0),
        u: from && Math.sqrt((from.sumSq / from.dof) * inverse.get(k, k)),
        dof: from?.dof ?? 0,
      })),
    lost: two.filter(({ k }) => !told(k)).map(({ factor }) => factor),
    doubtFrom: pure.dof > 0 ? 'repeats' : from ? 'residual' : 'nothing',
  };
}
