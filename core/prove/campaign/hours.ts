import {
  boundSettling,
  DEFAULT_SETTLED_RULE,
  judgePair,
  nextActs,
  type CallKind,
  type JudgedSide,
  type JudgeRules,
} from '../../src/index.ts';
import { line, share, type Claim } from '../claim.ts';
import { normalFrom, uniformOf } from '../traces.ts';
import { IDLE_S, recordOf, runOf, type CardBench, type Made } from './bench.ts';

/** Looked at after so many minutes of load whether it may end. */
const LOOKS_MIN = [12, 16, 20, 24, 28, 32, 36, 40, 45, 50, 55];
const LONGEST_MIN = 60;
/** Refitting, cooling down and the idle before the load, h. */
const BETWEEN_H = (12 + 10) / 60;
const FIXED_A_SIDE = 3;
const MOST_A_SIDE = 4;

interface Study {
  bench: CardBench;
  seed: number;
  offs: { a: number[]; b: number[] };
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
  const offs = () => Array.from({ length: Math.max(FIXED_A_SIDE, MOST_A_SIDE) }, () => mountK * normal());
  return { bench, seed, offs: { a: offs(), b: offs() } };
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
  for (const minutes of LOOKS_MIN) {
    const to = t.findIndex((s) => s >= IDLE_S + 60 * minutes);
    const rise = { t: t.slice(from, to), y: y.slice(from, to).map((value, i) => value - room!.y[from + i]!) };
    if (boundSettling(rise, DEFAULT_SETTLED_RULE).settled) return minutes;
  }
  return LONGEST_MIN;
}

interface Done {
  kind: CallKind;
  hours: number;
}

/** Runs in turn, A B B A, until `enough` says so; `loadMin` null: each until it is settled. */
function work(study: Study, loadMin: number | null, judgeBy: JudgeRules, most: number, early: boolean): Done {
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
    if (!early && mount + 1 < most) continue;
    const judgement = judgePair({ ...sides, spots, rules: judgeBy, history: {} });
    kind = judgement.spots[0]!.call.kind;
    if (kind !== 'no-call' && kind !== 'withheld') break;
    if (mount > 0 && nextActs(judgement, spots, judgeBy, costs).acts[0]?.kind === 'stop') break;
  }
  return { kind, hours: atH };
}

const decided = (kind: CallKind) => kind === 'cooler' || kind === 'warmer' || kind === 'equivalent';

/** Claims about bench hours: as soon as it is decided, against an hour of load and three mounts a side. @param draws studies @param from seed before the first */
export function proveHours(draws: number, from = 0): Claim[] {
  let [fixedH, earlyH, contradicted, lost, of] = [0, 0, 0, 0, 0];
  for (let seed = from + 1; seed <= from + draws; seed++) {
    const study = drawn(seed);
    const fixed = work(study, LONGEST_MIN, rules(undefined), FIXED_A_SIDE, false);
    const early = work(study, null, rules({ rule: 'obrien-fleming', mostASide: MOST_A_SIDE }), MOST_A_SIDE, true);
    fixedH += fixed.hours;
    earlyH += early.hours;
    if (decided(fixed.kind)) of++;
    if (decided(fixed.kind) && decided(early.kind) && fixed.kind !== early.kind) contradicted++;
    if (decided(fixed.kind) && !decided(early.kind)) lost++;
  }
  return [
    line('Bench hours with a stopping rule and settled ends, of those of an hour and three a side', share(earlyH, fixedH), 0, 0.65),
    line('Of what those decide is decided otherwise', share(contradicted, of), 0, 0.02),
    line('Of what those decide is not decided', share(lost, of), 0, 0.1),
  ];
}
