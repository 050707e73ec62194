import { afterAll, beforeAll, expect, it } from 'vitest';
import type { MountOfBench, PartOfBench, Study } from '@red-ember/contract';
import { blankPart, cautionsFor, type FittedPartEntry } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
  first = (await bench.call('POST', '/api/v1/studies', studyBody({ title: 'Empty' }))).json.id;
});
afterAll(() => bench.remove());

const part = (name: string, change: Partial<FittedPartEntry> = {}): FittedPartEntry => ({
  ...blankPart(crypto.randomUUID(), name),
  ...change,
});
const pad = { kind: 'pad', pad: { widthMm: 68, heightMm: 20, thickMm: 1 } } as const;
const all = async () => (await bench.call('GET', '/api/v1/parts')).json as PartOfBench[];
const made = async (title: string, parts: FittedPartEntry[]): Promise<Study> => {
  const study = (await bench.call('POST', `/api/v1/studies/${first}/copy`, { title })).json as Study;
  const {
    id: _id,
    version,
    createdAt: _created,
    updatedAt: _updated,
    predictionLockedAt: _locked,
    predictionStamps: _stamps,
    variantsWithRuns: _with,
    ...body
  } = study;
  const { status, json } = await bench.call('PUT', `/api/v1/studies/${study.id}`, { ...body, parts }, { 'if-match': `"${version}"` });
  expect(status, JSON.stringify(json)).toBe(200);
  return json;
};
let first: string;

it('are the parts of every study on the shelf, once, as they were last written down', async () => {
  expect(await all()).toEqual([]);
  const old = await made('First', [part('Pad M', { ...pad, price: 3 }), part('Comb sink', { kind: 'sink', serial: 'CS-1' })]);
  await made('Thick', [part('Pad M', { ...pad, pad: { ...pad.pad, thickMm: 2 } })]);
  const second = await made('Second', [
    part('pad m', { ...pad, price: 4, note: 'new box' }),
    part('Comb sink', { kind: 'sink', serial: 'CS-2' }),
  ]);
  const found = await all();
  expect(found.map(({ part: one }) => [one.kind, one.name, one.pad?.thickMm ?? one.serial])).toEqual([
    ['pad', 'pad m', 1],
    ['pad', 'Pad M', 2],
    ['sink', 'Comb sink', 'CS-2'],
    ['sink', 'Comb sink', 'CS-1'],
  ]);
  expect(found[0]).toMatchObject({
    part: { price: 4, note: 'new box' },
    currency: 'EUR',
    studies: [
      { id: second.id, title: 'Second' },
      { id: old.id, title: 'First' },
    ],
  });
  expect(found[0]!.part).not.toHaveProperty('variantId');
  await bench.call('DELETE', `/api/v1/studies/${second.id}`);
  expect((await all()).map(({ part: one }) => [one.name, one.price])).toEqual([
    ['Pad M', 0],
    ['Pad M', 3],
    ['Comb sink', 0],
  ]);
});

it('and its mounts are listed with what was there before, whether they were run or not', async () => {
  const study = await made('Mounted', []);
  const confirmed = cautionsFor('drive').map(({ key }) => key);
  for (const variant of study.variants.slice(0, 2))
    await bench.call('POST', `/api/v1/studies/${study.id}/mounts`, { variantId: variant.id, confirmed, note: `of ${variant.name}` });
  const mounts = (await bench.call('GET', '/api/v1/mounts')).json as MountOfBench[];
  const [one, two] = study.variants;
  expect(mounts).toMatchObject([
    { studyTitle: 'Mounted', variant: two!.name, from: one!.name, number: 1, runs: 0, photos: 0, note: `of ${two!.name}` },
    { variant: one!.name, from: '', part: study.subjects[0]!.name, handsMin: null },
  ]);
});
