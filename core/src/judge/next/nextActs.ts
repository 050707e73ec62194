import { normalCdf } from '../../distributions/normal.ts';
import { studentCoverage } from '../../distributions/studentT.ts';
import { fixed } from '../../format/measured.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import { lookedAt } from '../figure/looked.ts';
import { adviceWords } from '../pair/advice.ts';
import type { JudgedSpot, JudgeRules, PairJudgement, SpotJudgement } from '../types.ts';

export interface NextAct {
  kind: 'run' | 'remount' | 'write-down' | 'earn' | 'stop';
  /** What to do, as words that follow "next:". */
  what: string;
  minutes: number;
  /** How likely it is that the spot in question is decided with it, 0..1; null where nobody can say. */
  decides: number | null;
}

export interface NextActs {
  /** The spot that the acts would decide; null where there is nothing to decide, or nothing read. */
  spotId: string | null;
  /** Most decided for an hour first. */
  acts: NextAct[];
  sentence: string;
}

/** What one more run costs at this bench, minutes. */
export interface ActCosts {
  /** Idle and load. */
  runMin: number;
  /** To take a variant off and put it on again, or another in its place. */
  remountMin: number;
}

/** No act that decides less often than this for each run it takes is worth a morning. Our own figure. */
const WORTH = 0.025;
/** A minute's writing is not free of thought: acts of no time rank by this many. */
const LEAST_MIN = 2;

interface Mounts {
  a: number;
  b: number;
}

/** Variance between mounts of one figure, K², and what repeats do not average away. */
function partsOf({ difference, budget }: Comparison, { a, b }: Mounts): { perMount: number; rest: number } {
  const share = budget.shares.filter(({ name }) => name.startsWith('scatter between mounts')).reduce((sum, line) => sum + line.share, 0);
  const scatter = share * difference.u ** 2;
  return { perMount: scatter / (1 / a + 1 / b), rest: difference.u ** 2 - scatter };
}

/**
 * How likely a comparison is a call once there are more mounts: the difference that is seen then is drawn from what is known now, its
 * interval narrower by as much.
 */
function decidesWith(
  comparison: Comparison,
  now: Mounts,
  then: Mounts,
  rules: Pick<JudgeRules, 'practicalK' | 'coverage' | 'stopping'>,
): number {
  const { perMount, rest } = partsOf(comparison, now);
  const { value, u, dof } = comparison.difference;
  const u2 = Math.sqrt(perMount * (1 / then.a + 1 / then.b) + rest);
  // A plan that may be decided early asks for more at an early look than at its last.
  const coverage = lookedAt(rules, Math.min(then.a, then.b))?.coverage ?? rules.coverage;
  const half = studentCoverage(coverage, dof + then.a + then.b - now.a - now.b) * u2;
  const moves = Math.sqrt(Math.max(0, u ** 2 - u2 ** 2));
  const below = (x: number) => (moves === 0 ? Number(value < x) : normalCdf((x - value) / moves));
  const inside = Math.max(0, rules.practicalK - half);
  // Whatever comes out then is either beyond zero or inside what does not matter.
  if (inside >= half) return 1;
  const alike = inside > 0 ? below(inside) - below(-inside) : 0;
  return below(-half) + 1 - below(half) + alike;
}

const stop = (what: string): NextAct => ({ kind: 'stop', what, minutes: 0, decides: 0 });

/** An act whose chance can be told. */
type Weighed = NextAct & { decides: number };

/** All mounts of a plan that may be decided early, where more than one a side is left of it: a single one may decide nothing, and all of them much. */
function restOfPlan(now: Mounts, { stopping }: Pick<JudgeRules, 'stopping'>): Mounts[] {
  const most = stopping?.mostASide ?? 0;
  return Math.min(now.a, now.b) + 1 < most ? [{ a: Math.max(now.a, most), b: Math.max(now.b, most) }] : [];
}

/** What mounting once more, or writing down what there is, would bring for a spot that is no call. */
function furtherActs({ a, b }: PairJudgement, comparison: Comparison, rules: JudgeRules, costs: ActCosts): Weighed[] {
  const now = { a: a.mounts ?? 1, b: b.mounts ?? 1 };
  const once = costs.runMin + costs.remountMin;
  const decides = (then: Mounts) => decidesWith(comparison, now, then, rules);
  const unknown = [a, b].filter((side) => side.mounts === null && side.runIds.length > 1);
  const asRuns = { a: a.mounts ?? a.runIds.length, b: b.mounts ?? b.runIds.length };
  return [
    ...(unknown.length > 0
      ? [
          {
            kind: 'write-down' as const,
            what: `say at Read which mount each run of ${unknown.map(({ name }) => name).join(' and ')} was on`,
            minutes: 0,
            decides: decides(asRuns),
          },
        ]
      : []),
    { kind: 'remount', what: `refit ${b.name} and run it once more`, minutes: once, decides: decides({ ...now, b: now.b + 1 }) },
    { kind: 'remount', what: `refit ${a.name} and run it once more`, minutes: once, decides: decides({ ...now, a: now.a + 1 }) },
    {
      kind: 'remount',
      what: `refit and run both once more`,
      minutes: 2 * once,
      decides: decides({ a: now.a + 1, b: now.b + 1 }),
    },
    ...restOfPlan(now, rules).map(({ a: toA, b: toB }) => ({
      kind: 'remount' as const,
      what: `go on to ${Math.min(toA, toB)} mounts a side, as planned`,
      minutes: (toA - now.a + toB - now.b) * once,
      decides: decides({ a: toA, b: toB }),
    })),
  ];
}

function ranked(acts: readonly Weighed[]): Weighed[] {
  const perHour = (act: Weighed) => act.decides / Math.max(LEAST_MIN, act.minutes);
  return [...acts].sort((p, q) => perHour(q) - perHour(p));
}

/** What stands before any number of mounts: a side without a usable run, two that may not be compared, a call that is withheld. */
function before(judgement: PairJudgement, nameOf: (spot: SpotJudgement) => string, costs: ActCosts): NextActs | null {
  const { a, b, blockedBy, withheldBy, leftOut, work } = judgement;
  const once = costs.runMin + costs.remountMin;
  const [block] = blockedBy;
  if (block) {
    const act: NextAct = { kind: 'earn', what: block.remedy.replace(/\.$/, ''), minutes: 2 * once, decides: null };
    return { spotId: null, acts: [act], sentence: `The two may not be compared as they are. ${block.remedy}` };
  }
  const lacking = [
    { side: a, throttled: work.throttled.a.runs },
    { side: b, throttled: work.throttled.b.runs },
  ].filter(({ side }) => side.runIds.length === 0);
  const [first] = lacking;
  if (first) {
    if (first.side.name === '') return { spotId: null, acts: [], sentence: 'Say first what is held against what.' };
    const why = leftOut.find(({ label }) => label.startsWith(`${first.side.name}, `))?.reason;
    // One that throttles under this load will throttle again.
    if (first.throttled > 0)
      return { spotId: null, acts: [], sentence: `Judge by work and time to throttle, or load less: ${first.side.name} throttled.` };
    const acts = lacking.map(({ side }): NextAct => ({ kind: 'run', what: `run ${side.name}`, minutes: once, decides: null }));
    return { spotId: null, acts, sentence: `Next: ${acts[0]!.what}${why ? ` again. ${why}` : '.'}` };
  }
  const held = judgement.spots.find(({ call }) => call.kind === 'withheld');
  const earn = held ? { why: held.call.why, earnBy: held.call.earnBy! } : withheldBy[0]?.withheld;
  if (!earn) return null;
  const act: NextAct = { kind: 'earn', ...earn.earnBy, decides: null };
  const what = held ? `${nameOf(held)} is not called` : 'Nothing is called before';
  return { spotId: held?.spotId ?? null, acts: [act], sentence: `Next: ${act.what}. ${what}: ${earn.why}.` };
}

/**
 * What to do next about a comparison, most decided for an hour at the bench first: earn what is withheld, write down what was not,
 * mount once more, or stop.
 *
 * Chances are by the model of the interval itself: a normal draw of what the next mounts will show.
 */
export function nextActs(judgement: PairJudgement, spots: readonly JudgedSpot[], rules: JudgeRules, costs: ActCosts): NextActs {
  const nameOf = (spot: SpotJudgement) => spots.find(({ id }) => id === spot.spotId)?.name ?? spot.spotId;
  const first = before(judgement, nameOf, costs);
  if (first) return first;
  const [open] = judgement.spots
    .filter(({ call }) => call.kind === 'no-call')
    .map((spot) => ({ spot, acts: ranked(furtherActs(judgement, spot.comparison!, rules, costs)) }))
    .sort((p, q) => q.acts[0]!.decides - p.acts[0]!.decides);
  if (!open && judgement.spots.every(({ call }) => call.kind === 'not-compared'))
    return { spotId: null, acts: [], sentence: 'Nothing was read on both sides yet.' };
  if (!open) {
    const act = stop('nothing more will change this call');
    return {
      spotId: null,
      acts: [act],
      sentence: 'Stop here: every spot that was read on both sides is decided, and nothing more need be run for it.',
    };
  }
  const { spot, acts } = open;
  const [best] = acts as [Weighed];
  const runs = (minutes: number) => Math.max(1, minutes / (costs.runMin + costs.remountMin));
  if (acts.every(({ decides, minutes }) => decides < WORTH * runs(minutes)))
    return {
      spotId: spot.spotId,
      acts: [stop('nothing that is planned is likely to decide it')],
      sentence: `Stop here, or run many: nothing that is planned is likely to decide ${nameOf(spot)}. ${adviceWords(spot.comparison!)}`,
    };
  return {
    spotId: spot.spotId,
    acts,
    sentence: `Next: ${best.what}; that decides ${nameOf(spot)} with ${fixed(100 * best.decides, 0)} % chance.`,
  };
}
