import { clock, findPhases, fixed, type FoundPhase, type PhaseEvidence } from '@red-ember/core';
import {
  DATED_FORMATS,
  holdsReadings,
  isTemperature,
  unitOfColumn,
  WRITTEN_FORMATS,
  type ColumnMapBody,
  type LogGuess,
  type LogKind,
  type RecordedRole,
} from '@red-ember/contract';
import { familyByNames, plainWords as plain, type Family } from '@red-ember/study';
import type { Decimal } from '../read/cellRow.ts';
import { numberOf } from '../read/cells.ts';
import { inZone, isClock, isDateAlone, saysZone, timeFormatOf, type TimeSpec } from '../read/times.ts';
import type { SavedMapping } from '../store.ts';
import type { LogSeen } from './columnScan.ts';
import { dutyHeld, stepOfColumn } from './levels.ts';
import { unreadWords, unusedWords } from './words.ts';
import { guessColumns, type KnownSpot } from './guessColumns.ts';
import { guessTable } from './guessTable.ts';
import { judgedOf } from './judgedOf.ts';
import type { LogHead } from './logHead.ts';

/** What is known beside the log itself. */
export interface Beside {
  spots: readonly KnownSpot[];
  /** Of the study that it is for; null where that is yet to be made. */
  family: Family | null;
  /** A mapping of columns of the same names. */
  saved: SavedMapping | null;
  /** Zone in which dates are taken that say none. */
  zone: string;
  fileName: string;
}

/** Where the times of a log stand, and what is not sure about it; null where no column looks like a time. */
export function guessTime(
  { names, units, samples, decimal }: LogHead,
  saved: SavedMapping | null,
): { spec: TimeSpec; doubts: string[] } | null {
  const cells = (column: number) => samples[column] ?? [];
  const nameOf = (column: number) => `${names[column] ?? ''} ${units[column] ?? ''}`;
  const first = (column: number) => cells(column).find((cell) => cell.trim() !== '') ?? '';
  const dates = names.findIndex((_, i) => isDateAlone(first(i)));
  const clocks = names.findIndex((_, i) => isClock(first(i)));
  if (dates >= 0 && clocks >= 0) {
    const { format, doubt } = timeFormatOf(cells(clocks), nameOf(clocks), decimal, cells(dates));
    return { spec: { timeColumn: clocks, dateColumn: dates, timeFormat: format }, doubts: doubt ? [doubt] : [] };
  }
  // By name, else by a unit of time that stands alone: the s of MB/s is none; else by cells that can be nothing else.
  const named = names.findIndex(
    (name, i) =>
      !TOOK.test(plain(name)) &&
      /\b(time|elapsed|timestamp|ts|date|datetime|zeit|zeitstempel|zeitpunkt|uhrzeit|datum|heure|fecha|hora|seconds|clock time|epoch|unix( ?time)?)\b/.test(
        plain(name),
      ) &&
      !comesAndGoes(cells(i), decimal),
  );
  const timed = names.findIndex(
    (name, i) =>
      !TOOK.test(plain(name)) &&
      /^\(?\[?(s|secs?|seconds?|ms|msec|us|µs|min|minutes?|h|hours?)\]?\)?$/i.test((units[i] || unitBehind(name) || name).trim()) &&
      !comesAndGoes(cells(i), decimal),
  );
  const stamped = names.findIndex((_, i) => ['iso', 'day-month', 'month-day', 'clock'].includes(formatAlone(first(i))));
  // Seconds or milliseconds since 1970 that go up are a time, whatever they are called.
  const sinceEpoch = names.findIndex((_, i) => goesUp(cells(i), decimal) && timeFormatOf(cells(i), '', decimal).format.startsWith('epoch'));
  const column = [saved?.timeColumn ?? -1, named, timed, stamped, plainTime(names), sinceEpoch].find((candidate) => candidate >= 0) ?? -1;
  if (column < 0) {
    // Without any names a column that ascends evenly is most likely the time; with names it may as well count rows.
    const even = names.every((name, i) => name === `column ${i + 1}`) ? samples.findIndex((texts) => ascendsEvenly(texts, decimal)) : -1;
    if (even < 0) return null;
    const doubt = `No column has a name: “${names[even]}” ascends evenly and is taken as the time, in seconds.`;
    return { spec: { timeColumn: even, dateColumn: null, timeFormat: 'elapsed-s' }, doubts: [doubt] };
  }
  const { format, doubt } = timeFormatOf(cells(column), nameOf(column), decimal);
  // Seconds and minutes look alike, and somebody has said which; anything else is plain to see.
  const asSaid = saved && format.startsWith('elapsed') && saved.timeFormat.startsWith('elapsed');
  return {
    spec: { timeColumn: column, dateColumn: null, timeFormat: asSaid ? saved.timeFormat : format },
    doubts: doubt && !asSaid ? [doubt] : [],
  };
}

/** How long something took, not when it was read. */
const TOOK = /\b(render\w*|boot|build|export|copy\w*|transfer|settling|response|frame|job|encod\w*|compil\w*|fitting|curing) times?\b/;

/** A time goes back now and then where a log was stopped; minutes of a render go either way from row to row. */
const MOST_BACK = 0.2;

function comesAndGoes(texts: readonly string[], decimal: Decimal): boolean {
  const values = texts.map((text) => numberOf(text, decimal)).filter(Number.isFinite);
  const back = values.filter((value, i) => i > 0 && value < values[i - 1]!).length;
  return back > MOST_BACK * (values.length - 1);
}

function goesUp(texts: readonly string[], decimal: Decimal): boolean {
  const values = texts.map((text) => numberOf(text, decimal));
  return values.length >= 5 && values.every((value, i) => i === 0 || value > values[i - 1]!);
}

function ascendsEvenly(texts: readonly string[], decimal: Decimal): boolean {
  const values = texts.map((text) => numberOf(text, decimal));
  const step = values[1]! - values[0]!;
  return values.length >= 5 && step > 0 && values.every((value, i) => i === 0 || Math.abs(value - values[i - 1]! - step) < 0.01 * step);
}

const unitBehind = (name: string): string => /[[(]([^\])]+)[\])]\s*$/.exec(name)?.[1]?.trim() ?? '';
const formatAlone = (cell: string) => (/\d[:/.-]\d/.test(cell) ? timeFormatOf([cell], '', '.').format : 'elapsed-s');
/** A column called t. */
const plainTime = (names: readonly string[]) => names.findIndex((name) => /^t( |$)/.test(plain(name)));

/** A mapping that was kept, on the spots of this study; what it does not have is left out. */
function asBefore(saved: SavedMapping, spots: readonly KnownSpot[]): ColumnMapBody[] {
  return saved.columns.flatMap(({ spotName, ...map }): ColumnMapBody[] => {
    if (map.role !== 'spot') return [{ ...map, spotId: null }];
    const spot = spots.find((candidate) => plain(candidate.name) === plain(spotName ?? ''));
    return spot ? [{ ...map, spotId: spot.id, spotName: spot.name, componentClass: spot.componentClass }] : [];
  });
}

/** More rows than a table of figures has. */
const MOST_FIGURES = 2000;

/** What a file without times holds: readings over a fan's duty, or a table of figures. */
function kindWithoutTime(head: LogHead, seen: LogSeen, rows: number): LogKind {
  if (rows > MOST_FIGURES) return 'trace';
  const quantities = head.names.map((name, i) => unitOfColumn(name, head.units[i] ?? '', head.samples[i] ?? [])?.quantity);
  const words = head.names.map(plain);
  const has = (pattern: RegExp) => words.some((name) => pattern.test(name));
  const rises = quantities.includes('temperature') || has(/\b(rise|temp\w*|settled|delta|k)\b/);
  const texts = seen.columns.filter(({ texts, numbers }) => texts > 0 && numbers === 0).length;
  const steered = has(/\b(fan|duty|pwm)\b/) || quantities.includes('rotation');
  if (texts === 0 && steered && (rises || quantities.includes('level'))) return 'sweep';
  return rises && (texts > 0 || rows <= 200) ? 'results' : 'trace';
}

/** Everything that is guessed of a log. */
export interface Guessed {
  kind: LogKind;
  guess: Omit<LogGuess, 'variant' | 'mount'>;
  doubts: string[];
}

export function guessLog(head: LogHead, time: ReturnType<typeof guessTime>, seen: LogSeen, rows: number, beside: Beside): Guessed {
  const family =
    beside.family ??
    familyByNames(
      head.names.map((name, i) => `${name} ${head.units[i] ?? ''}`),
      beside.fileName,
    );
  const doubts = [...(time?.doubts ?? [])];
  const kind = time ? 'trace' : kindWithoutTime(head, seen, rows);
  const marks = seen.marks.filter(({ column }) => column !== time?.spec.timeColumn && column !== time?.spec.dateColumn);
  const skip = time ? [time.spec.timeColumn, time.spec.dateColumn ?? -1, ...marks.map(({ column }) => column)] : [];
  const guessed = guessColumns({ ...head, seen: seen.columns }, skip, beside.spots, family);
  const columns = beside.saved ? asBefore(beside.saved, beside.spots) : [...guessed.columns];
  if (kind !== 'trace') columns.splice(0, columns.length, ...guessTable(head, seen, columns, kind === 'sweep'));
  if (!beside.saved) doubts.push(...guessed.doubts, ...unusedWords(guessed.unused, columns, head.names));
  // So few kelvin are a rise over the air: a trace is made of temperatures.
  const rises = kind === 'trace' ? columns.filter((map) => map.unit === 'K' && (seen.columns[map.column]?.most ?? NaN) < COLDEST_K) : [];
  for (const { column } of rises) {
    columns.splice(columns.findIndex((map) => map.column === column), 1); // prettier-ignore
    doubts.push(`“${head.names[column]}” reads like a rise over the air, in kelvin, and is not used: a trace needs temperatures.`);
  }
  const notJudged: number[] = [];
  if (kind === 'trace') {
    const { kept, left, words } = judgedOf(columns, head.names, family ?? 'card', beside.spots.length > 0);
    columns.splice(0, columns.length, ...kept);
    notJudged.push(...left);
    doubts.push(...words);
  }
  if (kind === 'trace' && !time) doubts.push('No column looks like a time: choose the one that holds it.');
  if (!family) doubts.push('Nothing says what kind of part this is; it is taken as a graphics card.');
  if (time && !beside.saved)
    for (const { column, marks: found } of marks) {
      // Numbers that are written in another way are no words.
      if (found && found.some(({ text }) => /\p{L}{2}/u.test(text))) columns.push({ column, role: 'mark', spotId: null });
      else if (found && found.length > 0) doubts.push(`“${head.names[column]}” holds neither numbers nor words, and is not used.`);
      else if (!found) doubts.push(`“${head.names[column]}” holds too many different texts for marks, and is not used.`);
    }
  const written = marks.flatMap(({ column, marks: found }) =>
    columns.some((map) => map.column === column && map.role === 'mark') ? (found ?? []) : [],
  );
  if (kind === 'trace' && !beside.saved) columns.push(...keptBeside(seen, columns, skip, notJudged));
  const evidence = evidenceOf(seen, columns, written);
  const phases = kind === 'trace' ? findPhases(evidence) : [];
  if (kind === 'trace') doubts.push(...oddities(seen, columns, phases, evidence, head.names, family));
  const startedAt = startOf(head, time, seen, beside.zone);
  if (startedAt.zone === 'assumed') doubts.push(`The times do not say where on earth they hold: they are taken as of ${beside.zone}.`);
  const loads = phases.filter((phase) => phase.kind === 'load' || phase.kind === 'change');
  return {
    kind,
    guess: {
      timeColumn: time?.spec.timeColumn ?? null,
      dateColumn: time?.spec.dateColumn ?? null,
      timeFormat: time?.spec.timeFormat ?? 'elapsed-s',
      columns,
      loadStartS: loads[0]?.startS ?? 0,
      loadEndS: loads.at(-1)?.endS ?? seen.lengthS,
      lengthS: seen.lengthS,
      phases,
      startedAt,
      family: family ?? 'card',
    },
    doubts,
  };
}

/** A log with more columns than this has most of them left out. */
const MOST_KEPT = 40;

/** Columns of numbers that nothing tells of, temperatures that are not judged before all others: they are kept with the run, so that what they hold can be said afterwards. */
function keptBeside(
  { columns: seen }: LogSeen,
  used: readonly ColumnMapBody[],
  skip: readonly number[],
  notJudged: readonly number[],
): ColumnMapBody[] {
  const loose = seen.flatMap(({ numbers, texts }, column): ColumnMapBody[] => {
    const taken = skip.includes(column) || used.some((map) => map.column === column);
    return taken || numbers === 0 || texts > numbers ? [] : [{ column, role: 'beside', spotId: null, lockName: null }];
  });
  const first = (map: ColumnMapBody) => Number(!notJudged.includes(map.column));
  return loose.sort((p, q) => first(p) - first(q) || p.column - q.column).slice(0, Math.max(0, MOST_KEPT - used.length));
}

function startOf({ samples }: LogHead, time: ReturnType<typeof guessTime>, { startS }: LogSeen, zone: string): LogGuess['startedAt'] {
  if (!time || !Number.isFinite(startS) || !DATED_FORMATS.includes(time.spec.timeFormat)) return { iso: null, zone: null };
  const written = WRITTEN_FORMATS.includes(time.spec.timeFormat);
  const said = !written || saysZone((samples[time.spec.timeColumn] ?? []).find((cell) => cell.trim() !== '') ?? '');
  const atS = said ? startS : inZone(startS, zone);
  return { iso: new Date(1000 * atS).toISOString(), zone: said ? 'said' : 'assumed' };
}

function evidenceOf(seen: LogSeen, columns: readonly ColumnMapBody[], marks: readonly { tMs: number; text: string }[]): PhaseEvidence {
  const of = (role: RecordedRole) => {
    const map = columns.find((candidate) => candidate.role === role);
    if (!map) return null;
    const signal = seen.signal(map.column);
    return map.factor ? { t: signal.t, y: signal.y.map((value) => value * map.factor!) } : signal;
  };
  return {
    lengthS: seen.lengthS,
    marks: [...marks].sort((p, q) => p.tMs - q.tMs).map(({ tMs, text }) => ({ atS: tMs / 1000, text })),
    utilisation: of('utilisation'),
    power: of('power'),
    throughput: of('throughput'),
    wall: of('wall'),
    duty: of('duty'),
    fan: of('fan'),
    temperatures: columns.filter((map) => map.role === 'spot').map((map) => seen.signal(map.column)),
  };
}

/** No part of a bench is as cold as this, K. */
const COLDEST_K = 200;
/** A sensor that steps by this or more is worth a word, K. */
const COARSE_K = 0.9;
/** Beyond this it is no step of a sensor, but a load that came between two readings, K. */
const MOST_STEP_K = 5;
const BUSY_PERCENT = 95;
/** How long a load takes to come up before it is asked whether fans were held, seconds. */
const SETTLE_S = 30;

/** A sensor that says nothing for so long after a load is gone, s; and so close to its end that the two are one. */
const SILENT_S = 60;
const AT_ONCE_S = 20;

/** What is odd about a trace, in sentences. */
function oddities(
  seen: LogSeen,
  columns: readonly ColumnMapBody[],
  phases: readonly FoundPhase[],
  { duty, utilisation, fan }: PhaseEvidence,
  names: readonly string[],
  family: Family | null,
): string[] {
  const found: string[] = [];
  const loads = phases.filter((phase) => phase.kind === 'load' || phase.kind === 'change');
  const within = (signal: { t: Float64Array; y: Float64Array }) => loads.map(({ startS, endS }) => [...signal.y].filter((value, i) => value === value && signal.t[i]! >= startS + SETTLE_S && signal.t[i]! < endS)); // prettier-ignore
  if (!columns.some((map) => map.role === 'room')) found.push('No room temperature was recorded.');
  if (duty) {
    const all = within(duty).flat();
    const [least, most] = [Math.min(...all), Math.max(...all)];
    if (!dutyHeld({ least, most })) found.push(`The fan moved from ${fixed(least, 0)} to ${fixed(most, 0)} % under load: it was not held.`);
  } else if (!fan && family !== 'drive') found.push('No fan was recorded: nobody can see whether it was held.');
  if (utilisation) {
    const all = within(utilisation).flat();
    const busy = all.reduce((sum, value) => sum + value, 0) / all.length;
    if (busy < BUSY_PERCENT) found.push(`The part was kept busy for only ${fixed(busy, 0)} % of the load.`);
  }
  for (const { column, role } of columns) {
    if (role !== 'spot') continue;
    const { t, y } = seen.signal(column);
    const lastS = t[y.findLastIndex((value) => !Number.isNaN(value))] ?? seen.lengthS;
    if (seen.lengthS - lastS > SILENT_S && loads.some(({ endS }) => Math.abs(endS - lastS) <= AT_ONCE_S))
      found.push(
        `“${names[column]}” reads nothing from ${clock(lastS)} on, where the load ends. Where the part vanished under load, write it down with the run: a log alone cannot tell that from a load that was taken off.`,
      );
  }
  for (const { column, role } of columns) {
    const { codes, unread } = seen.columns[column]!;
    const reads = holdsReadings(role) && isTemperature(role);
    if (reads && codes.length > 0) found.push(unreadWords({ codes, rows: unread }, `“${names[column]}”`));
  }
  for (const { column, role, unit } of columns) {
    const step = stepOfColumn(seen.columns[column]?.step ?? null, unit);
    if (role === 'spot' && step !== null && step >= COARSE_K && step <= MOST_STEP_K)
      found.push(`“${names[column]}” is read in steps of ${fixed(step, step % 1 === 0 ? 0 : 1)} K.`);
  }
  return found;
}
