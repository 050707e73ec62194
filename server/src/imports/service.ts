import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { v7 as newId } from 'uuid';
import { phasesOf } from '@red-ember/core';
import type { ColumnMapBody, ImportRunBody, Run, StagedLog, Study } from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import { settingsOf, type RunService } from '../runs/service.ts';
import type { RunStore, StoredChannel } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import { LogProblem } from './cells.ts';
import { ImportJobs } from './jobs.ts';
import { UnitQuestion, type Table } from './readTable.ts';
import { namesOf } from './scanLog.ts';
import { bracketed } from './shape.ts';
import type { MappingStore, SavedMapping } from './store.ts';
import { skippedWords, unitWords, voltageWords } from './words.ts';

const STAGED_HOURS = 24;
/** Times that say on which day a log was made. */
const DATED = new Set<string>(['iso', 'epoch-s', 'epoch-ms']);
const UNITS: Record<ColumnMapBody['role'], string> = {
  spot: '°C',
  room: '°C',
  intake: '°C',
  throughput: 'MB/s',
  power: 'W',
  utilisation: '%',
  clock: 'MHz',
  fan: '1/min',
  level: 'dB(A)',
  held: '',
};

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
    const path = join(this.folder, `${stagedId}.log`);
    if (!/^[0-9a-f-]{36}$/.test(stagedId) || !existsSync(path)) throw notFound('This uploaded log (it is kept for a day)');
    this.checkMapping(body);
    let table: Table;
    try {
      table = await this.jobs.table(path, body, job);
    } catch (error) {
      if (error instanceof UnitQuestion)
        throw unprocessable(`Nothing was imported. ${error.message}`, [{ pointer: '/acceptOddTemperatures', sentence: error.sentence }]);
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

  private forgetOld(): void {
    for (const name of readdirSync(this.folder)) {
      const path = join(this.folder, name);
      if (Date.now() - statSync(path).mtimeMs > STAGED_HOURS * 3_600_000) rmSync(path, { force: true });
    }
  }
}
