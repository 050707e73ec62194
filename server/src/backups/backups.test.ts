import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import type { BackupShelf } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

const benches: TestBench[] = [];
async function benchWith(options: Parameters<typeof testBench>[1], ...titles: string[]): Promise<TestBench> {
  const bench = await testBench(undefined, options);
  benches.push(bench);
  for (const title of titles) expect((await add(bench, title)).status).toBe(201);
  return bench;
}
afterEach(async () => {
  for (const bench of benches.splice(0)) await bench.remove();
});

const id = () => Math.random().toString(36).slice(2);
const add = (bench: TestBench, title: string) => {
  const body = studyBody({ title });
  return bench.call('POST', '/api/v1/studies', {
    ...body,
    spots: body.spots.map((spot) => ({ ...spot, id: id() })),
    variants: body.variants.map((variant) => ({ ...variant, id: id() })),
  });
};
const shelf = async (bench: TestBench) => (await bench.call('GET', '/api/v1/backups')).json as BackupShelf;
const titles = async (bench: TestBench) =>
  ((await bench.call('GET', '/api/v1/studies')).json as { title: string }[]).map(({ title }) => title).sort();

/** Asks for a restore and waits, as a page does, until the bench answers with other data. */
async function restored(bench: TestBench, backupId: string): Promise<BackupShelf> {
  const asked = await bench.call('POST', `/api/v1/backups/${backupId}/restore`);
  expect(asked.status, asked.text).toBe(200);
  const { opened } = asked.json as BackupShelf;
  for (let tries = 0; tries < 200; tries++) {
    const now = await shelf(bench).catch(() => null);
    if (now?.opened !== undefined && now.opened !== opened) return now;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error('the bench did not come back');
}

describe.each([
  ['one process', {}],
  ['watch and desk apart', { apart: true }],
])('copies of a bench, %s', (_how, options) => {
  it('are made by hand and brought back, and what a restore replaced can be brought back too', async () => {
    const bench = await benchWith(options, 'Kept');
    const made = await bench.call('POST', '/api/v1/backups');
    expect(made.json).toMatchObject({ kind: 'by-hand', bytes: expect.any(Number) });
    expect(statSync(join(bench.folder, 'backups', made.json.id as string)).mode & 0o077).toBe(0);
    await add(bench, 'Later');
    expect(await titles(bench)).toEqual(['Kept', 'Later']);
    const after = await restored(bench, made.json.id as string);
    expect(after.restored).toMatchObject({ ok: true, sentence: expect.stringContaining('one study') });
    expect(await titles(bench)).toEqual(['Kept']);
    const aside = after.backups.find(({ kind }) => kind === 'set-aside')!;
    await restored(bench, aside.id);
    expect(await titles(bench)).toEqual(['Kept', 'Later']);
    // It is a whole bench again: what is written now stays.
    expect((await add(bench, 'After')).status).toBe(201);
  }, 60_000);
});

describe('a restore', () => {
  it('is refused while a run goes on, and lets rigs come back by themselves afterwards', async () => {
    const bench = await benchWith({});
    const { json: copy } = await bench.call('POST', '/api/v1/backups');
    const rig = await FakeRig.connect(bench.port);
    const { studyId, mountId } = await mounted(bench);
    const run = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 1 });
    const refused = await bench.call('POST', `/api/v1/backups/${copy.id}/restore`);
    expect(refused).toMatchObject({ status: 409, json: { detail: expect.stringContaining('A run goes on') } });
    await bench.call('POST', `/api/v1/runs/${run.json.id}/stop`, { reason: '' });
    await restored(bench, copy.id as string);
    rig.close();
    const again = await FakeRig.connect(bench.port, { run: { runId: run.json.id as string, lastSeq: 3, loadPercent: 100 } });
    // The run is not in what was brought back: whatever load the rig still has is taken off.
    await again.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 0);
    again.close();
  }, 30_000);

  it('of a copy that is damaged, foreign or gone is refused in a sentence, with the bench untouched', async () => {
    const bench = await benchWith({}, 'Mine');
    const { opened } = await shelf(bench);
    mkdirSync(join(bench.folder, 'backups'), { recursive: true });
    writeFileSync(join(bench.folder, 'backups', 'text.sqlite'), 'no database at all, though it has the name of one');
    const { json: good } = await bench.call('POST', '/api/v1/backups');
    const torn = readFileSync(join(bench.folder, 'backups', good.id as string));
    torn.fill(0xa5, 4096, 4096 * 6);
    writeFileSync(join(bench.folder, 'backups', 'torn.sqlite'), torn);
    for (const [name, status, words] of [
      ['text.sqlite', 422, 'not a database'],
      ['torn.sqlite', 422, /damaged|malformed/],
      ['gone.sqlite', 404, 'This copy'],
      ['..%2Fbench.sqlite', 404, 'This copy'],
    ] as const) {
      const answer = await bench.call('POST', `/api/v1/backups/${name}/restore`);
      expect(answer.status, name).toBe(status);
      expect(answer.json.detail).toMatch(words);
    }
    expect((await shelf(bench)).opened).toBe(opened);
    expect(await titles(bench)).toEqual(['Mine']);
    expect(readdirSync(bench.folder).some((name) => name.startsWith('set-aside'))).toBe(false);
  }, 30_000);
});
