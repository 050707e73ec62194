import { InsufficientDataError, requireNotNegative } from '../errors.ts';
import { fixed } from '../format/measured.ts';
import type { Better } from './paretoFront.ts';

export interface Criterion {
  key: string;
  label: string;
  unit: string;
  better: Better;
  /** Differences up to this cannot be told apart, or do not matter. */
  tolerance: number;
  /** In which its values are said; up to one, and none that is nought, where nothing is said. */
  decimals?: number;
  /** What no (0) and yes (1) are called, of a criterion that is one or the other. */
  yesNo?: readonly [string, string];
}

export interface Choice {
  id: string;
  name: string;
  /** By key of the criterion; null where nobody knows. */
  values: Readonly<Record<string, number | null>>;
}

/** What a kind of reader cares about, in weights of the tester's own. */
export interface Profile {
  name: string;
  /** By key of the criterion, not negative; a criterion without one counts for nothing. */
  weights: Readonly<Record<string, number>>;
}

export interface ProfilePick {
  profile: string;
  /** Best first, 0 (best on everything that counts) to 1 (worst on everything). */
  scores: { id: string; name: string; score: number }[];
  /** Names of the first and of all that score as it does. */
  level: string[];
  /** Why the first and not the second, in the criteria that decide it. */
  because: string;
}

export interface TradeOffs {
  /** Ids of the choices that nothing beats, on every criterion at once. */
  front: string[];
  /** Choices left out because a criterion is not known of them. */
  without: { name: string; missing: string[] }[];
  picks: ProfilePick[];
}

/** Whether two choices cannot be told apart on a criterion though their figures differ, by its key. */
export type Alike = (p: string, q: string, criterion: string) => boolean;

/** Whether p is better than q on a criterion: by more than its tolerance, and told apart from it. */
function better(p: Choice, q: Choice, { key, better: side, tolerance }: Criterion, alike: Alike): boolean {
  const by = (q.values[key]! - p.values[key]!) * (side === 'low' ? 1 : -1);
  return by > tolerance && !alike(p.id, q.id, key);
}

const bestOf = (choices: readonly Choice[], { key, better: side }: Criterion): Choice =>
  choices.reduce((best, choice) => ((choice.values[key]! - best.values[key]!) * (side === 'low' ? 1 : -1) < 0 ? choice : best));

/** A value as it counts: what the best is not better than is as good as the best. */
function counted(choice: Choice, best: Choice, criterion: Criterion, alike: Alike): number {
  return better(best, choice, criterion, alike) ? choice.values[criterion.key]! : best.values[criterion.key]!;
}

/** Choices that no other beats: nowhere better than it, and somewhere worse. */
function unbeaten(choices: readonly Choice[], criteria: readonly Criterion[], alike: Alike): Choice[] {
  const beats = (p: Choice, q: Choice) =>
    criteria.some((criterion) => better(p, q, criterion, alike)) && !criteria.some((criterion) => better(q, p, criterion, alike));
  return choices.filter((choice) => !choices.some((other) => beats(other, choice)));
}

function pick(choices: readonly Choice[], criteria: readonly Criterion[], profile: Profile, alike: Alike): ProfilePick {
  const weightOf = (criterion: Criterion) => profile.weights[criterion.key] ?? 0;
  const total = criteria.reduce((sum, criterion) => {
    requireNotNegative(weightOf(criterion), `weight of ${criterion.label}`);
    return sum + weightOf(criterion);
  }, 0);
  if (total === 0) throw new InsufficientDataError(`profile ${profile.name} gives no weight to anything that is known`);
  const lost = (choice: Choice, criterion: Criterion) => {
    const all = choices.map((other) => other.values[criterion.key]!);
    const [best, worst] = criterion.better === 'low' ? [Math.min(...all), Math.max(...all)] : [Math.max(...all), Math.min(...all)];
    const value = counted(choice, bestOf(choices, criterion), criterion, alike);
    return worst === best ? 0 : Math.abs(value - best) / Math.abs(worst - best);
  };
  const heaviest = [...criteria].sort((p, q) => weightOf(q) - weightOf(p))[0]!;
  const raw = (choice: Choice) => (heaviest.better === 'low' ? 1 : -1) * choice.values[heaviest.key]!;
  const scored = choices
    .map((choice) => ({
      choice,
      score: criteria.reduce((sum, criterion) => sum + (weightOf(criterion) / total) * lost(choice, criterion), 0),
    }))
    // Of two that cannot be told apart the one that read better stands first.
    .sort((p, q) => p.score - q.score || raw(p.choice) - raw(q.choice));
  const [first, second] = scored;
  const deciding = second
    ? criteria
        .map((criterion) => ({
          criterion,
          gain: (weightOf(criterion) / total) * (lost(second.choice, criterion) - lost(first!.choice, criterion)),
        }))
        .filter(({ gain }) => gain > 0)
        .sort((p, q) => q.gain - p.gain)
        .slice(0, 2)
    : [];
  const words = deciding.map(({ criterion }) => {
    const [mine, theirs] = [first!.choice, second!.choice].map((choice) => choice.values[criterion.key]!);
    const said = `${criterionValue(criterion, mine!)} against ${criterionValue(criterion, theirs!)}`;
    return criterion.yesNo ? `${criterion.label}: ${said}` : `${criterion.label} ${said} ${criterion.unit}`.trim();
  });
  return {
    profile: profile.name,
    scores: scored.map(({ choice, score }) => ({ id: choice.id, name: choice.name, score })),
    level: scored.filter(({ score }) => score - first!.score < 1e-9).map(({ choice }) => choice.name),
    because: !second
      ? 'It is the only one that is known on everything.'
      : words.length > 0
        ? `Before ${second.choice.name} by ${words.join(' and ')}.`
        : `Level with ${second.choice.name}: nothing that counts for this reader tells them apart.`,
  };
}

/** A value of a criterion as it is said, without its unit: of one that is yes or no in its own words. */
export function criterionValue({ yesNo, decimals }: Criterion, value: number): string {
  if (yesNo) return yesNo[value > 0 ? 1 : 0];
  return decimals === undefined ? String(Math.round(value * 10) / 10) : fixed(value, decimals);
}

/**
 * Holds choices against several criteria at once: the set that nothing beats, and what each kind of reader would take and why.
 *
 * Differences within a criterion's tolerance, or within doubt, count as none, so that a tenth of a kelvin buys nothing. A choice of which a criterion
 * is not known is left out and named, not guessed.
 *
 * @param profiles readers with weights of the tester's own
 * @param alike measured figures that their doubt does not tell apart; none where nothing is said
 * @throws InsufficientDataError no criterion; no choice is known on every criterion; a profile without weight
 * @throws RangeError a negative weight or tolerance
 */
export function tradeOffs(
  choices: readonly Choice[],
  criteria: readonly Criterion[],
  profiles: readonly Profile[],
  alike: Alike = () => false,
): TradeOffs {
  for (const criterion of criteria) requireNotNegative(criterion.tolerance, `tolerance of ${criterion.label}`);
  const missing = (choice: Choice) => criteria.filter((criterion) => choice.values[criterion.key] == null).map(({ label }) => label);
  const known = choices.filter((choice) => missing(choice).length === 0);
  if (criteria.length === 0) throw new InsufficientDataError('there is nothing to choose by');
  if (known.length === 0) throw new InsufficientDataError('no choice is known on every criterion');
  return {
    front: unbeaten(known, criteria, alike).map(({ id }) => id),
    without: choices.filter((choice) => missing(choice).length > 0).map((choice) => ({ name: choice.name, missing: missing(choice) })),
    picks: profiles.map((profile) => pick(known, criteria, profile, alike)),
  };
}

/**
 * Kelvins gained for each unit of money, against a reference.
 *
 * @returns null where it costs no more than the reference, or cools no better: there is nothing to divide
 */
export function kelvinPerMoney(reference: { tempK: number; cost: number }, choice: { tempK: number; cost: number }): number | null {
  const [gain, extra] = [reference.tempK - choice.tempK, choice.cost - reference.cost];
  return gain > 0 && extra > 0 ? gain / extra : null;
}

/**
 * Knee of a falling or rising sweep: the point furthest from the straight line between its ends, both axes scaled to their span.
 *
 * @param points three or more, in any order
 * @returns index into the points as given; null where the sweep is straight within `flatShare` of its span
 * @throws InsufficientDataError under three points, or all at one x or one y
 * @see V. Satopää et al., Finding a "Kneedle" in a Haystack, ICDCS Workshops 2011
 */
export function kneeOf(points: readonly { x: number; y: number }[], flatShare = 0.05): number | null {
  if (points.length < 3) throw new InsufficientDataError('a knee needs three points');
  const order = points.map((point, i) => ({ ...point, i })).sort((p, q) => p.x - q.x);
  const [first, last] = [order[0]!, order.at(-1)!];
  const [dx, dy] = [last.x - first.x, last.y - first.y];
  if (dx === 0 || dy === 0) throw new InsufficientDataError('the sweep does not move: there is no knee to find');
  const off = order.map((point) => ({ i: point.i, off: Math.abs((point.y - first.y) / dy - (point.x - first.x) / dx) }));
  const knee = off.reduce((p, q) => (q.off > p.off ? q : p));
  return knee.off > flatShare ? knee.i : null;
}
