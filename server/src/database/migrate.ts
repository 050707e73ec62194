import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from 'better-sqlite3';

const FOLDER = join(import.meta.dirname, '../../migrations');

/** The numbered migrations in order: NNNN_name.sql. */
export function listMigrations(folder = FOLDER): { version: number; name: string; file: string }[] {
  return readdirSync(folder)
    .filter((name) => /^\d{4}_\w+\.sql$/.test(name))
    .sort()
    .map((name) => ({ version: Number(name.slice(0, 4)), name, file: join(folder, name) }));
}

/**
 * Brings the database forward, one transaction a migration, after setting aside a copy of one that holds data.
 *
 * @param file where it lies; null where no copy is to be set aside
 * @returns the names of the migrations applied
 * @throws Error the database was made by a newer version
 */
export function migrate(db: Database, file: string | null, folder = FOLDER): string[] {
  const current = db.pragma('user_version', { simple: true }) as number;
  const migrations = listMigrations(folder);
  const newest = migrations.at(-1)?.version ?? 0;
  if (current > newest)
    throw new Error(`This data was written by a newer version of Red Ember (schema ${current}, this one knows ${newest}).`);
  const due = migrations.filter((migration) => migration.version > current);
  if (file !== null && due.length > 0 && current > 0)
    db.prepare('VACUUM INTO ?').run(`${file}.before-${String(newest).padStart(4, '0')}-${Date.now()}`);
  for (const migration of due) {
    db.transaction(() => {
      db.exec(readFileSync(migration.file, 'utf8'));
      db.pragma(`user_version = ${migration.version}`);
    })();
  }
  return due.map((migration) => migration.name);
}
