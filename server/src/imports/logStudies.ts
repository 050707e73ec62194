import { statSync } from 'node:fs';
import { bracketed, check, StudyBody, withoutUnit } from '@red-ember/contract';
import type { ImportRunBody, LogOfStudyBody, LogsStudyBody, LogStudy, Study } from '@red-ember/contract';
import { namesOfFiles, ownFiguresOf, usedInstead } from '@red-ember/study';
import { HttpProblem, unprocessable } from '../http/problems.ts';
import type { LimitService } from '../limits/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { ImportService } from './service.ts';
import type { Staged } from './staging.ts';
import { LogProblem } from './read/cells.ts';
import { readFigures, type FiguresOfRun } from './figures/readFigures.ts';
import { factorsOf, variantsOfTable } from './figures/variantsOfTable.ts';
import { addedTo, middle, ownFigureFor, spotFor, studyOfLogs, type OwnColumn, type UsedLog } from './studyOfLogs.ts';

/** They are held in memory together, so that all of them are stored or none, bytes. */
const MOST_BYTES = 400_000_000;

/** One log of the many, with what was said of it: a trace becomes a run, a table of figures one or many. */
interface Entry {
  staged: Staged;
  said: LogOfStudyBody;
  /** One of a trace; of a table one a variant. */
  used: UsedLog[];
  /** Of a table: its runs, and which of `used` each belongs to. */
  table: { runs: FiguresOfRun[]; of: (run: FiguresOfRun) => number } | null;
}

/** Stores what was read of one log; answers the ids of its runs. */
type Made = (study: Study) => string[];

const same = (p: string, q: string) => p.trim().toLowerCase() === q.trim().toLowerCase();

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
   * @param keep the logs stay put down
   * @throws HttpProblem 404 where a log is not there any more; 422 saying which one cannot be read and why
   */
  async make(body: LogsStudyBody, job: string | null, keep = false): Promise<LogStudy> {
    const staged = body.logs.map((said) => ({ said, staged: this.imports.staging.get(said.id) }));
    const there = body.addTo ? this.studies.get(body.addTo) : null;
    const names = namesOfFiles(
      staged.map(({ staged: { log } }) => log.fileName),
      there?.subjects[0]?.name,
    );
    const files = staged.map(({ said, staged: { log } }, i) => ({ content: log.content, copy: names[i]!.copy, aside: said.use === false }));
    const twinOf = (i: number) => {
      const instead = usedInstead(files, i);
      return instead === null ? null : staged[instead]!.staged.log.fileName;
    };
    const leftOut: LogStudy['leftOut'] = [];
    const entries: Entry[] = [];
    for (const [i, { said, staged: one }] of staged.entries()) {
      const reason = notUsed(said, one, twinOf(i));
      if (reason !== null) leftOut.push({ fileName: one.log.fileName, reason });
      else entries.push(await this.entryOf(one, said, names[i]!));
    }
    if (entries.length === 0) {
      const why = leftOut.map(({ fileName, reason }) => ` ${fileName}: ${reason}`).join('');
      throw unprocessable(`None of these logs is to be used, so there is no study to make.${why}`);
    }
    const bytes = entries.reduce((sum, { staged: { log } }) => sum + statSync(this.imports.staging.path(log.id)).size, 0);
    if (bytes > MOST_BYTES)
      throw unprocessable('These logs are too large to be read together. Make the study of some of them, and add the others to it.');
    entries.sort((p, q) => startOf(p) - startOf(q));
    const logs = entries.flatMap(({ used }) => used);
    const said = { ...(body.title ? { title: body.title } : {}), ...(body.family ? { family: body.family } : {}) };
    const definition = there ? addedTo(there, logs, this.limits.list()) : studyOfLogs(logs, this.limits.list(), said);
    const sound = check(StudyBody, JSON.parse(JSON.stringify(definition)) as object);
    if (!sound.ok) throw unprocessable(`No study can be made of these logs together: ${sound.problems[0]!.sentence}`);
    const planned = { ...definition, id: there?.id ?? 'yet to be made' } as unknown as Study;
    const made: Made[] = [];
    for (const entry of entries) made.push(entry.table ? this.figures(entry, entry.table) : await this.prepared(planned, entry, body, job));
    const { study, ids } = this.runs.atomically(() => {
      const created = there ? this.studies.replace(there.id, definition, there.version) : this.studies.create(definition);
      return { study: created, ids: made.flatMap((store) => store(created)) };
    });
    // What was left aside stays put down.
    if (!keep) for (const { said } of staged) if (said.use !== false) this.imports.staging.remove(said.id);
    return { study: this.studies.get(study.id), runs: ids.map((id) => this.runs.find(id)!), leftOut };
  }

  private async entryOf(staged: Staged, said: LogOfStudyBody, name: ReturnType<typeof namesOfFiles>[number]): Promise<Entry> {
    const used = usedLog(staged, said, name);
    const { id, kind, fileName } = staged.log;
    if (kind === 'trace') return { staged, said, used: [used], table: null };
    const runs = await problemsOf(fileName, () =>
      readFigures(this.imports.staging.path(id), kind, used.columns, said.noiseFloorDb ?? null),
    );
    const { variants, of } = variantsOfTable(runs, used.variant);
    const rises = runs.every(({ figures }) => figures.loads.every(({ spots, room }) => room !== null || spots.every((spot) => spot.kind === 'rise'))); // prettier-ignore
    const factors = factorsOf(runs);
    const own = ownColumns(runs, used.columns, staged.log.columns);
    return {
      staged,
      said,
      used: variants.map((variant) => ({
        ...used,
        variant: variant.name,
        phases: [],
        steps: [],
        table: { kind, levels: variant.levels, factors, rises, own },
      })),
      table: { runs, of },
    };
  }

  /** The runs of a table: figures as given, no traces. */
  private figures({ staged: { log }, used, said }: Entry, table: NonNullable<Entry['table']>): Made {
    return (study) =>
      table.runs.map((run, i) => {
        const { variant, columns, table: made } = used[table.of(run)]!;
        const spotOf = new Map(
          columns.flatMap((map) => (map.role === 'spot' ? [[map.spotName!, spotFor(study.spots, map, columns)]] : [])),
        );
        const loads = run.figures.loads.map((load) => ({
          ...load,
          spots: load.spots.flatMap((figure) => {
            const spot = spotOf.get(figure.spotId);
            return spot ? [{ ...figure, spotId: spot.id }] : [];
          }),
        }));
        const own = run.own.flatMap(({ column, figure }) => {
          const named = made?.own.find((entry) => entry.column === column);
          const found = named && ownFigureFor(ownFiguresOf(study), named);
          return found ? [{ figureId: found.id, load: null, value: figure.value }] : [];
        });
        return this.imports.storeFigures(study, {
          variantId: study.variants.find(({ name }) => same(name, variant))!.id,
          mount: said.mount ?? null,
          fileName: log.fileName,
          startedAt: said.startedAt ?? null,
          figures: { ...run.figures, loads },
          own,
          // The file as a whole is known again by its first run.
          ...(i === 0 ? { content: log.content } : {}),
        });
      });
  }

  private async prepared(planned: Study, { staged, said, used: all }: Entry, body: LogsStudyBody, job: string | null): Promise<Made> {
    const { log } = staged;
    const { guess } = log;
    const used = all[0]!;
    const timeColumn = said.timeColumn ?? guess.timeColumn;
    if (timeColumn === null) throw unprocessable(`In ${log.fileName}: choose the column that holds the time.`);
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
      const store = await this.imports.prepared(planned, log.id, log.fileName, run, job);
      return (study) => [store(study)];
    } catch (error) {
      if (error instanceof HttpProblem && error.status === 422)
        throw unprocessable(`In ${log.fileName}: ${error.message}`, [
          { pointer: `/logs/${body.logs.indexOf(said)}`, sentence: error.message },
        ]);
      throw error;
    }
  }
}

/** Columns of a table that hold a figure of the study's own, with what is known of it by the heading and the cells. */
function ownColumns(runs: readonly FiguresOfRun[], columns: UsedLog['columns'], heads: Staged['log']['columns']): OwnColumn[] {
  return columns.flatMap(({ column, role }) => {
    const read = runs.flatMap(({ own }) => own.flatMap((cell) => (cell.column === column ? [cell.figure] : [])));
    if (role !== 'own' || read.length === 0) return [];
    const head = heads.find(({ index }) => index === column)?.name ?? `Column ${column + 1}`;
    return [
      {
        column,
        name: withoutUnit(head).slice(0, 60),
        unit: bracketed(head).slice(0, 20),
        step: Math.min(...read.map(({ step }) => step)),
        middle: middle(read.map(({ value }) => value)),
      },
    ];
  });
}

/** Why a log takes no part; null where it does. @param twin the name of another of these that holds the same readings and goes before it */
function notUsed(said: LogOfStudyBody, { log }: Staged, twin: string | null): string | null {
  if (said.use === false) return 'Left aside.';
  if (said.use === true) return null;
  if (twin !== null) return `It holds the same readings as ${twin}.`;
  // Named a copy of a file that is not among these: the record has it.
  return log.duplicateOf?.startsWith('run ') ? `It holds the same readings as ${log.duplicateOf}.` : null;
}

/** What is wrong with a table, with the file's name before it. @throws HttpProblem 422 */
async function problemsOf<T>(fileName: string, read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof LogProblem) throw unprocessable(`In ${fileName}: ${error.message}`);
    throw error;
  }
}

/** What the file's name says of how the run went is kept with it. */
const noteOf = (doubts: readonly string[]): string => doubts.find((doubt) => doubt.startsWith('The name says'))?.slice(0, 200) ?? '';

const startOf = ({ staged: { log }, said }: Entry): number => Date.parse(said.startedAt ?? log.guess.startedAt.iso ?? '') || 0;

function usedLog({ log, levels }: Staged, said: LogOfStudyBody, name: ReturnType<typeof namesOfFiles>[number]): UsedLog {
  return {
    fileName: log.fileName,
    part: name.part,
    variant: (said.variant ?? name.variant ?? log.guess.variant ?? 'as it is').trim() || 'as it is',
    columns: said.columns ?? log.guess.columns,
    phases: said.phases ?? log.guess.phases,
    steps: levels.steps,
    duty: levels.duty,
    fan: levels.fan ?? null,
    room: levels.room,
    family: log.guess.family,
  };
}
