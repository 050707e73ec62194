import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { blankPlan, blankStudy, bodyOf, USUAL_REPEATS } from '@red-ember/study';
import { createServices } from '../services.ts';
import { backUp, restore } from './backup.ts';
import { listMigrations, migrate } from './migrate.ts';
import { openDatabase } from './open.ts';

const folders: string[] = [];
function folder(): string {
  const path = mkdtempSync(join(tmpdir(), 'red-ember-backup-'));
  folders.push(path);
  return path;
}
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true, force: true })));

function benchWith(path: string, ...titles: string[]) {
  const db = openDatabase(path);
  const services = createServices(db, path, () => {});
  for (const title of titles) services.studies.create(blankStudy(title));
  return { db, services };
}
const titlesIn = (path: string) => {
  const { db, services } = benchWith(path);
  const titles = services.studies.list().map((study) => study.title);
  db.close();
  return titles;
};

describe('backup and restore', () => {
  it('copy a bench that is running, and bring it back with the old one set aside', async () => {
    const path = folder();
    const { db, services } = benchWith(path, 'Kept');
    const copy = join(path, 'backups', 'a.sqlite');
    expect(await backUp(path, copy)).toMatchObject({ studies: 1 });
    services.studies.create(blankStudy('Later'));
    await expect(restore(copy, path)).rejects.toThrow('The bench is running');
    db.close();
    const result = await restore(copy, path);
    expect(result.studies).toBe(1);
    expect(titlesIn(path)).toEqual(['Kept']);
    expect(readdirSync(result.aside!)).toContain('bench.sqlite');
    // What was set aside can be brought back in turn.
    await restore(join(result.aside!, 'bench.sqlite'), path);
    expect(titlesIn(path).sort()).toEqual(['Kept', 'Later']);
  });

  it('refuse to write over a file, and folders without a bench', async () => {
    const path = folder();
    await expect(backUp(path, join(path, 'x.sqlite'))).rejects.toThrow('There is no bench');
    benchWith(path).db.close();
    writeFileSync(join(path, 'x.sqlite'), 'here first');
    await expect(backUp(path, join(path, 'x.sqlite'))).rejects.toThrow('is there already');
    expect(readFileSync(join(path, 'x.sqlite'), 'utf8')).toBe('here first');
  });

  it('refuse what is damaged, of a newer schema, or no bench at all, and leave the bench alone', async () => {
    const path = folder();
    benchWith(path, 'Mine').db.close();
    const bad = (name: string, write: (file: string) => void) => {
      const file = join(path, name);
      write(file);
      return restore(file, path);
    };
    await expect(
      bad('text.sqlite', (file) => writeFileSync(file, 'not a database at all, but long enough to look like one')),
    ).rejects.toThrow('not a database');
    await expect(restore(join(path, 'gone.sqlite'), path)).rejects.toThrow('is not there');
    await expect(bad('empty.sqlite', (file) => new SQLite(file).exec('CREATE TABLE x (y)').close())).rejects.toThrow('holds no bench');
    const newer = join(path, 'newer.sqlite');
    await backUp(path, newer);
    const db = new SQLite(newer);
    db.pragma('user_version = 9999');
    db.close();
    await expect(restore(newer, path)).rejects.toThrow('newer version');
    const torn = join(path, 'torn.sqlite');
    await backUp(path, torn);
    const bytes = readFileSync(torn);
    bytes.fill(0xa5, 4096, 4096 * 6);
    writeFileSync(torn, bytes);
    await expect(restore(torn, path)).rejects.toThrow(/damaged|malformed|not a database/);
    expect(titlesIn(path)).toEqual(['Mine']);
    expect(existsSync(join(path, 'bench.sqlite.arriving'))).toBe(false);
  });
});

describe('a copy that looks sound and cannot be brought forward', () => {
  it('leaves the bench as it was, with nothing set aside', async () => {
    const path = folder();
    benchWith(path, 'Mine').db.close();
    const hollow = join(path, 'hollow.sqlite');
    const db = new SQLite(hollow);
    // Of an old schema, with the one table that is counted: only a migration finds that the others are not there.
    db.exec('CREATE TABLE study (id TEXT)');
    db.pragma('user_version = 1');
    db.close();
    await expect(restore(hollow, path)).rejects.toThrow(/hollow.sqlite cannot be opened: no such column: claim\.$/);
    expect(titlesIn(path)).toEqual(['Mine']);
    expect(readdirSync(path).filter((name) => name.startsWith('set-aside'))).toEqual([]);
    expect(readdirSync(path).filter((name) => /arriving|before/.test(name))).toEqual([]);
  });
});

describe('the first schema', () => {
  it('is brought forward: claim, prediction, part and settings become lists, runs keep what they held', () => {
    const path = folder();
    const file = join(path, 'bench.sqlite');
    const old = new SQLite(file);
    old.exec(readFileSync(listMigrations()[0]!.file, 'utf8'));
    old.pragma('user_version = 1');
    const rules = { basis: 'rise', figure: 'settled-mean', fans: 'locked', practicalK: 1, coverage: 0.95, roomMinC: 20, roomMaxC: 25 };
    const insert = old.prepare(
      `INSERT INTO study (id, title, family, question, claim, prediction, rules, enclosure, subject, recipe, settings, version, created_at, updated_at)
       VALUES (?, ?, 'drive', 'Q', ?, ?, ?, ?, ?, ?, ?, 3, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z')`,
    );
    const recipe = JSON.stringify(blankStudy('x').recipe);
    const enclosure = JSON.stringify(blankStudy('x').enclosure);
    insert.run(
      's1',
      'Old',
      JSON.stringify({ text: 'It cools', spotId: 'sp', direction: 'cooler', leastEffectK: 1.5 }),
      JSON.stringify({ text: 'why', spotId: 'sp', expectedK: -2, plusMinusK: 1 }),
      JSON.stringify(rules),
      enclosure,
      JSON.stringify({ name: 'Thistle', details: 'No. 2' }),
      recipe,
      JSON.stringify([{ name: 'Firmware', value: 'LH-2' }]),
    );
    insert.run('s2', 'Bare', null, null, JSON.stringify(rules), enclosure, JSON.stringify({ name: 'Other', details: '' }), recipe, '[]');
    old.prepare(`INSERT INTO spot VALUES ('sp', 's1', 0, 'Core', '', 'core', 88, 'data sheet', 92, 5, 84, 'tc1', 'TC 1', 0.5, 0.1)`).run();
    old.prepare(`INSERT INTO variant VALUES ('va', 's1', 0, 'bare', 1, 'bare', '')`).run();
    old.close();

    const db = openDatabase(path);
    const services = createServices(db, path, () => {});
    const study = services.studies.get('s1');
    expect(study).toMatchObject({
      claims: [{ id: 'claim-1', text: 'It cools', outcome: 'temperature', spotId: 'sp', direction: 'cooler', leastEffect: 1.5 }],
      predictions: [{ id: 'prediction-1', expectedK: -2 }],
      predictionStamps: { 'prediction-1': '2026-01-01T00:00:00Z' },
      subjects: [{ id: 'part-1', name: 'Thistle', details: 'No. 2', drive: null, map: null }],
      locks: [{ name: 'Firmware', value: 'LH-2', unit: '', tolerance: null, channel: '', overrides: [] }],
      rules: { fans: 'locked', load: 'worst-case', paste: 'spread' },
      spots: [{ componentClass: 'graphics core', throttleC: 84, throttleSource: 'data sheet', byHand: false, twinOf: null }],
      variants: [{ subjectId: 'part-1', levels: [], repeats: USUAL_REPEATS }],
      factors: [],
      impossible: [],
      plan: blankPlan(),
    });
    expect(services.studies.get('s2')).toMatchObject({ claims: [], predictions: [], locks: [] });
    // It can be saved as it now is: the new shape passes its own checks.
    const body = bodyOf(study);
    expect(services.studies.replace('s1', { ...body, title: 'New' }, study.version).title).toBe('New');
    expect(readdirSync(path).some((name) => name.includes('.before-'))).toBe(true);
    expect(migrate(db, file)).toEqual([]);
    db.close();
  });
});
