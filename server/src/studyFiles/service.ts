import { mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { randomUUID } from 'node:crypto';
import { asFileName, METHOD_VERSION, saidOfSpots } from '@red-ember/core';
import { bodyOf } from '@red-ember/study';
import { check, StudyBody, type Study, type StudyReadIn } from '@red-ember/contract';
import { DataProblem } from '../database/dataProblem.ts';
import { openForeign } from '../database/open.ts';
import { storageTrouble } from '../database/storageTrouble.ts';
import { HttpProblem, unprocessable } from '../http/problems.ts';
import type { MountService } from '../mounts/service.ts';
import type { ReadingService } from '../readings/service.ts';
import type { ReportService } from '../reports/service.ts';
import type { RunService } from '../runs/service.ts';
import type { StudyService } from '../studies/service.ts';
import { threads } from '../threads/threads.ts';
import type { VerdictService } from '../verdicts/service.ts';
import { benchFile } from './benchFile.ts';
import { SAID, type Packed, type PackageFacts } from './package.ts';
import { onlyStudy, type StudyFileStore } from './store.ts';
import { unpack } from './unpack.ts';

/** Files that pass through lie here, below the folder of data; one that somebody broke off goes after a day. */
const FOLDER = 'study-files';
const OLD_MS = 86_400_000;

/** A study that is to be packed, with what the bench itself has to say of it. */
export interface PackTask {
  dataFolder: string;
  studyId: string;
  to: string;
  facts: PackageFacts;
  documents: (Omit<Packed, 'content'> & { text: string })[];
}

/** What a bench said of a study, by names: ids are the bench's own. */
interface Said {
  method: string;
  a: string;
  b: string;
  spots: { spot: string; says: string }[];
}

/** A thread of its own that packs: nobody waits for it. */
const packers = () => threads<PackTask, void>(new URL('./worker.ts', import.meta.url), 1);

/** Takes studies from bench to bench, one file each. */
export class StudyFileService {
  readonly folder: string;

  constructor(
    private readonly dataFolder: string,
    private readonly store: StudyFileStore,
    private readonly of: {
      studies: StudyService;
      runs: RunService;
      mounts: MountService;
      readings: ReadingService;
      verdicts: VerdictService;
      reports: ReportService;
    },
    private readonly now: () => Date = () => new Date(),
  ) {
    this.folder = join(dataFolder, FOLDER);
  }

  /** Makes the folder where it is missing, and clears away what was left in it. */
  tidy(): void {
    mkdirSync(this.folder, { recursive: true });
    for (const name of readdirSync(this.folder)) {
      const path = join(this.folder, name);
      const { mtimeMs } = statSync(path, { throwIfNoEntry: false }) ?? { mtimeMs: Infinity };
      if (this.now().getTime() - mtimeMs > OLD_MS) rmSync(path, { force: true });
    }
  }

  /**
   * Writes a study as one file: definition, samples, mounts, photographs, history, report, in open formats. Runs that go on stay behind.
   *
   * @returns where it lies, for whoever asked to read and remove, and what it should be called
   */
  async pack(studyId: string): Promise<{ path: string; name: string }> {
    const packing = packers();
    try {
      return await this.packBy(packing, studyId);
    } finally {
      void packing.destroy();
    }
  }

  private async packBy(packing: ReturnType<typeof packers>, studyId: string): Promise<{ path: string; name: string }> {
    const { studies, runs, mounts, reports } = this.of;
    const study = studies.get(studyId);
    this.tidy();
    const path = join(this.folder, `${randomUUID()}.zip`);
    const json = 'application/json';
    const pretty = (value: unknown) => `${JSON.stringify(value, null, 2)}\n`;
    const task: PackTask = {
      dataFolder: this.dataFolder,
      studyId,
      to: path,
      facts: { name: `red-ember-${study.id.toLowerCase()}`, title: study.title, created: this.now().toISOString() },
      documents: [
        { path: 'study.json', title: 'The study as it was written down', mediatype: json, text: pretty(study) },
        {
          path: 'runs.json',
          title: 'Its runs: phases, marks, channels, what was held',
          mediatype: json,
          text: pretty(runs.ofStudy(studyId)),
        },
        { path: 'mounts.json', title: 'Its mounts', mediatype: json, text: pretty(mounts.ofStudy(studyId)) },
        { path: 'history.json', title: 'What was changed, and what it moved', mediatype: json, text: pretty(studies.history(studyId)) },
        { path: SAID, title: 'What this bench made of it', mediatype: json, text: pretty(this.said(study)) },
        { path: 'report.html', title: 'The report', mediatype: 'text/html', text: reports.page(studyId, {}).text },
        {
          path: 'readings.csv',
          title: 'Readings of every run, texts and numbers',
          mediatype: 'text/csv',
          table: { type: 'string' },
          text: reports.csv(studyId, {}).text,
        },
      ],
    };
    try {
      await packing.run(task);
    } catch (error) {
      rmSync(path, { force: true });
      throw error;
    }
    return { path, name: `${asFileName(study.title, 'study')}.zip` };
  }

  /** Every study on the shelf as one file of study files, each packed as its turn comes. */
  packAll(): { content: Readable; name: string } {
    const created = this.now().toISOString();
    const studies = this.of.studies.list();
    const packing = packers();
    const content = benchFile(
      studies,
      async (id) => {
        await this.of.readings.readStudy(id);
        return this.packBy(packing, id);
      },
      created,
    );
    content.on('close', () => void packing.destroy());
    return { content, name: `bench of ${created.slice(0, 10)}.zip` };
  }

  /**
   * Reads a study back in, under ids of its own, judges it anew and says where that comes to something else than in the file.
   *
   * @param path an uploaded file, which is removed
   * @throws HttpProblem 422 no study file, or one that is damaged, changed or of a newer version
   */
  async readIn(path: string): Promise<StudyReadIn> {
    this.tidy();
    const rows = join(this.folder, `${randomUUID()}.sqlite`);
    try {
      const { said: text, created } = await unpack(path, rows);
      const said = saidIn(text);
      const file = openForeign(rows);
      let id: string;
      let title: string | null;
      try {
        const theirs = onlyStudy(file);
        if (theirs === null) throw unprocessable('The study file does not hold one study.');
        title = this.store.titleOf(theirs);
        id = fitting(() => this.store.copyIn(file, theirs, this.now().toISOString(), (made) => this.sound(made)));
      } finally {
        file.close();
      }
      await this.of.readings.readStudy(id);
      const study = this.of.studies.get(id);
      const here = this.said(study);
      const spots = [...new Set([...said.spots, ...here.spots].map(({ spot }) => spot))];
      const says = (side: Said, name: string) => side.spots.find(({ spot }) => spot === name)?.says ?? 'no comparison';
      return {
        studyId: id,
        title: study.title,
        runs: this.of.runs.ofStudy(id).length,
        written: created,
        sameMethod: said.method === here.method,
        moved: spots.flatMap((spot) => (says(said, spot) === says(here, spot) ? [] : [{ what: spot, before: says(said, spot), after: says(here, spot) }])), // prettier-ignore
        compared: here.spots.length,
        alreadyHere: title,
      };
    } catch (error) {
      if (error instanceof DataProblem) throw unprocessable(error.message.replaceAll(rows, 'The database in the study file'));
      throw error;
    } finally {
      for (const rest of ['', '-wal', '-shm', '-journal']) rmSync(rows + rest, { force: true });
      rmSync(path, { force: true });
    }
  }

  /** What has come in is what this bench could have written down itself. */
  private sound(id: string): void {
    const found = check(StudyBody, bodyOf(this.of.studies.get(id)));
    if (!found.ok) throw unprocessable(`The study in the file cannot be kept: ${found.problems[0]!.sentence}`, found.problems);
    for (const run of this.of.runs.ofStudy(id)) this.of.runs.trace(run.id, 0, 1, 20);
    for (const mount of this.of.mounts.ofStudy(id))
      for (const photo of mount.photos)
        if (!isWebp(this.of.mounts.image(photo.id))) throw unprocessable('A photograph in the study file is none.');
  }

  private said(study: Study): Said {
    const figures = this.of.verdicts.figures(study);
    const nameOf = (id: string) => study.spots.find((spot) => spot.id === id)?.name ?? id;
    return {
      method: METHOD_VERSION,
      a: figures.judgement.a.name,
      b: figures.judgement.b.name,
      spots: saidOfSpots(figures).map(({ spotId, says }) => ({ spot: nameOf(spotId), says })),
    };
  }
}

/** What goes wrong while rows are taken over is the file's fault, unless the disk says otherwise. */
function fitting<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    // A table or a column that is not there is no trouble of the disk.
    const foreign = (error as { code?: unknown }).code === 'SQLITE_ERROR';
    if (error instanceof HttpProblem || (storageTrouble(error) && !foreign)) throw error;
    throw unprocessable('The study file is damaged: what it holds does not fit together.');
  }
}

/** Every photograph is made anew as WebP before it is kept; nothing else is ever shown as one. */
const isWebp = (image: Buffer) => image.subarray(0, 4).toString('latin1') === 'RIFF' && image.subarray(8, 12).toString('latin1') === 'WEBP';

function saidIn(text: string): Said {
  try {
    const { method, a, b, spots } = JSON.parse(text) as Said;
    return { method: String(method), a: String(a), b: String(b), spots: spots.map(({ spot, says }) => ({ spot: String(spot), says: String(says) })) }; // prettier-ignore
  } catch {
    throw unprocessable(`The study file is damaged: ${SAID} cannot be read.`);
  }
}
