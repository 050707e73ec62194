import { normalQuantile } from '../../distributions/normal.ts';
import { studentCoverage } from '../../distributions/studentT.ts';
import { InsufficientDataError } from '../../errors.ts';
import { combinations, isImpossible, type Impossible } from '../../factors/combine.ts';
import { againstRepeats } from '../../factors/againstRepeats.ts';
import { factorEffects, withinCells, type FactorialResult } from '../../factors/factorEffects.ts';
import { fitMainEffects } from '../../factors/fitMainEffects.ts';
import { fixed } from '../../format/measured.ts';
import { listWords } from '../../format/words.ts';
import type { Factor } from '../../factors/aliases.ts';
import { mean } from '../../mean.ts';
import { holm } from '../../uncertainty/holm.ts';
import { pOf } from '../../uncertainty/pOf.ts';
import { standsInOrder } from '../fair/stands.ts';
import type { Finding } from '../types.ts';
import { standsBetween, readingsOf, runsOf, type LineUp, type LineUpKey, type LineUpSide } from './lineUp.ts';

export interface EffectInView {
  term: string[];
  /** mean(high) − mean(low), or with the other factors held where effects are fitted together. */
  value: number;
  /** Half-width at the study's coverage; null without replicates. */
  halfWidth: number | null;
  /** Told from zero, corrected by Holm over all terms; null without replicates, and where effects may not be called. */
  told: boolean | null;
  /** Quantile of a half-normal distribution at its place, where there are no replicates. */
  halfNormal: number | null;
}

export interface FactorView {
  runs: number;
  effects: EffectInView[];
  rows: FactorialResult['rows'];
  /** Terms that this set of runs cannot tell apart; none of them is credited. */
  refused: { terms: string[][]; sentence: string }[];
  /** Mean of every cell, for the interaction plot. */
  cells: { levels: Record<string, string>; mean: number; runs: number }[];
  /** Combinations without a run. */
  holes: Record<string, string>[];
  /** Effects may be called: nothing stands against these variants, and no combination is missing that interactions could hide in. */
  called: boolean;
  /** Main effects are fitted together, because factors did not change independently; interactions are not among the effects then. */
  fitted: boolean;
  /** What forbids or withholds calling some of these variants against each other: effects that rest on them are shown, and not called. */
  stands: Finding[];
  /** What may and may not be said, in sentences. */
  notes: string[];
}

/** Correlation of two factors' levels beyond which their effects overlap enough to say so. Our own figure. */
const TOGETHER = 0.2;

/** What a fit leaves over is worth an interval from so many degrees of freedom on; below, t is so wide that it says nothing. Our own figure. */
const LEAST_RESIDUAL_DOF = 3;

const termWords = (names: readonly string[]) => names.join(' × ');

function cellsOf(factors: readonly Factor[], sides: readonly LineUpSide[], key: LineUpKey): FactorView['cells'] {
  const cells = new Map<string, { levels: Record<string, string>; values: number[]; runs: number }>();
  for (const side of sides) {
    const levels = Object.fromEntries(factors.map((factor) => [factor.name, side.levels[factor.name]!]));
    const id = JSON.stringify(levels);
    const cell = cells.get(id) ?? { levels, values: [], runs: 0 };
    cell.values.push(...readingsOf(side, key).map((estimate) => estimate.value));
    cell.runs += runsOf(side, key);
    cells.set(id, cell);
  }
  return [...cells.values()]
    .filter((cell) => cell.values.length > 0)
    .map(({ levels, values, runs }) => ({ levels, mean: mean(values), runs }));
}

/** Pairs of two-level factors whose levels went together more often than not, without being one and the same. */
function overlapping(factors: readonly Factor[], runs: readonly { levels: Record<string, string> }[]): [string, string][] {
  const two = factors.filter((factor) => factor.levels.length === 2);
  const centred = (factor: Factor) => {
    const signs = runs.map((run) => (run.levels[factor.name] === factor.levels[1] ? 1 : -1));
    const middle = mean(signs);
    return signs.map((sign) => sign - middle);
  };
  return two.flatMap((p, i) =>
    two.slice(i + 1).flatMap((q): [string, string][] => {
      const [x, y] = [centred(p), centred(q)];
      const dot = (a: number[], b: number[]) => a.reduce((sum, value, k) => sum + value * b[k]!, 0);
      const r = Math.abs(dot(x, y)) / Math.sqrt(dot(x, x) * dot(y, y));
      return r > TOGETHER && r < 1 - 1e-9 ? [[p.name, q.name]] : [];
    }),
  );
}

/**
 * Effects of the study's factors on one figure: main effects and interactions with their doubt, cells for the interaction plot, what
 * is aliased and refused, and which combinations were never run (methods §6).
 *
 * Factors that never changed among the runs are left out; so are variants without a level of every factor.
 *
 * @throws InsufficientDataError no factor that changed, or fewer than two runs
 */
export function factorView(of: LineUp, factors: readonly Factor[], key: LineUpKey, impossible: readonly Impossible[] = []): FactorView {
  const placed = of.sides.filter(
    (side) => factors.every((factor) => factor.levels.includes(side.levels[factor.name] ?? '')) && readingsOf(side, key).length > 0,
  );
  const changing = factors
    .map((factor) => ({ ...factor, levels: factor.levels.filter((level) => placed.some((side) => side.levels[factor.name] === level)) }))
    .filter((factor) => factor.levels.length > 1);
  if (changing.length === 0) throw new InsufficientDataError('no factor changed among the runs: there is no effect to find');
  const runs = placed.flatMap((side) =>
    readingsOf(side, key).map((estimate) => ({
      levels: Object.fromEntries(changing.map((factor) => [factor.name, side.levels[factor.name]!])),
      value: estimate.value,
    })),
  );
  const result = factorEffects(changing, runs);
  const together = overlapping(changing, runs);
  const fitted = together.length > 0 ? fitMainEffects(changing, runs) : null;
  const onResidual = fitted?.doubtFrom === 'residual' && (fitted.effects[0]?.dof ?? 0) >= LEAST_RESIDUAL_DOF;
  const all = fitted
    ? fitted.effects.map(({ factor, ...effect }) => ({
        term: [factor],
        effect: onResidual || fitted.doubtFrom === 'repeats' ? effect : { ...effect, u: null },
      }))
    : result.effects.map(({ term, effect }) => ({ term, effect }));
  // What always changed together is credited to neither, and no more is what either of them does together with a third.
  const inseparable = new Set(result.aliased.flatMap((terms) => {
    const mains = terms.filter((term) => term.length === 1).flat();
    return mains.length > 1 ? mains : [];
  })); // prettier-ignore
  const creditable = (term: readonly string[]) => !term.some((name) => inseparable.has(name));
  const found = all.filter(({ term }) => creditable(term));
  const bySize = [...found].sort((p, q) => Math.abs(p.effect.value) - Math.abs(q.effect.value));
  const cells = cellsOf(changing, placed, key);
  const holes = combinations(changing)
    .map(({ levels }) => levels)
    .filter((levels) => !isImpossible(levels, impossible))
    .filter((levels) => !cells.some((cell) => changing.every((factor) => cell.levels[factor.name] === levels[factor.name])));
  const stands = standsInOrder(
    'spotId' in key ? placed.flatMap((p, i) => placed.slice(i + 1).flatMap((q) => standsBetween(of, p.variantId, q.variantId))) : [],
  );
  // Of many terms that do nothing one in twenty is told by chance.
  const tested = found.map(({ effect }) => (effect.u !== null && effect.dof > 0 ? pOf({ ...effect, u: effect.u }) : null));
  const adjusted = holm(tested.flatMap((p) => p ?? []));
  const chances = tested.map((p) => (p === null ? null : adjusted.shift()!));
  // With interactions possible, what is missing of some combinations is credited to a factor that did nothing.
  const holed = fitted !== null && holes.length > 0;
  const effects = found.map(({ term, effect }, i): EffectInView => {
    const halfWidth = chances[i] !== null ? studentCoverage(of.rules.coverage, effect.dof) * effect.u! : null;
    const place = bySize.findIndex((other) => other.term === term);
    return {
      term,
      value: effect.value,
      halfWidth,
      told: halfWidth === null || stands.length > 0 || holed ? null : chances[i]! < 1 - of.rules.coverage,
      halfNormal: halfWidth !== null ? null : normalQuantile((1 + (place + 0.5) / bySize.length) / 2),
    };
  });
  const refused = result.aliased.map((terms) => ({
    terms,
    sentence: `${listWords(terms.map(termWords))} always changed together in these runs: what they did cannot be credited to either.`,
  }));
  const notes: string[] = [];
  const [first] = stands;
  if (first) notes.push(`Effects are not called: ${first.evidence}${first.withheld ? ` To earn it: ${first.withheld.earnBy.what}.` : ''}`);
  if (holed && !first)
    notes.push(
      'Effects are not called: combinations are missing, and what two factors do together would be credited to one of them. Run the missing ones.',
    );
  if (holes.length > 0)
    notes.push(`${holes.length} of ${cells.length + holes.length} combinations have no run; effects rest on the others.`);
  if (effects.some((effect) => effect.halfWidth === null))
    notes.push(
      'No combination was run twice: effects have no doubt of their own and are not tested. Look for those off the line of the half-normal plot.',
    );
  for (const [p, q] of together) notes.push(`${p} and ${q} did not change independently of each other in these runs.`);
  if (fitted)
    notes.push(
      'So main effects are fitted together, each with the other factors held. What two of them do beyond that is not in the fit: read the plot.',
    );
  if (onResidual)
    notes.push(
      'No combination was run twice: the doubt rests on what the fit leaves over, interactions among it. Repeats would tell them apart.',
    );
  const strongest = effects
    .filter((effect) => effect.told && effect.term.length === 2)
    .sort((p, q) => Math.abs(q.value) - Math.abs(p.value))[0];
  if (strongest)
    notes.push(
      `${termWords(strongest.term)} matters (${fixed(strongest.value, 1)}): what one of them does depends on the other, so read the plot, not the main effects alone.`,
    );
  return {
    runs: cells.reduce((sum, cell) => sum + cell.runs, 0),
    effects,
    rows: againstRepeats(
      result.rows.filter(({ term }) => creditable(term.split('*'))),
      withinCells(changing, runs),
    ),
    refused,
    cells,
    holes,
    called: stands.length === 0 && !holed,
    fitted: fitted !== null,
    stands: stands.slice(0, 1),
    notes,
  };
}
