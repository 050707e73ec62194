import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { blankStudy } from '@red-ember/study';
import { testBench } from '../tests/testBench.ts';
import { backUp } from './backup.ts';
import { newestGoodCopy } from './copies.ts';
import { DailyCopy } from './dailyCopy.ts';
import { DataProblem } from './dataProblem.ts';
import { holdFolder } from './folderLease.ts';
import { openDatabase } from './open.ts';

const folders: string[] = [];
const children: ChildProcess[] = [];
function folder(): string {
  const path = mkdtempSync(join(tmpdir(), 'red-ember-folder-'));
  folders.push(path);
  return path;
}
afterEach(async () => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
  for (const path of folders.splice(0)) {
    chmodSync(path, 0o700);
    await removed(path);
  }
});

/** The desk of a server that was killed notices a little later, and may make one more file meanwhile: then the folder is gone through again. */
async function removed(path: string): Promise<void> {
  for (let left = 50; ; left--)
    try {
      return rmSync(path, { recursive: true, force: true });
    } catch (error) {
      if (left === 0) throw error;
      await new Promise((done) => setTimeout(done, 200));
    }
}

/** Starts the server as it is started; resolves with what it said when it ended, or with null once it answers. */
async function served(data: string, port: number): Promise<{ code: number; said: string } | null> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts', '--port', String(port), '--data', data], {
    env: { ...process.env, LOG_LEVEL: 'warn' },
  });
  children.push(child);
  let said = '';
  child.stderr.on('data', (text) => (said += String(text)));
  child.stdout.on('data', (text) => (said += String(text)));
  const ended = once(child, 'exit').then(([code]) => ({ code: code as number, said }));
  const answers = async () => {
    for (let tries = 0; tries < 300; tries++) {
      if ((await fetch(`http://127.0.0.1:${port}/api/v1/rigs`).catch(() => null))?.ok) return null;
      await new Promise((done) => setTimeout(done, 100));
    }
    return { code: -1, said };
  };
  return Promise.race([ended, answers()]);
}

describe('a folder of data', () => {
  it('belongs to one server: a second one says so in a sentence and leaves the first alone', async () => {
    const data = folder();
    expect(await served(data, 4689)).toBeNull();
    const second = await served(data, 4612);
    expect(second).toMatchObject({ code: 78 });
    expect(second!.said).toMatch(/^The data in .* is in use by a Red Ember server \(process \d+\)\. Use that one/);
    expect(second!.said).not.toContain('    at ');
    expect((await fetch('http://127.0.0.1:4689/api/v1/rigs')).ok).toBe(true);
    // Killed outright, it holds nothing any more.
    const gone = once(children[0]!, 'exit');
    children[0]!.kill('SIGKILL');
    await gone;
    holdFolder(data, 'a test')();
  }, 60_000);

  it('is for its owner alone', async () => {
    const data = join(folder(), 'bench');
    const bench = await testBench(data);
    await bench.close();
    expect(statSync(data).mode & 0o777).toBe(0o700);
    expect(statSync(join(data, 'bench.sqlite')).mode & 0o777).toBe(0o600);
  });
});

describe('data that cannot be opened', () => {
  const cases: [string, (file: string) => void, string][] = [
    ['empty', (file) => writeFileSync(file, ''), 'is empty.'],
    [
      'text',
      (file) => writeFileSync(file, 'this is a text and nothing else, of a hundred bytes and more '.repeat(4)),
      'is not a database.',
    ],
    ['of another program', (file) => new SQLite(file).exec('CREATE TABLE x (y)').close(), 'is a database of another program.'],
    [
      'newer',
      (file) => {
        const db = new SQLite(file);
        db.pragma('user_version = 9999');
        db.exec('CREATE TABLE x (y)').close();
      },
      'was written by a newer version of Red Ember (schema 9999',
    ],
    ['a folder', (file) => mkdirSync(file), 'cannot be opened'],
  ];
  it.each(cases)('%s is named in a sentence, with the newest good copy', async (_what, write, sentence) => {
    const data = folder();
    const db = openDatabase(data);
    db.close();
    const copy = join(data, 'backups', 'by-hand.sqlite');
    await backUp(data, copy);
    writeFileSync(join(data, 'backups', 'torn.sqlite'), 'half');
    for (const name of readdirSync(data).filter((entry) => entry.startsWith('bench.sqlite'))) rmSync(join(data, name));
    const file = join(data, 'bench.sqlite');
    write(file);
    expect(() => openDatabase(data)).toThrow(DataProblem);
    expect(() => openDatabase(data)).toThrow(`${file} ${sentence}`);
    expect(() => openDatabase(data)).toThrow(`The newest good copy is ${copy} (0 studies): npm run restore -- ${copy}`);
  });

  it('says so where there is no copy', () => {
    const data = folder();
    writeFileSync(join(data, 'bench.sqlite'), '');
    expect(() => openDatabase(data)).toThrow('No good copy of it was found');
  });

  it('ends the server with the sentence and no trace of the program', async () => {
    const data = folder();
    writeFileSync(join(data, 'bench.sqlite'), 'nothing of the kind, and long enough to look like something '.repeat(3));
    const ended = await served(data, 4613);
    expect(ended).toMatchObject({ code: 78 });
    expect(ended!.said.trim().split('\n')).toHaveLength(1);
    expect(ended!.said).toContain('is not a database. No good copy');
  }, 60_000);
});

describe('the copy of every day', () => {
  it('is made once a day, whole or not at all, and seven are kept', async () => {
    const data = folder();
    const db = openDatabase(data);
    let today = new Date('2026-03-01T10:00:00Z');
    const said: string[] = [];
    const daily = new DailyCopy(
      db,
      data,
      (text) => said.push(text),
      () => today,
    );
    for (let day = 1; day <= 9; day++) {
      today = new Date(`2026-03-0${day}T10:00:00Z`);
      await daily.look();
      await daily.look();
    }
    expect(readdirSync(join(data, 'backups')).sort()).toEqual([3, 4, 5, 6, 7, 8, 9].map((day) => `daily-2026-03-0${day}.sqlite`));
    expect(said).toHaveLength(9);
    expect(newestGoodCopy(data)!.file).toContain('daily-2026-03-0');
    await daily.close();
    db.close();
  });

  it('that fails is said, and ends nothing', async () => {
    const data = folder();
    const db = openDatabase(data);
    writeFileSync(join(data, 'backups'), 'a file where the folder should be');
    const said: string[] = [];
    const daily = new DailyCopy(db, data, (text) => said.push(text));
    await daily.look();
    expect(said[0]).toContain('The copy of today could not be made');
    await daily.close();
    db.close();
  });

  it('is there after a bench has been started, and holds its studies', async () => {
    const data = folder();
    const bench = await testBench(data);
    await bench.call('POST', '/api/v1/studies', blankStudy('Kept'));
    await expect
      .poll(() => existsSync(join(data, 'backups')) && readdirSync(join(data, 'backups')).filter((name) => name.endsWith('.sqlite')).length)
      .toBe(1);
    await bench.close();
  });
});
