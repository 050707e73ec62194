import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let studyId: string;
beforeAll(async () => {
  bench = await testBench();
  studyId = (await bench.call('POST', '/api/v1/studies', studyBody())).json.id;
});
afterAll(() => bench.remove());

const picture = (text: string, change: object = {}) =>
  bench.call('POST', `/api/v1/studies/${studyId}/surveys`, { name: 'Bare', subjectId: 'part-1', face: 'top', unit: 'C', text, ...change });
const saidOf = ({
  id: _i,
  studyId: _s,
  version: _v,
  createdAt: _c,
  rows: _r,
  columns: _k,
  deletedAt: _d,
  matrix: _m,
  ...said
}: Record<string, unknown>) => said;

describe('camera pictures', () => {
  it('come back as they were indicated, in °C, with gaps as gaps', async () => {
    const made = await picture('86,95\nNaN,104', { unit: 'F' });
    expect(made.status).toBe(201);
    expect(made.json.matrix).toEqual([
      [30, 35],
      [null, 40],
    ]);
    expect((await bench.call('GET', `/api/v1/surveys/${made.json.id}`)).json).toMatchObject({ rows: 2, columns: 2, version: 1 });
  });

  it('take a picture of a large camera', async () => {
    const line = Array.from({ length: 640 }, (_, c) => (30 + c / 50).toFixed(2)).join(',');
    const made = await picture(Array.from({ length: 480 }, () => line).join('\n'));
    expect(made.status).toBe(201);
    expect(made.json.matrix[479][639]).toBeCloseTo(42.78, 2);
  }, 20_000);

  it.each([
    ['ragged rows', '30,31\n32', 'Line 2 has 1 values'],
    ['words', '30,31\nwarm,33\n1,2', '“warm” is not a temperature'],
    ['nothing', '', 'empty'],
  ])('refuse %s and keep nothing', async (_what, text, sentence) => {
    const before = (await bench.call('GET', `/api/v1/studies/${studyId}/surveys`)).json.length;
    const answer = await picture(text);
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toContain('Bare was not read.');
    expect(answer.json.detail).toContain(sentence);
    expect((await bench.call('GET', `/api/v1/studies/${studyId}/surveys`)).json).toHaveLength(before);
  });

  it('keep what is said about them under a version, and refuse regions outside', async () => {
    const made = (await picture('30,31\n32,33')).json;
    const region = { name: 'ring', fromRow: 0, toRow: 1, fromColumn: 1, toColumn: 1, emissivity: 0.2, reflectedC: null };
    const put = (body: object, version: number) => bench.call('PUT', `/api/v1/surveys/${made.id}`, body, { 'if-match': `"${version}"` });
    expect((await put({ ...saidOf(made), regions: [region] }, 1)).json).toMatchObject({ version: 2, regions: [{ name: 'ring' }] });
    expect((await put({ ...saidOf(made), regions: [] }, 1)).status).toBe(412);
    expect((await put({ ...saidOf(made), regions: [{ ...region, toRow: 2 }] }, 2)).json.detail).toContain('reaches outside');
    expect((await put({ ...saidOf(made), regions: [{ ...region, emissivity: 0 }] }, 2)).status).toBe(422);
  });

  it('go to the trash and come back', async () => {
    const { id } = (await picture('30,31\n32,33')).json;
    expect((await bench.call('DELETE', `/api/v1/surveys/${id}`)).status).toBe(204);
    expect((await bench.call('GET', `/api/v1/surveys/${id}`)).status).toBe(404);
    expect((await bench.call('POST', `/api/v1/surveys/${id}/restore`)).json.id).toBe(id);
    expect((await picture('30,31\n32,33', { subjectId: 'gone' })).status).toBe(404);
  });
});

describe('the limits library', () => {
  it('ships with a value and a source for every class, and keeps what is changed', async () => {
    const shipped = (await bench.call('GET', '/api/v1/limits')).json as {
      componentClass: string;
      neverExceedSource: string;
      version: number;
    }[];
    expect(shipped.every((limit) => limit.neverExceedSource !== '' && limit.version === 0)).toBe(true);
    const flash = {
      componentClass: 'flash',
      advisoryC: 65,
      advisorySource: 'house rule',
      throttleC: null,
      throttleSource: '',
      neverExceedC: 80,
      neverExceedSource: 'data sheet',
    };
    const put = (body: object, version: number) => bench.call('PUT', '/api/v1/limits', body, { 'if-match': `"${version}"` });
    expect((await put(flash, 0)).json).toMatchObject({ neverExceedC: 80, version: 1 });
    expect((await put(flash, 0)).status).toBe(412);
    expect((await put({ ...flash, advisoryC: 70 }, 1)).json.version).toBe(2);
    expect((await put({ ...flash, throttleC: 90, throttleSource: 'x' }, 2)).json.detail).toContain('lies under the throttling point');
  });
});
