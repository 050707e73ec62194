import { join } from 'node:path';
import SQLite, { type Database } from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { drawable } from '@red-ember/core';
import { studyBody } from '@red-ember/testing';
import { createDesk } from '../../services.ts';
import { madeRun } from '../../tests/madeRun.ts';
import { testBench, type TestBench } from '../../tests/testBench.ts';
import { inputsOf, reviewOf, type ReviewInputs } from '../inputs.ts';
import { readFirst } from './readFirst.ts';
import { ReviewThreads, type Reviewer } from './reviewer.ts';

let bench: TestBench;
let db: Database;
let studyId: string;
const ids: string[] = [];
/** More than are read where they are asked for. */
const MANY = 14;

beforeAll(async () => {
  bench = await testBench();
  db = new SQLite(join(bench.folder, 'bench.sqlite'));
  studyId = (await bench.call('POST', '/api/v1/studies', studyBody())).json.id;
  for (const [i, variantId] of Array.from({ length: MANY }, (_, k) => (k % 2 ? 'v-lid' : 'v-bare')).entries())
    ids.push(madeRun(bench, studyId, variantId, `2026-03-${10 + i}T08:00:00Z`, { top: [30 + i / 10, 40 - i / 10] }));
});
afterAll(async () => {
  db.close();
  await bench.remove();
});

/** Reads here, and writes down what it was asked. */
function watched(fails: (call: number) => boolean = () => false) {
  const { samples } = bench.services.stores;
  const asked: string[] = [];
  let [now, most] = [0, 0];
  const reviewer: Reviewer = {
    async review(runId: string, inputs: ReviewInputs) {
      const call = asked.push(runId);
      now++;
      most = Math.max(most, now);
      await new Promise((done) => setTimeout(done, 5));
      now--;
      if (fails(call)) throw new Error('the thread is gone');
      return reviewOf(inputs, (key) => samples.read(runId, key));
    },
    running: false,
    reviewSent: (inputs, samplesOf) => Promise.resolve(reviewOf(inputs, samplesOf)),
    draw: (runId, keys, points) => Promise.resolve(keys.map((key) => drawable(samples.read(runId, key), points))),
    getReady: () => {},
    close: () => {},
  };
  return { reviewer, asked, most: () => most };
}

const desk = (reviewer: Reviewer) => {
  db.prepare('DELETE FROM review_cache').run();
  return createDesk(db, bench.folder, { reviewer });
};
/** What is still to be read when somebody judges: nothing, where it was read before. */
const readLate = ({ stores }: ReturnType<typeof desk>) => vi.spyOn(stores.samples, 'read');

describe('runs that are read beside', () => {
  it('are read once, few at a time, and nothing is left to whoever judges', async () => {
    const { reviewer, asked, most } = watched();
    const here = desk(reviewer);
    await Promise.all([here.readings.readStudy(studyId), here.readings.readAll()]);
    expect([...asked].sort()).toEqual([...ids].sort());
    expect(most()).toBeGreaterThan(1);
    expect(most()).toBeLessThanOrEqual(4);
    const late = readLate(here);
    expect(here.verdicts.pair(studyId).judgement.a.runIds.length + here.verdicts.pair(studyId).judgement.b.runIds.length).toBe(MANY);
    expect(late).not.toHaveBeenCalled();
    await here.readings.readStudy(studyId);
    expect(asked).toHaveLength(MANY);
  });

  it('say how far they have come, and nothing once they are read', async () => {
    const { reviewer, asked } = watched();
    const { readings } = desk(reviewer);
    expect(readings.beingRead(studyId)).toEqual({ runs: 0, read: 0 });
    const done = readings.readStudy(studyId);
    const seen: number[] = [];
    const end = { reached: false };
    void done.then(() => (end.reached = true));
    while (!end.reached) {
      const { runs, read } = readings.beingRead(studyId);
      if (runs > 0) seen.push(read);
      await new Promise((next) => setTimeout(next, 1));
    }
    expect(asked).toHaveLength(MANY);
    expect(seen).toEqual([...seen].sort((p, q) => p - q));
    expect(seen[0]).toBe(0);
    expect(seen.some((read) => read > 0 && read < MANY)).toBe(true);
    expect(readings.beingRead(studyId)).toEqual({ runs: 0, read: 0 });
  });

  it('are caught up with while nobody waits for a study, and stand back while somebody does', async () => {
    const { reviewer, asked } = watched();
    const { readings } = desk(reviewer);
    const study = readings.readStudy(studyId);
    const all = readings.catchUp();
    await study;
    expect(asked).toHaveLength(MANY);
    await all;
    expect(asked).toHaveLength(MANY);

    const alone = watched();
    await desk(alone.reviewer).readings.catchUp();
    expect([...alone.asked].sort()).toEqual([...ids].sort());
    expect(alone.most()).toBe(1);
  });

  it('are read anew when what they rest on changes, and only then', async () => {
    const { reviewer, asked } = watched();
    const here = desk(reviewer);
    await here.readings.readStudy(studyId);
    asked.length = 0;
    const moved = await bench.call('PUT', `/api/v1/runs/${ids[2]}/windows/1`, { phase: 1, startS: 700, endS: 900 });
    expect(moved.status).toBe(200);
    await here.readings.readStudy(studyId);
    // Whoever changed it may have read it already; nobody else's reading has gone.
    expect(asked.filter((id) => id !== ids[2])).toEqual([]);
    const late = readLate(here);
    here.verdicts.pair(studyId);
    expect(late).not.toHaveBeenCalled();
  });

  it('are given to another thread once more, and left to whoever asks after that', async () => {
    const once = watched((call) => call === 1);
    const first = desk(once.reviewer);
    await first.readings.readAll();
    expect(once.asked).toHaveLength(MANY + 1);
    const none = readLate(first);
    first.verdicts.pair(studyId);
    expect(none).not.toHaveBeenCalled();

    const never = watched(() => true);
    const second = desk(never.reviewer);
    await second.readings.readAll();
    expect(never.asked).toHaveLength(2 * MANY);
    const late = readLate(second);
    expect(second.readings.readings(ids[0]!).runId).toBe(ids[0]);
    expect(late).toHaveBeenCalled();
  });

  it('of other studies are read where their scatter is lent, and only there', async () => {
    const second = (await bench.call('POST', `/api/v1/studies/${studyId}/copy`, { title: 'Another' })).json;
    const there = madeRun(bench, second.id, second.variants[0].id, '2026-03-09T08:00:00Z', { top: [30, 40] });
    const { reviewer, asked } = watched();
    const here = desk(reviewer);
    const read = readLate(here);
    await here.readings.readStudyOfRun(there);
    // One is read sooner here than a thread has started.
    expect(asked).toEqual([]);
    expect(new Set(read.mock.calls.map(([runId]) => runId))).toEqual(new Set([there]));
    await here.readings.readStudy(second.id);
    expect([...asked].sort()).toEqual([...ids].sort());
    await bench.call('DELETE', `/api/v1/studies/${second.id}`);
  });

  it('of nothing, of a run that is gone and of a study that nobody knows are none', async () => {
    const { reviewer, asked } = watched();
    const { readings } = desk(reviewer);
    await readings.readRun('gone');
    await readings.readStudyOfRun('gone');
    await readings.readStudy('nothing');
    expect(asked).toEqual([]);
  });
});

describe('an operation that judges', () => {
  it('has its runs read first, and one that does not is asked at once', async () => {
    const { reviewer, asked } = watched();
    const { readings } = desk(reviewer);
    const order: string[] = [];
    const handlers = readFirst({ verdict: () => void order.push(`judged after ${asked.length}`), study: () => void order.push('study') } as never, readings); // prettier-ignore
    const ask = handlers as Record<'verdict' | 'study', (asked: object) => unknown>;
    await ask.verdict({ params: { id: studyId } });
    expect(order).toEqual(['judged after 14']);
    expect(ask.study({ params: { id: studyId } })).toBeUndefined();
    expect(order).toEqual(['judged after 14', 'study']);
  });
});

it('somebody is got ready to read once logs have been looked at together, and at once for a long one', async () => {
  const { reviewer } = watched();
  const getReady = vi.spyOn(reviewer, 'getReady');
  const handlers = readFirst({ glanceAtLogs: () => 'seen', putLogDown: () => 'put' } as never, desk(reviewer).readings) as never as Record<
    'glanceAtLogs' | 'putLogDown',
    (asked: object) => Promise<unknown>
  >;
  expect(await handlers.putLogDown({ file: { size: 1000 } })).toBe('put');
  expect(getReady).not.toHaveBeenCalled();
  await handlers.putLogDown({ file: { size: 30_000_000 } });
  expect(getReady).toHaveBeenLastCalledWith(true);
  expect(await handlers.glanceAtLogs({})).toBe('seen');
  expect(getReady).toHaveBeenLastCalledWith(false);
});

describe('a long run', () => {
  const long = (reviewer: Reviewer) => {
    db.prepare('DELETE FROM overview').run();
    const here = desk(reviewer);
    vi.spyOn(here.stores.samples, 'countOf').mockReturnValue(900_000);
    return here;
  };
  const whole = (here: ReturnType<typeof desk>) => here.runs.trace(ids[0]!, 0, Infinity, 600);

  it('is drawn once beside, however many ask, and comes out as it would here', async () => {
    const { reviewer } = watched();
    const draw = vi.spyOn(reviewer, 'draw');
    const here = long(reviewer);
    await Promise.all([here.readings.drawRun(ids[0]!, 600), here.readings.drawRun(ids[0]!, 600)]);
    await here.readings.drawRun(ids[0]!, 600);
    expect(draw).toHaveBeenCalledTimes(1);
    const late = readLate(here);
    const drawn = whole(here);
    expect(late).not.toHaveBeenCalled();
    db.prepare('DELETE FROM overview').run();
    expect(drawn).toEqual(whole(bench.services));
  });

  it('whose drawing fails is drawn by whoever asks, and a short one always is', async () => {
    const { reviewer } = watched();
    const draw = vi.spyOn(reviewer, 'draw').mockRejectedValue(new Error('the thread is gone'));
    const here = long(reviewer);
    await here.readings.drawRun(ids[0]!, 600);
    expect(whole(here).series[0]!.t.length).toBeGreaterThan(10);
    db.prepare('DELETE FROM overview').run();
    vi.mocked(here.stores.samples.countOf).mockReturnValue(1000);
    await here.readings.drawRun(ids[0]!, 600);
    expect(draw).toHaveBeenCalledTimes(1);
  });

  it('that is gone again before it could be read is nobody’s trouble', async () => {
    const { reviewer, asked } = watched();
    const here = long(reviewer);
    vi.spyOn(here.runs, 'undrawn').mockImplementation(() => {
      throw new Error('gone');
    });
    vi.spyOn(here.stores.runs, 'find').mockImplementation(() => {
      throw new Error('gone');
    });
    // A promise that fails and that nobody hears of would end the process, and fails this test.
    here.readings.readSoon([ids[0]!]);
    await new Promise((done) => setTimeout(done, 30));
    expect(asked).toEqual([]);
  });

  it('is read and drawn as soon as it is stored; its whole trace waits for that, a stretch of it does not', async () => {
    const { reviewer, asked } = watched();
    const draw = vi.spyOn(reviewer, 'draw');
    const here = long(reviewer);
    const handlers = readFirst({ makeRunOfLog: () => ({ id: ids[0] }), trace: () => 'drawn' } as never, here.readings) as never as Record<
      'makeRunOfLog' | 'trace',
      (asked: object) => Promise<unknown>
    >;
    const undrawn = here.runs.undrawn(ids[0]!, 600);
    expect(undrawn.length).toBeGreaterThan(0);
    expect(await handlers.makeRunOfLog({ params: {} })).toEqual({ id: ids[0] });
    expect(draw).toHaveBeenCalledWith(ids[0], undrawn, 600);
    await vi.waitFor(() => expect(asked).toEqual([ids[0]]));
    expect(await handlers.trace({ params: { id: ids[1] }, query: { from: '10', to: '20' } })).toBe('drawn');
    expect(draw).toHaveBeenCalledTimes(1);
    expect(await handlers.trace({ params: { id: ids[1] }, query: {} })).toBe('drawn');
    expect(draw).toHaveBeenCalledTimes(2);
    await expect(handlers.trace({ params: { id: ids[1] }, query: { points: 'many' } })).rejects.toThrow('points must be a number');
  });
});

it('a thread reads what would be read here', async () => {
  const threads = new ReviewThreads(bench.folder, 2);
  try {
    const beside = desk(threads);
    await beside.readings.readAll();
    const late = readLate(beside);
    const there = ids.map((id) => beside.readings.readings(id).review);
    expect(late).not.toHaveBeenCalled();
    db.prepare('DELETE FROM review_cache').run();
    expect(there).toEqual(ids.map((id) => bench.services.readings.readings(id).review));
    const run = bench.services.runs.get(ids[0]!);
    const inputs = inputsOf(run, bench.services.studies.get(studyId), new Map());
    const sent = await threads.reviewSent(inputs, (key) => bench.services.stores.samples.read(ids[0]!, key), true);
    expect(sent).toEqual(there[0]);
    expect(threads.running).toBe(true);
    // One that has practised reads and draws the same.
    threads.getReady(true);
    const { samples } = bench.services.stores;
    const keys = samples.keys(ids[0]!);
    expect(await threads.draw(ids[0]!, keys, 100)).toEqual(keys.map((key) => drawable(samples.read(ids[0]!, key), 100)));
  } finally {
    threads.close();
  }
  await expect(threads.review(ids[0]!, {} as ReviewInputs)).rejects.toThrow('No more runs');
}, 60_000);
