import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { LEASE_S, type RunLine, type ServerMessage } from '@red-ember/contract';
import { spot, studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let rig: FakeRig;
beforeEach(async () => {
  bench = await testBench();
  rig = await FakeRig.connect(bench.port);
});
afterEach(async () => {
  rig.close();
  await bench.remove();
});

const isLoad = (percent: number) => (message: ServerMessage) =>
  message.type === 'command' && message.command === 'load' && message.percent === percent;
const isAck = (seq: number) => (message: ServerMessage) => message.type === 'ack' && message.seq === seq;

async function started(body = studyBody()): Promise<string> {
  const { studyId, mountId } = await mounted(bench, body);
  const answer = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 5 });
  expect(answer.status).toBe(201);
  await rig.hears((message) => message.type === 'command' && message.command === 'start');
  return answer.json.id as string;
}

const stored = (runId: string, key = 'tc1') => bench.services.stores.samples.read(runId, key);

describe('a live run', () => {
  it('goes through its phases, commands the load and ends', async () => {
    const runId = await started();
    expect(rig.heard).toContainEqual(
      expect.objectContaining({
        command: 'start',
        setup: 'bare',
        seed: 5,
        timeScale: 1,
        armed: expect.arrayContaining([{ channel: 'tc1', name: 'Spot tc1', limitC: 90, holdS: 5 }]),
      }),
    );
    rig.samples(runId, 1, 1, 60);
    await rig.hears(isLoad(100));
    rig.samples(runId, 2, 61, 180);
    await rig.hears((message) => message.type === 'command' && message.command === 'end');
    const run = (await bench.call('GET', `/api/v1/runs/${runId}`)).json;
    expect(run).toMatchObject({
      state: 'finished',
      lengthS: 180,
      phases: [
        { name: 'Idle', endS: 60, endedBy: 'time' },
        { name: 'Load', startS: 60, endS: 180, endedBy: 'time' },
      ],
    });
    const { review } = (await bench.call('GET', `/api/v1/runs/${runId}/readings`)).json;
    expect(review.spots[0].load.absolute.mean.value).toBe(50);
    expect(review.spots[0].load.rise.mean.value).toBe(28);
  });

  it.each([
    { asked: undefined, fastestMs: undefined, told: 1000 },
    { asked: 100 as const, fastestMs: 50, told: 100 },
    // A rig that says nothing of itself is asked for no more than a sample a second.
    { asked: 100 as const, fastestMs: undefined, told: 1000 },
    { asked: 50 as const, fastestMs: 200, told: 200 },
  ])('asks for a sample every $asked ms, as the plan has it, of a rig that can $fastestMs: $told', async ({ asked, fastestMs, told }) => {
    rig.close();
    rig = await FakeRig.connect(bench.port, { id: 'quick', ...(fastestMs ? { fastestMs } : {}) });
    const body = studyBody();
    const { studyId, mountId } = await mounted(bench, asked ? { ...body, plan: { ...body.plan, sampleIntervalMs: asked } } : body);
    const answer = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 5, rigId: 'quick' });
    expect(answer.status).toBe(201);
    const start = await rig.hears((message) => message.type === 'command' && message.command === 'start');
    expect(start).toMatchObject({ sampleIntervalMs: told });
  });

  it('reads what comes twenty times a second, to the millisecond', async () => {
    const runId = await started();
    const tMs = Array.from({ length: 1200 }, (_, i) => 50 * (i + 1));
    const values = Object.fromEntries(['tc1', 'tc2', 'room', 'throughput'].map((key) => [key, tMs.map((t) => 40 + t / 60_000)]));
    rig.say({ type: 'samples', runId, seq: 1, tMs, values });
    await rig.hears(isAck(1));
    const { t } = stored(runId)!;
    expect(t).toHaveLength(1200);
    expect([t[0], t[1199]]).toEqual([0.05, 60]);
  });

  it('says when something is to be read by hand, and opens a change with what is done', async () => {
    const phase = { mode: 'fixed' as const, durationS: 120, capS: 120, loadPercent: 100 };
    const runId = await started(
      studyBody({
        recipe: [
          { ...phase, kind: 'load', name: 'Load', marksMin: [1] },
          { ...phase, kind: 'change', name: 'Vent blocked', opensWith: 'Block the vent' },
          { ...phase, kind: 'sweep', name: 'Sweep', loadPercent: 50, toPercent: 100, steps: 2 },
        ],
      }),
    );
    rig.samples(runId, 1, 1, 130);
    await rig.hears(isAck(1));
    const run = (await bench.call('GET', `/api/v1/runs/${runId}`)).json;
    expect(run.events.map(({ atS, kind, text }: { atS: number; kind: string; text: string }) => [atS, kind, text])).toEqual([
      [60, 'mark-due', 'Read by hand: minute 1 of Load'],
      [130, 'change', 'Block the vent'],
    ]);
    expect(run.recipe.map(({ name }: { name: string }) => name)).toEqual(['Load', 'Vent blocked', 'Sweep, 50 %', 'Sweep, 100 %']);
    rig.samples(runId, 2, 131, 260);
    await rig.hears(isLoad(50));
  });

  it('acknowledges after the commit, drops duplicates and what is not later', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 10);
    await rig.hears(isAck(1));
    expect(stored(runId).t.length).toBe(10);
    rig.samples(runId, 1, 1, 10, { tc1: 99 });
    rig.samples(runId, 2, 8, 15);
    await rig.hears(isAck(2));
    expect([...stored(runId).t]).toEqual(Array.from({ length: 15 }, (_, i) => i + 1));
    expect(stored(runId).y.every((value) => value === 50)).toBe(true);
  });

  it('keeps missing values as missing', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 5, { tc1: null });
    await rig.hears(isAck(1));
    expect(stored(runId).y.every(Number.isNaN)).toBe(true);
  });

  it('removes the load by the armed cut-out on the server', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 60);
    await rig.hears(isLoad(100));
    rig.heard.length = 0;
    rig.samples(runId, 2, 61, 64, { tc2: 95 });
    await rig.hears(isAck(2));
    expect(rig.heard.some(isLoad(0))).toBe(false); // four seconds: not held long enough yet
    rig.samples(runId, 3, 65, 70, { tc2: 95 });
    await rig.hears(isLoad(0));
    const run = (await bench.call('GET', `/api/v1/runs/${runId}`)).json;
    expect(run.state).toBe('cut-out');
    expect(run.endReason).toBe('Spot tc2 was above its cut-out of 90 °C for 5 s. The load was removed.');
    expect(stored(runId, 'tc2').t.length).toBe(70);
  });

  it('removes the load when the room probe falls silent', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 40);
    rig.samples(runId, 2, 41, 110, { room: null });
    await rig.hears(isLoad(0));
    expect((await bench.call('GET', `/api/v1/runs/${runId}`)).json.endReason).toContain('room probe has been silent');
  });

  it('obeys a cut-out of the rig', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 5);
    rig.say({ type: 'event', runId, tMs: 5000, kind: 'cut-out', text: 'Too hot. The rig removed the load.' });
    await rig.hears((message) => message.type === 'command' && message.command === 'end');
    expect((await bench.call('GET', `/api/v1/runs/${runId}`)).json).toMatchObject({
      state: 'cut-out',
      endReason: 'Too hot. The rig removed the load.',
    });
  });

  it('is stopped and marked by hand, and signed off only afterwards', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 30);
    await rig.hears(isAck(1));
    expect((await bench.call('PUT', `/api/v1/runs/${runId}/sign-off`, { disposition: 'use', reason: '' })).status).toBe(409);
    expect(
      (await bench.call('POST', `/api/v1/runs/${runId}/events`, { kind: 'change', text: 'Door opened' })).json.events[0],
    ).toMatchObject({ atS: 30, text: 'Door opened' });
    expect((await bench.call('POST', `/api/v1/runs/${runId}/stop`, { reason: '' })).json.state).toBe('stopped');
    expect((await bench.call('POST', `/api/v1/runs/${runId}/stop`, { reason: '' })).status).toBe(409);
    expect((await bench.call('POST', `/api/v1/runs/${runId}/events`, { kind: 'mark', text: 'late' })).status).toBe(409);
    expect((await bench.call('PUT', `/api/v1/runs/${runId}/sign-off`, { disposition: 'reject', reason: '' })).status).toBe(422);
    const sign = (body: object) => bench.call('PUT', `/api/v1/runs/${runId}/sign-off`, { disposition: 'reject', reason: 'door', ...body });
    expect((await sign({})).json).toMatchObject({ disposition: 'reject', dispositionReason: 'door', dispositionBy: '' });
    expect((await sign({ by: 'K.M.' })).json.errors).toMatchObject([{ pointer: '/by', sentence: 'Initials are up to four letters.' }]);
    // A second hand stands in the place of the first, which is kept.
    await sign({ by: 'KM' });
    const { dispositionBy, earlier } = (await sign({ by: 'ÖB', reason: 'door, twice' })).json;
    expect(dispositionBy).toBe('ÖB');
    expect(earlier).toMatchObject([
      { disposition: 'reject', reason: 'door', by: 'KM' },
      { disposition: 'reject', reason: 'door', by: '' },
    ]);
  });

  it('survives the server: resumes from the database and asks for nothing twice', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 60);
    rig.samples(runId, 2, 61, 100);
    await rig.hears(isAck(2));
    rig.close();
    await bench.close();
    bench = await testBench(bench.folder);
    rig = await FakeRig.connect(bench.port, { run: { runId, lastSeq: 3, loadPercent: 100 } });
    await rig.hears(isAck(2));
    await rig.hears(isLoad(100));
    rig.samples(runId, 3, 101, 180);
    await rig.hears((message) => message.type === 'command' && message.command === 'end');
    expect([...stored(runId).t]).toEqual(Array.from({ length: 180 }, (_, i) => i + 1));
    expect((await bench.call('GET', `/api/v1/runs/${runId}`)).json.phases.map((phase: { endedBy: string }) => phase.endedBy)).toEqual([
      'time',
      'time',
    ]);
  });

  it('is interrupted where the rig comes back without it, and what was measured before is kept', async () => {
    const runId = await started();
    rig.samples(runId, 1, 1, 20);
    await rig.hears(isAck(1));
    rig.close();
    rig = await FakeRig.connect(bench.port);
    await expect.poll(async () => (await bench.call('GET', `/api/v1/runs/${runId}`)).json.state).toBe('interrupted');
    const run = (await bench.call('GET', `/api/v1/runs/${runId}`)).json;
    expect(run.endReason).toContain('What was measured before is kept');
    expect(run.phases[0]).toMatchObject({ name: 'Idle', endedBy: 'rig-lost' });
    expect(stored(runId).t.length).toBe(20);
  });

  it('fixes the prediction and keeps variants that have runs', async () => {
    const body = studyBody({ predictions: [{ id: 'p', text: '', spotId: 'tc1', expectedK: -2, plusMinusK: 1 }] });
    const runId = await started(body);
    const { studyId } = (await bench.call('GET', `/api/v1/runs/${runId}`)).json;
    const put = (change: object) => bench.call('PUT', `/api/v1/studies/${studyId}`, { ...body, ...change }, { 'if-match': '"1"' });
    expect((await put({ predictions: [{ ...body.predictions[0]!, expectedK: 3 }] })).json.detail).toContain('fixed since the first run');
    expect((await put({ variants: [{ ...body.variants[1]!, isReference: true }] })).json.detail).toContain('cannot be removed');
    expect((await put({ spots: [body.spots[0]] })).json.detail).toContain('cannot be removed');
    expect((await bench.call('DELETE', `/api/v1/studies/${studyId}`)).status).toBe(409);
  });
});

describe('starting', () => {
  it('says what is missing', async () => {
    const start = async (body: ReturnType<typeof studyBody>) => {
      const { studyId, mountId } = await mounted(bench, body);
      return (await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: null })).json.detail as string;
    };
    expect(await start(studyBody({ spots: [] }))).toContain('no spots yet');
    expect(
      await start({
        ...studyBody({ spots: [spot('elsewhere', { channel: 'tc9' })] }),
        variants: [{ id: 'w1', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' }],
      }),
    ).toContain('channel tc9');
    expect(
      await start({
        ...studyBody({ spots: [spot('x1', { channel: 'tc1' })] }),
        variants: [{ id: 'w2', name: 'odd', subjectId: 'part-1', isReference: true, setup: 'unknown', notes: '' }],
      }),
    ).toContain('no set-up');
    rig.close();
    await expect.poll(async () => (await bench.call('GET', '/api/v1/rigs')).json[0].connected).toBe(false);
    expect(
      await start({
        ...studyBody({ spots: [spot('x2', { channel: 'tc1' })] }),
        variants: [{ id: 'w3', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' }],
      }),
    ).toContain('No rig is connected');
  });
});

describe('a rig that reads Fahrenheit', () => {
  it('is not started, since its readings would be taken for °C', async () => {
    rig.close();
    rig = await FakeRig.connect(bench.port, { unit: '°F' });
    const { studyId, mountId } = await mounted(bench);
    const answer = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: null });
    expect(answer.json.detail).toBe('Channel tc1 of Fake rig reads °F; temperatures must come in °C.');
  });
});

describe('garbage on the link', () => {
  it.each([
    ['text', 'hello?', 'not JSON'],
    ['another version', { type: 'hello', version: 99, rig: { id: 'a', name: 'b' }, channels: [], setups: [] }, 'version 1'],
    ['samples before hello', { type: 'samples', runId: 'r', seq: 1, tMs: [1], values: { a: [1] } }, 'say hello first'],
    ['NaN', '{"type":"samples","runId":"r","seq":1,"tMs":[1],"values":{"a":[NaN]}}', 'not JSON'],
    ['times going back', { type: 'samples', runId: 'r', seq: 1, tMs: [2, 1], values: {} }, 'does not come after'],
    ['too many samples', { type: 'samples', runId: 'r', seq: 1, tMs: Array.from({ length: 2001 }, (_, i) => i), values: {} }, 'up to 2000'],
    ['a time that no record holds', { type: 'samples', runId: 'r', seq: 1, tMs: [2 ** 32 + 1000], values: {} }, 'up to 2147483647'],
    ['a short column', { type: 'samples', runId: 'r', seq: 1, tMs: [1, 2], values: { a: [1] } }, 'another number of values'],
  ])('%s is answered with a sentence', async (_what, message, reason) => {
    const stranger = await FakeRig.connect(bench.port, { greet: false });
    stranger.say(message);
    const refused = await stranger.hears((heard) => heard.type === 'refused');
    expect((refused as { reason: string }).reason).toContain(reason);
    stranger.close();
    expect((await bench.call('GET', '/api/v1/studies')).status).toBe(200);
  });
});

describe('the record of a line', () => {
  it('holds loads as commanded and as reported, numbers that are missing or came again, and stretches without samples', async () => {
    const { studyId, mountId } = await mounted(bench, studyBody({ recipe: [{ kind: 'load', name: 'Load', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 80 }] })); // prettier-ignore
    const { id } = (await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 1 })).json as { id: string };
    const acked = (seq: number) => rig.hears((message) => message.type === 'ack' && message.seq === seq);
    rig.state(id, 80);
    rig.samples(id, 1, 0, 10);
    await acked(1);
    rig.samples(id, 2, 11, 20);
    await acked(2);
    rig.heard.length = 0;
    rig.samples(id, 1, 0, 10);
    rig.samples(id, 2, 11, 20);
    await rig.hears((message) => message.type === 'ack' && message.seq === 2);
    rig.samples(id, 5, 51, 60);
    await acked(5);
    // Longer than a rig may take to obey: what it says then is held against it, and the server takes the load back.
    await new Promise((done) => setTimeout(done, 1000 * LEASE_S + 300));
    rig.state(id, 0);
    await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 0, 8000);
    await bench.call('POST', `/api/v1/runs/${id}/stop`, { reason: '' });
    const line = (await bench.call('GET', `/api/v1/runs/${id}/line`)).json as RunLine;
    expect(line).toMatchObject({ lastSeq: 5, missing: 2, again: 2, stepS: 1, gaps: [{ fromS: 20, toS: 51 }] });
    expect(line.entries.map(({ kind, percent, fromSeq, toSeq }) => [kind, percent ?? `${fromSeq}-${toSeq}`])).toEqual([
      ['commanded', 80],
      ['reported', 80],
      ['again', '1-2'],
      ['missing', '3-4'],
      ['reported', 0],
      ['commanded', 0],
    ]);
    // It was seen at once.
    expect(line.differs).toEqual([]);
  }, 30_000);
});
