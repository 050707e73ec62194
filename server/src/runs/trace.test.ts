import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Study, Trace } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { openDatabase } from '../database/open.ts';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let study: Study;
let db: ReturnType<typeof openDatabase>;
beforeAll(async () => {
  bench = await testBench();
  db = openDatabase(bench.folder);
  study = (await bench.call('POST', '/api/v1/studies', studyBody())).json as Study;
});
afterAll(async () => {
  db.close();
  await bench.remove();
});

const made = (goesOnAtS?: number) =>
  madeRun(bench, study.id, study.variants[0]!.id, '2026-03-01T10:00:00Z', { top: [30, 40], ...(goesOnAtS ? { goesOnAtS } : {}) });
const traceOf = async (runId: string, query = '') => {
  const { series } = (await bench.call('GET', `/api/v1/runs/${runId}/trace${query}`)).json as Trace;
  return series.find(({ key }) => key === 'tc1')!;
};
const keptRows = (runId: string) =>
  db.prepare('SELECT made_of AS madeOf FROM overview WHERE run_id = ?').all(runId) as { madeOf: string }[];

describe('a trace for drawing', () => {
  it('of a stretch is that stretch, every sample where there are few, with one beyond each edge', async () => {
    const id = made();
    // A sample every two seconds.
    expect((await traceOf(id, '?from=1000&to=1010&points=600')).t).toEqual([998, 1000, 1002, 1004, 1006, 1008, 1010]);
    const fine = await traceOf(id, '?from=1000&to=1600&points=600');
    expect(fine.t[0]).toBe(998);
    expect(fine.t.at(-1)).toBe(1600);
    expect(fine.t).toHaveLength(302);
    expect((await traceOf(id, '?from=9000&to=9100')).t.length).toBeLessThanOrEqual(1);
  });

  it('of a whole run that has ended is kept, and is what it was', async () => {
    const id = made();
    const first = await traceOf(id);
    expect(keptRows(id).length).toBeGreaterThan(1);
    expect(await traceOf(id)).toEqual(first);
    // It is taken from there: what stands there is what is shown.
    db.prepare("UPDATE overview SET y = zeroblob(length(y)) WHERE run_id = ? AND key = 'tc1'").run(id);
    expect(new Set((await traceOf(id)).y)).toEqual(new Set([0]));
    // Another number of points, or numbers read in another unit, are another drawing.
    expect((await traceOf(id, '?points=100')).t.length).toBeLessThan(first.t.length);
    expect(await traceOf(id)).toEqual(first);
    db.prepare("UPDATE run_channel SET read_as = 'fahrenheit' WHERE run_id = ? AND key = 'tc1'").run(id);
    expect((await traceOf(id)).y.at(-1)).toBeCloseTo((first.y.at(-1)! - 32) / 1.8, 6);
  });

  it('keeps gaps', async () => {
    const id = made();
    const { samples } = bench.services.stores;
    samples.append(id, 'tc1', [9_000_000, 9_002_000], [40, 41]);
    const gap = async () => (await traceOf(id)).y.findIndex((value) => value === null);
    const fresh = await gap();
    expect(fresh).toBeGreaterThan(0);
    expect(await gap()).toBe(fresh);
  });

  it('of a run that goes on is never kept', async () => {
    const id = made(900);
    await traceOf(id);
    expect(keptRows(id)).toEqual([]);
  });
});
