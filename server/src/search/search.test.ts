import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SearchHit, SearchHits, Study } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let studyId: string;
let runId: string;

beforeAll(async () => {
  bench = await testBench();
  const body = studyBody({
    title: 'Müller’s lid',
    question: 'Does the lid help?',
    subjects: [{ id: 'part-1', name: 'Thistle 4T', details: 'Scratch drive', serial: 'T4-77', drive: null, map: null }],
    locks: [{ name: 'Firmware', value: 'LH-2.4', unit: '', tolerance: null, channel: '', overrides: [] }],
  });
  studyId = (await bench.call('POST', '/api/v1/studies', body)).json.id;
  runId = madeRun(bench, studyId, 'v-lid', '2026-03-01T08:00:00Z', { top: [30, 40] });
  await bench.call('POST', `/api/v1/runs/${runId}/noted`, { kind: 'note', text: 'Window open: 100 % draught', atS: 60 });
  const confirmed = cautionsFor('drive').map(({ key }) => key);
  await bench.call('POST', `/api/v1/studies/${studyId}/mounts`, {
    variantId: 'v-lid',
    confirmed,
    note: 'pads of the second box',
    serial: 'T4-77',
  });
  await bench.call('POST', '/api/v1/instruments', {
    name: 'Pale logger',
    kind: 'thermocouple logger',
    serial: 'PL-9',
    notes: 'lent out in May',
    channels: [{ id: 'ch-1', name: 'TC 1', quantity: 'temperature', percentOfReading: 0, fixed: 0.5, thermocouple: null, resolution: 0.1, lagS: 2, drift: 0, place: '' }], // prettier-ignore
  });
});
afterAll(() => bench.remove());

const find = async (q: string): Promise<SearchHits> => (await bench.call('GET', `/api/v1/search?q=${encodeURIComponent(q)}`)).json;
const kinds = async (q: string) => (await find(q)).hits.map(({ kind, title }: SearchHit) => `${kind}: ${title}`);

describe('a search', () => {
  it('finds what was written down anywhere, whatever it is', async () => {
    expect(await kinds('scratch drive')).toEqual(['part: Thistle 4T']);
    expect(await kinds('t4-77')).toEqual(['part: Thistle 4T', expect.stringMatching(/^mount: Mount 1 of /)]);
    expect(await kinds('lh-2.4')).toEqual(['setting: Firmware']);
    expect(await kinds('second box')).toEqual([expect.stringMatching(/^mount: Mount 1 of /)]);
    expect(await kinds('draught')).toEqual([expect.stringMatching(/^note: Run 1, /)]);
    expect(await kinds('may pl-9')).toEqual(['instrument: Pale logger']);
    expect(await kinds('does help')).toEqual(['study: Müller’s lid']);
    const [note] = (await find('draught')).hits;
    expect(note).toMatchObject({ id: runId, studyId, studyTitle: 'Müller’s lid', text: 'Window open: 100 % draught' });
  });

  it('minds neither case nor marks, nor the order of words', async () => {
    expect(await kinds('LID mUller')).toContain('study: Müller’s lid');
    expect(await kinds('mueller')).toEqual([]);
  });

  it('takes every word, in the thing itself or in the title of its study', async () => {
    expect(await kinds('muller firmware')).toEqual(['setting: Firmware']);
    expect(await kinds('firmware thistle')).toEqual([]);
    // The title of a study alone finds the study, and not everything in it.
    expect(await kinds('muller')).toEqual(['study: Müller’s lid']);
  });

  it('takes signs of a pattern for what they are', async () => {
    expect(await kinds('100 %')).toEqual([expect.stringMatching(/^note: /)]);
    expect(await kinds('%')).toEqual([expect.stringMatching(/^note: /)]);
    expect(await kinds('_')).toEqual([]);
    expect(await kinds("' OR 1=1 --")).toEqual([]);
  });

  it('for nothing finds nothing, and says where there is more', async () => {
    expect(await find('  ')).toEqual({ words: [], hits: [], more: [] });
    for (let i = 0; i < 33; i++)
      await bench.call('POST', `/api/v1/runs/${runId}/noted`, { kind: 'note', text: `fan squeals ${i}`, atS: 100 + i });
    const { hits, more } = await find('squeals');
    expect(hits).toHaveLength(30);
    expect(more).toEqual(['note']);
  });

  it('leaves the trash and practice alone', async () => {
    const copy = (await bench.call('POST', `/api/v1/studies/${studyId}/copy`, { title: 'Gone tomorrow' })).json as Study;
    expect(await kinds('tomorrow')).toEqual(['study: Gone tomorrow']);
    await bench.call('DELETE', `/api/v1/studies/${copy.id}`);
    expect(await kinds('tomorrow')).toEqual([]);
    await bench.call('POST', '/api/v1/practice', { exercise: 'cover', seed: 1 });
    expect(await kinds('hurry')).toEqual([]);
  });
});
