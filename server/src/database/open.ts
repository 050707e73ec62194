import { chmodSync, existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import SQLite, { type Database } from 'better-sqlite3';
import { FILE, inspect, wayOut } from './copies.ts';
import { DataProblem } from './dataProblem.ts';
import { ownFolder } from './folderLease.ts';
import { listMigrations, migrate } from './migrate.ts';
import { keepStatements } from './statements.ts';

/** Waiting for another program holds up everything else: what cannot be written in this time is tried again, ms. */
const BUSY_MS = 1000;

function opened(file: string): Database {
  const db = new SQLite(file);
  try {
    db.pragma('journal_mode = WAL');
    // A commit reaches the disk before a sample is acknowledged, so that a power cut loses nothing either.
    db.pragma('synchronous = FULL');
    db.pragma('foreign_keys = ON');
    db.pragma(`busy_timeout = ${BUSY_MS}`);
    const health = db.pragma('integrity_check(5)', { simple: true });
    if (health !== 'ok') throw new DataProblem(`${file} is damaged: ${String(health)}.`);
    const schema = db.pragma('user_version', { simple: true }) as number;
    const newest = listMigrations().at(-1)?.version ?? 0;
    if (schema > newest)
      throw new DataProblem(
        `${file} was written by a newer version of Red Ember (schema ${schema}, this one knows ${newest}). Start that version.`,
      );
    if (schema === 0 && (db.prepare('SELECT count(*) AS n FROM sqlite_master').get() as { n: number }).n > 0)
      throw new DataProblem(`${file} is a database of another program.`);
    return db;
  } catch (error) {
    db.close();
    throw error;
  }
}

function plainly(file: string, error: unknown): DataProblem {
  if (error instanceof DataProblem) return error;
  const { code, message } = error as { code?: string; message: string };
  if (code === 'SQLITE_NOTADB') return new DataProblem(`${file} is not a database.`, { cause: error });
  if (code?.startsWith('SQLITE_CORRUPT')) return new DataProblem(`${file} is damaged: ${message}.`, { cause: error });
  return new DataProblem(`${file} cannot be opened: ${message}.`, { cause: error });
}

/**
 * Opens the bench's database in a folder, making both where they are missing; for its owner alone.
 *
 * @throws DataProblem the file is damaged, empty though it should not be, of another program, unreadable, or written by a newer
 * version; with the way out
 */
export function openDatabase(folder: string): Database {
  ownFolder(folder);
  const file = join(folder, FILE);
  try {
    if (existsSync(file) && statSync(file).size === 0 && !existsSync(`${file}-wal`)) throw new DataProblem(`${file} is empty.`);
    const db = opened(file);
    try {
      for (const name of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(name)) chmodSync(name, 0o600);
      migrate(db, file);
      return keepStatements(db);
    } catch (error) {
      db.close();
      throw error;
    }
  } catch (error) {
    const problem = plainly(file, error);
    throw new DataProblem(`${problem.message} ${wayOut(folder)}`, { cause: error });
  }
}

/** A connection to a bench that is open elsewhere in this server: it only reads. */
export function openToRead(folder: string): Database {
  return new SQLite(join(folder, FILE), { readonly: true, fileMustExist: true, timeout: BUSY_MS });
}

/** A file of its own for some rows of a bench, empty yet. Without a journal beside it: nobody else writes there. */
export function openNew(file: string): Database {
  const db = new SQLite(file);
  db.pragma('foreign_keys = ON');
  migrate(db, file);
  return db;
}

/**
 * A database that comes from anywhere, brought to this version's schema where it lies. Whatever in it would run by itself is refused.
 *
 * @param file a copy that may be written to, and thrown away
 * @throws DataProblem it is none, is damaged, newer, or holds more than tables
 */
export function openForeign(file: string): Database {
  inspect(file);
  const db = new SQLite(file);
  try {
    db.pragma('trusted_schema = OFF');
    db.pragma('cell_size_check = ON');
    const { n } = db
      .prepare("SELECT count(*) AS n FROM sqlite_schema WHERE type NOT IN ('table', 'index') OR sql LIKE 'CREATE VIRTUAL%'")
      .get() as { n: number };
    if (n > 0) throw new DataProblem('The database in it holds views or triggers, which none of ours does.');
    // A copy is set aside only of data that stay.
    migrate(db, null);
    return db;
  } catch (error) {
    db.close();
    throw error instanceof DataProblem
      ? error
      : new DataProblem(`The database in it cannot be read: ${(error as Error).message}.`, { cause: error });
  }
}

/** A bench in memory, gone when it is closed. */
export function openScratch(): Database {
  const db = new SQLite(':memory:');
  db.pragma('foreign_keys = ON');
  migrate(db, null);
  return db;
}
