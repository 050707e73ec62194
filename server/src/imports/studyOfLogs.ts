import { v7 as newId } from 'uuid';
import {
  LONGEST_PHASE_S,
  type ColumnMapBody,
  type Limit,
  type LogGuess,
  type LogPhaseBody,
  type Study,
  type StudyBody,
} from '@red-ember/contract';
import {
  betterByName,
  blankOwnFigure,
  blankSpot,
  bodyOf,
  blankStudy,
  familyOf,
  nearnessOf,
  ownFiguresOf,
  plainWords as plain,
  referenceAmong,
  UNNAMED_PART,
  type FactorEntry,
  type Family,
  type LevelChoiceEntry,
  type LockEntry,
  type OwnFigureEntry,
  type SpotEntry,
  type VariantEntry,
} from '@red-ember/study';
import { methodOf } from './look/guessColumns.ts';
import { dutyHeld, stepOfColumn, type LevelSeen, type StepSeen } from './look/levels.ts';

/** A log that takes part in a study that is made of logs, put right by the tester. */
export interface UsedLog {
  fileName: string;
  part: string;
  variant: string;
  columns: ColumnMapBody[];
  phases: LogPhaseBody[];
  /** What was seen of its columns, by column. */
  steps: readonly StepSeen[];
  /** Of its fan and its room, over its loads. */
  duty: LevelSeen | null;
  /** Speed of its fan. */
  fan: LevelSeen | null;
  room: LevelSeen | null;
  family: LogGuess['family'];
  /** Of a table of figures: what its variant stands for, whether its readings are rises over the room, and what else stands in it. */
  table?: {
    kind: 'sweep' | 'results';
    levels: LevelChoiceEntry[];
    factors: FactorEntry[];
    rises: boolean;
    own: readonly OwnColumn[];
  };
}

/** A figure of the study's own as a table names it. */
export interface OwnColumn {
  column: number;
  name: string;
  unit: string;
  /** Last place that it is written to. */
  step: number;
  /** Of its values, in the middle. */
  middle: number;
}

/** Where nobody says from which difference on it matters: this share of what it reads, and no less than its last place. */
const MATTERS_SHARE = 0.01;

/** A fan's speed that stays within this in one run was held, where no duty is known, a share. */
const HELD_SHARE = 0.06;
/** A recipe holds up to so many phases. */
const MOST_PHASES = 20;
/** Letters of what a spot is read by. */
const MOST_SENSOR = 60;
/** Half-width within which a held duty counts as held, points. */
const DUTY_TOLERANCE = 2;

/** Of an even number the lower one in the middle. */
export const middle = (values: readonly number[]): number => [...values].sort((p, q) => p - q)[Math.floor((values.length - 1) / 2)]!;
const sameName = (p: string, q: string) => p.trim().toLowerCase() === q.trim().toLowerCase();

/** Names in the order in which they first stand, each once. */
function once(names: readonly string[]): string[] {
  return names.filter((name, i) => names.findIndex((other) => sameName(other, name)) === i).map((name) => name.trim());
}

/** Words of which a part's own software makes the names of its sensors: what is called by them alone is the same sensor under any of them. */
const OWN_WORDS = new Set(
  'gpu graphics card core die chip t tj tmax max hot hotspot spot hottest junction mem memory vram drive composite smart temp temps temperature temperatur'.split(' '), // prettier-ignore
);
/** A processor is not among them: its package and its hottest core are two things. */
const OWN_CLASSES: readonly (string | null | undefined)[] = ['graphics core', 'hot spot', 'memory', 'drive sensor'];

/**
 * What a spot's name comes to: the class of a sensor that the part has by itself, as "GPU Temperature" and "T_core"; else the name without
 * the words that say no more than that it is a temperature, as in "Controller temp".
 */
function spotKey(name: string, componentClass: string | null | undefined): string {
  const words = plain(name);
  if (OWN_CLASSES.includes(componentClass) && words.split(' ').every((word) => OWN_WORDS.has(word))) return `own ${componentClass}`;
  return (
    words
      .replace(/\b(temp(erature)?s?|temperatur|t)\b/g, '')
      .replace(/\s+/g, ' ')
      .trim() || words
  );
}

/** What is called as a column's spot is; else what comes to the same, where no other of them nor of the log's columns does. */
function namedAlike<T extends { name: string; componentClass?: string | null | undefined }>(
  called: readonly T[],
  map: Pick<ColumnMapBody, 'spotName' | 'componentClass'>,
  columns: readonly ColumnMapBody[],
): T | undefined {
  const exact = called.find(({ name }) => sameName(name, map.spotName ?? ''));
  if (exact || !map.spotName) return exact;
  const key = spotKey(map.spotName, map.componentClass);
  const alike = called.filter(({ name, componentClass }) => spotKey(name, componentClass) === key);
  const rivals = columns.filter(
    ({ role, spotName, componentClass }) => role === 'spot' && spotName && spotKey(spotName, componentClass) === key,
  );
  return alike.length === 1 && rivals.length === 1 ? alike[0] : undefined;
}

/** Whether a log held its fan; null where it does not say. */
function heldIts({ duty, fan }: UsedLog): boolean | null {
  if (duty) return dutyHeld(duty);
  return fan && fan.middle > 0 ? fan.span <= HELD_SHARE * fan.middle : null;
}

/**
 * Whether the variants were held at duties of their own: what one of them was set to is no lock that the others broke. Only where their
 * speeds were recorded, by which two sides are held against each other.
 */
function setApart(logs: readonly UsedLog[]): boolean {
  if (logs.some(({ fan }) => fan === null)) return false;
  const duties = once(logs.map(({ variant }) => variant)).map((name) => {
    const own = logs.filter(({ variant }) => sameName(variant, name));
    const held = own.flatMap(({ duty }) => (duty && dutyHeld(duty) ? [duty.middle] : []));
    return 2 * held.length > own.length ? middle(held) : null;
  });
  return duties.every((duty) => duty !== null) && Math.max(...duties) - Math.min(...duties) > 2 * DUTY_TOLERANCE;
}

/**
 * A fan that most logs held at one duty was meant to be held; one that none held was not, and neither was it where no log of some variant
 * held it: that is what the variant is.
 */
function fansOf(logs: readonly UsedLog[], family: Family): { fans: StudyBody['rules']['fans']; locks: LockEntry[] } {
  const free = once(logs.map(({ variant }) => variant)).some((name) => {
    const known = logs.filter(({ variant }) => sameName(variant, name)).map(heldIts);
    return known.includes(false) && !known.includes(true);
  });
  if (free || setApart(logs)) return { fans: 'as-shipped', locks: [] };
  const held = logs.flatMap(({ duty }) => (duty && dutyHeld(duty) ? [duty.middle] : []));
  const seen = logs.filter(({ duty }) => duty !== null).length;
  const at = held.length === 0 ? NaN : Math.round(middle(held));
  if (held.length === 0 || 2 * held.filter((duty) => Math.abs(duty - at) <= DUTY_TOLERANCE).length < seen)
    return { fans: seen > 0 ? 'as-shipped' : familyOf(family).start.fans, locks: [] };
  const lock = { name: 'Fan duty', value: String(at), unit: '%', tolerance: DUTY_TOLERANCE, channel: 'duty', overrides: [] };
  return { fans: 'locked', locks: [lock] };
}

/** Whether tables of results say how fast fans turned, beside what was changed on purpose: then they had to turn alike. */
const fansStand = (logs: readonly UsedLog[]): boolean =>
  logs.some(({ columns }) => columns.some(({ role }) => role === 'fan')) &&
  !logs.some(({ table }) => table?.factors.some(({ name }) => /\b(fans?|duty|pwm)\b/i.test(name)));

/**
 * The spots of the part itself first, where a log holds the whole machine: whatever is judged without being asked for is judged by the first.
 */
function spotsOf(logs: readonly UsedLog[], limits: readonly Limit[], family: Family): SpotEntry[] {
  const read: { name: string; componentClass: ColumnMapBody['componentClass']; here: { map: ColumnMapBody; log: UsedLog }[] }[] = [];
  for (const log of logs)
    for (const map of log.columns) {
      if (map.role !== 'spot' || !map.spotName) continue;
      const known = namedAlike(read, map, log.columns);
      if (known) known.here.push({ map, log });
      else read.push({ name: map.spotName.trim(), componentClass: map.componentClass, here: [{ map, log }] });
    }
  const nearness = ({ name, componentClass }: (typeof read)[number]) =>
    nearnessOf({ name, componentClass: componentClass ?? 'board' }, family);
  const ordered = read.some((spot) => nearness(spot) === 2) ? [...read].sort((p, q) => nearness(p) - nearness(q)) : read;
  return ordered.map(({ name, here }, i): SpotEntry => {
    const componentClass = here[0]!.map.componentClass ?? 'board';
    const limit = limits.find((entry) => entry.componentClass === componentClass);
    const own = methodOf(name, componentClass) === 'own';
    // The coarsest of them: what one file rounds, no other makes finer.
    const step = Math.max(0.1, ...here.map(({ map, log }) => stepOfColumn(log.steps[map.column]?.step ?? null, map.unit) ?? 0));
    return {
      ...blankSpot(newId(), name, `log${i + 1}`),
      componentClass,
      method: own ? 'own' : 'attached',
      // Whoever looks sees which names were taken for one.
      sensor: once(here.map(({ map }) => map.spotName!))
        .join(', ')
        .slice(0, MOST_SENSOR),
      accuracyK: own ? 3 : 0.5,
      placementK: own ? 5 : 0.5,
      resolutionK: step > 5 ? 0.1 : step,
      ...(limit && {
        advisoryC: limit.advisoryC,
        advisorySource: limit.advisorySource,
        throttleC: limit.throttleC,
        throttleSource: limit.throttleSource,
        limitC: limit.neverExceedC,
        limitSource: limit.neverExceedSource,
        cutOutC: limit.neverExceedC + 3,
      }),
    };
  });
}

/** The reference first: what is called stock or bare, else what came first. */
function variantsOf(names: readonly string[], logs: readonly UsedLog[]): VariantEntry[] {
  // The variants of a table stand in its order already: the one nearest to how the part came first.
  const reference = logs.every(({ table }) => table?.kind === 'results') ? names[0]! : (referenceAmong(names) ?? names[0]!);
  return [reference, ...names.filter((name) => name !== reference)].map((name, i) =>
    variantOf(name, { subjectId: 'part-1', isReference: i === 0, levels: levelsIn(logs, name) }),
  );
}

const levelsIn = (logs: readonly UsedLog[], name: string): LevelChoiceEntry[] =>
  logs.find(({ variant, table }) => table && sameName(variant, name))?.table!.levels ?? [];

function variantOf(name: string, of: Pick<VariantEntry, 'subjectId' | 'isReference'> & { levels: LevelChoiceEntry[] }): VariantEntry {
  return { id: newId(), name, setup: '', notes: '', repeats: 2, retest: null, ...of };
}

/** Factors of all tables together, each with every level that one of them has. */
function factorsIn(logs: readonly UsedLog[], there: readonly FactorEntry[] = []): FactorEntry[] {
  const all = new Map(there.map((factor) => [factor.name, factor]));
  for (const factor of logs.flatMap(({ table }) => table?.factors ?? [])) {
    const before = all.get(factor.name);
    all.set(factor.name, before ? { ...before, levels: once([...before.levels, ...factor.levels]) } : factor);
  }
  return [...all.values()];
}

/** Figures of the study's own in all tables together, beside those that a study has. */
function figuresIn(logs: readonly UsedLog[], there: readonly OwnFigureEntry[]): OwnFigureEntry[] {
  const columns = logs.flatMap(({ table }) => table?.own ?? []);
  const unknown = columns.filter(
    ({ name }, i) => columns.findIndex((other) => sameName(other.name, name)) === i && !there.some((figure) => sameName(figure.name, name)),
  );
  return [
    ...there,
    ...unknown.map(({ name, unit, step, middle: read }) => ({
      ...blankOwnFigure(newId()),
      name,
      unit,
      better: betterByName(name),
      // Rounded to its last place it may be off by half of it.
      doubt: step / 2,
      practical: Math.max(step, step * Math.round((MATTERS_SHARE * Math.abs(read)) / step)),
    })),
  ];
}

/** The figure of a study that a column of a table holds. */
export const ownFigureFor = (figures: readonly OwnFigureEntry[], { name }: OwnColumn): OwnFigureEntry | undefined =>
  figures.find((figure) => sameName(figure.name, name));

/** Temperatures as rises where every log has a room, or says a rise itself. */
const risesIn = ({ room, table }: UsedLog) => (table ? table.rises : room !== null);

/** Sweeps with a level each can be read at one level. */
const sweepsWithLevels = (logs: readonly UsedLog[]) =>
  logs.every(({ table, columns }) => table?.kind === 'sweep' && columns.some(({ role }) => role === 'level'));

/** The recipe that the logs went through, as far as one of them shows it and as far as a run can be led by it: of a longer load it is no record. */
function recipeOf(phases: readonly LogPhaseBody[], loadName: string): StudyBody['recipe'] {
  return phases.slice(0, MOST_PHASES).map(({ kind, name, startS, endS }) => {
    const durationS = Math.min(LONGEST_PHASE_S, Math.max(60, Math.round((endS - startS) / 60) * 60));
    const load = kind === 'load' || kind === 'change';
    return {
      kind,
      name: kind === 'load' && name === 'Load' ? loadName : name,
      mode: 'fixed' as const,
      durationS,
      capS: durationS,
      loadPercent: load ? 100 : 0,
      ...(kind === 'change' ? { opensWith: name } : {}),
    };
  });
}

const MOST_TITLE = 120;
/** Variants that a title names. */
const MOST_NAMED = 3;

/** What a study is called of which nothing is said: as many variants as have room, and the end of what has none is seen to be left off. */
function titleOf(part: string, only: string, first: string, others: readonly string[]): string {
  if (others.length === 0) return cut(`${part}: ${only}`);
  for (let named = Math.min(MOST_NAMED, others.length); ; named--) {
    const title = `${part}: ${first} against ${others.slice(0, named).join(', ')}${others.length > named ? ' and more' : ''}`;
    if (named === 1 || title.length <= MOST_TITLE) return cut(title);
  }
}

const cut = (title: string): string => (title.length > MOST_TITLE ? `${title.slice(0, MOST_TITLE - 1).trimEnd()}…` : title);

/**
 * A study to which these logs belong: their spots with the limits of their classes, their variants, what was held, what they went
 * through. Nothing is known of the part but its name; the tester puts the rest right at the stations.
 *
 * @param logs one or more
 */
export function studyOfLogs(logs: readonly UsedLog[], limits: readonly Limit[], said: { title?: string; family?: Family }): StudyBody {
  const family = said.family ?? mostOften(logs.map((log) => log.family));
  const names = once(logs.map(({ variant }) => variant));
  const variants = variantsOf(names, logs);
  const part = mostOften(logs.map((log) => log.part)) || UNNAMED_PART;
  const blank = blankStudy('', family);
  const traces = logs.filter(({ table }) => !table);
  const tableFans: StudyBody['rules']['fans'] = sweepsWithLevels(logs) ? 'equal-noise' : fansStand(logs) ? 'locked' : 'not-applicable';
  const { fans, locks } = traces.length > 0 ? fansOf(traces, family) : { fans: tableFans, locks: [] };
  const rooms = logs.flatMap(({ room }) => (room ? [room] : []));
  const others = variants.slice(1).map(({ name }) => name);
  const title = said.title?.trim() || titleOf(part, names[0]!, variants[0]?.name ?? '', others);
  const longest = [...logs].sort((p, q) => q.phases.length - p.phases.length)[0]!;
  return {
    ...blank,
    title: title.slice(0, MOST_TITLE),
    question: others.length === 1 ? `Does ${others[0]} read cooler than ${variants[0]!.name}?` : '',
    subjects: [{ ...blank.subjects[0]!, name: part.slice(0, 80) }],
    rules: {
      ...blank.rules,
      fans,
      basis: logs.every(risesIn) ? 'rise' : 'as-found',
      duration: 'fixed',
      // The band in which these runs were made; narrower than usual it is not.
      roomMinC: Math.min(blank.rules.roomMinC, ...rooms.map(({ least }) => Math.floor(least))),
      roomMaxC: Math.max(blank.rules.roomMaxC, ...rooms.map(({ most }) => Math.ceil(most))),
    },
    spots: spotsOf(logs, limits, family),
    variants,
    factors: factorsIn(logs),
    figures: figuresIn(logs, []),
    recipe: longest.phases.some(({ kind }) => kind === 'load') ? recipeOf(longest.phases, familyOf(family).start.loadName) : blank.recipe,
    locks,
  };
}

/**
 * The spot of a study that a column is read from: by its name, else by its class, where only one of the spots and one of the log's columns
 * have it.
 */
export function spotFor(spots: readonly SpotEntry[], map: ColumnMapBody, columns: readonly ColumnMapBody[]): SpotEntry | undefined {
  const named = namedAlike(spots, map, columns);
  if (named || !map.componentClass) return named;
  const free = spots.filter(
    (spot) => spot.componentClass === map.componentClass && !columns.some((other) => sameName(other.spotName ?? '', spot.name)),
  );
  const alike = columns.filter((other) => other.role === 'spot' && other.componentClass === map.componentClass);
  return free.length === 1 && alike.length === 1 ? free[0] : undefined;
}

/** A study that is there, with the spots and variants of these logs that it does not have yet; nothing else of it changes. */
export function addedTo(study: Study, logs: readonly UsedLog[], limits: readonly Limit[]): StudyBody {
  const body = bodyOf(study);
  const unknown = logs.map((log) => ({
    ...log,
    columns: log.columns.filter((map) => map.role === 'spot' && !spotFor(body.spots, map, log.columns)),
  }));
  const variants = once(logs.map(({ variant }) => variant)).filter(
    (name) => !body.variants.some((variant) => sameName(variant.name, name)),
  );
  return {
    ...body,
    spots: [...body.spots, ...spotsOf(unknown, limits, study.family)],
    variants: [
      ...body.variants,
      ...variants.map((name) =>
        variantOf(name, {
          subjectId: body.subjects[0]?.id ?? 'part-1',
          isReference: body.variants.length === 0 && name === variants[0],
          levels: levelsIn(logs, name),
        }),
      ),
    ],
    factors: factorsIn(logs, body.factors),
    figures: figuresIn(logs, ownFiguresOf(body)),
  };
}

function mostOften<T>(values: readonly T[]): T {
  const counts = new Map<T, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].reduce((best, entry) => (entry[1] > best[1] ? entry : best))[0];
}
