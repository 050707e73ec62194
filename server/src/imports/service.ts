import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { v7 as newId } from 'uuid';
import { phasesOf, thermocoupleTemperature, toCelsius } from '@red-ember/core';
import {
  ROOM_SUSPECT_C,
  SPOT_SUSPECT_C,
  type ColumnMapBody,
  type ImportRunBody,
  type Run,
  type SpotBody,
  type StagedLog,
  type Study,
  type VoltageBody,
} from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import { settingsOf, type RunService } from '../runs/service.ts';
import type { RunStore, StoredChannel } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import { LogProblem, readNumber, readTime, timeFormatOf, type Decimal } from './cells.ts';
import { ENCODING_NAMES } from './encoding.ts';
import { asBefore, guessColumns, TimeGuess } from './guess.ts';
import { openLog, type OpenLog } from './readLog.ts';
import { bracketed } from './shape.ts';
import type { MappingStore, SavedMapping } from './store.ts';

const STAGED_HOURS = 24;
const DAY_S = 86_400;
/** Of all rows; more than this left out is another kind of file. */
const MOST_SKIPPED = 0.05;
/** Times that say on which day a log was made. */
const DATED = new Set<string>(['iso', 'epoch-s', 'epoch-ms']);
/** Rows shown to the tester, and looked at to guess what the columns hold. */
const SAMPLE_ROWS = 5;
const UNITS = { spot: '°C', room: '°C', throughput: 'MB/s', power: 'W', utilisation: '%', held: '' } as const;

interface Table {
  names: string[];
  /** First stamp on the log's own scale, seconds. */
  startS: number;
  tMs: number[];
  columns: number[][];
  skipped: Skipped[];
}

/** A row that was left out, and why. */
interface Skipped {
  line: number;
  why: string;
}

/** Temperature from a thermocouple's voltage. @throws LogProblem with the line where it lies outside the type's range */
function readVoltage(voltage: VoltageBody, cells: string[], names: string[], line: number, column: number, decimal: Decimal): number {
  const name = names[column] ?? `column ${column + 1}`;
  const millivolts = readNumber(cells[column], line, name, decimal);
  const cold =
    voltage.coldJunctionColumn === null
      ? voltage.coldJunctionC
      : readNumber(cells[voltage.coldJunctionColumn], line, names[voltage.coldJunctionColumn] ?? 'cold junction', decimal);
  try {
    return thermocoupleTemperature(voltage.type, millivolts, cold);
  } catch {
    throw new LogProblem(
      `Line ${line}, ${name}: ${millivolts} mV with the cold junction at ${cold} °C is no voltage of a type ${voltage.type} thermocouple. Is it in mV?`,
    );
  }
}

/** What was made of voltages, for the run's own record. */
function voltageWords(body: ImportRunBody, names: string[]): string[] {
  return body.columns.flatMap(({ column, voltage }) => {
    if (!voltage) return [];
    const cold =
      voltage.coldJunctionColumn === null
        ? `at ${voltage.coldJunctionC} °C`
        : `read from ${names[voltage.coldJunctionColumn] ?? 'its column'}`;
    return [`${names[column] ?? `Column ${column + 1}`}: type ${voltage.type} voltage in mV, cold junction ${cold}, ITS-90.`];
  });
}

function unitWords(body: ImportRunBody, names: string[]): string[] {
  return body.columns.flatMap(({ column, unit }) =>
    unit === 'F' || unit === 'K'
      ? [`${names[column] ?? `Column ${column + 1}`}: written in ${unit === 'K' ? 'K' : '°F'}, stored in °C.`]
      : [],
  );
}

/** Rows that were left out, counted by reason, with the first lines of each. */
function skippedWords(skipped: readonly Skipped[]): string[] {
  return [...new Set(skipped.map(({ why }) => why))].map((why) => {
    const lines = skipped.filter((row) => row.why === why).map((row) => row.line);
    const named = lines.slice(0, 5).join(', ');
    return lines.length === 1
      ? `Line ${named} ${why} and was left out.`
      : `${lines.length} rows were left out, each of which ${why}: line ${named}${lines.length > 5 ? ' and more' : ''}.`;
  });
}

function savedMapping(study: Study, { timeColumn, timeFormat, columns }: ImportRunBody) {
  return {
    timeColumn,
    timeFormat,
    columns: columns.map(({ spotId, ...map }) => ({ ...map, spotName: study.spots.find((spot) => spot.id === spotId)?.name ?? null })),
  };
}

/** Turns recorded logs into runs: staged first, then mapped by the tester, then stored as a whole or not at all. */
export class ImportService {
  readonly folder: string;

  constructor(
    dataFolder: string,
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly samples: SampleStore,
    private readonly runService: RunService,
    private readonly mappings: MappingStore,
    private readonly now: () => Date = () => new Date(),
  ) {
    this.folder = join(dataFolder, 'imports');
    mkdirSync(this.folder, { recursive: true });
    this.forgetOld();
  }

  /** Looks at an uploaded file. It is removed again when it cannot be read. @throws HttpProblem 422 with the line */
  async stage(studyId: string, path: string, fileName: string): Promise<StagedLog> {
    this.forgetOld();
    try {
      const { spots } = this.studies.get(studyId);
      const log = await openLog(path);
      const { names, units } = log.shape;
      const saved = this.mappings.find(names);
      const sample: string[][] = [];
      let times: TimeGuess | null = null;
      let count = 0;
      const start = () => this.startGuess(log, sample, saved, spots);
      for await (const { line, cells } of log.rows) {
        count++;
        if (sample.length < SAMPLE_ROWS) sample.push(cells);
        if (sample.length === SAMPLE_ROWS) times ??= start();
        if (count > SAMPLE_ROWS) times?.take(cells, line);
      }
      if (count === 0) throw new LogProblem('The file has a header but no readings.');
      times ??= start();
      const id = newId();
      renameSync(path, join(this.folder, `${id}.log`));
      const columns = names.map((name, index) => ({
        index,
        name: units[index] && !bracketed(name) ? `${name} [${units[index]}]` : name,
        sample: sample.map((cells) => cells[index] ?? ''),
      }));
      const { headerLine, unitsLine } = log.shape;
      const written = { encoding: ENCODING_NAMES[log.encoding], delimiter: log.delimiter, decimal: log.decimal, headerLine, unitsLine };
      return { id, fileName, columns, rows: count, written, known: saved !== null, guess: { ...times.columns, ...times.load() } };
    } catch (error) {
      rmSync(path, { force: true });
      if (error instanceof LogProblem) throw unprocessable(`${fileName} was not imported. ${error.message}`);
      throw error;
    }
  }

  private startGuess(log: OpenLog, sample: string[][], saved: SavedMapping | null, spots: SpotBody[]): TimeGuess {
    const { names, units } = log.shape;
    const columns = names.map((_, i) => sample.map((cells) => cells[i] ?? ''));
    const seen = () => timeFormatOf(columns[saved!.timeColumn] ?? [], names[saved!.timeColumn] ?? '', log.decimal);
    const mapped = saved ? asBefore(saved, seen(), spots) : guessColumns(names, units, columns, spots, log.decimal);
    const guess = new TimeGuess(mapped, log.decimal);
    sample.forEach((cells, i) => guess.take(cells, i + 1));
    return guess;
  }

  /**
   * Makes a run of a staged log.
   *
   * @throws HttpProblem 422 saying which line and why; nothing is stored then
   */
  async makeRun(studyId: string, stagedId: string, fileName: string, body: ImportRunBody): Promise<Run> {
    const study = this.studies.get(studyId);
    if (!study.variants.some((variant) => variant.id === body.variantId)) throw notFound('This variant');
    const path = join(this.folder, `${stagedId}.log`);
    if (!/^[0-9a-f-]{36}$/.test(stagedId) || !existsSync(path)) throw notFound('This uploaded log (it is kept for a day)');
    this.checkMapping(body);
    let table: Table;
    try {
      table = await this.readTable(path, body);
    } catch (error) {
      if (error instanceof LogProblem) throw unprocessable(`Nothing was imported. ${error.message}`);
      throw error;
    }
    const endS = table.tMs.at(-1)! / 1000;
    if (body.loadEndS <= body.loadStartS)
      throw unprocessable('The load must end after it began.', [{ pointer: '/loadEndS', sentence: 'The load must end after it began.' }]);
    if (body.loadStartS >= endS)
      throw unprocessable('The load begins after the log has ended.', [
        { pointer: '/loadStartS', sentence: `The log ends at ${Math.round(endS)} s.` },
      ]);
    const channels = body.columns.map((map) => this.channelOf(study, map));
    const at = this.now().toISOString();
    // A log with dates says itself when it was made: whether runs were made in turn is judged by that.
    const startedAt = DATED.has(body.timeFormat) ? new Date(table.startS * 1000).toISOString() : at;
    const id = this.runs.atomically(() => {
      const runId = this.runs.insert({
        studyId,
        variantId: body.variantId,
        mountId: null,
        source: 'file',
        sourceName: fileName,
        state: 'finished',
        startedAt,
        timeScale: 1,
        settings: settingsOf(study, body.variantId),
        confirmedLocks: [],
        recipe: phasesOf(study.recipe),
        armed: [],
        seed: 0,
        channels,
      });
      channels.forEach((channel, i) => this.samples.append(runId, channel.key, table.tMs, table.columns[i]!));
      this.runs.setProgress(runId, 0, table.tMs.at(-1)!);
      this.runs.setState(runId, 'finished', at, '');
      this.storePhases(runId, body, endS);
      if (body.note) this.runs.addEvent(runId, 0, at, 'note', body.note);
      for (const text of [...voltageWords(body, table.names), ...unitWords(body, table.names), ...skippedWords(table.skipped)])
        this.runs.addEvent(runId, 0, at, 'note', text);
      this.mappings.keep(table.names, savedMapping(study, body), at);
      return runId;
    });
    this.samples.compact(id);
    this.runService.correct(id);
    rmSync(path, { force: true });
    return this.runs.find(id)!;
  }

  private channelOf(study: Study, map: ColumnMapBody): StoredChannel {
    const spot = study.spots.find((candidate) => candidate.id === map.spotId);
    const lock = map.role === 'held' ? study.locks.find((candidate) => candidate.name === map.lockName) : undefined;
    if (map.role === 'spot' && !spot) throw notFound('A spot of the mapping');
    if (map.role === 'held' && (!lock || lock.channel === ''))
      throw unprocessable(`“${map.lockName}” is not a lock that a channel watches: name its channel and tolerance at Hold.`);
    return {
      // A lock is found again by the channel that watches it; anything else by the column it stood in.
      key: lock?.channel ?? `column-${map.column}`,
      role: map.role,
      spotId: map.role === 'spot' ? map.spotId : null,
      unit: lock?.unit ?? UNITS[map.role],
      sensor: spot?.sensor ?? lock?.name ?? map.role,
      instrumentChannelId: map.role === 'room' ? study.roomChannelId : (spot?.instrumentChannelId ?? null),
    };
  }

  private storePhases(runId: string, body: ImportRunBody, endS: number): void {
    const loadEnd = Math.min(body.loadEndS, endS);
    const phases = [
      { kind: 'idle-soak', name: 'Idle', from: 0, to: body.loadStartS },
      { kind: 'load', name: 'Load', from: body.loadStartS, to: loadEnd },
      { kind: 'cool-down', name: 'After', from: loadEnd, to: endS },
    ].filter((phase) => phase.to - phase.from >= 1);
    phases.forEach((phase, i) => {
      this.runs.startPhase(runId, i, phase, Math.round(phase.from * 1000));
      this.runs.endPhase(runId, i, Math.round(phase.to * 1000), 'file');
    });
  }

  private checkMapping(body: ImportRunBody): void {
    const problems = [];
    if (!body.columns.some((map) => map.role === 'spot'))
      problems.push({ pointer: '/columns', sentence: 'Choose at least one column that holds a spot.' });
    const seen = new Set<string>();
    for (const map of body.columns) {
      const name = map.role === 'spot' ? `spot ${map.spotId}` : map.role === 'held' ? `lock ${map.lockName}` : map.role;
      if (seen.has(name)) problems.push({ pointer: '/columns', sentence: 'Two columns are mapped to the same thing.' });
      seen.add(name);
      if (map.column === body.timeColumn) problems.push({ pointer: '/timeColumn', sentence: 'The time column cannot be a reading too.' });
    }
    if (problems.length > 0) throw unprocessable(problems[0]!.sentence, problems);
  }

  private async readTable(path: string, body: ImportRunBody): Promise<Table> {
    const { shape, header, decimal, rows } = await openLog(path);
    const { names } = shape;
    const table: Table = { names, startS: 0, tMs: [], columns: body.columns.map(() => []), skipped: [] };
    let startS: number | null = null;
    /** Midnights that a clock has passed. */
    let days = 0;
    let count = 0;
    for await (const { line, cells } of rows) {
      count++;
      if (header?.every((cell, i) => cell === cells[i])) {
        table.skipped.push({ line, why: 'repeats the header' });
        continue;
      }
      let timeS = readTime(cells[body.timeColumn], body.timeFormat, line, decimal) + days * DAY_S;
      startS ??= timeS;
      const last = table.tMs.at(-1);
      // A clock that falls back by more than half a day has passed midnight.
      if (body.timeFormat === 'clock' && last !== undefined && timeS - startS < last / 1000 - DAY_S / 2) {
        days++;
        timeS += DAY_S;
      }
      if (table.tMs.length === 0) table.startS = timeS;
      const tMs = Math.round((timeS - startS) * 1000);
      if (last !== undefined && tMs <= last) {
        table.skipped.push({ line, why: tMs === last ? 'repeats the time before it' : 'goes back in time' });
        continue;
      }
      if (tMs > 30 * DAY_S * 1000 || tMs > 2 ** 31 - 1)
        throw new LogProblem(`Line ${line}: more than 24 days after the first sample. Is the time written in another way?`);
      table.tMs.push(tMs);
      body.columns.forEach((map, i) => table.columns[i]!.push(this.readCell(map, cells, names, line, decimal, body)));
    }
    const lost = table.skipped.filter(({ why }) => why !== 'repeats the header');
    if (lost.length > MOST_SKIPPED * count)
      throw new LogProblem(
        `Line ${lost[0]!.line} ${lost[0]!.why}, and so do ${lost.length - 1} more of ${count}: this is not one log in its order.`,
      );
    if (table.tMs.length < 10) throw new LogProblem(`Only ${table.tMs.length} readings; a run needs at least ten.`);
    body.columns.forEach((map, i) => {
      if (table.columns[i]!.every(Number.isNaN)) throw new LogProblem(`${names[map.column] ?? 'A column'} holds no readings at all.`);
    });
    return table;
  }

  private readCell(map: ColumnMapBody, cells: string[], names: string[], line: number, decimal: Decimal, body: ImportRunBody): number {
    const name = names[map.column] ?? `column ${map.column + 1}`;
    const isTemperature = map.role === 'spot' || map.role === 'room';
    const written = map.voltage
      ? readVoltage(map.voltage, cells, names, line, map.column, decimal)
      : readNumber(cells[map.column], line, name, decimal);
    if (!isTemperature || Number.isNaN(written)) return written;
    const unit = map.voltage ? 'C' : (map.unit ?? 'C');
    const value = toCelsius(written, unit);
    if (!body.acceptOddTemperatures) this.questionUnits(map.role, value, line, name);
    if (value < -273.15)
      throw new LogProblem(`Line ${line}, ${name}: ${written} ${unit === 'K' ? 'K' : `°${unit}`} lies below absolute zero.`);
    return value;
  }

  private questionUnits(role: string, value: number, line: number, name: string): void {
    const odd =
      role === 'room' && value > ROOM_SUSPECT_C ? 'A room' : role === 'spot' && (value < SPOT_SUSPECT_C || value > 160) ? 'A spot' : null;
    if (!odd) return;
    throw unprocessable(
      `Nothing was imported. Line ${line}, ${name}: ${odd} at ${value} °C: is this °F? Convert the log, or confirm that it is °C.`,
      [{ pointer: '/acceptOddTemperatures', sentence: `${odd} at ${value} °C: is this °F?` }],
    );
  }

  private forgetOld(): void {
    for (const name of readdirSync(this.folder)) {
      const path = join(this.folder, name);
      if (Date.now() - statSync(path).mtimeMs > STAGED_HOURS * 3_600_000) rmSync(path, { force: true });
    }
  }
}
