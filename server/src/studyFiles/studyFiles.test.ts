import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { parquetReadObjects } from 'hyparquet';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parse } from 'csv-parse/sync';
import type { StudyReadIn } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { openScratch } from '../database/open.ts';
import { listMigrations } from '../database/migrate.ts';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';
import { eachStudyFile } from './benchFile.ts';
import { OF_A_STUDY, OF_THE_BENCH } from './store.ts';

let here: TestBench;
let there: TestBench;
let studyId: string;
let file: Buffer;

beforeAll(async () => {
  here = await testBench();
  there = await testBench();
  const body = studyBody({ title: 'Lid or bare <b>?</b>' });
  studyId = (await here.call('POST', '/api/v1/studies', body)).json.id;
  for (const [day, variantId, top] of [
    [10, 'v-bare', 30],
    [11, 'v-lid', 24],
    [12, 'v-lid', 24.2],
    [13, 'v-bare', 30.1],
  ] as const)
    madeRun(here, studyId, variantId, `2026-03-${day}T08:00:00Z`, { top: [top, top + 8] });
  const [first] = (await here.call('GET', `/api/v1/studies/${studyId}/runs`)).json;
  await here.call('PUT', `/api/v1/runs/${first.id}/windows/1`, { phase: 1, startS: 700, endS: 900 });
  await here.call('POST', `/api/v1/studies/${studyId}/mounts`, {
    variantId: 'v-lid',
    confirmed: cautionsFor('drive').map(({ key }) => key),
    note: 'second',
  });
  file = await fileOf(here, studyId);
}, 60_000);
afterAll(async () => {
  await here.remove();
  await there.remove();
});

async function fileOf(bench: TestBench, id: string): Promise<Buffer> {
  const response = await fetch(`http://127.0.0.1:${bench.port}/api/v1/studies/${id}/study.zip`);
  expect(response.status).toBe(200);
  expect(response.headers.get('content-type')).toBe('application/zip');
  return Buffer.from(await response.arrayBuffer());
}

async function put(bench: TestBench, content: Uint8Array, name = 'study.zip') {
  const form = new FormData();
  form.append('studyFile', new Blob([new Uint8Array(content)]), name);
  return bench.call('POST', '/api/v1/study-files', form);
}

/** The same file with something in it changed, and what describes it put right where that is asked for. */
function changed(path: string, change: (content: Uint8Array) => Uint8Array, described = true): Uint8Array {
  const parts = unzipSync(file);
  parts[path] = new Uint8Array(change(parts[path]!));
  const description = JSON.parse(strFromU8(parts['datapackage.json']!));
  for (const resource of description.resources)
    if (described) resource.hash = `sha256:${createHash('sha256').update(parts[resource.path]!).digest('hex')}`;
  parts['datapackage.json'] = strToU8(JSON.stringify(description));
  return zipSync(parts);
}

/** The same file with its database changed by SQL. */
function withSql(sql: string): Uint8Array {
  return changed('study.sqlite', (content) => {
    const path = join(here.folder, `changed-${createHash('sha256').update(sql).digest('hex').slice(0, 12)}.sqlite`);
    writeFileSync(path, content);
    const db = new SQLite(path);
    db.exec(sql);
    db.close();
    return readFileSync(path);
  });
}

const studiesOn = async (bench: TestBench): Promise<number> => (await bench.call('GET', '/api/v1/studies')).json.length;

describe('a study file', () => {
  it('holds everything in open formats, each described with its length and hash', async () => {
    const parts = unzipSync(file);
    const description = JSON.parse(strFromU8(parts['datapackage.json']!));
    expect(description).toMatchObject({ profile: 'data-package', title: 'Lid or bare <b>?</b>' });
    const paths: string[] = description.resources.map(({ path }: { path: string }) => path);
    expect([...paths, 'datapackage.json'].sort()).toEqual(Object.keys(parts).sort());
    for (const { path, bytes, hash } of description.resources) {
      expect([path, bytes]).toEqual([path, parts[path]!.length]);
      expect(hash).toBe(`sha256:${createHash('sha256').update(parts[path]!).digest('hex')}`);
    }
    expect(paths).toEqual(expect.arrayContaining(['study.json', 'report.html', 'verdict.json', 'samples/run-4.csv', 'samples/run-4.parquet', 'study.sqlite'])); // prettier-ignore
    expect(strFromU8(parts['report.html']!)).not.toContain('<b>?</b>');
  });

  it('holds the same samples as text and as columns', async () => {
    const parts = unzipSync(file);
    const rows = parse(strFromU8(parts['samples/run-2.csv']!), { columns: true, comment: '#', bom: true }) as Record<string, string>[];
    const table = await parquetReadObjects({ file: new Uint8Array(parts['samples/run-2.parquet']!).buffer });
    expect(table.length).toBe(rows.length);
    const { fields } = JSON.parse(strFromU8(parts['datapackage.json']!)).resources.find(({ path }: { path: string }) => path === 'samples/run-2.csv').schema; // prettier-ignore
    expect(fields.map(({ name }: { name: string }) => name)).toEqual(Object.keys(rows[0]!));
    for (const i of [0, 700, rows.length - 1])
      for (const [name, value] of Object.entries(table[i]!)) expect(value === null ? '' : String(value)).toBe(rows[i]![name]);
  });

  it('knows of every table whether it belongs to a study', () => {
    const db = openScratch();
    const tables = (
      db.prepare("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'").all() as { name: string }[]
    ).map(({ name }) => name);
    db.close();
    expect([...OF_A_STUDY, ...OF_THE_BENCH].sort()).toEqual(tables.sort());
  });
});

describe('read in on another bench', () => {
  let answer: StudyReadIn;
  beforeAll(async () => {
    const { status, json } = await put(there, file);
    expect([status, json.detail]).toEqual([201, undefined]);
    answer = json;
  });

  it('is the same study with the same verdict, under ids of its own', async () => {
    expect(answer).toMatchObject({ title: 'Lid or bare <b>?</b>', runs: 4, sameMethod: true, moved: [], alreadyHere: null });
    expect(answer.compared).toBeGreaterThan(0);
    const [mine, theirs] = [
      await here.call('GET', `/api/v1/studies/${studyId}`),
      await there.call('GET', `/api/v1/studies/${answer.studyId}`),
    ];
    expect(theirs.json.id).not.toBe(studyId);
    expect(theirs.json.spots.map(({ name }: { name: string }) => name)).toEqual(mine.json.spots.map(({ name }: { name: string }) => name));
    const verdicts = await Promise.all([
      here.call('GET', `/api/v1/studies/${studyId}/verdict`),
      there.call('GET', `/api/v1/studies/${answer.studyId}/verdict`),
    ]);
    const [p, q] = verdicts.map(({ json }) => json.judgement.spots.map(({ comparison }: any) => comparison.difference));
    expect(q).toEqual(p);
    expect(p.length).toBe(answer.compared);
    const runs = (await there.call('GET', `/api/v1/studies/${answer.studyId}/runs`)).json;
    expect(runs.map(({ windows }: any) => windows.length)).toEqual([1, 0, 0, 0]);
    expect((await there.call('GET', `/api/v1/studies/${answer.studyId}/mounts`)).json).toHaveLength(1);
  });

  it('names nothing by an id of the bench that it came from', () => {
    const theirs = new SQLite(join(here.folder, 'bench.sqlite'), { readonly: true });
    const ids = (['study', 'run', 'mount'] as const).flatMap(
      (table) => theirs.prepare(`SELECT id FROM ${table}`).all() as { id: string }[],
    );
    theirs.close();
    const db = new SQLite(join(there.folder, 'bench.sqlite'), { readonly: true });
    for (const table of OF_A_STUDY)
      for (const row of db.prepare(`SELECT * FROM ${table}`).all() as Record<string, unknown>[])
        for (const [column, value] of Object.entries(row))
          if (typeof value === 'string')
            for (const { id } of ids) expect([table, column, value.includes(id)]).toEqual([table, column, false]);
    const spots = new Set((db.prepare('SELECT id FROM spot').all() as { id: string }[]).map(({ id }) => id));
    const [{ claims }] = db.prepare('SELECT claims FROM study').all() as [{ claims: string }];
    for (const { spotId } of JSON.parse(claims) as { spotId: string | null }[]) expect(spotId === null || spots.has(spotId)).toBe(true);
    db.close();
  });

  it('a second time is a study of its own, and says that the first is here', async () => {
    const alone = (await here.call('GET', `/api/v1/studies/${studyId}/scatter`)).json;
    const again = (await put(here, file)).json as StudyReadIn;
    expect(again.alreadyHere).toBe('Lid or bare <b>?</b>');
    // The same runs twice are not twice as much of a bench's history.
    expect(again.moved).toEqual([]);
    const third = (await put(here, file)).json as StudyReadIn;
    expect(third.moved).toEqual([]);
    expect((await here.call('GET', `/api/v1/studies/${studyId}/scatter`)).json).toEqual(alone);
    await here.call('DELETE', `/api/v1/studies/${third.studyId}`);
    expect(again.studyId).not.toBe(studyId);
    expect((await here.call('GET', `/api/v1/studies/${studyId}/runs`)).json).toHaveLength(4);
    await here.call('DELETE', `/api/v1/studies/${again.studyId}`);
  });

  it('says where it comes to something else than the bench that wrote it', async () => {
    const other = changed('verdict.json', (content) => strToU8(strFromU8(content).replace(/"says": "([^"]*)"/, '"says": "nothing"')));
    const { json } = await put(there, other);
    expect(json.moved).toHaveLength(1);
    expect(json.moved[0].before).toBe('nothing');
    expect(json.moved[0].after).toMatch(/K/);
  });
});

describe('a file that cannot be read in leaves nothing behind', () => {
  const none = async (content: Uint8Array, sentence: RegExp) => {
    const before = await studiesOn(there);
    const { status, json } = await put(there, content);
    expect(json.detail).toMatch(sentence);
    expect(status).toBe(422);
    expect(await studiesOn(there)).toBe(before);
    expect(readdirSync(join(there.folder, 'study-files'))).toEqual([]);
  };

  it('no zip, a cut one, one of logs', async () => {
    await none(strToU8('time,tc1\n0,20\n'), /damaged or cut short/);
    await none(file.subarray(0, file.length / 2), /damaged or cut short/);
    await none(zipSync({ 'log.csv': strToU8('time,tc1\n0,20\n') }), /no study of Red Ember.*unpack it/);
    await none(new Uint8Array(0), /damaged or cut short/);
  });

  it('changed since it was written', async () => {
    await none(
      changed('study.sqlite', (content) => content.map((byte, i) => (i === 5000 ? byte ^ 1 : byte)), false),
      /was changed/,
    );
    await none(
      changed('verdict.json', () => strToU8('{}'), false),
      /was changed/,
    );
    await none(
      changed('verdict.json', () => strToU8('[')),
      /verdict.json cannot be read/,
    );
    await none(
      changed('study.sqlite', () => strToU8('no database')),
      /not a database/,
    );
  });

  it('of a newer version, with more than tables, or with rows that do not fit', async () => {
    await none(withSql(`PRAGMA user_version = ${listMigrations().at(-1)!.version + 1}`), /newer version/);
    await none(withSql('CREATE TRIGGER t AFTER INSERT ON run BEGIN DELETE FROM study; END'), /views or triggers/);
    await none(withSql('CREATE VIEW v AS SELECT 1'), /views or triggers/);
    await none(withSql("UPDATE study SET subjects = '{'"), /does not fit together/);
    await none(withSql("UPDATE spot SET limit_c = 'x' WHERE 0; UPDATE study SET title = ''"), /cannot be kept/);
    await none(withSql('PRAGMA foreign_keys = OFF; DELETE FROM variant'), /damaged|cannot be kept|fit together/);
    await none(withSql('DELETE FROM study WHERE 1; SELECT 1'), /one study/);
    await none(withSql('ALTER TABLE run DROP COLUMN made_as'), /damaged|read/);
  });
});

it('runs that go on stay behind', async () => {
  const id = (await here.call('POST', `/api/v1/studies/${studyId}/copy`, { title: 'Two' })).json.id as string;
  const ran = madeRun(here, id, (await here.call('GET', `/api/v1/studies/${id}`)).json.variants[0].id, '2026-03-20T08:00:00Z', {
    top: [30, 40],
  });
  here.services.stores.runs.setState(ran, 'recording', null, '');
  const parts = unzipSync(await fileOf(here, id));
  expect(Object.keys(parts).filter((path) => path.startsWith('samples/'))).toEqual([]);
  here.services.stores.runs.setState(ran, 'finished', '2026-03-20T09:00:00Z', '');
});

it('a whole bench is one file of study files, which another reads in one by one', async () => {
  const other = (await here.call('POST', `/api/v1/studies/${studyId}/copy`, { title: 'Lid or bare <b>?</b>' })).json;
  const gone = (await here.call('POST', `/api/v1/studies/${studyId}/copy`, { title: 'Gone' })).json;
  await here.call('DELETE', `/api/v1/studies/${gone.id}`);
  const response = await fetch(`http://127.0.0.1:${here.port}/api/v1/bench.zip`);
  expect(response.status).toBe(200);
  const bytes = Buffer.from(await response.arrayBuffer());
  const members = unzipSync(bytes);
  const { studies } = JSON.parse(strFromU8(members['bench.json']!)) as { studies: { title: string; file: string }[] };
  // Two of one title have files of their own.
  expect(new Set(studies.map((study) => study.file.toLowerCase())).size).toBe(studies.length);
  expect(Object.keys(members).sort()).toEqual(['bench.json', ...studies.map((study) => study.file)].sort());
  expect(studies.map(({ title }) => title)).not.toContain('Gone');
  const folder = mkdtempSync(join(tmpdir(), 'red-ember-bench-file-'));
  const path = join(folder, 'bench.zip');
  try {
    writeFileSync(path, bytes);
    const came: StudyReadIn[] = [];
    const count = await eachStudyFile(path, folder, async (one) => {
      came.push((await put(there, readFileSync(one))).json);
      // One lies there at a time.
      expect(readdirSync(folder)).toHaveLength(2);
    });
    expect(count).toBe(studies.length);
    expect(came.find(({ title }) => title === 'Lid or bare <b>?</b>')).toMatchObject({ moved: [] });
    expect(readdirSync(folder)).toEqual(['bench.zip']);
    // One that stops in the middle is refused where it stops.
    writeFileSync(path, bytes.subarray(0, bytes.length - 200));
    await expect(eachStudyFile(path, folder, async () => {})).rejects.toThrow('damaged or cut short');
    writeFileSync(path, file);
    expect(await eachStudyFile(path, folder, async () => {})).toBeNull();
  } finally {
    rmSync(folder, { recursive: true, force: true });
    await here.call('DELETE', `/api/v1/studies/${other.id}`);
  }
});

it('a study that nobody knows has no file', async () => {
  expect((await here.call('GET', '/api/v1/studies/nothing/study.zip')).status).toBe(404);
});
