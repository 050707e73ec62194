import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { clockOffset, drawable, InsufficientDataError, phasesOf, signed, type GivenFigures, type OwnValue } from '@red-ember/core';
import {
  bracketed,
  DATED_FORMATS,
  goesOn,
  holdsReadings,
  isKept,
  unitOfRole,
  WRITTEN_FORMATS,
  type AlignLogBody,
  type ColumnMapBody,
  type ImportRunBody,
  type JoinLogBody,
  type LogAlignment,
  type LogPhaseBody,
  type Run,
  type StagedLog,
  type Study,
} from '@red-ember/contract';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import { witnessesLoad } from '../runs/refound.ts';
import { sensorOf } from '../runs/sensors.ts';
import { frozenAt, type RunService } from '../runs/service.ts';
import type { RunStore, NewChannel } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import { LogProblem } from './read/cells.ts';
import { ImportJobs } from './work/jobs.ts';
import { UnitQuestion, type Table, type TableBody } from './read/readTable.ts';
import { namesOf, type LogScan } from './look/scanLog.ts';
import { inZone, isZone } from './read/times.ts';
import { Staging, unpacked, type Staged } from './staging.ts';
import type { MountService } from '../mounts/service.ts';
import { checkedPhases } from '../runs/phases.ts';
import type { MappingStore, SavedMapping } from './store.ts';
import { tableWords } from './look/words.ts';

/** A heading is kept up to so many signs. */
const MOST_HEAD = 120;
/** Points of each side of an alignment. */
const DRAWN = 500;

function savedMapping(study: Study, { timeColumn, timeFormat, columns }: ImportRunBody): SavedMapping {
  return {
    timeColumn,
    timeFormat,
    columns: columns.map(({ spotId, spotName: _name, componentClass: _class, ...map }) => ({
      ...map,
      spotName: study.spots.find((spot) => spot.id === spotId)?.name ?? null,
    })),
  };
}

/** When a log began, by its own times; null where they do not say on which day. */
function startOf({ startS, zoneSaid }: Table, { timeFormat, zone }: ImportRunBody): string | null {
  if (!DATED_FORMATS.includes(timeFormat)) return null;
  const silent = WRITTEN_FORMATS.includes(timeFormat) && !zoneSaid;
  return new Date(1000 * (silent ? inZone(startS, zone ?? 'UTC') : startS)).toISOString();
}

/** The phases of a run, as they were given or by when its load began and ended. @throws HttpProblem 422 those that cannot be */
function phasesOfLog(body: ImportRunBody, endS: number): LogPhaseBody[] {
  const refuse = (pointer: string, sentence: string) => unprocessable(sentence, [{ pointer, sentence }]);
  if (!body.phases) {
    if (body.loadEndS <= body.loadStartS) throw refuse('/loadEndS', 'The load must end after it began.');
    if (body.loadStartS >= endS)
      throw unprocessable('The load begins after the log has ended.', [{ pointer: '/loadStartS', sentence: `The log ends at ${Math.round(endS)} s.` }]); // prettier-ignore
    const loadEnd = Math.min(body.loadEndS, endS);
    const all: LogPhaseBody[] = [
      { kind: 'idle-soak', name: 'Idle', startS: 0, endS: body.loadStartS },
      { kind: 'load', name: 'Load', startS: body.loadStartS, endS: loadEnd },
      { kind: 'cool-down', name: 'After', startS: loadEnd, endS },
    ];
    return all.filter((phase) => phase.endS - phase.startS >= 1);
  }
  return checkedPhases(body.phases, endS);
}

/** Turns recorded logs into runs: staged first, then mapped by the tester, then stored as a whole or not at all. */
export class ImportService {
  readonly staging: Staging;

  constructor(
    dataFolder: string,
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly samples: SampleStore,
    private readonly runService: RunService,
    private readonly mounts: MountService,
    private readonly mappings: MappingStore,
    private readonly now: () => Date = () => new Date(),
    /** Reads logs; one for all services of a process, since it keeps a thread. */
    readonly jobs = new ImportJobs(),
  ) {
    this.staging = new Staging(join(dataFolder, 'imports'));
  }

  /**
   * Looks at an uploaded file. It is removed again when it cannot be read.
   *
   * @param studyId that it is for; null where the study is yet to be made
   * @param zone in which dates are taken that say none
   * @throws HttpProblem 422 with the line
   */
  async stage(studyId: string | null, path: string, fileName: string, zone: string, job: string | null = null): Promise<StagedLog> {
    this.staging.forgetOld();
    try {
      const study = studyId === null ? null : this.studies.get(studyId);
      const zoneIn = isZone(zone) ? zone : 'UTC';
      await unpacked(path);
      const saved = study ? this.mappings.find(await namesOf(path)) : null;
      const before = this.staging.all().filter((staged) => staged.log.fileName !== fileName);
      const scan = await this.jobs.scan(
        path,
        {
          spots: (study?.spots ?? []).map(({ id, name, channel, componentClass }) => ({ id, name, channel, componentClass })),
          family: study?.family ?? null,
          saved,
          zone: zoneIn,
          fileName,
          siblings: before.map(({ log }) => log.fileName),
        },
        job,
      );
      return this.staging.add(path, scan.trace, (id) =>
        this.understood(id, studyId, fileName, scan, { known: saved !== null, zone: zoneIn }),
      );
    } catch (error) {
      rmSync(path, { force: true });
      if (error instanceof LogProblem) throw unprocessable(`${fileName} was not imported. ${error.message}`);
      throw error;
    }
  }

  private understood(
    id: string,
    studyId: string | null,
    fileName: string,
    scan: LogScan,
    { known, zone }: { known: boolean; zone: string },
  ): Staged {
    const { names, units, sample, content, levels, rows, written, kind, guess, doubts } = scan;
    const columns = names.map((name, index) => ({
      index,
      name: units[index] && !bracketed(name) ? `${name} [${units[index]}]` : name,
      sample: sample.map((cells) => cells[index] ?? ''),
    }));
    // The same file put down once more takes the place of the first.
    const same = this.staging.all().filter((staged) => staged.log.content === content);
    for (const again of same.filter(({ log }) => log.fileName === fileName)) this.staging.remove(again.log.id);
    const duplicateOf = same.find(({ log }) => log.fileName !== fileName)?.log.fileName ?? this.runs.ofContent(content);
    const { power, room, duty } = levels;
    const figures = { powerW: power?.middle ?? null, roomC: room?.middle ?? null, dutyPercent: duty?.middle ?? null };
    const log: StagedLog = {
      id,
      fileName,
      kind,
      columns,
      rows,
      rowsAbout: false,
      written,
      known,
      guess,
      figures,
      content,
      duplicateOf,
      doubts,
    };
    return { log, levels, zone, studyId, at: this.now().getTime() };
  }

  /** Logs that were put down for a study that is yet to be made, the oldest first. */
  putDown(): StagedLog[] {
    return this.staging.all().flatMap(({ log, studyId }) => (studyId === null ? [log] : []));
  }

  /**
   * Makes a run of a staged log.
   *
   * @throws HttpProblem 422 saying which line and why; nothing is stored then
   */
  async makeRun(studyId: string, stagedId: string, fileName: string, body: ImportRunBody, job: string | null = null): Promise<Run> {
    const study = this.studies.get(studyId);
    const made = await this.prepared(study, stagedId, fileName, body, job);
    const id = this.runs.atomically(() => made(study));
    this.staging.remove(stagedId);
    return this.runs.find(id)!;
  }

  /**
   * Reads a staged log whole, and answers what stores it as a run: so that many can be stored together, or none.
   *
   * @throws HttpProblem 422 saying which line and why
   */
  async prepared(
    planned: Study,
    stagedId: string,
    fileName: string,
    body: ImportRunBody,
    job: string | null,
  ): Promise<(study: Study) => string> {
    if (!planned.variants.some((variant) => variant.id === body.variantId)) throw notFound('This variant');
    const path = this.staging.path(stagedId);
    this.checkMapping(body, true);
    const table = await this.read(path, body, job);
    const endS = table.tMs.at(-1)! / 1000;
    const phases = phasesOfLog(body, endS);
    const kept = body.columns.flatMap((map, i) =>
      map.role === 'mark' || (isKept(map) && table.columns[i]!.every(Number.isNaN))
        ? []
        : [{ channel: this.channelOf(planned, map, table.names), i }],
    );
    const { content } = this.staging.get(stagedId).log;
    return (study) => {
      const at = this.now().toISOString();
      const said = body.startedAt ? new Date(body.startedAt).toISOString() : startOf(table, body);
      const startedAt = said ?? at;
      const runId = this.runs.insert({
        studyId: study.id,
        variantId: body.variantId,
        mountId: body.mount == null ? null : this.mounts.numbered(study.id, body.variantId, body.mount, startedAt),
        source: 'file',
        sourceName: fileName,
        state: 'finished',
        startedAt,
        startKnown: said !== null,
        timeScale: 1,
        ...frozenAt(study, body.variantId),
        confirmedLocks: [],
        recipe: phasesOf(study.recipe),
        armed: [],
        seed: 0,
        channels: kept.map(({ channel }) => channel),
        content,
      });
      for (const { channel, i } of kept) this.samples.appendAll(runId, channel.key, table.tMs, table.columns[i]!);
      this.runs.setProgress(runId, 0, table.tMs.at(-1)!);
      this.runs.setState(runId, 'finished', at, '');
      this.runs.setPhases(runId, phases);
      for (const { startS, name } of phases.filter(({ kind }) => kind === 'change'))
        this.runs.addEvent(runId, Math.round(startS * 1000), at, 'change', name);
      for (const { tMs, text } of table.marks) this.runs.addEvent(runId, tMs, at, 'mark', text);
      if (body.note) this.runs.addEvent(runId, 0, at, 'note', body.note);
      for (const text of tableWords(body, table)) this.runs.addEvent(runId, 0, at, 'note', text);
      this.mappings.keep(table.names, savedMapping(study, body), at);
      this.runService.correct(runId);
      return runId;
    };
  }

  /** Stores a run of figures that were given, within somebody's transaction; answers its id. */
  storeFigures(
    study: Study,
    run: {
      variantId: string;
      mount: number | null;
      fileName: string;
      startedAt: string | null;
      figures: GivenFigures;
      own: readonly OwnValue[];
      content?: string;
    },
  ): string {
    const at = this.now().toISOString();
    const startedAt = run.startedAt ? new Date(run.startedAt).toISOString() : at;
    const id = this.runs.insert({
      studyId: study.id,
      variantId: run.variantId,
      mountId: run.mount === null ? null : this.mounts.numbered(study.id, run.variantId, run.mount, startedAt),
      source: 'file',
      sourceName: run.fileName,
      state: 'finished',
      startedAt,
      startKnown: run.startedAt !== null,
      timeScale: 1,
      ...frozenAt(study, run.variantId),
      confirmedLocks: [],
      recipe: [],
      armed: [],
      seed: 0,
      channels: [],
      figures: run.figures,
      ...(run.content ? { content: run.content } : {}),
    });
    this.runs.setState(id, 'finished', at, '');
    if (run.own.length > 0) this.runs.setOwnValues(id, run.own, at);
    return id;
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
    const table = await this.read(this.staging.path(stagedId), { ...body, columns, acceptOddTemperatures: true }, null);
    const log = { t: Float64Array.from(table.tMs, (ms) => ms / 1000), y: table.columns[0]! };
    const own = this.samples.read(run.id, body.channel);
    try {
      // Either clock may have been started long before the other.
      const maxShiftS = Math.max(run.lengthS, log.t.at(-1)!);
      return { ...clockOffset(own, log, { maxShiftS }), run: drawable(own, DRAWN), log: drawable(log, DRAWN) };
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
    const path = this.staging.path(stagedId);
    this.checkMapping(body, false);
    const file = 2 + run.events.filter((event) => event.kind === 'log-added').length;
    const table = await this.read(path, body, job);
    const channels = body.columns.map((map) => {
      const channel = this.channelOf(study, map, table.names);
      return map.role === 'beside' && !isKept(map) ? channel : { ...channel, key: `log-${file}-${channel.key}` };
    });
    const there = channels.find((channel) =>
      run.channels.some(({ role, spotId, key }) =>
        channel.role === 'beside' ? key === channel.key : role === channel.role && spotId === channel.spotId,
      ),
    );
    if (there) throw unprocessable(`This run has ${there.role === 'spot' ? there.sensor : there.role} already.`);
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
      for (const note of tableWords(body, table)) this.runs.addEvent(run.id, 0, at, 'note', note);
    });
    this.runService.correct(run.id);
    this.staging.remove(stagedId);
    // Where nothing told of the load before, a recorder that does has the last word on when it was there.
    if (channels.some(({ role }) => witnessesLoad(role)) && !run.channels.some(({ role }) => witnessesLoad(role)))
      this.runService.findPhasesAgain(run.id);
    return this.runs.find(run.id)!;
  }

  private runOfStudy(studyId: string, runId: string): { run: Run; study: Study } {
    const run = this.runs.find(runId);
    if (!run || run.studyId !== studyId) throw notFound('This run');
    if (goesOn(run)) throw conflict('This run is still going on; add logs to it when it has ended.');
    return { run, study: this.studies.get(studyId) };
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

  private channelOf(study: Study, map: ColumnMapBody, names: readonly string[]): NewChannel {
    if (!holdsReadings(map.role)) throw unprocessable('Texts can be added with a log that becomes a run, not to one that is there.');
    const spot = study.spots.find((candidate) => candidate.id === map.spotId);
    const lock = map.role === 'beside' ? study.locks.find((candidate) => candidate.name === map.lockName) : undefined;
    if (map.role === 'spot' && !spot) throw notFound('A spot of the mapping');
    if (map.role === 'beside' && !isKept(map) && (!lock || lock.channel === ''))
      throw unprocessable(`“${map.lockName}” is not a lock that a channel watches: name its channel and tolerance at Hold.`);
    return {
      // A lock is found again by the channel that watches it; anything else by the column it stood in.
      key: lock?.channel ?? `column-${map.column}`,
      head: (names[map.column] ?? '').slice(0, MOST_HEAD),
      role: map.role,
      spotId: map.role === 'spot' ? map.spotId : null,
      unit: lock?.unit ?? (map.role === 'spot' ? '°C' : map.role === 'beside' ? '' : unitOfRole(map.role, study.family)),
      ...sensorOf(study, { role: map.role, spotId: map.spotId }),
      ...(lock ? { sensor: lock.name } : {}),
    };
  }

  /** @throws HttpProblem 422 with the fields of a mapping that cannot stand */
  private checkMapping(body: TableBody, needsSpot: boolean): void {
    const problems = [];
    if (body.columns.length === 0) problems.push({ pointer: '/columns', sentence: 'Choose at least one column.' });
    else if (needsSpot && !body.columns.some((map) => map.role === 'spot'))
      problems.push({ pointer: '/columns', sentence: 'Choose at least one column that holds a spot.' });
    const seen = new Set<string>();
    for (const map of body.columns) {
      const name =
        map.role === 'mark'
          ? `mark ${map.column}`
          : map.role === 'spot'
            ? `spot ${map.spotId}`
            : map.role === 'beside'
              ? isKept(map)
                ? `kept ${map.column}`
                : `lock ${map.lockName}`
              : map.role;
      if (seen.has(name)) problems.push({ pointer: '/columns', sentence: 'Two columns are mapped to the same thing.' });
      seen.add(name);
      if (map.role === 'spot' && !map.spotId)
        problems.push({
          pointer: '/columns',
          sentence: `Choose the spot that “${map.spotName ?? `column ${map.column + 1}`}” was read from.`,
        });
      if (map.column === body.timeColumn || map.column === body.dateColumn)
        problems.push({ pointer: '/timeColumn', sentence: 'The time column cannot be a reading too.' });
    }
    if (problems.length > 0) throw unprocessable(problems[0]!.sentence, problems);
  }
}
