import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LEASE_S, type Run, type ServerMessage } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let rig: FakeRig;
beforeEach(async () => {
  bench = await testBench();
  rig = await FakeRig.connect(bench.port);
});
afterEach(async () => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  rig.close();
  await bench.remove();
});

const loads = () => rig.heard.flatMap((message) => (message.type === 'command' && message.command === 'load' ? [message.percent] : []));
const isCommand = (command: string) => (message: ServerMessage) => message.type === 'command' && message.command === command;
const isLoad = (percent: number) => (message: ServerMessage) =>
  message.type === 'command' && message.command === 'load' && message.percent === percent;
const isAck = (seq: number) => (message: ServerMessage) => message.type === 'ack' && message.seq === seq;
const runOf = async (id: string) => (await bench.call('GET', `/api/v1/runs/${id}`)).json as Run;
const post = (id: string, what: string, body?: object) => bench.call('POST', `/api/v1/runs/${id}/${what}`, body);
const phasesOf = async (id: string) => (await runOf(id)).phases.map(({ name, endedBy }) => [name, endedBy]);
const lastEvent = async (id: string, kind: string) => (await runOf(id)).events.findLast((event) => event.kind === kind)?.text;

/** A run 30 s into a long load at full. */
async function loaded(start: object = {}, change: object = {}): Promise<string> {
  const phase = { mode: 'fixed' as const, durationS: 6000, capS: 6000 };
  const recipe = [
    { ...phase, kind: 'load' as const, name: 'Load', loadPercent: 100 },
    { ...phase, kind: 'cool-down' as const, name: 'Cool', loadPercent: 0 },
  ];
  const { studyId, mountId } = await mounted(bench, studyBody({ recipe, ...change }));
  const id = (await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 5, ...start })).json.id as string;
  rig.samples(id, 1, 1, 30);
  await rig.hears(isAck(1));
  rig.state(id, 100);
  return id;
}

describe('the load of a run', () => {
  it('is said again every second, as long as all is well', async () => {
    const id = await loaded();
    rig.heard.length = 0;
    await expect.poll(() => loads().length, { timeout: 5000 }).toBeGreaterThanOrEqual(2);
    expect(rig.heard.find(isCommand('load'))).toMatchObject({ runId: id, percent: 100, forS: 5 });
    expect(new Set(loads())).toEqual(new Set([100]));
  });

  it('that the rig took off is gone: the phase has no reading, and the run waits until somebody says go on', async () => {
    const id = await loaded();
    rig.say({ type: 'event', id: 'e1', runId: id, tMs: 30_000, kind: 'load-removed', text: 'Nobody said the load again for 5 s.' });
    await rig.hears(isLoad(0));
    await rig.hears((message) => message.type === 'ack' && message.events?.[0] === 'e1');
    expect(await phasesOf(id)).toEqual([['Load', 'interrupted'], ['Waiting, the load is off', null]]); // prettier-ignore
    expect(await lastEvent(id, 'load-off')).toBe('The load went off at 0:30: Nobody said the load again for 5 s.');
    // Hours go by: it never comes back by itself.
    rig.heard.length = 0;
    for (let seq = 2; seq < 20; seq++) rig.samples(id, seq, 31 + (seq - 2) * 1900, 30 + (seq - 1) * 1900);
    await rig.hears(isAck(19));
    expect(loads().filter((percent) => percent > 0)).toEqual([]);
    await post(id, 'go-on', { reason: 'the machine had slept' });
    await rig.hears(isCommand('rearm'));
    await rig.hears(isLoad(100));
    expect(await phasesOf(id)).toEqual([['Load', 'interrupted'], ['Waiting, the load is off', 'resumed'], ['Load, again', null]]); // prettier-ignore
    expect(await lastEvent(id, 'load-on')).toBe('The load was off from 0:30 to 9:30:30. Gone on by hand: the machine had slept.');
    // Said again because the acknowledgement was lost: that one was dealt with.
    rig.say({ type: 'event', id: 'e1', runId: id, tMs: 30_000, kind: 'load-removed', text: 'Nobody said the load again for 5 s.' });
    rig.samples(id, 20, 40_000, 40_010);
    await rig.hears(isAck(20));
    expect((await runOf(id)).phases.at(-1)).toMatchObject({ name: 'Load, again', endS: null });
  });

  it('is interrupted where the rig reports another one than was asked', async () => {
    const id = await loaded();
    await new Promise((done) => setTimeout(done, 1000 * LEASE_S + 300));
    rig.state(id, 0);
    await rig.hears(isLoad(0));
    expect(await lastEvent(id, 'load-off')).toContain('The rig reports a load of 0 % where 100 % were asked');
  });

  it.each([
    ['was latched', { loadPercent: 0, latched: { kind: 'load-removed' as const, text: 'Nobody said the load again for 5 s.' } }],
    ['stands at nought', { loadPercent: 0 }],
  ])('does not come back with a rig whose load %s', async (_what, state) => {
    const id = await loaded();
    rig.close();
    rig = await FakeRig.connect(bench.port, { run: { runId: id, lastSeq: 1, ...state } });
    await rig.hears(isLoad(0));
    expect(loads().every((percent) => percent === 0)).toBe(true);
    expect((await runOf(id)).phases.at(-1)).toMatchObject({ kind: 'pause', endS: null });
  });

  it('does not come back with the server either, where the rig never does', async () => {
    const id = await loaded();
    rig.close();
    await bench.close();
    bench = await testBench(bench.folder);
    rig = await FakeRig.connect(bench.port, { run: { runId: id, lastSeq: 1, loadPercent: 0 } });
    await rig.hears(isLoad(0));
    expect(loads().every((percent) => percent === 0)).toBe(true);
  });

  it('is never given to a rig that has cut out: the run ends with its sentence', async () => {
    const id = await loaded();
    rig.close();
    const latched = { kind: 'cut-out' as const, text: 'Spot tc1 was above its cut-out of 90 °C for 5 s. The rig removed the load.' };
    rig = await FakeRig.connect(bench.port, { run: { runId: id, lastSeq: 1, loadPercent: 0, latched } });
    await expect.poll(async () => (await runOf(id)).state).toBe('cut-out');
    expect((await runOf(id)).endReason).toBe(latched.text);
    expect(loads().every((percent) => percent === 0)).toBe(true);
  });

  it('goes where power, work and utilisation have stood at idle for a minute though the rig says it is on', async () => {
    const id = await loaded();
    rig.samples(id, 2, 31, 200);
    rig.samples(id, 3, 201, 300, { throughput: 0 });
    await rig.hears(isLoad(0));
    expect(await lastEvent(id, 'load-off')).toContain('have stood at idle for');
    expect((await runOf(id)).phases[0]!.endedBy).toBe('interrupted');
  });
});

describe('what guards the load', () => {
  it('sees an armed channel that shows nothing, whatever else comes', async () => {
    const id = await loaded();
    rig.samples(id, 2, 31, 60, { tc2: null });
    await rig.hears(isLoad(0));
    expect(await lastEvent(id, 'load-off')).toContain('Spot tc2 has shown nothing plausible');
  });

  it('sees a channel that shows what no probe on a part can show', async () => {
    const id = await loaded();
    rig.samples(id, 2, 31, 60, { tc2: -200 });
    await rig.hears(isLoad(0));
    expect(await lastEvent(id, 'load-off')).toContain('Spot tc2 has shown nothing plausible');
  });

  it('sees that samples stop while the rig still says that it is there', async () => {
    const id = await loaded();
    const talking = setInterval(() => rig.state(id, 100), 500);
    await rig.hears(isLoad(0), 14_000);
    clearInterval(talking);
    expect(await lastEvent(id, 'load-off')).toMatch(/No sample has come for 1\d s/);
  }, 20_000);

  it('sees that times do not go on, and watches what it does not keep', async () => {
    const id = await loaded();
    let seq = 2;
    const stuck = setInterval(() => rig.samples(id, seq++, 30, 30), 500);
    await rig.hears(isLoad(0), 14_000);
    clearInterval(stuck);
    expect(await lastEvent(id, 'load-off')).toMatch(/times of the rig's samples have not gone on for 1\d s/);
    expect(bench.services.stores.samples.read(id, 'tc1').t.length).toBe(30);
  }, 20_000);
});

describe('Stop', () => {
  it('is said again until the rig confirms it', async () => {
    const id = await loaded();
    await post(id, 'stop', { reason: '' });
    expect((await bench.call('GET', `/api/v1/runs/${id}/load`)).json).toMatchObject({ ended: true, off: false, reportedPercent: 100 });
    rig.heard.length = 0;
    await rig.hears(isCommand('end'));
    rig.state(id, 0);
    rig.state(null, 0);
    await expect.poll(async () => (await bench.call('GET', `/api/v1/runs/${id}/load`)).json.off).toBe(true);
    expect((await bench.call('GET', `/api/v1/runs/${id}/load`)).json.reportedPercent).toBe(0);
  });

  it('is not said for ever to a rig that never says what it does: another run on it is left alone', async () => {
    const first = await loaded();
    await post(first, 'stop', { reason: '' });
    await rig.hears(isCommand('end'));
    const { studyId, mountId } = await runOf(first);
    const second = (await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 6 })).json.id as string;
    rig.samples(second, 1, 1, 10);
    await rig.hears(isLoad(100));
    rig.heard.length = 0;
    await new Promise((done) => setTimeout(done, 2500));
    const told = rig.heard.flatMap((message) => (message.type === 'command' && 'runId' in message ? [message.runId] : []));
    expect(new Set(told)).toEqual(new Set([second]));
    expect(loads()).not.toContain(0);
  });

  it('reaches a rig that was away when it was pressed', async () => {
    const id = await loaded();
    rig.close();
    await post(id, 'stop', { reason: '' });
    rig = await FakeRig.connect(bench.port, { run: { runId: id, lastSeq: 1, loadPercent: 100 } });
    await rig.hears(isCommand('end'));
    expect(loads().every((percent) => percent === 0)).toBe(true);
    expect((await bench.call('GET', `/api/v1/runs/${id}/load`)).json.off).toBe(false);
    rig.state(null, 0);
    await expect.poll(async () => (await bench.call('GET', `/api/v1/runs/${id}/load`)).json.off).toBe(true);
  });
});

describe('an error', () => {
  const full = () => Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });

  it('of the disk takes the load off, keeps what comes at the rig, says so, and loses nothing', async () => {
    const id = await loaded();
    const { samples } = bench.services.stores;
    const failing = vi.spyOn(samples, 'append').mockImplementation(() => {
      throw full();
    });
    rig.heard.length = 0;
    rig.samples(id, 2, 31, 40);
    await rig.hears(isLoad(0));
    expect(rig.heard.some(isAck(2))).toBe(false);
    expect(bench.services.conductor.snapshot(id)!.trouble).toBe('The record could not be written: the disk is full');
    failing.mockRestore();
    await rig.hears((message) => message.type === 'welcome'); // asks for what was not acknowledged
    rig.samples(id, 2, 31, 40);
    await rig.hears(isAck(2));
    await expect.poll(async () => (await runOf(id)).phases.map(({ endedBy }) => endedBy)).toEqual(['interrupted', null]);
    expect(await lastEvent(id, 'load-off')).toContain('the disk is full');
    expect(bench.services.conductor.snapshot(id)!.trouble).toBeNull();
    expect([...samples.read(id, 'tc1').t]).toEqual(Array.from({ length: 40 }, (_, i) => i + 1));
  });

  it('of another connection that writes for a moment costs nothing but that moment, and keeps the order', async () => {
    const id = await loaded();
    const other = new SQLite(join(bench.folder, 'bench.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    rig.heard.length = 0;
    rig.samples(id, 2, 31, 40);
    rig.samples(id, 3, 41, 50);
    await new Promise((done) => setTimeout(done, 300));
    other.exec('COMMIT');
    other.close();
    for (let tries = 0; tries < 40 && !rig.heard.some(isAck(3)); tries++) {
      await new Promise((done) => setTimeout(done, 200));
      if (!rig.heard.some((message) => message.type === 'welcome')) continue;
      rig.samples(id, 2, 31, 40);
      rig.samples(id, 3, 41, 50);
    }
    expect([...bench.services.stores.samples.read(id, 'tc1').t]).toEqual(Array.from({ length: 50 }, (_, i) => i + 1));
    expect(loads()).not.toContain(0);
    expect((await runOf(id)).phases).toHaveLength(1);
  }, 15_000);

  it('while a Stop is written does not undo the Stop', async () => {
    const id = await loaded();
    const failing = vi.spyOn(bench.services.stores.runs, 'setState').mockImplementation(() => {
      throw full();
    });
    rig.heard.length = 0;
    await post(id, 'stop', { reason: 'smoke' });
    await rig.hears(isLoad(0));
    expect((await runOf(id)).state).toBe('recording');
    await new Promise((done) => setTimeout(done, 1500));
    expect(loads().every((percent) => percent === 0)).toBe(true);
    failing.mockRestore();
    await expect.poll(async () => (await runOf(id)).state, { timeout: 8000 }).toBe('stopped');
    expect((await runOf(id)).endReason).toBe('smoke');
  }, 12_000);

  it('of one message is given up after some tries, and named', async () => {
    const id = await loaded();
    const { samples } = bench.services.stores;
    const real = samples.append.bind(samples);
    vi.spyOn(samples, 'append').mockImplementation((runId, key, tMs, values) => {
      if (tMs[0] === 31_000) throw new RangeError('poisoned');
      real(runId, key, tMs, values);
    });
    for (let tries = 0; tries < 20 && !rig.heard.some(isAck(2)); tries++) {
      rig.samples(id, 2, 31, 40);
      await new Promise((done) => setTimeout(done, 600));
    }
    expect(rig.heard.some(isAck(2))).toBe(true);
    rig.samples(id, 3, 41, 50);
    await rig.hears(isAck(3));
    expect((await runOf(id)).events.map(({ text }) => text)).toContain('Message 2 of the rig could not be kept and was left out');
    expect(samples.read(id, 'tc1').t.length).toBe(40);
  }, 20_000);

  it('that nobody expected takes every load off', async () => {
    const id = await loaded();
    rig.heard.length = 0;
    bench.services.conductor.distrust('out of its mind');
    await rig.hears(isLoad(0));
    expect(await lastEvent(id, 'load-off')).toBe('The load went off at 0:30: The server stumbled (out of its mind).');
  });

  it('in what is shown does not touch the run', async () => {
    const id = await loaded();
    vi.spyOn(bench.services.stores.studies, 'find').mockImplementation(() => {
      throw new Error('cannot be shown');
    });
    vi.spyOn(bench.services.live, 'hasListeners').mockReturnValue(true);
    rig.heard.length = 0;
    rig.samples(id, 2, 31, 40);
    await rig.hears(isAck(2));
    expect(loads()).not.toContain(0);
  });
});

describe('two rigs of one name', () => {
  it('the second is refused with a sentence while the first is there', async () => {
    const second = await FakeRig.connect(bench.port, { greet: false });
    second.say({ type: 'hello', version: 1, rig: { id: 'fake', name: 'Twin' }, channels: [], setups: [], run: null });
    const refused = await second.hears((message) => message.type === 'refused');
    expect(refused).toMatchObject({ reason: 'another rig called fake is connected already: give this one another id' });
    await expect.poll(() => second.socket.readyState).toBe(3);
    expect((await bench.call('GET', '/api/v1/rigs')).json).toMatchObject([{ name: 'Fake rig', connected: true }]);
  });
});
