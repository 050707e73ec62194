import { fixed, signed } from '../../format/measured.ts';
import { capital, counted, listWords } from '../../format/words.ts';
import { mean } from '../../mean.ts';
import { SAME_FAN_SHARE } from '../figure/doubt.ts';
import { figureOf } from '../figure/figureOf.ts';
import { lookedAt } from '../figure/looked.ts';
import { countMounts, mountOf } from '../figure/mountOf.ts';
import { DRIFT_K_PER_H } from '../figure/drift.ts';
import { RESTATED_UP_TO } from '../figure/onePower.ts';
import { roomWithLoadK, WARMED_ALIKE_K } from '../figure/roomWithLoad.ts';
import { neighbourFindings } from './neighbours.ts';
import { otherStudyFindings } from './otherStudy.ts';
import type { FairnessCheck, Finding, JudgedRun, JudgedSide, JudgedSpot, JudgeRules, Severity } from '../types.ts';

/** Power or work that differs by more than this share makes temperatures hard to compare. */
const SAME_SHARE = 0.02;
/** A clock follows the temperature a little by itself; it tells of less work from here on. */
const SAME_CLOCK_SHARE = 0.05;
/** A side that did this much less is not called against the other. */
const LESS_WORK_SHARE = 0.1;
/** Noise that was meant to be equal and differs by more than this, dB. */
const SAME_NOISE_DB = 1;
/** Rooms further apart than this are worth a word even where rises are compared, K. */
const ROOMS_APART_K = 3;
/** Loads of which one lasted this much longer than the other. */
const LENGTH_SHARE = 0.5;

function meanOf(runs: readonly JudgedRun[], read: (run: JudgedRun) => number | null | undefined): number | null {
  const values = runs.map(read).filter((value): value is number => value != null);
  return values.length === 0 ? null : mean(values);
}

interface Between {
  a: JudgedSide;
  b: JudgedSide;
  both: JudgedRun[];
  spots: readonly JudgedSpot[];
  rules: JudgeRules;
  /** The stated scatter that stands in for repeats, K; null where it was measured. */
  assumedSd: number | null;
}

/** What a check finds, and what it found to be alike. */
interface Found {
  findings: Finding[];
  held?: string;
}

const nothing: Found = { findings: [] };

function finding(check: FairnessCheck, severity: Severity, evidence: string, remedy: string, spotId: string | null = null): Finding {
  return { check, severity, evidence, remedy, runId: null, spotId };
}

const one = (...args: Parameters<typeof finding>): Found => ({ findings: [finding(...args)] });

function sameShare(
  { a, b }: Between,
  check: 'heat' | 'work',
  what: string,
  unit: string,
  read: (run: JudgedRun) => number | null | undefined,
  remedy: string,
  least = SAME_SHARE,
): Found {
  const [pa, pb] = [meanOf(a.runs, read), meanOf(b.runs, read)];
  if (pa === null || pb === null || pa === 0) return nothing;
  const off = Math.abs(pb / pa - 1);
  if (off <= least) return { findings: [], held: `${what} within ${fixed(Math.max(0.1, 100 * off), 1)} %` };
  const having = (value: number, name: string) => `${fixed(value, 1)}${unit ? ` ${unit}` : ''} with ${name}`;
  return one(check, 'weakens', `Mean ${what} was ${having(pa, a.name)} and ${having(pb, b.name)}, ${fixed(100 * off, 1)} % apart.`, remedy);
}

function heat(between: Between): Found {
  if (between.rules.restate?.kind === 'power')
    return { findings: [], held: `restated to ${fixed(between.rules.restate.targetW, 1)} W on both sides` };
  const read = (run: JudgedRun) => run.review.power?.value;
  const found = sameShare(between, 'heat', 'power', 'W', read, 'Restate at equal power, or hold the power.');
  const [weak] = found.findings;
  const [pa, pb] = [meanOf(between.a.runs, read), meanOf(between.b.runs, read)];
  // A little is brought to one power by itself, wherever two are compared; with its doubt.
  if (!weak || oneRecording(between) || Math.abs(pb! / pa! - 1) > RESTATED_UP_TO || between.both.some((run) => !run.review.room))
    return found;
  const evidence = `${weak.evidence} The difference is restated to ${fixed((pa! + pb!) / 2, 1)} W by itself.`;
  return { findings: [{ ...weak, severity: 'note', evidence, remedy: 'Hold the power, and nothing need be restated.' }] };
}

/** By what it is told how much was done: the work itself, or the clock where a side has no record of its work. */
function workRead({ a, b, rules }: Between) {
  const performance = (run: JudgedRun) => run.review.performance?.value;
  if (meanOf(a.runs, performance) !== null && meanOf(b.runs, performance) !== null)
    return {
      what: 'throughput',
      unit: rules.throughputUnit ?? '',
      read: performance,
      least: SAME_SHARE,
      less: (by: string) => `did ${by} less work`,
    };
  const clock = (run: JudgedRun) => run.review.clock?.value;
  return { what: 'clock', unit: 'MHz', read: clock, least: SAME_CLOCK_SHARE, less: (by: string) => `ran at a clock ${by} lower` };
}

/** A side that did a good deal less reads cooler for that, and not for what is on it; where heat is brought to one power it does not matter. */
function work(between: Between): Found {
  const { a, b, rules } = between;
  const { what, unit, read, least, less } = workRead(between);
  const found = sameShare(between, 'work', what, unit, read, 'The side that did less work only looks cooler: hold the workload.', least);
  const [pa, pb] = [meanOf(a.runs, read), meanOf(b.runs, read)];
  if (found.findings.length === 0 || pa === null || pb === null || rules.restate?.kind === 'power') return found;
  const share = 1 - Math.min(pa, pb) / Math.max(pa, pb);
  if (share <= LESS_WORK_SHARE) return found;
  return withholds('work', found.findings[0]!.evidence, found.findings[0]!.remedy, {
    why: `${pa < pb ? a.name : b.name} ${less(`${fixed(100 * share, 0)} %`)}`,
    earnBy: { what: 'hold the workload and run both sides again', minutes: again(between) },
  });
}

/** Fans that were meant to be locked, or held to equal noise, and were not; or that were free and went their own ways. */
function fans(between: Between): Found {
  const { a, b, rules } = between;
  const [fa, fb] = [meanOf(a.runs, (run) => run.review.fan?.value), meanOf(b.runs, (run) => run.review.fan?.value)];
  const [na, nb] = [meanOf(a.runs, (run) => run.review.noise?.value), meanOf(b.runs, (run) => run.review.noise?.value)];
  const noise = na !== null && nb !== null ? `, ${fixed(na, 1)} and ${fixed(nb, 1)} dB(A)` : '';
  // Fans that were run by another rule are said to be, once.
  if (a.origin && b.origin && a.origin.rules.fans.value !== b.origin.rules.fans.value) return nothing;
  if (rules.restate?.kind === 'noise') return { findings: [], held: `read at ${fixed(rules.restate.levelDb, 1)} dB(A) on both sides` };
  if (rules.fans === 'equal-noise' && na !== null && nb !== null) {
    if (Math.abs(nb - na) <= SAME_NOISE_DB) return { findings: [], held: `noise within ${fixed(Math.max(0.1, Math.abs(nb - na)), 1)} dB` };
    const words = `Noise was to be equal: ${fixed(na, 1)} dB(A) with ${a.name} and ${fixed(nb, 1)} dB(A) with ${b.name}.`;
    return one('fan-policy', 'blocks', words, 'Read both off a sweep at one level, or set the fans anew.');
  }
  if (rules.fans === 'not-applicable' || rules.fans === undefined) return nothing;
  if (fa === null || fb === null) return unseenFans(between, [...(fa === null ? [a.name] : []), ...(fb === null ? [b.name] : [])]);
  if (fa === 0) return nothing;
  const off = Math.abs(fb / fa - 1);
  const movers = [a, b].filter((side) => side.runs.some((run) => (run.review.fanMovedShare ?? 0) > SAME_FAN_SHARE));
  if (off <= SAME_FAN_SHARE && movers.length > 0 && !oneRecording(between)) return movedFans(between, movers);
  if (off <= SAME_FAN_SHARE) return { findings: [], held: `fans within ${fixed(Math.max(0.1, 100 * off), 1)} %` };
  const turned = `turned ${fixed(fa, 0)} per minute with ${a.name} and ${fixed(fb, 0)} with ${b.name}${noise}`;
  if (rules.fans === 'locked') {
    // Another cooler has other fans, whose turns cannot be alike; only a lock that moved speaks against it then.
    const moved = [...a.runs, ...b.runs].some((run) => run.review.locks.some((lock) => /fan/i.test(lock.name) && !lock.watch.held));
    const watched = [a, b].every((side) => side.runs.some((run) => run.review.locks.some((lock) => /fan/i.test(lock.name))));
    if (watched && !moved) return one('fan-policy', 'note', `Fans were held at their duty and ${turned}: they are not the same fans.`, '');
    return one('fan-policy', 'blocks', `Fans were to be locked, and ${turned}.`, 'Lock the fans and run both again.');
  }
  // Nobody said that they were to be locked; where they stood still all the same, they were set so.
  const stood = between.both.every((run) => (run.review.fanMovedShare ?? Infinity) <= SAME_FAN_SHARE);
  return withholds(
    'fan-policy',
    `The fans ${stood ? 'were not set alike' : 'were free'} and ${turned}: part of the cooling went into them, not into the temperature.`,
    `Judge by noise and what the fans did, or ${stood ? 'set them alike' : 'lock them'} and run both again.`,
    {
      why: stood ? 'the fans were not set alike' : 'the fans were free and did not do the same',
      earnBy: { what: `${stood ? 'set the fans alike' : 'lock the fans'} and run both sides again`, minutes: again(between) },
    },
  );
}

/** Fans that came to about the same and went their own ways until then took part of the heat on the way. */
function movedFans(between: Between, movers: readonly JudgedSide[]): Found {
  const most = Math.max(...movers.flatMap((side) => side.runs.map((run) => run.review.fanMovedShare ?? 0)));
  const names = listWords(movers.map((side) => side.name));
  const were = between.rules.fans === 'locked' ? 'were to be locked' : 'were free';
  return withholds(
    'fan-policy',
    `The fans ${were} and moved under load with ${names}, by up to ${fixed(100 * most, 0)} %.`,
    'Lock the fans and run both again.',
    { why: `the fans ${were} and moved`, earnBy: { what: 'lock the fans and run both sides again', minutes: again(between) } },
  );
}

/** Minutes of one more run of either side, with the room's idle before it; of loads that nobody timed, as long as usual. */
function again({ a, b }: Between): number {
  const of = (side: JudgedSide) => (meanOf(side.runs, (run) => run.review.loadS) ?? USUAL_LOAD_S) / 60 + IDLE_MIN;
  return Math.round(of(a) + of(b));
}

const USUAL_LOAD_S = 2700;
const IDLE_MIN = 10;

function withholds(check: FairnessCheck, evidence: string, remedy: string, withheld: NonNullable<Finding['withheld']>): Found {
  return { findings: [{ ...finding(check, 'withholds', evidence, remedy), withheld }] };
}

/** A lock that nobody watched may have moved, and so may fans that were free. */
function unseenFans(between: Between, without: string[]): Found {
  const { both, rules } = between;
  // Of a table of figures nothing can be seen; that is said once. A duty that was held and recorded was seen.
  if (both.some((run) => run.review.asGiven)) return nothing;
  if (both.every((run) => run.review.locks.some((lock) => /fan/i.test(lock.name)))) return nothing;
  const were = rules.fans === 'locked' ? 'were to be locked' : rules.fans === 'as-shipped' ? 'were free' : 'were to be equally loud';
  const evidence = `The fans ${were}, and nobody recorded what they did with ${listWords(without)}.`;
  const remedy = 'Record the speed or the duty of the fans, and run both again.';
  // Fans that were free did what they wanted, whoever looked; of those that were to be held somebody gave his word.
  if (rules.evidence === 'usual' && rules.fans !== 'as-shipped')
    return one('fan-policy', 'weakens', `${evidence} By usual evidence that is taken at its word.`, remedy);
  return withholds('fan-policy', evidence, remedy, {
    why: 'nobody saw the fans',
    earnBy: { what: 'record what the fans do and run both sides again', minutes: again(between) },
  });
}

/** A pause of so many hours ends a day at the bench: a night, wherever on the globe it falls. */
const NIGHT_H = 8;

/** Days at the bench that runs were made on, by the nights between them; a date would depend on the zone that it is written in. */
function sittings(runs: readonly JudgedRun[]): number {
  const starts = runs.flatMap(({ startedAtMs }) => startedAtMs ?? []).sort((p, q) => p - q);
  return 1 + starts.slice(1).filter((start, i) => start - starts[i]! > NIGHT_H * 3_600_000).length;
}

/** A probe of the room that one side warms and the other does not. */
function warmedRooms({ a, b, rules }: Pick<Between, 'a' | 'b' | 'rules'>): Finding[] {
  const [warmedA, warmedB] = [meanOf(a.runs, (run) => roomWithLoadK(run.review)), meanOf(b.runs, (run) => roomWithLoadK(run.review))];
  if (rules.basis !== 'rise' || warmedA === null || warmedB === null || Math.abs(warmedA - warmedB) <= WARMED_ALIKE_K) return [];
  const read = `${signed(warmedA, 1)} K with ${a.name} and ${signed(warmedB, 1)} K with ${b.name}`;
  return [
    finding(
      'room',
      'weakens',
      `From rest to load the room was read ${read}, and stood there: its probe may stand in air that the part has warmed.`,
      'Put the probe where no air of the bench reaches it, and run both again.',
    ),
  ];
}

function rooms({ a, b, both, rules }: Between): Found {
  if (rules.basis === 'as-found') {
    const days = sittings(both);
    if (days > 1 && both.some((run) => !run.review.room && !run.review.asGiven))
      return one(
        'room',
        'blocks',
        `As found, on ${days} days, with no record of the room: the days may differ by more than the parts.`,
        'Run both sides on one day, or record the room.',
      );
  }
  const [roomA, roomB] = [meanOf(a.runs, (run) => run.review.room?.meanC), meanOf(b.runs, (run) => run.review.room?.meanC)];
  if (roomA === null || roomB === null) return nothing;
  const findings = warmedRooms({ a, b, rules });
  if (Math.abs(roomA - roomB) > ROOMS_APART_K)
    findings.unshift(
      finding(
        'room',
        'weakens',
        `The room was ${fixed(roomA, 1)} °C with ${a.name} and ${fixed(roomB, 1)} °C with ${b.name}.`,
        'Heat and throttling depend on absolute temperature: repeat in one room.',
      ),
    );
  if (findings.length > 0) return { findings };
  const seen = both.flatMap((run) => (run.review.room ? [run.review.room.minC, run.review.room.maxC] : []));
  return { findings: [], held: `room ${fixed(Math.min(...seen), 1)} to ${fixed(Math.max(...seen), 1)} °C` };
}

/** Both sides are loads of one run: nothing was refitted or begun anew between them. */
const oneRecording = ({ a, b }: Between) => a.runs.length === 1 && b.runs.length === 1 && a.runs[0]!.id === b.runs[0]!.id;

function mountsAndRepeats(between: Between): Found {
  const { a, b, spots, rules, assumedSd } = between;
  if (oneRecording(between)) return { findings: [], held: 'one recording' };
  const findings = [a, b].flatMap((side) => {
    const found: Finding[] = [];
    const stands =
      assumedSd === null ? 'the spread between other mounts stands in' : `an assumed ${fixed(assumedSd, 1)} K between mounts stands in`;
    if (countMounts(side) === 1) {
      const known = side.runs.some((run) => mountOf(run, side) !== null);
      const runs = side.runs.length > 1 ? `, and its ${side.runs.length} runs count as one` : '';
      const words = known ? 'a single mount' : 'nobody wrote down on which mounts it was run';
      found.push(
        finding(
          'mounts',
          'weakens',
          `${side.name}: ${words}${runs}: what refitting does to the result is not seen; ${stands}.`,
          known ? `Refit ${side.name} and run it again.` : 'Say at Read which mount each run was on.',
        ),
      );
    }
    if (side.runs.length > 1)
      for (const spot of spots.filter(({ id }) => side.runs.filter((run) => figureOf(run, id, rules)).length === 1))
        found.push(
          finding(
            'repeats',
            'weakens',
            `${side.name}: only one of ${side.runs.length} runs reads ${spot.name}, which has no scatter of its own; ${stands}.`,
            'Repeat it with the spot read.',
            spot.id,
          ),
        );
    return found;
  });
  return { findings };
}

/** Looking again and again is paid for by the rule that was set beforehand. */
function looks({ a, b, rules }: Between): Found {
  const looked = lookedAt(rules, Math.min(countMounts(a), countMounts(b)));
  if (!looked || looked.look === 0) return nothing;
  const { look, looks: of, beyond, coverage } = looked;
  const level = `intervals are drawn at ${fixed(100 * coverage, 1)} % in place of ${fixed(100 * rules.coverage, 1)} %`;
  if (beyond)
    return one('looks', 'weakens', `More mounts than the plan looks at: held at its last look, ${level}.`, 'Set the plan before the runs.');
  return one(
    'looks',
    'note',
    `Look ${look} of ${of} by the plan's stopping rule: ${level}, so that all looks together are wrong no more often than one.`,
    '',
  );
}

function sensors({ both, spots }: Between): Found {
  const findings = spots.flatMap((spot) => {
    const names = new Set(both.map((run) => run.sensors[spot.id]).filter(Boolean));
    if (names.size < 2) return [];
    const words = `${spot.name} was read by ${[...names].join(' and ')}: nothing cancels between them.`;
    return [finding('sensors', 'weakens', words, 'Use one sensor in one place on both sides.', spot.id)];
  });
  return findings.length > 0 || spots.length === 0 ? { findings } : { findings, held: 'same sensors' };
}

/** Two variants that differ in more than one factor credit neither of them. Of a factor at which one stands nowhere nothing is known. */
function oneChange({ a, b }: Between): Found {
  const names = Object.keys(a.levels ?? {}).filter((name) => b.levels?.[name] !== undefined);
  const changed = names.filter((name) => a.levels?.[name] !== b.levels?.[name]);
  if (a.subject !== undefined && b.subject !== undefined && a.subject !== b.subject && changed.length > 0)
    changed.unshift('Part under test');
  if (changed.length < 2) return nothing;
  return one(
    'one-change',
    'weakens',
    `${listWords(changed)} differ at once, so the difference belongs to none of them alone.`,
    'Compare variants that differ in one, or judge all of them by their effects.',
  );
}

function settings({ both }: Between): Found {
  const names = [...new Set(both.flatMap((run) => Object.keys(run.settings)))];
  const findings = names.flatMap((name) => {
    const values = new Set(both.map((run) => run.settings[name] ?? 'not written down'));
    if (values.size < 2) return [];
    if (both.every((run) => run.heldByPart.includes(name)))
      return [finding('settings', 'note', `${name} is held part by part, as written down: ${[...values].join(' and ')}.`, '')];
    return [finding('settings', 'weakens', `${name} differs: ${[...values].join(' and ')}.`, 'Hold it, or say that both changed.')];
  });
  const same = names.length > 0 && findings.every((found) => found.severity === 'note');
  return same ? { findings, held: 'same settings' } : { findings };
}

function length({ a, b }: Between): Found {
  const [la, lb] = [meanOf(a.runs, (run) => run.review.loadS), meanOf(b.runs, (run) => run.review.loadS)];
  if (!la || !lb || Math.abs(lb / la - 1) <= LENGTH_SHARE) return nothing;
  return one(
    'length',
    'note',
    `The load lasted ${fixed(la / 60, 0)} min with ${a.name} and ${fixed(lb / 60, 0)} min with ${b.name}.`,
    'Fine where both were settled.',
  );
}

function asGiven({ both }: Between): Found {
  const given = both.filter((run) => run.review.asGiven).length;
  if (given === 0) return nothing;
  const which = given === both.length ? 'All runs are' : `${capital(counted(given, 'run'))} ${given === 1 ? 'is' : 'are'}`;
  return one(
    'given',
    'weakens',
    `${which} figures as given, no traces: nobody can see whether they were settled and what was held.`,
    'Put the logs down, where they were kept.',
  );
}

function order({ a, b, both, rules: { drift } }: Between): Found {
  // A table of figures does not say when they were measured.
  if (both.some((run) => run.review.asGiven)) return nothing;
  const timeless = both.filter((run) => run.startedAtMs === null);
  if (timeless.length > 0) {
    const few = timeless.length > 3 ? counted(timeless.length, 'run') : listWords(timeless.map(({ label }) => label));
    const which = timeless.length === both.length ? 'these runs were' : `${few} ${timeless.length === 1 ? 'was' : 'were'}`;
    return one(
      'order',
      'weakens',
      `Nobody wrote down when ${which} made: that one side came first, on a bench that drifts, cannot be ruled out and is not in the doubt.`,
      'Say at Run when each began.',
    );
  }
  const [ta, tb] = [a, b].map((side) => side.runs.map((run) => run.startedAtMs!)) as [number[], number[]];
  const separated = Math.max(...ta) < Math.min(...tb) || Math.max(...tb) < Math.min(...ta);
  if (!separated) return { findings: [], held: 'run in turn' };
  if (a.runs.length === 1 || b.runs.length === 1) return nothing;
  const allowed = `${fixed(drift?.kPerH ?? DRIFT_K_PER_H, 2)} K an hour are allowed for it`;
  const told = drift ? `as told by ${counted(drift.studies, 'other study', 'other studies')} of this bench` : 'as nothing is known of this bench'; // prettier-ignore
  return one(
    'order',
    'weakens',
    `All runs of one side came before all of the other: a bench that drifts is in the difference, and ${allowed}, ${told}.`,
    'Next time run them in turn: A B B A.',
  );
}

/** A part that was kept less busy was not asked to work: it looks cool, whatever cools it. */
function starved({ a, b }: Between): Found {
  const [ua, ub] = [meanOf(a.runs, (run) => run.review.utilisationPercent), meanOf(b.runs, (run) => run.review.utilisationPercent)];
  if (ua === null || ub === null || Math.abs(ua - ub) <= 5) return nothing;
  const [less, name] = ua < ub ? [ua, a.name] : [ub, b.name];
  return one(
    'work',
    'blocks',
    `${name} was kept busy only ${fixed(less, 0)} % of the time against ${fixed(Math.max(ua, ub), 0)} %: it was not asked to work as hard, and looks cool for that.`,
    `Feed it: a faster processor or a heavier scene, then run ${name} again.`,
  );
}

/** A run that stands on both sides would be held against itself. One run at two of its loads is two things. */
function sharedRuns({ a, b }: Between): Found {
  const key = (run: JudgedRun) => `${run.id} ${run.atLoad ?? ''}`;
  const there = new Set(b.runs.map(key));
  const shared = a.runs.filter((run) => there.has(key(run)));
  if (shared.length === 0) return nothing;
  const which = shared.length > 3 ? counted(shared.length, 'run') : listWords(shared.map((run) => run.label));
  return one(
    'shared-runs',
    'blocks',
    `${capital(which)} ${shared.length === 1 ? 'stands' : 'stand'} on both sides: ${a.name} and ${b.name} are not two things to compare.`,
    'Choose sides that share no run.',
  );
}

function otherStudy({ a, b }: Between): Found {
  return { findings: otherStudyFindings(a.origin, b.origin) };
}

function neighbours({ a, b, rules }: Between): Found {
  return { findings: neighbourFindings(a, b, rules) };
}

const CHECKS = [
  sharedRuns,
  otherStudy,
  asGiven,
  heat,
  neighbours,
  work,
  starved,
  fans,
  rooms,
  mountsAndRepeats,
  looks,
  sensors,
  oneChange,
  settings,
  length,
  order,
];

/**
 * What speaks against comparing two sets of runs (methods §7), check by check; and as a last note what was held alike.
 *
 * @param a,b only the runs that take part
 * @param assumedSd the stated scatter that stands in for repeats, K; null where it was measured
 */
export function pairFindings(
  a: JudgedSide,
  b: JudgedSide,
  spots: readonly JudgedSpot[],
  rules: JudgeRules,
  assumedSd: number | null,
): Finding[] {
  if (a.runs.length === 0 || b.runs.length === 0) return [];
  const found = CHECKS.map((check) => check({ a, b, both: [...a.runs, ...b.runs], spots, rules, assumedSd }));
  const held = found.flatMap((entry) => entry.held ?? []);
  const alike = held.length > 0 ? [finding('held-alike', 'note', `Held alike: ${held.join(', ')}.`, '')] : [];
  return [...found.flatMap((entry) => entry.findings), ...alike];
}
