import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { v7 as newId } from 'uuid';
import { alignClocks, drawable, InsufficientDataError, phasesOf, signed } from '@red-ember/core';
import {
  goesOn,
  unitOfRole,
  type AlignLogBody,
  type ColumnMapBody,
  type ImportRunBody,
  type JoinLogBody,
  type LogAlignment,
  type Run,
  type StagedLog,
  type Study,
} from '@red-ember/contract';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import { settingsOf, type RunService } from '../runs/service.ts';
import type { RunStore, StoredChannel } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import { LogProblem } from './read/cells.ts';
import { ImportJobs } from './work/jobs.ts';
import { UnitQuestion, type Table, type TableBody } from './read/readTable.ts';
import { namesOf } from './look/scanLog.ts';
import { bracketed } from './read/shape.ts';
import type { MappingStore, SavedMapping } from './store.ts';
import { skippedWords, unitWords, voltageWords } from './look/words.ts';

const STAGED_HOURS = 24;
/** Points of each side of an alignment. */
const DRAWN = 500;
/** Times that say on which day a log was made. */
const DATED = new Set<string>(['iso', 'epoch-s', 'epoch-ms']);

function savedMapping(study: Study, { timeColumn, timeFormat, columns }: ImportRunBody): SavedMapping {
  return {
    timeColumn,
    timeFormat,
    columns: columns.map(({ spotId, ...map }) => ({ ...map, spotName: study.spots.find((spot) => spot.id === spotId)?.name ?? null })),
  };
}

/** Turns recorded logs into runs: staged first, then mapped by the tester, then stored as a whole or not at all. */
export class ImportService {
  readonly folder: string;
  readonly jobs = new ImportJobs();

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
  async stage(studyId: string, path: string, fileName: string, job: string | null = null): Promise<StagedLog> {
    this.forgetOld();
    try {
      const { spots } = this.studies.get(studyId);
      const saved = this.mappings.find(await namesOf(path));
      const known = spots.map(({ id, name, channel }) => ({ id, name, channel }));
      const scan = await this.jobs.scan(path, { spots: known, saved }, job);
      const { names, units, sample } = scan;
      const id = newId();
      renameSync(path, join(this.folder, `${id}.log`));
      const columns = names.map((name, index) => ({
        index,
        name: units[index] && !bracketed(name) ? `${name} [${units[index]}]` : name,
        sample: sample.map((cells) => cells[index] ?? ''),
      }));
      const { count: rows, about: rowsAbout, written, guess } = scan;
      return { id, fileName, columns, rows, rowsAbout, written, known: saved !== null, guess };
    } catch (error) {
      rmSync(path, { force: true });
      if (error instanceof LogProblem) throw unprocessable(`${fileName} was not imported. ${error.message}`);
      throw error;
    }
  }

  /**
   * Makes a run of a staged log.
   *
   * @throws HttpProblem 422 saying which line and why; nothing is stored then
   */
  async makeRun(studyId: string, stagedId: string, fileName: string, body: ImportRunBody, job: string | null = null): Promise<Run> {
    const study = this.studies.get(studyId);
    if (!study.variants.some((variant) => variant.id === body.variantId)) throw notFound('This variant');
    const path = this.stagedPath(stagedId);
    this.checkMapping(body, true);
    const table = await this.read(path, body, job);
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
      channels.forEach((channel, i) => this.samples.appendAll(runId, channel.key, table.tMs, table.columns[i]!));
      this.runs.setProgress(runId, 0, table.tMs.at(-1)!);
      this.runs.setState(runId, 'finished', at, '');
      this.storePhases(runId, body, endS);
      if (body.note) this.runs.addEvent(runId, 0, at, 'note', body.note);
      for (const text of [...voltageWords(body, table.names), ...unitWords(body, table.names), ...skippedWords(table.skipped)])
        this.runs.addEvent(runId, 0, at, 'note', text);
      this.mappings.keep(table.names, savedMapping(study, body), at);
      return runId;
    });
    this.runService.correct(id);
    rmSync(path, { force: true });
    return this.runs.find(id)!;
  }

  /**
   * How far a staged log's clock is off a run's, by a load step that both show.
   *
   * @throws HttpProblem 404 without run, log or channel; 422 where the log cannot be read
   */
  async align(studyId: string, stagedId: string, body: AlignLogBody): Promise<LogAlignment> {
    const { run } = this.runOfStudy(studyId, body.runId);
    if (!run.channels.some((channel) => channel.key === body.channel && channel.role !== 'hand')) throw notFound('This channel of the run');
    const columns: ColumnMapBody[] = [{ column: body.column, role: 'beside', spotId: null }];
    const table = await this.read(this.stagedPath(stagedId), { ...body, columns, acceptOddTemperatures: true }, null);
    const log = { t: Float64Array.from(table.tMs, (ms) => ms / 1000), y: table.columns[0]! };
    const own = this.samples.read(run.id, body.channel);
    try {
      // Either clock may have been started long before the other.
      const maxShiftS = Math.max(run.lengthS, log.t.at(-1)!);
      return { ...alignClocks(own, log, { maxShiftS }), run: drawable(own, DRAWN), log: drawable(log, DRAWN) };
    } catch (error) {
      if (error instanceof InsufficientDataError) throw unprocessable('There is too little in one of the two to tell their clocks by.');
      throw error;
    }
  }

  /**
   * Adds the columns of a staged log to a run, its clock moved; the whole of it or nothing. What lies before the run's start or after
   * its end is left out.
   */
  async join(studyId: string, stagedId: string, fileName: string, body: JoinLogBody, job: string | null = null): Promise<Run> {
    const { run, study } = this.runOfStudy(studyId, body.runId);
    const path = this.stagedPath(stagedId);
    this.checkMapping(body, false);
    const file = 2 + run.events.filter((event) => event.kind === 'log-added').length;
    const channels = body.columns.map((map) => {
      const channel = this.channelOf(study, map);
      return map.role === 'beside' ? channel : { ...channel, key: `log-${file}-${channel.key}` };
    });
    const there = channels.find((channel) =>
      run.channels.some(({ role, spotId, key }) =>
        channel.role === 'beside' ? key === channel.key : role === channel.role && spotId === channel.spotId,
      ),
    );
    if (there) throw unprocessable(`This run has ${there.role === 'spot' ? there.sensor : there.role} already.`);
    const table = await this.read(path, body, job);
    const moved = table.tMs.map((ms) => ms + Math.round(1000 * body.offsetS));
    const from = moved.findIndex((ms) => ms >= 0);
    const to = moved.findLastIndex((ms) => ms <= 1000 * run.lengthS) + 1;
    if (from < 0 || to - from < 10)
      throw unprocessable('With this clock the log and the run have next to nothing in common.', [
        { pointer: '/offsetS', sentence: 'Move the clock so that the two overlap.' },
      ]);
    const at = this.now().toISOString();
    this.runs.atomically(() => {
      this.runs.addChannels(run.id, channels);
      channels.forEach((channel, i) =>
        this.samples.appendAll(run.id, channel.key, moved.slice(from, to), table.columns[i]!.slice(from, to)),
      );
      const left = table.tMs.length - (to - from);
      const text = `${fileName} was added, its clock moved by ${signed(body.offsetS, 1)} s${left > 0 ? `; ${left} readings outside the run were left out` : ''}.`;
      this.runs.addEvent(run.id, 0, at, 'log-added', text.slice(0, 400));
      for (const note of [...voltageWords(body, table.names), ...unitWords(body, table.names), ...skippedWords(table.skipped)])
        this.runs.addEvent(run.id, 0, at, 'note', note);
    });
    this.runService.correct(run.id);
    rmSync(path, { force: true });
    return this.runs.find(run.id)!;
  }

  private runOfStudy(studyId: string, runId: string): { run: Run; study: Study } {
    const run = this.runs.find(runId);
    if (!run || run.studyId !== studyId) throw notFound('This run');
    if (goesOn(run)) throw conflict('This run is still going on; add logs to it when it has ended.');
    return { run, study: this.studies.get(studyId) };
  }

  private stagedPath(stagedId: string): string {
    const path = join(this.folder, `${stagedId}.log`);
    if (!/^[0-9a-f-]{36}$/.test(stagedId) || !existsSync(path)) throw notFound('This uploaded log (it is kept for a day)');
    return path;
  }

  /** @throws HttpProblem 422 saying which line and why */
  private async read(path: string, body: TableBody, job: string | null): Promise<Table> {
    try {
      return await this.jobs.table(path, body, job);
    } catch (error) {
      if (error instanceof UnitQuestion)
        throw unprocessable(`Nothing was imported. ${error.message}`, [{ pointer: '/acceptOddTemperatures', sentence: error.sentence }]);
      if (error instanceof LogProblem) throw unprocessable(`Nothing was imported. ${error.message}`);
      throw error;
    }
  }

  private channelOf(study: Study, map: ColumnMapBody): StoredChannel {
    const spot = study.spots.find((candidate) => candidate.id === map.spotId);
    const lock = map.role === 'beside' ? study.locks.find((candidate) => candidate.name === map.lockName) : undefined;
    if (map.role === 'spot' && !spot) throw notFound('A spot of the mapping');
    if (map.role === 'beside' && (!lock || lock.channel === ''))
      throw unprocessable(`“${map.lockName}” is not a lock that a channel watches: name its channel and tolerance at Hold.`);
    return {
      // A lock is found again by the channel that watches it; anything else by the column it stood in.
      key: lock?.channel ?? `column-${map.column}`,
      role: map.role,
      spotId: map.role === 'spot' ? map.spotId : null,
      unit: lock?.unit ?? (map.role === 'spot' ? '°C' : map.role === 'beside' ? '' : unitOfRole(map.role, study.family)),
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

  /** @throws HttpProblem 422 with the fields of a mapping that cannot stand */
  private checkMapping(body: TableBody, needsSpot: boolean): void {
    const problems = [];
    if (body.columns.length === 0) problems.push({ pointer: '/columns', sentence: 'Choose at least one column.' });
    else if (needsSpot && !body.columns.some((map) => map.role === 'spot'))
      problems.push({ pointer: '/columns', sentence: 'Choose at least one column that holds a spot.' });
    const seen = new Set<string>();
    for (const map of body.columns) {
      const name = map.role === 'spot' ? `spot ${map.spotId}` : map.role === 'beside' ? `lock ${map.lockName}` : map.role;
      if (seen.has(name)) problems.push({ pointer: '/columns', sentence: 'Two columns are mapped to the same thing.' });
      seen.add(name);
      if (map.column === body.timeColumn) problems.push({ pointer: '/timeColumn', sentence: 'The time column cannot be a reading too.' });
    }
    if (problems.length > 0) throw unprocessable(problems[0]!.sentence, problems);
  }

  private forgetOld(): void {
    for (const name of readdirSync(this.folder)) {
      const path = join(this.folder, name);
      if (Date.now() - statSync(path).mtimeMs > STAGED_HOURS * 3_600_000) rmSync(path, { force: true });
    }
  }
}
