import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { ImportRunBody, JoinLogBody, Run, StagedLog } from '@red-ember/contract';
import { spot, studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let studyId: string;
beforeEach(async () => {
  bench = await testBench();
  const lock = { name: 'Fan duty', value: '60', unit: '%', tolerance: 2, channel: 'duty', overrides: [] };
  const study = studyBody({ spots: [spot('tc1'), spot('tc2')], locks: [lock] });
  studyId = (await bench.call('POST', '/api/v1/studies', study)).json.id;
});
afterEach(() => bench.remove());

async function stage(text: string, name = 'log.csv'): Promise<StagedLog> {
  const form = new FormData();
  form.append('log', new Blob([text]), name);
  const answer = await bench.call('POST', `/api/v1/studies/${studyId}/logs`, form);
  expect(answer.json.detail).toBeUndefined();
  return answer.json;
}
const lines = (header: string, n: number, cells: (i: number) => string) =>
  `${header}\n${Array.from({ length: n }, (_, i) => cells(i)).join('\n')}\n`;
const on = (t: number) => t >= 120 && t < 480;

/** Temperatures of ten minutes by one instrument. */
async function firstRun(): Promise<Run> {
  const log = await stage(lines('t,tc1,Room', 600, (i) => `${i},${on(i) ? 60 : 30},22`));
  const body: ImportRunBody = { variantId: 'v-bare', timeColumn: 0, timeFormat: 'elapsed-s', columns: [{ column: 1, role: 'spot', spotId: 'tc1' }, { column: 2, role: 'room', spotId: null }], loadStartS: 120, loadEndS: 480, acceptOddTemperatures: false, note: '' }; // prettier-ignore
  return (await bench.call('POST', `/api/v1/studies/${studyId}/logs/${log.id}/run?name=first.csv`, body)).json;
}
/** What the drive itself wrote, its clock 37.5 s ahead of the other and started a little earlier. */
const second = () =>
  stage(
    lines('time,Throughput,tc2', 1400, (i) => `${i / 2},${on(i / 2 - 37.5) ? 6000 : 0},${on(i / 2 - 37.5) ? 55 : 29}`),
    'drive.csv',
  );
const joinBody = (runId: string, change: Partial<JoinLogBody> = {}): JoinLogBody => ({
  runId,
  timeColumn: 0,
  timeFormat: 'elapsed-s',
  columns: [
    { column: 1, role: 'throughput', spotId: null },
    { column: 2, role: 'spot', spotId: 'tc2' },
  ],
  offsetS: -37.5,
  acceptOddTemperatures: false,
  ...change,
});
const post = (log: StagedLog, what: string, body: object) => bench.call('POST', `/api/v1/studies/${studyId}/logs/${log.id}/${what}?name=drive.csv`, body); // prettier-ignore

describe('a second log of one run', () => {
  it('is laid over the first by the load step that both show', async () => {
    const run = await firstRun();
    const log = await second();
    const { json } = await post(log, 'align', {
      runId: run.id,
      timeColumn: 0,
      timeFormat: 'elapsed-s',
      column: 1,
      channel: run.channels[0]!.key,
    });
    expect(Math.abs(json.offsetS + 37.5)).toBeLessThanOrEqual(0.5); // half the coarser interval
    expect(json.sure).toBe(true);
    expect(json.run.t.length).toBeGreaterThan(100);
    expect(json.log.y).toContain(6000);
  });

  it('is added on the run’s clock, with what lies outside left out and said', async () => {
    const run = await firstRun();
    const answer = await post(await second(), 'join', joinBody(run.id));
    expect(answer.status).toBe(200);
    const joined = answer.json as Run;
    expect(joined.channels.map(({ role, spotId }) => [role, spotId])).toEqual([
      ['spot', 'tc1'],
      ['room', null],
      ['throughput', null],
      ['spot', 'tc2'],
    ]);
    const event = joined.events.find(({ kind }) => kind === 'log-added')!;
    expect(event.text).toMatch(/^drive\.csv was added, its clock moved by −37\.5 s; \d+ readings outside the run were left out\.$/);
    const key = joined.channels[2]!.key;
    const { t, y } = bench.services.stores.samples.read(run.id, key);
    expect(t[0]).toBe(0);
    expect(t.at(-1)).toBeLessThanOrEqual(599);
    expect(y[t.indexOf(119.5)]).toBe(0);
    expect(y[t.indexOf(120)]).toBe(6000);
    const { review } = (await bench.call('GET', `/api/v1/runs/${run.id}/readings`)).json;
    expect(review.performance.value).toBe(6000);
    expect(review.spots.find((entry: { spotId: string }) => entry.spotId === 'tc2').load.absolute.mean.value).toBe(55);
  });

  it('tells when the load was there, where the first could not: what was read within its cool-down is read anew', async () => {
    // An importer who took the load to the end of the log.
    const log = await stage(lines('t,tc1,Room', 600, (i) => `${i},${on(i) ? 60 : 30},22`));
    const body: ImportRunBody = { variantId: 'v-bare', timeColumn: 0, timeFormat: 'elapsed-s', columns: [{ column: 1, role: 'spot', spotId: 'tc1' }, { column: 2, role: 'room', spotId: null }], loadStartS: 120, loadEndS: 599, acceptOddTemperatures: false, note: '' }; // prettier-ignore
    const run = (await bench.call('POST', `/api/v1/studies/${studyId}/logs/${log.id}/run?name=first.csv`, body)).json as Run;
    expect(run.phases.at(-1)!.endS).toBe(599);
    const joined = (await post(await second(), 'join', joinBody(run.id))).json as Run;
    const load = joined.phases.find(({ kind }) => kind === 'load')!;
    expect(load.startS).toBeCloseTo(120, -1);
    expect(load.endS).toBeGreaterThan(470);
    expect(load.endS).toBeLessThan(490);
    expect(load.name).toBe('Load');
    expect(joined.events.map(({ text }) => text)).toContainEqual(
      expect.stringMatching(/^The load was there from [12]:\d\d to [78]:\d\d, not from 2:00 to 9:59, by the log that was added/),
    );
    const { review } = (await bench.call('GET', `/api/v1/runs/${run.id}/readings`)).json;
    expect(review.spots.find((entry: { spotId: string }) => entry.spotId === 'tc1').load.absolute.mean.value).toBe(60);
  });

  it('leaves phases that it agrees with as they are, and those within which somebody chose a window', async () => {
    const run = await firstRun();
    expect(((await post(await second(), 'join', joinBody(run.id))).json as Run).phases).toEqual(run.phases);
    const chosen = await firstRun();
    await bench.call('PUT', `/api/v1/runs/${chosen.id}/facts`, { phases: [{ kind: 'load', name: 'Mine', startS: 0, endS: 599 }] });
    await bench.call('PUT', `/api/v1/runs/${chosen.id}/windows/0`, { phase: 0, startS: 200, endS: 400 });
    expect(((await post(await second(), 'join', joinBody(chosen.id))).json as Run).phases).toMatchObject([{ name: 'Mine', endS: 599 }]);
  });

  it('is refused where the run has it already, where nothing overlaps, and where a line cannot be read; nothing is kept then', async () => {
    const run = await firstRun();
    const log = await second();
    const spotAgain = joinBody(run.id, { columns: [{ column: 2, role: 'spot', spotId: 'tc1' }] });
    expect((await post(log, 'join', spotAgain)).json.detail).toBe('This run has TC tc1 already.');
    const far = await post(log, 'join', joinBody(run.id, { offsetS: 50_000 }));
    expect(far.json.errors[0].pointer).toBe('/offsetS');
    expect((await post(log, 'join', joinBody(run.id, { columns: [] }))).status).toBe(422);
    const broken = await stage(lines('time,Throughput', 600, (i) => `${i},${i === 400 ? 'fast' : 6000}`));
    const answer = await post(broken, 'join', joinBody(run.id, { columns: [{ column: 1, role: 'throughput', spotId: null }], offsetS: 0 }));
    expect(answer.json.detail).toContain('Line 402, Throughput: “fast” is not a number.');
    expect((await bench.call('GET', `/api/v1/runs/${run.id}`)).json.channels).toHaveLength(2);
    expect((await post(log, 'join', joinBody('nothing'))).status).toBe(404);
    expect((await post(log, 'align', { runId: run.id, timeColumn: 0, timeFormat: 'elapsed-s', column: 1, channel: 'moon' })).status).toBe(
      404,
    );
  });

  it('may hold the duty that a lock watches, in lines of JSON', async () => {
    const run = await firstRun();
    const log = await stage(Array.from({ length: 600 }, (_, i) => JSON.stringify({ t: i, duty: i < 300 ? 60 : 71 })).join('\n'), 'fan.jsonl'); // prettier-ignore
    expect(log.columns.map(({ name }) => name)).toEqual(['t', 'duty']);
    const held = joinBody(run.id, { columns: [{ column: 1, role: 'beside', spotId: null, lockName: 'Fan duty' }], offsetS: 0 });
    expect((await post(log, 'join', held)).status).toBe(200);
    const { findings } = (await bench.call('GET', `/api/v1/runs/${run.id}/readings`)).json;
    expect(findings.map(({ evidence }: { evidence: string }) => evidence).join(' ')).toContain('Fan duty was to be held');
  });
});
