import { afterAll, beforeAll, expect, it } from 'vitest';
import type { LogStudy, StagedLog, StudyHeldBack } from '@red-ember/contract';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

/** A drive under writes; hot from ten minutes on, where it gives a quarter less. */
function log({ hot }: { hot: boolean }): string {
  const rows = Array.from({ length: 2100 }, (_, s) => {
    const load = s >= 300;
    const slow = hot && s >= 1500;
    const controller = load ? (hot ? 90 - 55 * Math.exp(-(s - 300) / 250) : 55 - 20 * Math.exp(-(s - 300) / 250)) : 35;
    const wobble = 15 * Math.sin(s / 7);
    return [s, controller, 22, load ? (slow ? 4500 : 6000) + wobble : 0, load ? 7 : 2, load ? 96 : 90].map((v) => v.toFixed(2)).join(',');
  });
  return ['time s,Controller C,Room C,MB/s,Power W,Wall W', ...rows].join('\n');
}

it('shares the load of every run out by what held it, against the best that was kept up', async () => {
  const ids: string[] = [];
  for (const [name, content] of [
    ['Thistle 4T bare.csv', log({ hot: true })],
    ['Thistle 4T lid.csv', log({ hot: false })],
  ] as const) {
    const form = new FormData();
    form.append('log', new Blob([content]), name);
    ids.push(((await bench.call('POST', '/api/v1/logs', form)).json as StagedLog).id);
  }
  const made = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })) });
  expect(made.status, made.text).toBe(201);
  const { study } = made.json as LogStudy;
  const answer = (await bench.call('GET', `/api/v1/studies/${study.id}/held-back`)).json as StudyHeldBack;
  const of = (name: string) =>
    answer.runs.find(({ variantId }) => study.variants.find((variant) => variant.name === name)!.id === variantId)!;
  expect(of('lid')).toMatchObject({ by: [], free: 1, of: 'performance', cloudOf: 'performance', wallW: expect.closeTo(96, 6) });
  const { by, free, workMean, cloud, powerW } = of('bare');
  expect(by).toEqual([{ limiter: 'thermal', share: expect.closeTo(600 / 1800, 1) }]);
  expect(free).toBeCloseTo(1200 / 1800, 1);
  expect(workMean).toBeCloseTo(5500, -2);
  expect(powerW).toBeCloseTo(7, 1);
  expect(answer.best!.value).toBeCloseTo(6000, -2);
  expect(cloud.length).toBeGreaterThan(100);
  expect(Math.max(...cloud.map(({ x }) => x))).toBeCloseTo(90, 0);
  expect((await bench.call('GET', '/api/v1/studies/nobody/held-back')).status).toBe(404);
});
