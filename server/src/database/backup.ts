import { existsSync, mkdirSync, renameSync, rmdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import SQLite from 'better-sqlite3';
import { FILE, inspect, listCopies, SET_ASIDE, writeCopy, type Inspected } from './copies.ts';
import { DataProblem } from './dataProblem.ts';
import { holdFolder, ownFolder } from './folderLease.ts';
import { openDatabase } from './open.ts';

/** What belongs to a database besides its file, by what is added to its name. */
const FILES = ['', '-wal', '-shm'];

/**
 * Copies the bench while it may be running: what is written meanwhile is in the copy or not, never half.
 *
 * @param to file to write; it must not exist yet
 * @returns what the copy holds, read back from it
 * @throws DataProblem there is no bench in the folder, the file exists already, or the copy is not sound
 */
export async function backUp(folder: string, to: string): Promise<Inspected> {
  const from = join(folder, FILE);
  if (!existsSync(from)) throw new DataProblem(`There is no bench in ${folder}.`);
  if (existsSync(to)) throw new DataProblem(`${to} is there already; choose another name.`);
  mkdirSync(dirname(to), { recursive: true });
  const db = new SQLite(from, { readonly: true });
  try {
    return await writeCopy(db, to);
  } finally {
    db.close();
  }
}

/**
 * Puts a backup in the place of the bench; what was there is set aside, not deleted.
 *
 * @returns what the bench holds now, and the folder in which the old one lies (null where there was none)
 * @throws DataProblem the backup is damaged, no bench, or of a newer schema; the bench is running. Nothing is changed then
 */
export async function restore(backup: string, folder: string, now = new Date()): Promise<{ studies: number; aside: string | null }> {
  inspect(backup);
  ownFolder(folder);
  const letGo = holdFolder(folder, 'a restore');
  try {
    const file = join(folder, FILE);
    if (existsSync(file) && inUse(file))
      throw new DataProblem('The bench is running. Stop it first, so that nothing is written meanwhile.');
    return await putInPlace(backup, folder, now);
  } finally {
    letGo();
  }
}

/** Whether another process has the database open, whatever it is. */
function inUse(file: string): boolean {
  const db = new SQLite(file, { timeout: 200 });
  try {
    db.pragma('locking_mode = EXCLUSIVE');
    db.exec('BEGIN EXCLUSIVE; COMMIT');
    return false;
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY')) return true;
    // One that cannot be opened is what is to be put aside.
    return false;
  } finally {
    db.close();
  }
}

/**
 * As `restore`, by whoever holds the folder and has closed the bench.
 *
 * @throws DataProblem as `restore`, and where the copy cannot be opened once it is in place; the bench is as it was then
 */
export async function putInPlace(backup: string, folder: string, now = new Date()): Promise<{ studies: number; aside: string | null }> {
  inspect(backup);
  const file = join(folder, FILE);
  const arriving = `${file}.arriving`;
  const source = new SQLite(backup, { readonly: true });
  try {
    await source.backup(arriving);
  } catch (error) {
    for (const rest of FILES) rmSync(arriving + rest, { force: true });
    throw error;
  } finally {
    source.close();
  }
  const before = new Set(listCopies(folder).map(({ id }) => id));
  const old = FILES.filter((rest) => existsSync(file + rest));
  const aside = old.length > 0 ? join(folder, `${SET_ASIDE}${now.toISOString().replace(/[:.]/g, '-')}`) : null;
  if (aside) {
    mkdirSync(aside, { mode: 0o700 });
    for (const rest of old) renameSync(file + rest, join(aside, FILE + rest));
  }
  renameSync(arriving, file);
  try {
    // Opening brings an older schema forward, after a copy of its own.
    openDatabase(folder).close();
    return { studies: inspect(file).studies, aside };
  } catch (error) {
    for (const rest of FILES) rmSync(file + rest, { force: true });
    // Nor is the copy wanted that was made of it before it was to be brought forward.
    for (const copy of listCopies(folder)) if (!before.has(copy.id) && copy.kind === 'before-update') rmSync(copy.file);
    if (aside) {
      for (const rest of old) renameSync(join(aside, FILE + rest), file + rest);
      rmdirSync(aside);
    }
    const why = error instanceof DataProblem && error.cause instanceof Error ? error.cause : (error as Error);
    throw new DataProblem(`${backup} cannot be opened: ${why.message}.`, { cause: error });
  }
}
