import { InsufficientDataError } from '../../errors.ts';
import { decimalsFor, fixed, signed } from '../../format/measured.ts';
import { mean } from '../../mean.ts';
import type { Comparison } from '../../uncertainty/compare.ts';
import { holm } from '../../uncertainty/holm.ts';
import { pOf } from '../../uncertainty/pOf.ts';
import { withKnown } from '../figure/scatter.ts';
import { compareAt } from '../pair/compareAt.ts';
import { callOf } from '../pair/call.ts';
import {
  benchBeside,
  blockedBetween,
  standsBetween,
  figuresAt,
  historyBeside,
  readingsOf,
  spotOf,
  type LineUp,
  type LineUpSide,
} from './lineUp.ts';
import { outcomeKeys, outcomeKind, ownIdOf } from '../outcome/outcomes.ts';
import { comparableSets } from './rank.ts';
import type { Call, FairnessCheck, JudgeRules, KnownOutcome } from '../types.ts';

export interface Departure {
  variantId: string;
  name: string;
  value: number;
  /** From the mean of the others, K. */
  offK: number;
  /** Corrected by Holm over all variants. */
  p: number;
  departs: boolean;
  /** Why it is held against nothing: it must not be called against the others; null where it was. */
  call: Call | null;
}

/**
 * Which result departs from the others: each against the mean of the rest, by the spread among the rest, with what the bench scatters by
 * pooled in where the rest differ by no more than that allows; corrected by Holm. Sides that
 * must not be called against the others (`mayBeCalled`) are named and held against nothing.
 *
 * @throws InsufficientDataError fewer than four variants with a reading that may be held against each other: there is no "the others"
 *   to depart from
 */
export function departures(of: LineUp, spotId: string): Departure[] {
  const all = of.sides.flatMap((side) => {
    const values = readingsOf(side, { spotId }).map((estimate) => estimate.value);
    return values.length > 0 ? [{ side, value: mean(values) }] : [];
  });
  const [read = [], ...apart] = comparableSets(of, all);
  if (read.length < 4) throw new InsufficientDataError('to call one result an outlier takes at least three others beside it');
  const repeats = historyBeside(of, spotId, []);
  const mounts = mean(read.map(({ side }) => readingsOf(side, { spotId }).length));
  // What equal mounts scatter by, as it shows in a mean of so many: parts that are alike differ by no more.
  const known = repeats && { sd: repeats.sd / Math.sqrt(mounts), dof: repeats.dof };
  const raw = read.map(({ side, value }, i) => {
    const others = read.filter((_, j) => j !== i).map((entry) => entry.value);
    const middle = mean(others);
    const spread = Math.sqrt(others.reduce((sum, other) => sum + (other - middle) ** 2, 0) / (others.length - 1));
    const { sd, dof } = withKnown({ sd: spread, dof: others.length - 1 }, known);
    const p = pOf({ value: value - middle, u: sd * Math.sqrt(1 + 1 / others.length), dof });
    return { side, value, offK: value - middle, p };
  });
  const adjusted = holm(raw.map((entry) => entry.p));
  const called = raw.map(({ side, value, offK }, i): Departure => ({
    variantId: side.variantId,
    name: side.name,
    value,
    offK,
    p: adjusted[i]!,
    departs: adjusted[i]! < 1 - of.rules.coverage,
    call: null,
  }));
  const middle = mean(read.map((entry) => entry.value));
  const uncalled = apart.flat().map(({ side, value }): Departure => {
    const [by] = read.flatMap((entry) => blockedBetween(of, entry.side.variantId, side.variantId));
    const call: Call = { kind: 'blocked', why: by?.evidence ?? null, earnBy: null, likely: null, byItself: false };
    return { variantId: side.variantId, name: side.name, value, offK: value - middle, p: 1, departs: false, call };
  });
  return [...called.sort((p, q) => Math.abs(q.offK) - Math.abs(p.offK)), ...uncalled];
}

export interface Suspect {
  /** What differs: a setting, or what was measured beside temperature. */
  name: string;
  kind: 'setting' | 'measured';
  outlier: string;
  twin: string;
}

/** Measured differences beyond this share are worth suspecting. */
const SUSPICIOUS_SHARE = 0.03;
const SUSPICIOUS_DB = 1;

const settingOf = (side: LineUpSide, name: string) =>
  [...new Set(side.runs.map((run) => run.settings[name] ?? 'not written down'))].join(' and ');

const settingNames = (...sides: LineUpSide[]) => [
  ...new Set(sides.flatMap(({ runs }) => runs.flatMap((run) => Object.keys(run.settings)))),
];

/** What was set otherwise, by hand or as a level of a factor. */
function setOtherwise(outlier: LineUpSide, twin: LineUpSide): Suspect[] {
  const settings = settingNames(outlier, twin).flatMap((name): Suspect[] => {
    const [p, q] = [settingOf(outlier, name), settingOf(twin, name)];
    return p === q ? [] : [{ name, kind: 'setting', outlier: p, twin: q }];
  });
  const levels = Object.keys({ ...outlier.levels, ...twin.levels }).flatMap((name): Suspect[] => {
    const [p, q] = [outlier.levels[name] ?? 'none', twin.levels[name] ?? 'none'];
    return p === q ? [] : [{ name, kind: 'setting', outlier: p, twin: q }];
  });
  return [...settings, ...levels];
}

/** Of a channel that no figure is made of: so much beyond the larger of the two is worth suspecting, or so many kelvin over the room. */
const SUSPICIOUS_K = 1;
/** Watts go by the square of it. */
const SUSPICIOUS_VOLTS_SHARE = 0.01;

/** Further channels of a side over its runs, by name and unit. */
function besidesAt({ workRuns }: LineUpSide): Map<string, { name: string; unit: string; values: number[] }> {
  const all = new Map<string, { name: string; unit: string; values: number[] }>();
  for (const { name, unit, value } of workRuns.flatMap(({ besides = [] }) => besides)) {
    const key = `${name}, ${unit}`;
    all.set(key, { name, unit, values: [...(all.get(key)?.values ?? []), value] });
  }
  return all;
}

function besidesOff(outlier: LineUpSide, twin: LineUpSide): Suspect[] {
  const ofTwin = besidesAt(twin);
  return [...besidesAt(outlier)].flatMap(([key, { name, unit, values }]): Suspect[] => {
    const other = ofTwin.get(key);
    if (!other) return [];
    const [p, q] = [mean(values), mean(other.values)];
    const share = unit === 'V' ? SUSPICIOUS_VOLTS_SHARE : SUSPICIOUS_SHARE;
    const least = unit === 'K' ? SUSPICIOUS_K : unit === 'dB(A)' ? SUSPICIOUS_DB : share * Math.max(Math.abs(p), Math.abs(q));
    if (!(Math.abs(p - q) > least)) return [];
    const decimals = Math.max(decimalsFor(least), 1);
    return [{ name, kind: 'measured', outlier: `${fixed(p, decimals)} ${unit}`.trim(), twin: `${fixed(q, decimals)} ${unit}`.trim() }];
  });
}

/** Everything that differs between the outlier and a twin that should be like it: what was set, and what was measured beside temperature. */
export function suspects(outlier: LineUpSide, twin: LineUpSide, rules: Pick<JudgeRules, 'own'> = {}): Suspect[] {
  const measured = outcomeKeys(rules).flatMap((key): Suspect[] => {
    const [p, q] = [outlier, twin].map((side) => readingsOf(side, { outcome: key }).map((estimate) => estimate.value));
    if (p!.length === 0 || q!.length === 0) return [];
    const [mp, mq] = [mean(p!), mean(q!)];
    const { label, unit, practical } = outcomeKind(key, rules);
    const own = ownIdOf(key) !== null && 'absolute' in practical;
    const off = own
      ? Math.abs(mp - mq) > practical.absolute
      : unit === 'dB(A)'
        ? Math.abs(mp - mq) > SUSPICIOUS_DB
        : Math.abs(mp / mq - 1) > SUSPICIOUS_SHARE;
    return off
      ? [{ name: label, kind: 'measured', outlier: `${fixed(mp, 1)} ${unit}`.trim(), twin: `${fixed(mq, 1)} ${unit}`.trim() }]
      : [];
  });
  return [...setOtherwise(outlier, twin), ...measured, ...besidesOff(outlier, twin)];
}

/** What could tell an odd part from its twin, and was recorded of neither, or of one only. */
export interface Unrecorded {
  name: string;
  /** Name of the one side that has it; null where neither has. */
  onlyOf: string | null;
}

/** Outcomes that belong to every part; whine and times to throttle are recorded where there is reason to. */
const EXPECTED: readonly KnownOutcome[] = ['power', 'clock', 'fan', 'noise', 'throughput'];

/**
 * What cannot be suspected, since nobody recorded it: outcomes beside temperature, what was to be held and was written down of one side
 * only or of none, and firmware where neither side says a word of it.
 *
 * @param asked names of what was to be held
 */
export function unrecorded(outlier: LineUpSide, twin: LineUpSide, asked: readonly string[] = []): Unrecorded[] {
  const between = (name: string, p: boolean, q: boolean): Unrecorded[] =>
    p && q ? [] : [{ name, onlyOf: p ? outlier.name : q ? twin.name : null }];
  const measured = EXPECTED.flatMap((key) => {
    const [p, q] = [outlier, twin].map((side) => readingsOf(side, { outcome: key }).length > 0);
    return between(outcomeKind(key, {}).label, p!, q!);
  });
  const written = (side: LineUpSide, name: string) => side.runs.length > 0 && side.runs.every((run) => (run.settings[name] ?? '') !== '');
  const names = [...new Set([...asked, ...settingNames(outlier, twin)])];
  const firmware = names.some((name) => /firmware|bios/i.test(name)) ? [] : ['Firmware'];
  return [...measured, ...[...names, ...firmware].flatMap((name) => between(name, written(outlier, name), written(twin, name)))];
}

/**
 * Sides that retest the outlier though nobody called them so: the same part with one suspect, and nothing else, set as
 * it is at the twin.
 *
 * @param sides all that were run, the outlier and its twin among them
 * @returns each with the suspect that it changes
 */
export function retestsByHand(
  sides: readonly LineUpSide[],
  outlier: LineUpSide,
  twin: LineUpSide,
): { side: LineUpSide; suspect: string }[] {
  // Where all stand on one part nothing tells a retest from a sibling.
  if (outlier.subject === '' || outlier.subject === twin.subject) return [];
  const suspected = setOtherwise(outlier, twin);
  return sides.flatMap((side) => {
    if (side === outlier || side === twin || side.subject !== outlier.subject || side.runs.length === 0) return [];
    const changed = setOtherwise(outlier, side);
    const [suspect] = changed.filter(({ name, twin: now }) => suspected.some((one) => one.name === name && one.twin === now));
    return changed.length === 1 && suspect ? [{ side, suspect: suspect.name }] : [];
  });
}

export type RetestOutcome = 'it-was' | 'part-of-it' | 'it-was-not' | 'cannot-tell';

export interface Retest {
  variantId: string;
  name: string;
  outcome: RetestOutcome;
  /** Retest less outlier: what changing the one suspect did. */
  moved: Comparison | null;
  sentence: string;
}

/** What a suspect may be, and a retest may change. */
const ON_PURPOSE: FairnessCheck[] = ['fan-policy', 'work'];

/** Of the gap between outlier and twin: so much closed is the cause, so much is part of it. */
const CAUSE_SHARE = 0.7;
const PART_SHARE = 0.25;

/**
 * What a retest with one suspect changed says: whether it closed the gap between the outlier and its twin.
 *
 * 'It was' where 70 % of the gap or more closes and zero is excluded; 'it was not' where the whole interval shows less than a quarter
 * of the gap; 'part of it' between. Shares are our own.
 */
export function judgeRetest(of: LineUp, spotId: string, outlier: LineUpSide, twin: LineUpSide, retest: LineUpSide): Retest {
  const base = { variantId: retest.variantId, name: retest.name };
  const [po, pt, pr] = [outlier, twin, retest].map((side) => readingsOf(side, { spotId }));
  if (po!.length === 0 || pt!.length === 0 || pr!.length === 0)
    return { ...base, outcome: 'cannot-tell', moved: null, sentence: `${retest.name}: no usable reading yet.` };
  const read = (side: LineUpSide) => ({ name: side.name, readings: figuresAt(side, spotId) });
  const made = compareAt(read(outlier), read(retest), spotOf(of, spotId), of.rules, benchBeside(of, spotId, [outlier, retest]));
  // A retest changes one thing on purpose: that it turns or works otherwise is what is asked, and forbids nothing.
  const blocks = standsBetween(of, outlier.variantId, retest.variantId).filter(({ check }) => !ON_PURPOSE.includes(check));
  const moved = made.comparison;
  const call = callOf(made, blocks, of.rules.practicalK);
  if (!moved || call.kind === 'blocked')
    return { ...base, outcome: 'cannot-tell', moved, sentence: `${retest.name}: ${call.why ?? 'cannot be told with these runs'}` };
  const gap = mean(pt!.map((e) => e.value)) - mean(po!.map((e) => e.value));
  if (gap === 0) return { ...base, outcome: 'cannot-tell', moved, sentence: `${retest.name}: outlier and twin do not differ.` };
  const [low, high] = moved.interval.map((end) => end / gap).sort((p, q) => p - q) as [number, number];
  const share = moved.difference.value / gap;
  const outcome: RetestOutcome =
    high < PART_SHARE
      ? 'it-was-not'
      : low > 0 && share >= CAUSE_SHARE
        ? 'it-was'
        : low > 0 && share >= PART_SHARE
          ? 'part-of-it'
          : 'cannot-tell';
  const words = {
    'it-was': 'it was this',
    'part-of-it': 'part of it',
    'it-was-not': 'it was not this',
    'cannot-tell': 'cannot be told with these runs',
  }[outcome];
  const sentence = `${retest.name}: ${words}. It moved the outlier by ${signed(moved.difference.value, 1)} K of a gap of ${signed(gap, 1)} K.`;
  return { ...base, outcome, moved, sentence };
}
