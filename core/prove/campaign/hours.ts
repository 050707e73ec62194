import {
  boundSettling,
  DEFAULT_SETTLED_RULE,
  judgePair,
  nextActs,
  type CallKind,
  type JudgeInput,
  type JudgedSide,
  type JudgeRules,
  type Scatter,
  type Stopping,
} from '../../src/index.ts';
import { line, share, type Claim } from '../claim.ts';
import { normalFrom, uniformOf } from '../traces.ts';
import { IDLE_S, recordOf, runOf, type CardBench, type Made } from './bench.ts';
import { knownSpread } from './studies.ts';

/** Looked at coarsely after so many minutes of load whether it may end. */
const LOOKS_MIN = [12, 16, 20, 24, 28, 32, 36, 40, 45, 50, 55];
const LONGEST_MIN = 60;
/** Refitting, cooling down and the idle before the load, h. */
const BETWEEN_H = (12 + 10) / 60;
const FIXED_A_SIDE = 3;
/** What a bench without history plans, and one that knows how far its mounts lie apart. */
const UNKNOWN = { rule: 'obrien-fleming', mostASide: 4 } as const;
const KNOWN = { rule: 'pocock', mostASide: 3, fromASide: 1 } as const;

interface Study {
  bench: CardBench;
  seed: number;
  offs: { a: number[]; b: number[] };
  /** What the bench learnt of how far its mounts lie apart before this study. */
  knows: Scatter;
}

/** A light or a heavy sink, with a difference of anything from nothing to 6 K. */
function drawn(seed: number): Study {
  const u = uniformOf(120_000 + seed);
  const normal = normalFrom(130_000 + seed);
  const heavy = u() < 0.5;
  const slow = heavy ? 420 + 300 * u() : 150 + 150 * u();
  const terms = (other: number) => [[0.6, 30], [0.4, slow * other]] as const; // prettier-ignore
  const mountK = 0.15 + 0.35 * u();
  const bench: CardBench = {
    riseK: [40 + 15 * u()],
    differenceK: (u() < 0.5 ? -1 : 1) * [0, 0.5, 2, 3, 4, 6][Math.floor(6 * u())]!,
    powerW: 200,
    fanRpm: 1500,
    terms: { a: terms(1), b: terms(0.9 + 0.3 * u()) },
    mountK,
    runK: 0.1,
    driftKPerH: 0.03 * (u() - 0.5),
    noiseK: 0.1,
    stepK: 0.1,
  };
  const offs = () => Array.from({ length: Math.max(FIXED_A_SIDE, UNKNOWN.mostASide) }, () => mountK * normal());
  const knows = knownSpread(bench, normal);
  return { bench, seed, offs: { a: offs(), b: offs() }, knows };
}

const rules = (stopping: JudgeRules['stopping']): JudgeRules => ({
  basis: 'rise',
  figure: 'settled-mean',
  practicalK: 1,
  coverage: 0.95,
  roomBand: null,
  fans: 'locked',
  ...(stopping && { stopping }),
});
const spots = [{ id: 's0', name: 'chip', limitC: 95, accuracyK: 1, resolutionK: 0.1, placementK: 0.5 }];
const costs = { runMin: 40, remountMin: 12 };

function madeOf({ seed, offs }: Study, side: 'a' | 'b', mount: number, atH: number, loadMin: number): Made {
  return {
    side,
    mount: mount + 1,
    mountOffK: offs[side][mount]!,
    atH,
    loadMin,
    power: 1,
    fan: 1,
    fanExponent: 0.5,
    seed: seed * 100 + 10 * mount + (side === 'a' ? 1 : 2),
    shows: { fan: true, work: false, clock: true, busy: 99, mounts: true },
  };
}

/** When the bound of what remains is inside the tolerance; the cap where it never is. */
function endsAfter({ bench }: Study, made: Made): number {
  const { spots: read, room } = recordOf(bench, { ...made, loadMin: LONGEST_MIN });
  const { t, y } = read[0]!.series;
  const from = t.findIndex((s) => s >= IDLE_S);
  const settledBy = (minutes: number) => {
    const to = t.findIndex((s) => s >= IDLE_S + 60 * minutes);
    const rise = { t: t.slice(from, to), y: y.slice(from, to).map((value, i) => value - room!.y[from + i]!) };
    return boundSettling(rise, DEFAULT_SETTLED_RULE).settled;
  };
  const late = LOOKS_MIN.findIndex(settledBy);
  const [before, by] =
    late < 0 ? [LOOKS_MIN.at(-1)!, LONGEST_MIN] : [late === 0 ? LOOKS_MIN[0]! - 1 : LOOKS_MIN[late - 1]!, LOOKS_MIN[late]!];
  // It is looked at every minute: those between two coarse looks only where the later one says so.
  for (let minutes = before + 1; minutes < by; minutes++) if (settledBy(minutes)) return minutes;
  return by;
}

interface Done {
  kind: CallKind;
  hours: number;
}

/** How a study is worked. */
interface Way {
  /** null: each load until it is settled. */
  loadMin: number | null;
  /** Mounts a side at most. */
  most: number;
  rules: JudgeRules;
  history: JudgeInput['history'];
}

/** Runs in turn, A B B A, until the rule or the advice says that it is enough. */
function work(study: Study, { loadMin, most, rules: judgeBy, history }: Way): Done {
  const sides: Record<'a' | 'b', JudgedSide> = {
    a: { variantId: 'a', name: 'stock', runs: [] },
    b: { variantId: 'b', name: 'mod', runs: [] },
  };
  let atH = 0;
  let kind: CallKind = 'no-call';
  for (let mount = 0; mount < most; mount++) {
    for (const side of mount % 2 === 0 ? (['a', 'b'] as const) : (['b', 'a'] as const)) {
      const made = madeOf(study, side, mount, atH, loadMin ?? LONGEST_MIN);
      const minutes = loadMin ?? endsAfter(study, made);
      sides[side].runs.push(runOf(study.bench, { ...made, loadMin: minutes }, 10 * mount + (side === 'a' ? 0 : 1)));
      atH += BETWEEN_H + minutes / 60;
    }
    if (!judgeBy.stopping && mount + 1 < most) continue;
    const judgement = judgePair({ ...sides, spots, rules: judgeBy, history });
    kind = judgement.spots[0]!.call.kind;
    if (kind !== 'no-call' && kind !== 'withheld') break;
    if (mount > 0 && nextActs(judgement, spots, judgeBy, costs).acts[0]?.kind === 'stop') break;
  }
  return { kind, hours: atH };
}

const decided = (kind: CallKind) => kind === 'cooler' || kind === 'warmer' || kind === 'equivalent';

/** One way of planning against an hour of load and three mounts a side, by what the bench knows. */
function against(studies: readonly Study[], stopping: Stopping, historyOf: (study: Study) => JudgeInput['history']) {
  let [fixedH, earlyH, contradicted, lost, of] = [0, 0, 0, 0, 0];
  for (const study of studies) {
    const history = historyOf(study);
    const fixed = work(study, { loadMin: LONGEST_MIN, most: FIXED_A_SIDE, rules: rules(undefined), history });
    const early = work(study, { loadMin: null, most: stopping.mostASide, rules: rules(stopping), history });
    fixedH += fixed.hours;
    earlyH += early.hours;
    if (decided(fixed.kind)) of++;
    if (decided(fixed.kind) && decided(early.kind) && fixed.kind !== early.kind) contradicted++;
    if (decided(fixed.kind) && !decided(early.kind)) lost++;
  }
  return { hours: share(earlyH, fixedH), contradicted: share(contradicted, of), lost: share(lost, of) };
}

/** Claims about bench hours: as soon as it is decided, against an hour of load and three mounts a side. @param draws studies @param from seed before the first */
export function proveHours(draws: number, from = 0): Claim[] {
  const studies = Array.from({ length: draws }, (_, i) => drawn(from + i + 1));
  const known = against(studies, KNOWN, ({ knows }) => ({ s0: knows }));
  const unknown = against(studies, UNKNOWN, () => ({}));
  return [
    line('Bench hours of those of an hour and three a side, where the bench knows how far its mounts lie apart', known.hours, 0, 0.42),
    line('Of what those decide is decided otherwise', known.contradicted, 0, 0.03),
    line('Of what those decide is not decided', known.lost, 0, 0.2),
    line('Bench hours of those, where it knows nothing yet', unknown.hours, 0, 0.65),
    line('Of what those decide is decided otherwise there', unknown.contradicted, 0, 0.03),
    line('Of what those decide is not decided there', unknown.lost, 0, 0.12),
  ];
}
