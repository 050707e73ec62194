import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LEASE_S, type BenchRig, type Latch, type Rehearsal, type RehearsalKey, type ServerMessage } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

type Fault = 'ignores-stop' | 'keeps-load' | 'comes-back' | 'no-cut-out' | 'silent-cut-out' | 'power-stays' | 'rearms-cut-out' | 'no-load';

/** A rig in a few lines that does what the link asks of it, but for one thing. Samples come every 100 ms, a lease holds as it should. */
function obeys(rig: FakeRig, fault?: Fault) {
  let run: { id: string; cutOut: boolean } | null = null;
  let percent = 0;
  let latched: Latch | null = null;
  let leaseEndsMs = 0;
  let hotSinceMs = 0;
  let seq = 0;
  let wasOn = false;
  const say = () => rig.state(run?.id ?? null, percent, latched);
  const off = (kind: Latch['kind'], text: string) => {
    percent = 0;
    latched = { kind, text };
    say();
  };
  const timer = setInterval(() => {
    const now = performance.now();
    if (percent > 0 && now > leaseEndsMs && fault !== 'keeps-load') off('load-removed', 'Nobody said the load again.');
    if (run?.cutOut && percent > 0 && now - hotSinceMs > 3000 && fault !== 'no-cut-out')
      off(fault === 'silent-cut-out' ? 'load-removed' : 'cut-out', 'It went off.');
    if (run) rig.samples(run.id, ++seq, seq, seq, { power: percent > 0 || (fault === 'power-stays' && wasOn) ? 80 : 20 });
    say();
  }, 100);
  rig.socket.on('message', (data) => {
    const message = JSON.parse(String(data)) as ServerMessage;
    if (message.type !== 'command') return;
    if (message.command === 'start') [run, percent, latched, seq] = [{ id: message.runId, cutOut: message.armed.length > 0 }, 0, null, 0];
    if (message.command === 'rearm' && (latched?.kind === 'load-removed' || fault === 'rearms-cut-out')) latched = null;
    if (message.command === 'end') [run, percent, latched] = [null, 0, null];
    if (message.command === 'load' && message.runId === run?.id) {
      if (message.percent > 0 && latched && fault !== 'comes-back') return;
      if (message.percent === 0 && fault === 'ignores-stop') return;
      if (message.percent > 0 && fault === 'no-load') return;
      if (message.percent > 0 && percent === 0) hotSinceMs = performance.now();
      if (message.percent > 0) [latched, wasOn] = [null, true];
      percent = message.percent;
      leaseEndsMs = performance.now() + 1000 * message.forS;
    }
    say();
  });
  rig.socket.on('close', () => clearInterval(timer));
}

let bench: TestBench;
const rigs: FakeRig[] = [];
beforeAll(async () => {
  bench = await testBench();
});

afterAll(async () => {
  rigs.forEach((rig) => rig.close());
  await bench.remove();
});

async function rigOf(id: string, fault?: Fault): Promise<FakeRig> {
  const rig = await FakeRig.connect(bench.port, { id, more: [{ key: 'power', quantity: 'power', unit: 'W' }] });
  rigs.push(rig);
  obeys(rig, fault);
  return rig;
}
const listed = async (id: string) => ((await bench.call('GET', '/api/v1/rigs')).json as BenchRig[]).find((rig) => rig.id === id)!;
async function rehearsed(id: string): Promise<Rehearsal> {
  const started = await bench.call('POST', `/api/v1/rigs/${id}/rehearsals`, { loadPercent: 20 });
  expect(started.status, started.text).toBe(201);
  for (let tries = 0; tries < 600; tries++) {
    const { rehearsal } = await listed(id);
    if (rehearsal?.trying === null && rehearsal.id === started.json.id) return rehearsal;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('the rehearsal did not end');
}

describe('a rehearsal', () => {
  it.concurrent(
    'of a sound rig measures Stop, lost server and cut-out, keeps them, and leaves the rig free and without load',
    async () => {
      const rig = await rigOf('sound');
      const waiting = rehearsed('sound');
      // It is busy meanwhile, and a run is not started over it.
      await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 20);
      expect(await listed('sound')).toMatchObject({ busyRunId: expect.stringMatching(/^rehearsal-/), rehearsal: { trying: 'stop' } });
      const { studyId, mountId } = await mounted(bench, studyBody());
      expect((await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 1 })).status).toBe(409);
      expect((await bench.call('POST', '/api/v1/rigs/sound/rehearsals', { loadPercent: 20 })).status).toBe(409);
      const { steps, brokenOff } = await waiting;
      expect(brokenOff).toBe('');
      expect(steps.map(({ key, ok }) => [key, ok])).toEqual([
        ['stop', true],
        ['lost-server', true],
        ['cut-out', true],
      ]);
      expect(steps[0]!.sentence).toContain('power fell from 80 to 20 W');
      expect(steps[0]!.offAfterS).toBeLessThan(1);
      expect(Math.abs(steps[1]!.offAfterS! - LEASE_S)).toBeLessThan(1);
      expect(steps[2]!.offAfterS).toBeGreaterThan(2.5);
      expect(steps[2]!.offAfterS).toBeLessThan(5);
      expect(await listed('sound')).toMatchObject({ busyRunId: null });
      expect((await bench.call('GET', '/api/v1/rigs/sound/rehearsals')).json).toHaveLength(1);
      // The list before a run says when that was, and how long each took.
      const looking = bench.call('POST', `/api/v1/studies/${studyId}/preflight`, { mountId, rigId: 'sound', confirmedLocks: [] });
      const look = (await rig.hears((message) => message.type === 'command' && message.command === 'look')) as { lookId: string };
      rig.say({ type: 'look', lookId: look.lookId, tMs: [1000], values: { tc1: [25], tc2: [25], room: [22], throughput: [0] } });
      const { checks } = (await looking).json as { checks: { key: string; ok: boolean | null; text: string }[] };
      expect(checks.find(({ key }) => key === 'rehearsal')).toMatchObject({
        ok: true,
        text: expect.stringMatching(/^rehearsed today: Stop \d\.\d s, lost server 5\.\d s, cut-out \d\.\d s$/),
      });
    },
    60_000,
  );

  const FAULTY: [Fault, RehearsalKey, RegExp][] = [
    ['ignores-stop', 'stop', /2 s after Stop the rig still reported 20 %/],
    ['power-stays', 'stop', /power still stood at 80 W/],
    ['keeps-load', 'lost-server', /still reported 20 %/],
    ['comes-back', 'lost-server', /came back by itself/],
    ['no-cut-out', 'cut-out', /the load stayed on/],
    ['silent-cut-out', 'cut-out', /did not say that it cut out/],
    ['rearms-cut-out', 'cut-out', /the load came back/],
  ];
  it.concurrent(
    'finds what is wrong with a rig, on seven of them side by side',
    async () => {
      const found = await Promise.all(
        FAULTY.map(async ([fault, key]) => {
          await rigOf(fault, fault);
          return (await rehearsed(fault)).steps.find((step) => step.key === key)!;
        }),
      );
      FAULTY.forEach(([fault, , words], i) => expect(found[i], fault).toMatchObject({ ok: false, sentence: expect.stringMatching(words) }));
    },
    90_000,
  );

  it.concurrent(
    'that cannot be begun, is broken off, or loses its rig says so, and is no rehearsal for the list before a run',
    async () => {
      await rigOf('no-load', 'no-load');
      expect(await rehearsed('no-load')).toMatchObject({ brokenOff: '20 % were asked, and the rig reports 0 %.', steps: [] });
      const rig = await rigOf('leaves');
      const leaving = rehearsed('leaves');
      await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 20);
      rig.close();
      expect((await leaving).brokenOff).toBe('The rig went away in the middle.');
      const broken = await rigOf('broken');
      const breaking = rehearsed('broken');
      await broken.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 20);
      expect((await bench.call('DELETE', '/api/v1/rigs/broken/rehearsals/now')).status).toBe(204);
      expect((await breaking).brokenOff).toBe('Broken off by hand.');
      await broken.hears((message) => message.type === 'command' && message.command === 'end');
      expect((await bench.call('DELETE', '/api/v1/rigs/broken/rehearsals/now')).status).toBe(409);
      expect((await bench.call('POST', '/api/v1/rigs/nobody/rehearsals', { loadPercent: 20 })).status).toBe(404);
      expect((await bench.call('POST', '/api/v1/rigs/broken/rehearsals', { loadPercent: 2 })).status).toBe(422);
    },
    60_000,
  );
});
