import { createReadStream, createWriteStream, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'; // prettier-ignore
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { v7 as newId } from 'uuid';
import type { LogTrace, StagedLog } from '@red-ember/contract';
import { notFound } from '../http/problems.ts';
import type { LevelSeen, StepSeen } from './look/levels.ts';
import { LogProblem } from './read/cells.ts';
import { openWorkbook } from './read/workbook.ts';

const STAGED_HOURS = 24;
/** A packed log that is longer than this when it is unpacked is none: it is made to fill the disk. */
const MOST_UNPACKED = 1024 ** 3;

/** A file that was put down, with what was understood of it. */
export interface Staged {
  log: StagedLog;
  /** What was seen of its columns, beside what is shown. */
  levels: { steps: StepSeen[]; duty: LevelSeen | null; fan?: LevelSeen | null; room: LevelSeen | null; power: LevelSeen | null };
  /** In which its dates are taken where they say none. */
  zone: string;
  /** That it is for; null where the study is yet to be made. */
  studyId: string | null;
  /** When it was put down, milliseconds since 1970. */
  at: number;
}

/** Files that were uploaded and are not yet runs: kept for a day in a folder, each with what was understood of it. */
export class Staging {
  constructor(readonly folder: string) {
    mkdirSync(folder, { recursive: true });
    this.forgetOld();
  }

  /** Takes a file over under a new id. */
  add(path: string, trace: LogTrace, understood: (id: string) => Staged): StagedLog {
    const id = newId();
    const staged = understood(id);
    // What is only drawn lies apart: the others are gone through with every file that is put down.
    writeFileSync(join(this.folder, `${id}.trace`), JSON.stringify(trace));
    writeFileSync(join(this.folder, `${id}.json`), JSON.stringify(staged));
    // Last of all: it is put down once everything of it is there.
    renameSync(path, join(this.folder, `${id}.log`));
    return staged.log;
  }

  /** @throws HttpProblem 404 where it is not there any more */
  path(id: string): string {
    const path = join(this.folder, `${id}.log`);
    const there = /^[0-9a-f-]{36}$/.test(id) && existsSync(path) && existsSync(join(this.folder, `${id}.json`));
    if (!there) throw notFound('This uploaded log (it is kept for a day)');
    return path;
  }

  /** What was understood of a file. @throws HttpProblem 404 */
  get(id: string): Staged {
    this.path(id);
    return JSON.parse(readFileSync(join(this.folder, `${id}.json`), 'utf8')) as Staged;
  }

  /** A file for drawing. @throws HttpProblem 404 */
  trace(id: string): LogTrace {
    this.path(id);
    return JSON.parse(readFileSync(join(this.folder, `${id}.trace`), 'utf8')) as LogTrace;
  }

  /** Everything that is put down and not yet used, the oldest first. */
  all(): Staged[] {
    return readdirSync(this.folder)
      .filter((name) => name.endsWith('.json') && existsSync(join(this.folder, name.replace(/json$/, 'log'))))
      .map((name) => JSON.parse(readFileSync(join(this.folder, name), 'utf8')) as Staged)
      .sort((p, q) => p.at - q.at);
  }

  remove(id: string): void {
    for (const ending of ['log', 'json', 'trace']) rmSync(join(this.folder, `${id}.${ending}`), { force: true });
  }

  forgetOld(): void {
    for (const name of readdirSync(this.folder)) {
      const path = join(this.folder, name);
      if (Date.now() - statSync(path).mtimeMs > STAGED_HOURS * 3_600_000) rmSync(path, { force: true });
    }
  }
}

/** What a file packed with gzip begins with. */
const GZIP = Buffer.from([0x1f, 0x8b]);

async function headOf(path: string): Promise<Buffer> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(4), 0, 4, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/**
 * Makes text of a file that is packed or a workbook, in its place; leaves any other as it is.
 *
 * @throws LogProblem what cannot be unpacked, or is far larger than a log
 */
export async function unpacked(path: string): Promise<void> {
  // Once: a file can be made that holds itself, packed.
  if ((await headOf(path)).subarray(0, 2).equals(GZIP)) await gunzipped(path);
  const head = await headOf(path);
  if (head.subarray(0, 2).equals(GZIP)) throw new LogProblem('The file is packed more than once: unpack it first.');
  if (head.toString('latin1') === 'PK\u0003\u0004') writeFileSync(path, await openWorkbook(path));
}

async function gunzipped(path: string): Promise<void> {
  const out = `${path}.unpacked`;
  let bytes = 0;
  const count = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      done(bytes > MOST_UNPACKED ? new LogProblem('Unpacked, the file is larger than a gigabyte: this is no log.') : null, chunk);
    },
  });
  try {
    await pipeline(createReadStream(path), createGunzip(), count, createWriteStream(out));
    renameSync(out, path);
  } catch (error) {
    rmSync(out, { force: true });
    if (error instanceof LogProblem) throw error;
    throw new LogProblem('The file is packed and cannot be unpacked: it is damaged or cut short.');
  }
}
