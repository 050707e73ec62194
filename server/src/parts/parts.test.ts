import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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

describe('kept on the bench itself', () => {
  const currency = 'EUR';
  const named = async (name: string) => (await all()).find(({ part: one }) => one.name === name);
  const photograph = async (id: string, content: Uint8Array<ArrayBuffer>, name = 'label.png') => {
    const form = new FormData();
    form.append('photo', new Blob([content], { type: 'image/png' }), name);
    return bench.call('POST', `/api/v1/parts/${id}/photos`, form);
  };
  const png = async () =>
    new Uint8Array(
      await sharp({ create: { width: 12, height: 8, channels: 3, background: '#888' } })
        .png()
        .toBuffer(),
    );

  it('a part stands in the list without a study, is searched, changed by its version, and removed', async () => {
    const { status, json: kept } = await bench.call('POST', '/api/v1/parts', {
      part: part('Spare fan', { kind: 'fan', note: 'drawer 3', quantity: 4, coverId: 'c1' }),
      currency,
    });
    expect([status, kept.version]).toEqual([201, 1]);
    const listed = await named('Spare fan');
    expect(listed).toMatchObject({ studies: [], kept: { id: kept.id, photos: [] } });
    // What one study alone says is not kept.
    expect(listed!.part).not.toHaveProperty('quantity');
    expect((await bench.call('GET', '/api/v1/search?q=drawer%203')).json.hits).toMatchObject([{ kind: 'kept', id: kept.id }]);
    const changed = { part: part('Spare fan', { kind: 'fan', note: 'drawer 4' }), currency };
    const put = (version: number) => bench.call('PUT', `/api/v1/parts/${kept.id}`, changed, { 'if-match': `"${version}"` });
    expect((await put(7)).status).toBe(412);
    expect((await put(1)).json.version).toBe(2);
    expect((await named('Spare fan'))!.part.note).toBe('drawer 4');
    expect((await bench.call('DELETE', `/api/v1/parts/${kept.id}`)).status).toBe(204);
    expect(await named('Spare fan')).toBeUndefined();
    expect((await bench.call('DELETE', `/api/v1/parts/${kept.id}`)).status).toBe(404);
    expect((await put(2)).status).toBe(404);
  });

  it('it is one with the part that a study puts on, says what was written down last, and outlives the study', async () => {
    const study = await made('Uses it', [part('Tall sink', { kind: 'sink', note: 'from the study' })]);
    const { json: kept } = await bench.call('POST', '/api/v1/parts', {
      part: part('tall sink', { kind: 'sink', note: 'from the bench' }),
      currency,
    });
    expect(await named('tall sink')).toMatchObject({
      part: { note: 'from the bench' },
      studies: [{ id: study.id }],
      kept: { id: kept.id },
    });
    expect(await named('Tall sink')).toBeUndefined();
    await bench.call('DELETE', `/api/v1/studies/${study.id}`);
    expect(await named('tall sink')).toMatchObject({ studies: [] });
  });

  it('the same part is not kept twice, and a part without a name not at all', async () => {
    const body = (name: string, serial = '') => ({ part: part(name, { kind: 'cover', serial }), currency });
    const { json: one } = await bench.call('POST', '/api/v1/parts', body('Mesh cover'));
    const { status, json } = await bench.call('POST', '/api/v1/parts', body(' mesh COVER'));
    expect([status, json.errors[0].pointer]).toEqual([409, '/part/name']);
    const { json: two } = await bench.call('POST', '/api/v1/parts', body('Mesh cover', 'M-2'));
    const onto = await bench.call('PUT', `/api/v1/parts/${two.id}`, body('Mesh cover'), { 'if-match': '"1"' });
    expect(onto.status).toBe(409);
    expect((await bench.call('PUT', `/api/v1/parts/${one.id}`, body('Mesh cover'), { 'if-match': '"1"' })).status).toBe(200);
    expect((await bench.call('POST', '/api/v1/parts', body(''))).json.errors).toMatchObject([{ pointer: '/part/name' }]);
    expect((await bench.call('POST', '/api/v1/parts', { currency })).status).toBe(422);
  });

  it('it is photographed; what is no photograph is refused, and the photographs go with it', async () => {
    const { json: kept } = await bench.call('POST', '/api/v1/parts', { part: part('Labelled pad', pad), currency });
    const { status, json: photo } = await photograph(kept.id, await png());
    expect([status, photo]).toMatchObject([201, { name: 'label.png', widthPx: 12, heightPx: 8 }]);
    expect((await named('Labelled pad'))!.kept!.photos).toEqual([photo]);
    const shown = await fetch(`http://127.0.0.1:${bench.port}/api/v1/part-photos/${photo.id}`);
    expect([shown.status, shown.headers.get('content-type')]).toEqual([200, 'image/webp']);
    await shown.arrayBuffer();
    // The photographs of mounts are others.
    expect((await bench.call('GET', `/api/v1/mount-photos/${photo.id}`)).status).toBe(404);
    expect((await photograph(kept.id, new TextEncoder().encode('<svg/>'))).status).toBe(422);
    expect((await photograph('nobody', await png())).status).toBe(404);
    await bench.call('DELETE', `/api/v1/parts/${kept.id}`);
    expect((await bench.call('GET', `/api/v1/part-photos/${photo.id}`)).status).toBe(404);
  });
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
