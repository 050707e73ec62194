import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import type { LogGlance, LogStudy, PairVerdict, StagedLog } from '@red-ember/contract';
import type { Series } from '@red-ember/core';
import { openDatabase } from '../database/open.ts';
import type { Reviewer } from '../readings/beside/reviewer.ts';
import { reviewOf, type ReviewInputs } from '../readings/inputs.ts';
import { createDesk } from '../services.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

const SAMPLES = join(import.meta.dirname, '../../../web/public/samples');
let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());
beforeEach(async () => {
  for (const { id } of (await bench.call('GET', '/api/v1/logs')).json as StagedLog[]) await bench.call('DELETE', `/api/v1/logs/${id}`);
});

async function put(...names: string[]): Promise<string[]> {
  const ids: string[] = [];
  for (const name of names) {
    const form = new FormData();
    form.append('log', new Blob([readFileSync(join(SAMPLES, name))]), name);
    ids.push(((await bench.call('POST', '/api/v1/logs', form)).json as StagedLog).id);
  }
  return ids;
}
const glance = async (ids: string[], said: object = {}) => {
  const answer = await bench.call('POST', '/api/v1/logs/glance', { logs: ids.map((id) => ({ id })), ...said });
  expect(answer.status, answer.text).toBe(200);
  return answer.json as LogGlance;
};

it('says of two logs what the study would say, and makes nothing', async () => {
  const ids = await put('Wren 8 stock paste m1.csv', 'Wren 8 paste L m1.csv');
  const { verdict, title, runs, refused } = await glance(ids);
  expect([runs, refused]).toEqual([2, null]);
  expect(title).toContain('paste L');
  expect((await bench.call('GET', '/api/v1/studies')).json).toEqual([]);
  expect((await bench.call('GET', '/api/v1/logs')).json).toHaveLength(2);
  const made = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })) });
  const { study } = made.json as LogStudy;
  const kept = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json as PairVerdict;
  const figures = ({ judgement }: PairVerdict) => judgement.spots.map(({ comparison, call }) => [call.kind, comparison?.difference.value]);
  expect(figures(verdict!)).toEqual(figures(kept));
  expect(verdict!.sentence).toEqual(kept.sentence);
  await bench.call('DELETE', `/api/v1/studies/${study.id}`);
});

it('names by its file what the verdict leaves out, and why', async () => {
  const ids = await put('Wren 8 stock paste m1.csv', 'Wren 8 paste L m1.csv', 'Wren 8 paste L fans auto.csv');
  const { leftOut, verdict } = await glance(ids);
  expect(leftOut).toEqual([{ fileName: 'Wren 8 paste L fans auto.csv', reason: expect.stringContaining('Fan duty was to be held') }]);
  expect(verdict!.judgement.b.runIds).toHaveLength(1);
});

it('has no verdict of one variant, says why none can be made, and knows what it was put right to', async () => {
  const ids = await put('Wren 8 stock paste m1.csv', 'Wren 8 stock paste m2.csv');
  expect(await glance(ids)).toMatchObject({ runs: 2, verdict: null, refused: null });
  const answer = await bench.call('POST', '/api/v1/logs/glance', { logs: [{ id: ids[0] }, { id: ids[1], variant: 'another' }] });
  expect((answer.json as LogGlance).verdict!.judgement.b.name).toBe('another');
  const none = await bench.call('POST', '/api/v1/logs/glance', { logs: ids.map((id) => ({ id, use: false })) });
  expect((none.json as LogGlance).refused).toContain('None of these logs is to be used');
  expect((await bench.call('POST', '/api/v1/logs/glance', { logs: [{ id: '01a22589-8f39-7208-840e-55c5a52f8ef6' }] })).status).toBe(404);
  expect(readdirSync(join(bench.folder, 'imports')).filter((name) => name.endsWith('.log'))).toHaveLength(2);
});

it('has the runs read beside the desk where somebody is there to read', async () => {
  const ids = await put('Wren 8 stock paste m1.csv', 'Wren 8 paste L m1.csv');
  const alone = await glance(ids);
  const sent: string[][] = [];
  const reviewer = {
    running: true,
    reviewSent: (inputs: ReviewInputs, samplesOf: (key: string) => Series) => {
      sent.push(inputs.channels.map(({ key }) => key));
      return Promise.resolve(reviewOf(inputs, samplesOf));
    },
  } as Partial<Reviewer> as Reviewer;
  const db = openDatabase(bench.folder);
  try {
    const desk = createDesk(db, bench.folder, { reviewer });
    const there = await desk.glances.look({ logs: ids.map((id) => ({ id })) });
    expect(sent).toHaveLength(2);
    expect(sent[0]!.length).toBeGreaterThan(3);
    const figures = ({ verdict }: LogGlance) => verdict!.judgement.spots.map(({ comparison }) => comparison?.difference.value);
    expect(figures(there)).toEqual(figures(alone));
  } finally {
    db.close();
  }
});
