import { existsSync, mkdirSync, readdirSync, renameSync } from 'node:fs';
import { dirname, join } from 'node:path';
import SQLite from 'better-sqlite3';
import { inspect, writeCopy, type Inspected } from './copies.ts';
import { DataProblem } from './dataProblem.ts';
import { holdFolder, ownFolder } from './folderLease.ts';
import { openDatabase } from './open.ts';

const FILE = 'bench.sqlite';

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

/** As `restore`, by whoever holds the folder. */
async function putInPlace(backup: string, folder: string, now = new Date()): Promise<{ studies: number; aside: string | null }> {
  inspect(backup);
  const file = join(folder, FILE);
  const arriving = `${file}.arriving`;
  const source = new SQLite(backup, { readonly: true });
  try {
    await source.backup(arriving);
  } finally {
    source.close();
  }
  const old = readdirSync(folder).filter((name) => [FILE, `${FILE}-wal`, `${FILE}-shm`].includes(name));
  const aside = old.length > 0 ? join(folder, `set-aside-${now.toISOString().replace(/[:.]/g, '-')}`) : null;
  if (aside) {
    mkdirSync(aside);
    for (const name of old) renameSync(join(folder, name), join(aside, name));
  }
  renameSync(arriving, file);
  // Opening brings an older schema forward, after a copy of its own.
  openDatabase(folder).close();
  return { studies: inspect(file).studies, aside };
}
