import { clock, fixed } from '../format/measured.ts';
import { capital } from '../format/words.ts';
import { slice, type Window } from '../series/series.ts';
import { kneesOf } from './kneesOf.ts';
import { onAndOff } from './onAndOff.ts';
import { quantileOf, type Signal } from './signal.ts';
import { stepsIn } from './stepsIn.ts';

/** What is known of a log by which its phases are found, on one clock, seconds from the first sample. */
export interface PhaseEvidence {
  lengthS: number;
  /** Texts that stood in the log, each where it first stands. */
  marks: readonly { atS: number; text: string }[];
  /** Percent. */
  utilisation: Signal | null;
  /** W. */
  power: Signal | null;
  /** Work done, in any unit. */
  throughput: Signal | null;
  /** Power at the socket, W. */
  wall: Signal | null;
  /** Percent. */
  duty: Signal | null;
  /** rpm. */
  fan: Signal | null;
  /** Spots, °C. */
  temperatures: readonly Signal[];
}

export interface FoundPhase extends Window {
  /** `change`: the load goes on, and something about it or the part was changed. */
  kind: 'idle-soak' | 'load' | 'change' | 'cool-down';
  name: string;
  /** By what its beginning was found, in words. */
  why: string;
}

/** A phase shorter than this is none, seconds. */
const LEAST_S = 30;
/** A mark that is so near to a load's beginning or end speaks of it, seconds. */
const SAME_S = 45;
/** Steps of a load that are a load of its own: a share of the whole. */
const POWER_STEP = 0.04;
/** Steps of a fan that somebody set: points of duty, and a share of its turns. */
const DUTY_STEP = 4;
const FAN_STEP = 0.06;
/** Part of the time a part is busy above which it was loaded throughout. */
const BUSY_PERCENT = 50;
/** What a phase may be called. */
const LONGEST_NAME = 60;

/** A place where something begins. */
interface Turn {
  atS: number;
  kind: FoundPhase['kind'] | null;
  name: string | null;
  why: string;
}

/** Texts that say of themselves what begins with them. */
const IDLE_WORDS = /\b(idle|soak|baseline|at rest|standby)\b/i;
const COOL_WORDS = /\b(cool(ing)?[- ]?down|load off|load stopped|end of load|stop(ped)? (the )?load|cooling|finished|done)\b/i;
const LOAD_WORDS = /\b(load|start(ed)?|stress|write|writing|run(ning)?|render(ing)?|benchmark|burn|heat[- ]?up)\b/i;

function saidBy(text: string): FoundPhase['kind'] | null {
  if (COOL_WORDS.test(text)) return 'cool-down';
  if (IDLE_WORDS.test(text)) return 'idle-soak';
  return LOAD_WORDS.test(text) ? 'load' : null;
}

/** What tells when a part was loaded, the surest first; temperatures only follow. */
export const LOAD_WITNESSES = ['utilisation', 'power', 'throughput', 'wall'] as const;
const WITNESS_WORDS: Record<(typeof LOAD_WITNESSES)[number], string> = {
  utilisation: 'the time busy',
  power: 'the power',
  throughput: 'the work done',
  wall: 'the power at the socket',
};

/** Whether the load was on, by the first witness that tells. */
function loadOf(evidence: PhaseEvidence): { on: Window[]; by: string; signal: Signal; level: number } | null {
  const { utilisation, lengthS } = evidence;
  const busy = utilisation && quantileOf(utilisation.y, 0.05);
  const found = LOAD_WITNESSES.flatMap((witness) => {
    const [by, signal] = [WITNESS_WORDS[witness], evidence[witness]];
    const seen = signal && onAndOff(signal);
    return seen ? [{ on: seen.on, by, signal: signal!, level: seen.load }] : [];
  });
  // Time busy is noisy at rest; where power tells the same, its edges are taken.
  const best = found.find(({ by }) => by === 'the power') ?? found[0];
  if (best) return best;
  if (utilisation && busy !== null && busy > BUSY_PERCENT)
    return { on: [{ startS: 0, endS: lengthS }], by: 'the time busy', signal: utilisation, level: busy };
  return null;
}

function turnsOfLoad(load: NonNullable<ReturnType<typeof loadOf>>, lengthS: number): Turn[] {
  const turns: Turn[] = [];
  const by = capital(load.by);
  const unit = load.by.startsWith('the power') ? ' W' : '';
  for (const { startS, endS } of load.on) {
    if (startS >= LEAST_S && turns.length === 0) turns.push({ atS: 0, kind: 'idle-soak', name: null, why: 'The log begins at rest.' });
    const why = startS < LEAST_S ? `${by} is there from the start.` : `${by} rises at ${clock(startS)}, to about ${fixed(load.level, 0)}${unit}.`; // prettier-ignore
    turns.push({ atS: startS < LEAST_S ? 0 : startS, kind: 'load', name: null, why });
    if (endS < lengthS - LEAST_S) turns.push({ atS: endS, kind: 'cool-down', name: null, why: `${by} falls at ${clock(endS)}.` });
  }
  return turns;
}

/** Steps of what somebody sets, within the stretches under load. */
function turnsOfSteps(evidence: PhaseEvidence, on: readonly Window[], level: number | null): Turn[] {
  const inside = (
    signal: Signal | null,
    least: number,
    words: (before: number, after: number, atS: number) => Omit<Turn, 'atS' | 'kind'>,
  ) =>
    signal === null
      ? []
      : on.flatMap((window) =>
          stepsIn(signal, window, least).map(({ atS, before, after }): Turn => ({ atS, kind: 'change', ...words(before, after, atS) })),
        );
  const stepped = (what: string, unit: string) => (before: number, after: number, atS: number) => ({
    name: `${what} ${fixed(after, 0)} ${unit}`,
    why: `${what} goes from ${fixed(before, 0)} to ${fixed(after, 0)} ${unit} at ${clock(atS)}.`,
  });
  // Work that is counted says itself what was asked: power then falls because of the part, not by a hand.
  const power = evidence.throughput === null && level !== null ? inside(evidence.power, POWER_STEP * level, stepped('Power', 'W')) : [];
  const duty = inside(evidence.duty, DUTY_STEP, stepped('Fan duty', '%'));
  const turns = evidence.fan && quantileOf(evidence.fan.y, 0.9);
  const fan = evidence.duty === null && turns ? inside(evidence.fan, FAN_STEP * turns, stepped('Fan', 'rpm')) : [];
  return [...power, ...duty, ...fan];
}

/** Rows of temperatures alone: their mean, where they are read together. */
function meanOf(temperatures: readonly Signal[]): Signal | null {
  const [first] = temperatures;
  if (!first) return null;
  return {
    t: first.t,
    y: Float64Array.from(first.t, (_, i) => {
      let sum = 0;
      let n = 0;
      for (const { y } of temperatures) {
        if (y[i] !== y[i]) continue;
        sum += y[i]!;
        n++;
      }
      return sum / n;
    }),
  };
}

/** Of the way from rest to the hottest: a temperature that stays above it was eased, not left to cool. */
const STILL_WARM = 0.4;

function turnsOfKnees(temperatures: readonly Signal[], lengthS: number): Turn[] {
  const mean = meanOf(temperatures);
  const knees = mean ? kneesOf(mean) : [];
  if (!mean || knees.length === 0) return [];
  const rest = quantileOf(mean.y, 0.02);
  const hottest = quantileOf(mean.y, 0.98);
  let under = false;
  return knees.flatMap(({ atS, way }, i): Turn[] => {
    const endS = knees[i + 1]?.atS ?? lengthS;
    const last = slice(mean, { startS: Math.max(atS, endS - (endS - atS) / 10), endS: endS + 1e-6 }).y;
    const warm = quantileOf(last, 0.5) > rest + STILL_WARM * (hottest - rest);
    const kind = way === 'rises' ? (under ? 'change' : 'load') : warm && under ? 'change' : 'cool-down';
    under = kind !== 'cool-down';
    const turn: Turn = {
      atS,
      kind,
      name: null,
      why: `The temperatures ${way === 'rises' ? 'begin to rise' : 'turn to fall'} at ${clock(atS)}; nothing else tells.`,
    };
    const before: Turn = { atS: 0, kind: 'idle-soak', name: null, why: 'The temperatures are steady from the start.' };
    return i === 0 && way === 'rises' && atS >= LEAST_S ? [before, turn] : [turn];
  });
}

/** Marks among the turns: one beside a turn of the load gives it its words, another is a turn by itself. */
function withMarks(turns: readonly Turn[], marks: PhaseEvidence['marks'], on: readonly Window[] | null): Turn[] {
  const all = turns.map((turn) => ({ ...turn }));
  for (const { atS, text } of marks) {
    const name = text.slice(0, LONGEST_NAME);
    const near = all.filter((turn) => Math.abs(turn.atS - atS) <= SAME_S && turn.atS > 0).sort((p, q) => Math.abs(p.atS - atS) - Math.abs(q.atS - atS))[0]; // prettier-ignore
    if (near) {
      // What somebody wrote names a change; a load that comes or goes is called what it is.
      if (near.kind === 'change') near.name = name;
      near.why = `${near.why} “${name}” stands beside it.`;
      continue;
    }
    const under = on?.some(({ startS, endS }) => atS >= startS && atS < endS) ?? null;
    const said = saidBy(text);
    if (under === false) continue;
    all.push({ atS, kind: under ? 'change' : said, name, why: `“${name}” is written at ${clock(atS)}.` });
  }
  return all.sort((p, q) => p.atS - q.atS);
}

/** A phase for every turn, up to the next; those that are too short go to the one before. */
function phasesBetween(turns: readonly Turn[], lengthS: number): FoundPhase[] {
  const kept: Turn[] = [];
  for (const turn of turns) {
    const before = kept.at(-1);
    if (!before || turn.atS - before.atS >= LEAST_S) kept.push(turn);
    // Of two that stand together the load's own coming and going counts, then what was written.
    else if (before.kind === 'change' && (turn.kind === 'load' || turn.kind === 'cool-down')) kept[kept.length - 1] = turn;
  }
  let under = false;
  return kept.map((turn, i): FoundPhase => {
    const kind = turn.kind ?? (under ? 'change' : 'load');
    under = kind === 'load' || kind === 'change';
    return { kind, name: turn.name ?? '', startS: turn.atS, endS: kept[i + 1]?.atS ?? lengthS, why: turn.why };
  });
}

const USUAL_NAMES: Record<FoundPhase['kind'], string> = { 'idle-soak': 'Idle', load: 'Load', change: 'Change', 'cool-down': 'Cool-down' };

/** Names for those that have none, every name once. */
function named(phases: readonly FoundPhase[]): FoundPhase[] {
  const used = new Map<string, number>();
  return phases.map((phase) => {
    const base = phase.name || USUAL_NAMES[phase.kind];
    const n = (used.get(base) ?? 0) + 1;
    used.set(base, n);
    return { ...phase, name: n === 1 ? base : `${base} ${n}` };
  });
}

/**
 * Proposes the phases of a log: by texts that were written beside the readings, by where power, work or time busy come and go, by steps
 * of what somebody set, and, where nothing of that is there, by knees of the temperatures. Each says why it begins where it does.
 *
 * @returns phases that follow one another without a gap from the first sample to the last; one load of the whole length where nothing
 * tells; none of an empty log
 */
export function findPhases(evidence: PhaseEvidence): FoundPhase[] {
  const { lengthS, marks } = evidence;
  if (!(lengthS > 0)) return [];
  const load = loadOf(evidence);
  const on = load?.on ?? null;
  const turns = load
    ? turnsOfLoad(load, lengthS)
    : marks.some(({ text }) => saidBy(text))
      ? []
      : turnsOfKnees(evidence.temperatures, lengthS);
  const level = load && load.by === 'the power' ? load.level : evidence.power && quantileOf(evidence.power.y, 0.9);
  const stepped = turnsOfSteps(evidence, on ?? [{ startS: 0, endS: lengthS }], level);
  const merged = stepped.reduce<Turn[]>(
    (all, step) => (all.some((turn) => Math.abs(turn.atS - step.atS) <= SAME_S) ? all : [...all, step]),
    turns,
  );
  const all = withMarks(merged.sort((p, q) => p.atS - q.atS), marks, on); // prettier-ignore
  if (all.length === 0)
    return [{ kind: 'load', name: 'Load', startS: 0, endS: lengthS, why: 'Nothing tells rest from load: the whole log is taken as one load.' }]; // prettier-ignore
  // What lies before the first turn is at rest where that begins a load, else it is the load that something was changed about.
  const first = all[0]!;
  if (first.atS >= LEAST_S)
    all.unshift(
      first.kind === 'load'
        ? { atS: 0, kind: 'idle-soak', name: null, why: 'Before the load.' }
        : { atS: 0, kind: 'load', name: null, why: 'From the start.' },
    );
  else first.atS = 0;
  return named(phasesBetween(all, lengthS));
}
