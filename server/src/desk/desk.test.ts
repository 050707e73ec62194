import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Run, ServerMessage } from '@red-ember/contract';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let rig: FakeRig;
beforeAll(async () => {
  bench = await testBench(undefined, { apart: true });
  rig = await FakeRig.connect(bench.port);
}, 30_000);
afterAll(async () => {
  rig.close();
  await bench.remove();
});

const isAck = (seq: number) => (message: ServerMessage) => message.type === 'ack' && message.seq === seq;
const isCommand = (command: string) => (message: ServerMessage) => message.type === 'command' && message.command === command;

/** A study with a mount whose run is under way. */
async function going(): Promise<{ studyId: string; runId: string }> {
  const body = studyBody({ title: `Desk ${Math.floor(1e9 * Math.random())}` });
  body.spots.forEach((spot) => (spot.id = `${spot.id}-${Math.floor(1e9 * Math.random())}`));
  body.variants.forEach((variant) => (variant.id = `${variant.id}-${Math.floor(1e9 * Math.random())}`));
  const { studyId, mountId } = await mounted(bench, body);
  const start = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 5 });
  expect(start.status).toBe(201);
  const runId = start.json.id as string;
  rig.heard.length = 0;
  rig.samples(runId, 1, 1, 10);
  await rig.hears(isAck(1));
  return { studyId, runId };
}

describe('the desk', () => {
  it('answers as if it were the server: bodies, versions, problems, files and uploads', async () => {
    const made = await bench.call('POST', '/api/v1/studies', studyBody());
    expect(made.status).toBe(201);
    expect(made.headers.get('location')).toBe(`/api/v1/studies/${made.json.id}`);
    expect(made.headers.get('etag')).toBe('"1"');
    expect(made.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(made.headers.get('cache-control')).toBe('no-store');
    const id = made.json.id as string;
    expect((await bench.call('PUT', `/api/v1/studies/${id}`, studyBody(), { 'if-match': '"7"' })).status).toBe(412);
    expect((await bench.call('POST', '/api/v1/studies', { title: 3 })).json).toMatchObject({ status: 422, errors: expect.any(Array) });
    expect((await bench.call('GET', '/api/v1/studies/nothing/verdict')).json).toMatchObject({ status: 404 });
    expect((await bench.call('GET', '/api/v1/nowhere')).status).toBe(404);
    madeRun(bench, id, 'v-bare', '2026-03-01T08:00:00Z', { top: [30, 40] });
    madeRun(bench, id, 'v-lid', '2026-03-01T12:00:00Z', { top: [28, 37] });
    expect((await bench.call('GET', `/api/v1/studies/${id}/verdict`)).json.judgement.a.runIds).toHaveLength(1);
    const report = await bench.call('GET', `/api/v1/studies/${id}/report.html`);
    expect(report.text).toContain('</html>');
    expect(report.headers.get('content-security-policy')).toContain("style-src 'unsafe-inline'");
    const form = new FormData();
    form.append('log', new Blob(['time,tc1\n0,20\n1,21\n2,22\n']), 'a.csv');
    expect((await bench.call('POST', `/api/v1/studies/${id}/logs`, form)).json).toMatchObject({ fileName: 'a.csv', rows: 3 });
    const gone = await fetch(`http://127.0.0.1:${bench.port}/api/v1/studies`, { headers: { origin: 'http://elsewhere.example' } });
    expect(gone.status).toBe(403);
  });

  it('may stand still without holding up a run: samples are kept, the run is followed and stopped', async () => {
    const { studyId, runId } = await going();
    process.kill(bench.desk!.pid!, 'SIGSTOP');
    try {
      const waiting = bench.call('GET', `/api/v1/studies/${studyId}/verdict`);
      let answered = false;
      void waiting.then(() => (answered = true));
      for (let seq = 2; seq < 6; seq++) {
        rig.samples(runId, seq, 10 * seq - 9, 10 * seq);
        await rig.hears(isAck(seq));
      }
      expect((await bench.call('GET', `/api/v1/runs/${runId}`)).json).toMatchObject({ state: 'recording', lengthS: 50 });
      expect((await bench.call('POST', `/api/v1/runs/${runId}/stop`, { reason: 'seen' })).json).toMatchObject({ state: 'stopped' });
      await rig.hears(isCommand('end'));
      expect(answered).toBe(false);
      process.kill(bench.desk!.pid!, 'SIGCONT');
      expect((await waiting).status).toBe(200);
    } finally {
      process.kill(bench.desk!.pid!, 'SIGCONT');
    }
  });

  it('that is killed is started again, and no run notices', async () => {
    const { studyId, runId } = await going();
    const before = bench.desk!.pid!;
    process.kill(before, 'SIGKILL');
    rig.samples(runId, 2, 11, 20);
    await rig.hears(isAck(2));
    // Whoever only reads is answered, if late; whoever would change something is told to ask again.
    expect((await bench.call('GET', `/api/v1/studies/${studyId}/verdict`)).status).toBe(200);
    expect(bench.desk!.pid).not.toBe(before);
    expect(((await bench.call('GET', `/api/v1/runs/${runId}`)).json as Run).events.map(({ kind }) => kind)).not.toContain('load-off');
    await bench.call('POST', `/api/v1/runs/${runId}/stop`, { reason: '' });
  }, 30_000);

  it('answers after its lines have been idle for as long as a server keeps them', async () => {
    const ask = async () => (await bench.call('GET', '/api/v1/studies')).status;
    expect(await ask()).toBe(200);
    // A kept line is closed after five seconds: whoever uses it in that moment finds it gone.
    for (let waitMs = 4940; waitMs < 5060; waitMs += 60) {
      await new Promise((done) => setTimeout(done, waitMs));
      expect(await Promise.all(Array.from({ length: 8 }, ask))).toEqual(Array.from({ length: 8 }, () => 200));
    }
  }, 30_000);

  it('is not asked again for somebody who has gone away, and nothing fails over it', async () => {
    const failures: unknown[] = [];
    const failed = (error: unknown) => failures.push(error);
    process.on('uncaughtException', failed);
    process.kill(bench.desk!.pid!, 'SIGSTOP');
    const leave = new AbortController();
    const asked = Array.from({ length: 10 }, () =>
      fetch(`http://127.0.0.1:${bench.port}/api/v1/studies`, { signal: leave.signal }).catch(() => 'gone'),
    );
    await new Promise((done) => setTimeout(done, 200));
    leave.abort();
    expect(await Promise.all(asked)).toEqual(Array.from({ length: 10 }, () => 'gone'));
    process.kill(bench.desk!.pid!, 'SIGCONT');
    await new Promise((done) => setTimeout(done, 1000));
    expect((await bench.call('GET', '/api/v1/studies')).status).toBe(200);
    process.off('uncaughtException', failed);
    expect(failures).toEqual([]);
  });

  it('tells the watch what it knows of a mount before a run', async () => {
    const { studyId, mountId } = await mounted(bench, studyBody({ variants: studyBody().variants.map((v) => ({ ...v, id: `k-${v.id}` })), spots: studyBody().spots.map((s) => ({ ...s, id: `k-${s.id}` })) })); // prettier-ignore
    const look = bench.call('POST', `/api/v1/studies/${studyId}/preflight`, { mountId, confirmedLocks: [], faults: [] });
    const command = await rig.hears(isCommand('look'));
    rig.say({
      type: 'look',
      lookId: (command as { lookId: string }).lookId,
      tMs: [1000],
      values: { tc1: [25], tc2: [25], room: [22], throughput: [0] },
    });
    expect((await look).json.checks.find(({ key }: { key: string }) => key === 'seat')).toMatchObject({ ok: null });
  });
});
