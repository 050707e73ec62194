import SQLite from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { keepStatements } from './statements.ts';

describe('statements that are kept', () => {
  const made = () => {
    const db = keepStatements(new SQLite(':memory:'));
    db.exec('CREATE TABLE entry (id INTEGER PRIMARY KEY, word TEXT) STRICT');
    const put = db.prepare('INSERT INTO entry (word) VALUES (?)');
    for (const word of ['ember', 'lid', 'pad']) put.run(word);
    return db;
  };
  it('are one for one text, and answer anew each time', () => {
    const db = made();
    const all = () => db.prepare('SELECT word FROM entry WHERE id > ? ORDER BY id');
    expect(all()).toBe(all());
    expect(all().all(1)).toEqual([{ word: 'lid' }, { word: 'pad' }]);
    db.prepare('DELETE FROM entry WHERE word = ?').run('lid');
    expect(all().all(1)).toEqual([{ word: 'pad' }]);
    expect(() => db.prepare('SELECT colour FROM entry')).toThrow('no such column');
  });
  it('go on working when a table gets a column', () => {
    const db = made();
    const read = () => db.prepare('SELECT * FROM entry WHERE id = 1').get();
    expect(read()).toEqual({ id: 1, word: 'ember' });
    db.exec("ALTER TABLE entry ADD COLUMN note TEXT NOT NULL DEFAULT ''");
    expect(read()).toEqual({ id: 1, word: 'ember', note: '' });
  });
  it('do not fill the memory where texts are made up', () => {
    const db = made();
    const first = db.prepare('SELECT 0');
    for (let i = 1; i < 1500; i++) expect(Object.values(db.prepare(`SELECT ${i}`).get() as object)).toEqual([i]);
    expect(db.prepare('SELECT 0')).not.toBe(first);
  });
});
