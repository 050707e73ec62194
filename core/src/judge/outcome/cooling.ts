import { measured } from '../../format/measured.ts';
import { capital } from '../../format/words.ts';
import { mean } from '../../mean.ts';
import { throttledInReading } from '../fair/throttled.ts';
import { compareOutcome, estimatesOf, OUTCOMES, outcomeKeys, outcomeKind, type OutcomeKind } from './outcomes.ts';
import type { Cooling, CoolingRow, Freedom, JudgedRun, JudgedSide, JudgeRules, OutcomeKey, SpotJudgement } from '../types.ts';
import type { Comparison } from '../../uncertainty/compare.ts';

const meanOf = (runs: readonly JudgedRun[], kind: OutcomeKind) => {
  const read = estimatesOf(runs, kind);
  return read.length === 0 ? null : mean(read.map((estimate) => estimate.value));
};

const always = (runs: readonly JudgedRun[]) => runs.length > 0 && runs.every(throttledInReading);

/** Which of the fans' outcomes the tester held. */
function fanFreedom(rules: JudgeRules): { freedom: Freedom; because: string } {
  if (rules.fans === 'locked') return { freedom: 'held', because: 'fans locked by the house rules' };
  if (rules.fans === 'equal-noise') return { freedom: 'held', because: 'held to equal noise' };
  return { freedom: 'free', because: 'fans as shipped: the part turns them by its own temperature' };
}

function betterOf(comparison: Comparison, better: 'low' | 'high'): 'a' | 'b' | null {
  if (comparison.verdict === 'equivalent' || comparison.verdict === 'no-call') return null;
  return comparison.difference.value < 0 === (better === 'low') ? 'b' : 'a';
}

function timeRow(a: JudgedSide, b: JudgedSide, rules: JudgeRules, others: readonly JudgedSide[]): CoolingRow {
  const key = 'time-to-throttle';
  const watched = (runs: readonly JudgedRun[]) => runs.filter((run) => run.review.throttle !== null);
  const did = (runs: readonly JudgedRun[]) => watched(runs).filter((run) => run.review.throttle!.timeToFirstS !== null).length;
  const [wa, wb] = [watched(a.runs).length, watched(b.runs).length];
  const [da, db] = [did(a.runs), did(b.runs)];
  const kind = OUTCOMES[key];
  const base = { outcome: key, label: kind.label, unit: 'min', a: meanOf(a.runs, kind), b: meanOf(b.runs, kind) } as const;
  if (wa === 0 || wb === 0)
    return { ...base, freedom: 'not-recorded', comparison: null, better: null, because: 'no performance was recorded on both sides' };
  if (da === 0 && db === 0)
    return { ...base, freedom: 'free', comparison: null, better: null, because: 'neither side throttled while it was watched' };
  if (da === wa && db === wb) {
    const made = compareOutcome(a.runs, b.runs, kind, rules.coverage, others);
    const better = made && betterOf(made.comparison, 'high');
    return { ...base, freedom: 'free', comparison: made?.comparison ?? null, better, because: 'both sides throttled' };
  }
  const words = (name: string, n: number, of: number) => (n === 0 ? `${name} never throttled` : `${name} throttled in ${n} of ${of} runs`);
  const better = da === wa && db === 0 ? 'b' : da === 0 && db === wb ? 'a' : null;
  return { ...base, freedom: 'free', comparison: null, better, because: `${words(a.name, da, wa)}, ${words(b.name, db, wb)}` };
}

function outcomeRow(key: OutcomeKey, a: JudgedSide, b: JudgedSide, rules: JudgeRules, others: readonly JudgedSide[]): CoolingRow {
  const kind = outcomeKind(key, rules);
  const unit = key === 'throughput' ? (rules.throughputUnit ?? '') : kind.unit;
  const base = { outcome: key, label: kind.label, unit, a: meanOf(a.runs, kind), b: meanOf(b.runs, kind) };
  const made = compareOutcome(a.runs, b.runs, kind, rules.coverage, others);
  if (!made) return { ...base, freedom: 'not-recorded', comparison: null, better: null, because: 'not recorded on both sides' };
  const { comparison, practical } = made;
  const held = kind.ofFans && (key === 'fan' || rules.fans !== 'not-applicable') ? fanFreedom(rules) : null;
  if (held?.freedom === 'held' && Math.abs(comparison.difference.value) <= practical)
    return { ...base, freedom: 'held', comparison, better: null, because: held.because };
  if (key === 'noise' && rules.fans === 'locked')
    return {
      ...base,
      freedom: 'free',
      comparison,
      better: betterOf(comparison, kind.better),
      because: 'the fans differ in what they sound like',
    };
  if (held?.freedom === 'held')
    return {
      ...base,
      freedom: 'free',
      comparison,
      better: betterOf(comparison, kind.better),
      because: 'not alike, though the house rules lock or match the fans',
    };
  if (kind.noMerit) return { ...base, freedom: 'free', comparison, better: null, because: kind.noMerit };
  return { ...base, freedom: 'free', comparison, better: betterOf(comparison, kind.better), because: held?.because ?? 'free to move' };
}

function temperatureRow(a: JudgedSide, b: JudgedSide, spot: SpotJudgement | undefined, name: string): CoolingRow {
  const base = {
    outcome: 'temperature' as const,
    label: name,
    unit: 'K',
    a: spot?.a?.figure.value ?? null,
    b: spot?.b?.figure.value ?? null,
  };
  const [ta, tb] = [always(a.runs), always(b.runs)];
  if (ta || tb) {
    const who = ta && tb ? 'both sides were' : `${ta ? a.name : b.name} was`;
    return {
      ...base,
      freedom: 'held-by-part',
      comparison: null,
      better: null,
      because: `${who} throttled while read: the part holds its own temperature`,
    };
  }
  const comparison = spot?.comparison ?? null;
  if (!comparison)
    return { ...base, freedom: 'not-recorded', comparison, better: null, because: spot?.refusal ?? 'no reading on both sides' };
  const { kind } = spot!.call;
  if (kind === 'blocked')
    return { ...base, freedom: 'free', comparison, better: null, because: 'the comparison is blocked, so it is not called' };
  if (kind === 'withheld') return { ...base, freedom: 'free', comparison, better: null, because: `not called: ${spot!.call.why}` };
  if (spot!.call.byItself)
    return { ...base, freedom: 'free', comparison, better: null, because: 'called by itself only: among all spots it may be chance' };
  return {
    ...base,
    freedom: 'free',
    comparison,
    better: kind === 'cooler' ? 'b' : kind === 'warmer' ? 'a' : null,
    because: 'free to move',
  };
}

/** "the loop is quieter by 4.1 ± 0.3 dB(A)": one free outcome in words. `spots`: temperatures are said of so many, so that each names its spot. */
function inWords(row: CoolingRow, a: string, b: string, rules: JudgeRules, spots: number): string {
  if (!row.comparison) return row.because;
  const { difference, budget } = row.comparison;
  const does = row.outcome === 'temperature' ? 'is cooler by' : outcomeKind(row.outcome, rules).does;
  const at = row.outcome === 'temperature' && spots > 1 ? ` at ${row.label}` : '';
  return `${row.better === 'b' ? b : a} ${does} ${measured(Math.abs(difference.value), budget.expanded, row.unit).trim()}${at}`;
}

/** A spot that is judged, with its name; `judgement` is undefined where a study has none. */
interface NamedSpot {
  judgement: SpotJudgement | undefined;
  name: string;
}

/** The spot that is looked at, and every other that is called another way: a cover that cools one face and heats the other did both. */
function temperatureRows(a: JudgedSide, b: JudgedSide, spots: readonly [NamedSpot, ...NamedSpot[]]): [CoolingRow, ...CoolingRow[]] {
  const [first, ...others] = spots.map(({ judgement, name }) => temperatureRow(a, b, judgement, name)) as [CoolingRow, ...CoolingRow[]];
  return [first, ...others.filter(({ better }) => better !== null && better !== first.better)];
}

/**
 * Where did the cooling go? Holds side by side what was free to move between two sides: temperature, noise, fan, clock,
 * throughput, time to throttle; and says which of them were held, by the tester or by the part's own control (methods §4).
 *
 * @param spots the temperature that is looked at, that of the spot with the least headroom, and then the others
 * @param others the study's other variants, for how well the bench repeats
 */
export function whereCoolingWent(
  a: JudgedSide,
  b: JudgedSide,
  rules: JudgeRules,
  spots: readonly [NamedSpot, ...NamedSpot[]],
  others: readonly JudgedSide[] = [],
): Cooling {
  const rowOf = (key: OutcomeKey) => (key === 'time-to-throttle' ? timeRow(a, b, rules, others) : outcomeRow(key, a, b, rules, others));
  const temperatures = temperatureRows(a, b, spots);
  const rows = [...temperatures, ...outcomeKeys(rules).map(rowOf)].filter(
    (row) => row.outcome === 'temperature' || row.freedom !== 'not-recorded',
  );
  const moved = rows.filter((row) => row.better !== null);
  const struck = rows[0]!.freedom === 'held-by-part' ? `${spots[0].name} does not count: ${rows[0]!.because}. ` : '';
  const free = rows.filter((row) => row.freedom === 'free' && (row.outcome === 'temperature' || !outcomeKind(row.outcome, rules).noMerit));
  if (free.length === 0) return { rows, sentence: `${struck}Nothing else was recorded that could move.` };
  if (moved.length === 0) return { rows, sentence: `${struck}Nothing that was free to move shows a difference that matters.` };
  const sides = new Set(moved.map((row) => row.better));
  const list = capital(moved.map((row) => inWords(row, a.name, b.name, rules, temperatures.length)).join('; '));
  const split = sides.size > 1 ? ' They speak for different sides: choose which of them counts.' : '';
  return { rows, sentence: `${struck}${list}.${split}` };
}
