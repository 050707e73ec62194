import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { SampleStore } from '../samples/store.ts';
import { listMigrations, migrate } from './migrate.ts';
import { openDatabase } from './open.ts';

const folders: string[] = [];
function folder(): string {
  const path = mkdtempSync(join(tmpdir(), 'red-ember-db-'));
  folders.push(path);
  return path;
}
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true, force: true })));

describe('migrations', () => {
  it('bring an empty file to the newest schema, once', () => {
    const path = folder();
    const db = openDatabase(path);
    expect(db.pragma('user_version', { simple: true })).toBe(listMigrations().at(-1)!.version);
    expect(db.pragma('journal_mode', { simple: true })).toBe('wal');
    db.close();
    const again = openDatabase(path);
    expect(migrate(again, join(path, 'bench.sqlite'))).toEqual([]);
    again.close();
  });

  it('set a copy aside before changing data, and undo a migration that fails', () => {
    const path = folder();
    const steps = join(path, 'steps');
    mkdirSync(steps);
    writeFileSync(join(steps, '0001_start.sql'), 'CREATE TABLE a (x INTEGER) STRICT; INSERT INTO a VALUES (7);');
    const file = join(path, 'x.sqlite');
    const db = new SQLite(file);
    migrate(db, file, steps);
    writeFileSync(join(steps, '0002_broken.sql'), 'CREATE TABLE b (y INTEGER) STRICT; INSERT INTO nowhere VALUES (1);');
    expect(() => migrate(db, file, steps)).toThrow(/nowhere/);
    expect(db.pragma('user_version', { simple: true })).toBe(1);
    expect(db.prepare("SELECT count(*) AS n FROM sqlite_master WHERE name = 'b'").get()).toEqual({ n: 0 });
    const copy = readdirSync(path).find((name) => name.includes('.before-0002-'))!;
    const old = new SQLite(join(path, copy), { readonly: true });
    expect(old.prepare('SELECT x FROM a').get()).toEqual({ x: 7 });
    old.close();
    db.close();
  });

  it('refuse data of a newer version', () => {
    const path = folder();
    const db = openDatabase(path);
    db.pragma('user_version = 9999');
    db.close();
    expect(() => openDatabase(path)).toThrow(/newer version/);
  });
});

describe('samples', () => {
  it('come back as they went in, through small chunks, gaps and compaction', () => {
    const db = openDatabase(folder());
    db.pragma('foreign_keys = OFF'); // chunks alone, without the run they belong to
    const store = new SampleStore(db);
    const t = Array.from({ length: 40_000 }, (_, i) => i * 100);
    const y = t.map((ms) => (ms % 700 === 0 ? NaN : Math.sin(ms) * 40 + 1 / 3));
    for (let i = 0; i < t.length; i += 777) store.append('r', 'tc1', t.slice(i, i + 777), y.slice(i, i + 777));
    const check = () => {
      const series = store.read('r', 'tc1');
      expect(series.t.length).toBe(t.length);
      expect(series.y.every((value, i) => Object.is(value, y[i]) || value === y[i])).toBe(true);
      expect(series.t[12_345]).toBeCloseTo(1234.5, 9);
    };
    check();
    store.compact('r');
    expect((db.prepare('SELECT count(*) AS n FROM sample_chunk').get() as { n: number }).n).toBe(3);
    check();
    const part = store.read('r', 'tc1', 100, 200);
    expect(part.t[0]).toBeLessThanOrEqual(100);
    expect(part.t.at(-1)).toBeGreaterThanOrEqual(199.9);
    db.close();
  });
});
