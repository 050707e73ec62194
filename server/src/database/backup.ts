import { existsSync, mkdirSync, readdirSync, renameSync } from 'node:fs';
import { dirname, join } from 'node:path';
import SQLite from 'better-sqlite3';
import { listMigrations } from './migrate.ts';
import { openDatabase } from './open.ts';

const FILE = 'bench.sqlite';

/** Reads a database file as a stranger: sound, and of a schema this version knows? @throws Error saying what is wrong */
function inspect(file: string): { schema: number; studies: number } {
  let db: SQLite.Database;
  try {
    db = new SQLite(file, { readonly: true, fileMustExist: true });
  } catch {
    throw new Error(`${file} is not there, or cannot be opened.`);
  }
  try {
    const health = db.pragma('integrity_check', { simple: true });
    if (health !== 'ok') throw new Error(`${file} is damaged: ${String(health)}.`);
    const schema = db.pragma('user_version', { simple: true }) as number;
    const newest = listMigrations().at(-1)!.version;
    if (schema > newest)
      throw new Error(`${file} was written by a newer version of Red Ember (schema ${schema}, this one knows ${newest}).`);
    if (schema === 0) throw new Error(`${file} holds no bench.`);
    const { n } = db.prepare('SELECT count(*) AS n FROM study').get() as { n: number };
    return { schema, studies: n };
  } catch (error) {
    if ((error as { code?: string }).code === 'SQLITE_NOTADB') throw new Error(`${file} is not a database.`, { cause: error });
    throw error;
  } finally {
    db.close();
  }
}

/**
 * Copies the bench while it may be running: what is written meanwhile is in the copy or not, never half.
 *
 * @param to file to write; it must not exist yet
 * @returns what the copy holds, read back from it
 * @throws Error there is no bench in the folder, the file exists already, or the copy is not sound
 */
export async function backUp(folder: string, to: string): Promise<{ schema: number; studies: number }> {
  const from = join(folder, FILE);
  if (!existsSync(from)) throw new Error(`There is no bench in ${folder}.`);
  if (existsSync(to)) throw new Error(`${to} is there already; choose another name.`);
  mkdirSync(dirname(to), { recursive: true });
  const db = new SQLite(from, { readonly: true });
  try {
    await db.backup(to);
  } finally {
    db.close();
  }
  return inspect(to);
}

/** Whether another process has the bench open. */
function inUse(file: string): boolean {
  const db = new SQLite(file, { timeout: 200 });
  try {
    db.pragma('locking_mode = EXCLUSIVE');
    db.exec('BEGIN EXCLUSIVE; COMMIT');
    return false;
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY')) return true;
    throw error;
  } finally {
    db.close();
  }
}

/**
 * Puts a backup in the place of the bench; what was there is set aside, not deleted.
 *
 * @returns what the bench holds now, and the folder in which the old one lies (null where there was none)
 * @throws Error the backup is damaged, no bench, or of a newer schema; the bench is running. Nothing is changed then
 */
export async function restore(backup: string, folder: string, now = new Date()): Promise<{ studies: number; aside: string | null }> {
  inspect(backup);
  const file = join(folder, FILE);
  if (existsSync(file) && inUse(file)) throw new Error('The bench is running. Stop it first, so that nothing is written meanwhile.');
  mkdirSync(folder, { recursive: true });
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
