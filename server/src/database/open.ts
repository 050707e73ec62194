import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import SQLite, { type Database } from 'better-sqlite3';
import { migrate } from './migrate.ts';

/**
 * Opens the bench's database in a folder, making both where they are missing.
 *
 * @throws Error the file is damaged, or written by a newer version
 */
export function openDatabase(folder: string): Database {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, 'bench.sqlite');
  const db = new SQLite(file);
  db.pragma('journal_mode = WAL');
  // A commit reaches the disk before a sample is acknowledged, so that a power cut loses nothing either.
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  db.pragma('busy_timeout = 5000');
  const health = db.pragma('integrity_check', { simple: true });
  if (health !== 'ok') throw new Error(`${file} is damaged: ${String(health)}. Restore the newest copy from the same folder.`);
  migrate(db, file);
  return db;
}
