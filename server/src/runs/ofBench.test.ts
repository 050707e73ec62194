import { afterAll, beforeAll, expect, it } from 'vitest';
import type { RunOfBench } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());
const all = async () => (await bench.call('GET', '/api/v1/runs')).json as RunOfBench[];

it('are the runs of every study on the shelf, the newest first, with part and variant by name', async () => {
  expect(await all()).toEqual([]);
  const first = (await bench.call('POST', '/api/v1/studies', studyBody({ title: 'First' }))).json;
  const second = (await bench.call('POST', `/api/v1/studies/${first.id}/copy`, { title: 'Second' })).json;
  const old = madeRun(bench, first.id, first.variants[0].id, '2026-03-01T08:00:00Z', { top: [30, 40] });
  const young = madeRun(bench, second.id, second.variants[1].id, '2026-03-05T08:00:00Z', { top: [30, 40] });
  expect(await all()).toMatchObject([
    { id: young, number: 1, studyTitle: 'Second', variant: second.variants[1].name, part: second.subjects[0].name, lengthS: 3000 },
    { id: old, number: 1, studyTitle: 'First', variant: first.variants[0].name, mountNumber: null, state: 'finished' },
  ]);
  await bench.call('DELETE', `/api/v1/studies/${second.id}`);
  expect((await all()).map(({ id }) => id)).toEqual([old]);
});

it('carry the tags that somebody gave them, each once, and are found by them', async () => {
  const [run] = await all();
  const put = (tags: unknown) => bench.call('PUT', `/api/v1/runs/${run!.id}/tags`, { tags });
  expect((await put(' night shift,door open, Night shift ,')).json.tags).toBe('night shift, door open');
  expect((await all())[0]!.tags).toBe('night shift, door open');
  expect((await bench.call('GET', '/api/v1/search?q=door%20open')).json.hits).toMatchObject([{ kind: 'run', id: run!.id }]);
  expect([(await put('x'.repeat(121))).status, (await put(7)).status]).toEqual([422, 422]);
  expect((await put('')).json.tags).toBe('');
  expect((await bench.call('PUT', '/api/v1/runs/nobody/tags', { tags: 'x' })).status).toBe(404);
});
