import { chmodSync, existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import type { BackupKind } from '@red-ember/contract';
import { DataProblem } from './dataProblem.ts';
import { listMigrations } from './migrate.ts';

/** The bench, in its folder of data. */
export const FILE = 'bench.sqlite';
/** Where copies are put, below the folder of data. */
export const COPIES = 'backups';
/** What a restore took the place of lies in a folder whose name begins so. */
export const SET_ASIDE = 'set-aside-';
const DAILY = /^daily-\d{4}-\d{2}-\d{2}\.sqlite$/;
const KEPT = 7;

/** A copy of the bench, read as a stranger. */
export interface Inspected {
  schema: number;
  studies: number;
}

/** Reads a database file as a stranger: sound, and of a schema this version knows? @throws DataProblem saying what is wrong */
export function inspect(file: string): Inspected {
  let db: SQLite.Database;
  try {
    db = new SQLite(file, { readonly: true, fileMustExist: true });
  } catch {
    throw new DataProblem(`${file} is not there, or cannot be opened.`);
  }
  try {
    const health = db.pragma('integrity_check(5)', { simple: true });
    if (health !== 'ok') throw new DataProblem(`${file} is damaged: ${String(health)}.`);
    const schema = db.pragma('user_version', { simple: true }) as number;
    const newest = listMigrations().at(-1)!.version;
    if (schema > newest)
      throw new DataProblem(`${file} was written by a newer version of Red Ember (schema ${schema}, this one knows ${newest}).`);
    if (schema === 0) throw new DataProblem(`${file} holds no bench.`);
    const { n } = db.prepare('SELECT count(*) AS n FROM study').get() as { n: number };
    return { schema, studies: n };
  } catch (error) {
    if (error instanceof DataProblem) throw error;
    const { code } = error as { code?: string };
    throw new DataProblem(code === 'SQLITE_NOTADB' ? `${file} is not a database.` : `${file} is damaged: ${(error as Error).message}.`, {
      cause: error,
    });
  } finally {
    db.close();
  }
}

export interface Copy {
  /** Its name without its folder; no two are alike. */
  id: string;
  kind: BackupKind;
  file: string;
  at: Date;
  bytes: number;
}

/** Copies that lie in a folder of data, the newest first: made daily or by hand, before a change of schema, or set aside by a restore. */
export function listCopies(folder: string): Copy[] {
  const backups = names(join(folder, COPIES)).filter((name) => name.endsWith('.sqlite'));
  const beside = names(folder);
  const found: Omit<Copy, 'at' | 'bytes'>[] = [
    ...backups.map((id) => ({ id, kind: DAILY.test(id) ? ('daily' as const) : ('by-hand' as const), file: join(folder, COPIES, id) })),
    ...beside
      .filter((id) => /^bench\.sqlite\.before-\d+-\d+$/.test(id))
      .map((id) => ({ id, kind: 'before-update' as const, file: join(folder, id) })),
    ...beside
      .filter((id) => id.startsWith(SET_ASIDE) && existsSync(join(folder, id, FILE)))
      .map((id) => ({ id, kind: 'set-aside' as const, file: join(folder, id, FILE) })),
  ];
  return found
    .map((copy) => {
      const { mtime, size } = statSync(copy.file);
      return { ...copy, at: mtime, bytes: size };
    })
    .sort((a, b) => b.at.getTime() - a.at.getTime());
}

const names = (folder: string): string[] => (existsSync(folder) ? readdirSync(folder) : []);

/** The newest copy that is sound; null where there is none. */
export function newestGoodCopy(folder: string): { file: string; studies: number } | null {
  for (const { file } of listCopies(folder)) {
    try {
      return { file, studies: inspect(file).studies };
    } catch {
      // The one before it, then.
    }
  }
  return null;
}

/** What can be done about data that cannot be opened, in a sentence. */
export function wayOut(folder: string): string {
  const copy = newestGoodCopy(folder);
  return copy
    ? `The newest good copy is ${copy.file} (${copy.studies} studies): npm run restore -- ${copy.file} --data ${folder}. What is there now is set aside, not deleted.`
    : `No good copy of it was found in ${folder}. Choose another folder with --data to start afresh, and keep this one.`;
}

/** Writes a copy under another name and gives it its own when it is whole. @throws DataProblem the copy is not sound */
export async function writeCopy(db: Pick<SQLite.Database, 'backup'>, to: string): Promise<Inspected> {
  const arriving = `${to}.arriving`;
  rmSync(arriving, { force: true });
  try {
    await db.backup(arriving);
    // Wherever it is put: what the bench holds is its owner's alone.
    chmodSync(arriving, 0o600);
    const found = inspect(arriving);
    renameSync(arriving, to);
    return found;
  } finally {
    for (const rest of ['', '-wal', '-shm', '-journal']) rmSync(arriving + rest, { force: true });
  }
}

/** Daily copies beyond the newest seven. */
export function surplusDaily(folder: string): string[] {
  return names(join(folder, COPIES))
    .filter((name) => DAILY.test(name))
    .sort()
    .reverse()
    .slice(KEPT)
    .map((name) => join(folder, COPIES, name));
}
