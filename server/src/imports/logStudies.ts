import { statSync } from 'node:fs';
import { check, StudyBody } from '@red-ember/contract';
import type { ImportRunBody, LogOfStudyBody, LogsStudyBody, LogStudy, Study } from '@red-ember/contract';
import { namesOfFiles, usedInstead } from '@red-ember/study';
import { HttpProblem, unprocessable } from '../http/problems.ts';
import type { LimitService } from '../limits/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { ImportService } from './service.ts';
import type { Staged } from './staging.ts';
import { addedTo, spotFor, studyOfLogs, type UsedLog } from './studyOfLogs.ts';

/** They are held in memory together, so that all of them are stored or none, bytes. */
const MOST_BYTES = 400_000_000;

/** One log of the many, with what was said of it. */
interface Entry {
  staged: Staged;
  said: LogOfStudyBody;
  used: UsedLog;
}

/** Makes a study of logs that were put down together, with a run of each. */
export class LogStudyService {
  constructor(
    private readonly imports: ImportService,
    private readonly studies: StudyService,
    private readonly limits: LimitService,
    private readonly runs: RunStore,
  ) {}

  /**
   * Makes the study and its runs, in the order in which they began: all of it, or nothing.
   *
   * @throws HttpProblem 404 where a log is not there any more; 422 saying which one cannot be read and why
   */
  async make(body: LogsStudyBody, job: string | null): Promise<LogStudy> {
    const staged = body.logs.map((said) => ({ said, staged: this.imports.staging.get(said.id) }));
    const names = namesOfFiles(staged.map(({ staged: { log } }) => log.fileName));
    const files = staged.map(({ said, staged: { log } }, i) => ({ content: log.content, copy: names[i]!.copy, aside: said.use === false }));
    const twinOf = (i: number) => {
      const instead = usedInstead(files, i);
      return instead === null ? null : staged[instead]!.staged.log.fileName;
    };
    const leftOut: LogStudy['leftOut'] = [];
    const entries = staged.flatMap(({ said, staged: one }, i): Entry[] => {
      const reason = notUsed(said, one, twinOf(i));
      if (reason === null) return [{ staged: one, said, used: usedLog(one, said, names[i]!) }];
      leftOut.push({ fileName: one.log.fileName, reason });
      return [];
    });
    if (entries.length === 0) throw unprocessable('None of these logs is to be used, so there is no study to make.');
    const bytes = entries.reduce((sum, { staged: { log } }) => sum + statSync(this.imports.staging.path(log.id)).size, 0);
    if (bytes > MOST_BYTES)
      throw unprocessable('These logs are too large to be read together. Make the study of some of them, and add the others to it.');
    entries.sort((p, q) => startOf(p) - startOf(q));
    const there = body.addTo ? this.studies.get(body.addTo) : null;
    const logs = entries.map(({ used }) => used);
    const said = { ...(body.title ? { title: body.title } : {}), ...(body.family ? { family: body.family } : {}) };
    const definition = there ? addedTo(there, logs, this.limits.list()) : studyOfLogs(logs, this.limits.list(), said);
    const sound = check(StudyBody, JSON.parse(JSON.stringify(definition)) as object);
    if (!sound.ok) throw unprocessable(`No study can be made of these logs together: ${sound.problems[0]!.sentence}`);
    const planned = { ...definition, id: there?.id ?? 'yet to be made' } as unknown as Study;
    const made: ((study: Study) => string)[] = [];
    for (const entry of entries) made.push(await this.prepared(planned, entry, body, job));
    const { study, ids } = this.runs.atomically(() => {
      const created = there ? this.studies.replace(there.id, definition, there.version) : this.studies.create(definition);
      return { study: created, ids: made.map((store) => store(created)) };
    });
    // What was left aside, or is none of a trace, stays put down.
    for (const { said, staged: one } of staged) if (said.use !== false && one.log.kind === 'trace') this.imports.staging.remove(said.id);
    return { study: this.studies.get(study.id), runs: ids.map((id) => this.runs.find(id)!), leftOut };
  }

  private async prepared(
    planned: Study,
    { staged, said, used }: Entry,
    body: LogsStudyBody,
    job: string | null,
  ): Promise<(study: Study) => string> {
    const { log } = staged;
    const { guess } = log;
    const same = (p: string, q: string) => p.trim().toLowerCase() === q.trim().toLowerCase();
    const timeColumn = said.timeColumn ?? guess.timeColumn;
    if (timeColumn === null) throw unprocessable(`${log.fileName}: choose the column that holds the time.`);
    const run: ImportRunBody = {
      variantId: planned.variants.find(({ name }) => same(name, used.variant))!.id,
      timeColumn,
      dateColumn: said.dateColumn === undefined ? guess.dateColumn : said.dateColumn,
      timeFormat: said.timeFormat ?? guess.timeFormat,
      zone: body.zone ?? staged.zone,
      columns: used.columns.map((map) =>
        map.role === 'spot' ? { ...map, spotId: spotFor(planned.spots, map, used.columns)?.id ?? null } : map,
      ),
      loadStartS: guess.loadStartS,
      loadEndS: guess.loadEndS,
      phases: used.phases,
      mount: said.mount === undefined ? guess.mount : said.mount,
      startedAt: said.startedAt ?? null,
      acceptOddTemperatures: body.acceptOddTemperatures ?? false,
      note: said.note ?? noteOf(log.doubts),
    };
    try {
      return await this.imports.prepared(planned, log.id, log.fileName, run, job);
    } catch (error) {
      if (error instanceof HttpProblem && error.status === 422)
        throw unprocessable(`${log.fileName}: ${error.message}`, [
          { pointer: `/logs/${body.logs.indexOf(said)}`, sentence: error.message },
        ]);
      throw error;
    }
  }
}

/** Why a log takes no part; null where it does. @param twin the name of another of these that holds the same readings and goes before it */
function notUsed(said: LogOfStudyBody, { log }: Staged, twin: string | null): string | null {
  if (said.use === false) return 'Left aside.';
  if (log.kind !== 'trace') return `It holds ${log.kind === 'sweep' ? 'a sweep' : 'a table of results'} and no readings over time.`;
  if (said.use === true) return null;
  if (twin !== null) return `It holds the same readings as ${twin}.`;
  // Named a copy of a file that is not among these: the record has it.
  return log.duplicateOf?.startsWith('run ') ? `It holds the same readings as ${log.duplicateOf}.` : null;
}

/** What the file's name says of how the run went is kept with it. */
const noteOf = (doubts: readonly string[]): string => doubts.find((doubt) => doubt.startsWith('The name says'))?.slice(0, 200) ?? '';

const startOf = ({ staged: { log }, said }: Entry): number => Date.parse(said.startedAt ?? log.guess.startedAt.iso ?? '') || 0;

function usedLog({ log, levels }: Staged, said: LogOfStudyBody, name: ReturnType<typeof namesOfFiles>[number]): UsedLog {
  return {
    fileName: log.fileName,
    part: name.part,
    variant: (said.variant ?? name.variant ?? log.guess.variant ?? 'as it is').trim().slice(0, 60) || 'as it is',
    columns: said.columns ?? log.guess.columns,
    phases: said.phases ?? log.guess.phases,
    steps: levels.steps,
    duty: levels.duty,
    room: levels.room,
    family: log.guess.family,
  };
}
