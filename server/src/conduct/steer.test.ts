import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RecipePhaseBody, Run, ServerMessage, StudyBody } from '@red-ember/contract';
import { spot, studyBody } from '@red-ember/testing';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

const CONTROLS = [
  { key: 'vent', label: 'Vent', unit: '', usual: 'open', choices: ['open', 'blocked'] },
  { key: 'power-limit', label: 'Power limit', unit: 'W', usual: 235, least: 120, most: 300 },
];
const MORE = [
  { key: 'duty', quantity: 'duty', unit: '%' },
  { key: 'fan', quantity: 'rotation', unit: 'rpm' },
  { key: 'top', quantity: 'temperature', unit: '°C', byHand: true },
];

let bench: TestBench;
let rig: FakeRig;
beforeEach(async () => {
  bench = await testBench();
  rig = await FakeRig.connect(bench.port, { controls: CONTROLS, more: MORE, faults: [{ key: 'pad-off', label: 'a pad does not touch' }] });
});
afterEach(async () => {
  rig.close();
  await bench.remove();
});

const phase = (name: string, change: Partial<RecipePhaseBody> = {}): RecipePhaseBody => ({
  kind: 'load',
  name,
  mode: 'fixed',
  durationS: 120,
  capS: 120,
  loadPercent: 100,
  ...change,
});
const heard = (command: string) => rig.heard.filter((message) => message.type === 'command' && message.command === command);
const isAck = (seq: number) => (message: ServerMessage) => message.type === 'ack' && message.seq === seq;

async function started(change: Partial<StudyBody> = {}, start: object = {}): Promise<string> {
  const { studyId, mountId } = await mounted(
    bench,
    studyBody({ recipe: [phase('Load'), phase('Cool', { kind: 'cool-down', loadPercent: 0 })], ...change }),
  );
  const answer = await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 5, ...start });
  expect(answer.json.detail).toBeUndefined();
  rig.samples(answer.json.id as string, 1, 1, 30);
  await rig.hears(isAck(1));
  return answer.json.id as string;
}
const runOf = async (id: string) => (await bench.call('GET', `/api/v1/runs/${id}`)).json as Run;
const post = (id: string, what: string, body?: object) => bench.call('POST', `/api/v1/runs/${id}/${what}`, body);

describe('an intervention', () => {
  it('opens a phase of its own, sets the rig, and is told again when the rig comes back', async () => {
    const id = await started();
    const answer = await post(id, 'interventions', { text: 'Vent blocked', set: [{ control: 'vent', value: 'blocked' }] });
    expect(answer.status).toBe(201);
    expect(answer.json.phases.map((entry: Run['phases'][number]) => [entry.name, entry.endedBy])).toEqual([
      ['Load', 'intervention'],
      ['Vent blocked', null],
    ]);
    expect(answer.json.events.at(-1)).toMatchObject({ atS: 30, kind: 'change', text: 'Vent blocked' });
    await rig.hears((message) => message.type === 'command' && message.command === 'set');
    expect(heard('set')).toEqual([{ type: 'command', command: 'set', runId: id, control: 'vent', value: 'blocked' }]);
    rig.close();
    rig = await FakeRig.connect(bench.port, { controls: CONTROLS, run: { runId: id, lastSeq: 1, loadPercent: 100 } });
    await rig.hears((message) => message.type === 'command' && message.command === 'set');
    rig.samples(id, 2, 31, 160);
    await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 0);
    expect((await runOf(id)).phases.map(({ name }) => name)).toEqual(['Load', 'Vent blocked', 'Cool']);
  });

  it('is refused for a control that the rig lacks, and after the run', async () => {
    const id = await started();
    expect((await post(id, 'interventions', { text: 'x', set: [{ control: 'moon', value: 1 }] })).json.detail).toContain('no control moon');
    expect((await post(id, 'interventions', { text: '', set: [] })).status).toBe(422);
    await post(id, 'stop', { reason: '' });
    for (const what of ['pause', 'go-on']) expect((await post(id, what)).status).toBe(409);
    expect((await post(id, 'more-time', { minutes: 5 })).status).toBe(409);
    expect((await post(id, 'interventions', { text: 'x', set: [] })).json.detail).toContain('does not go on');
  });

  it('comes from the recipe as well, and a control is swept step by step', async () => {
    const id = await started({
      recipe: [
        phase('First', { durationS: 60, capS: 60 }),
        phase('Blocked', {
          kind: 'change',
          opensWith: 'Block the vent',
          set: [{ control: 'vent', value: 'blocked' }],
          durationS: 60,
          capS: 60,
        }),
        phase('Power', { kind: 'sweep', sweepOf: 'power-limit', from: 150, to: 250, steps: 2, durationS: 60, capS: 60 }),
      ],
    });
    rig.samples(id, 2, 31, 60);
    rig.samples(id, 3, 61, 120);
    rig.samples(id, 4, 121, 180);
    await rig.hears(isAck(4));
    expect(heard('set').map((message) => 'value' in message && message.value)).toEqual(['blocked', 150, 250]);
    expect((await runOf(id)).phases.map(({ name }) => name)).toEqual(['First', 'Blocked', 'Power, 150', 'Power, 250']);
  });
});

describe('a phase in hand', () => {
  it('is paused without load, then done once more, whole; also after the server was restarted', async () => {
    const id = await started();
    await post(id, 'pause');
    await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 0);
    expect((await post(id, 'pause')).json.detail).toContain('paused already');
    rig.samples(id, 2, 31, 400);
    await rig.hears(isAck(2));
    expect((await runOf(id)).phases.at(-1)).toMatchObject({ kind: 'pause', endS: null });
    await bench.close();
    bench = await testBench(bench.folder);
    rig.close();
    rig = await FakeRig.connect(bench.port, { controls: CONTROLS, run: { runId: id, lastSeq: 2, loadPercent: 0 } });
    await post(id, 'go-on');
    rig.samples(id, 3, 401, 521);
    await rig.hears(isAck(3));
    expect((await runOf(id)).phases.map(({ name, endedBy }) => [name, endedBy])).toEqual([
      ['Load', 'paused'],
      ['Pause', 'resumed'],
      ['Load, again', 'time'],
      ['Cool', null],
    ]);
  });

  it('is made longer, and ended by hand', async () => {
    const id = await started();
    await post(id, 'more-time', { minutes: 2 });
    expect((await post(id, 'more-time', { minutes: 0 })).status).toBe(422);
    rig.samples(id, 2, 31, 200);
    await rig.hears(isAck(2));
    expect((await runOf(id)).phases.at(-1)).toMatchObject({ name: 'Load', endS: null });
    await post(id, 'go-on');
    const { phases, events } = await runOf(id);
    expect(phases.map(({ name, endedBy }) => [name, endedBy])).toEqual([['Load', 'by-hand'], ['Cool', null]]); // prettier-ignore
    expect(events.map(({ text }) => text)).toContain('2 min more for this phase');
    expect((await post(id, 'go-on')).json.state).toBe('finished');
  });
});

describe('locks and the part itself', () => {
  const lock = { name: 'Fan duty', value: '60', unit: '%', tolerance: 2, channel: 'duty', overrides: [] };
  it('a lock that moves is written down once, with how far and when', async () => {
    const id = await started({ locks: [lock], recipe: [phase('Load', { durationS: 600, capS: 600 })] });
    rig.samples(id, 2, 31, 100, { duty: 60 });
    rig.samples(id, 3, 101, 160, { duty: 66 });
    rig.samples(id, 4, 161, 260, { duty: 66 });
    await rig.hears(isAck(4));
    const moved = (await runOf(id)).events.filter((event) => event.kind === 'lock-moved');
    expect(moved.map(({ text }) => text)).toEqual(['Fan duty moved +6.0 % from 60 % at 1:41']);
  });

  it('a part that no longer answers trips the cut-out', async () => {
    const id = await started({ recipe: [phase('Load', { durationS: 600, capS: 600 })] });
    rig.samples(id, 2, 31, 55, { throughput: null });
    await rig.hears((message) => message.type === 'command' && message.command === 'load' && message.percent === 0);
    expect(await runOf(id)).toMatchObject({ state: 'cut-out', endReason: 'The part no longer answers. The load was removed.' });
  });

  it('or is only written down, where that was chosen, until it is back', async () => {
    const id = await started({ recipe: [phase('Load', { durationS: 600, capS: 600 })] }, { onVanish: 'record' });
    rig.samples(id, 2, 31, 60, { throughput: null });
    rig.samples(id, 3, 61, 80);
    await rig.hears(isAck(3));
    const run = await runOf(id);
    expect(run).toMatchObject({ state: 'recording', onVanish: 'record' });
    expect(run.events.map(({ kind }) => kind)).toEqual(['vanished', 'returned']);
  });
});

describe('readings by hand', () => {
  const study = { spots: [spot('tc1'), spot('base', { channel: 'top', byHand: true, resolutionK: 0.1 })] };
  const typed = (readings: [string, string][], usual = 'C') => ({ readings: readings.map(([spotId, text]) => ({ spotId, typed: text })), usual }); // prettier-ignore

  it('are stamped, understood, taken back, and read with the run', async () => {
    const id = await started({ ...study, recipe: [phase('Load', { durationS: 600, capS: 600 })] });
    expect(bench.services.stores.samples.keys(id)).not.toContain('top');
    rig.samples(id, 2, 31, 200, { top: 61.2 });
    await rig.hears(isAck(2));
    const snapshot = bench.services.conductor.snapshot(id)!;
    expect(snapshot.shows).toEqual([{ spotId: 'base', valueC: 61.2 }]);
    const answer = await post(id, 'hand-readings', typed([['base', '142F']]));
    expect(answer.status).toBe(201);
    expect(answer.json.handReadings).toMatchObject([{ spotId: 'base', atS: 200, valueC: 61.11, typed: '142F' }]);
    expect(bench.services.conductor.snapshot(id)!.spots[1]).toMatchObject({ spotId: 'base', valueC: 61.11, readAtS: 200 });
    const taken = await bench.call('DELETE', `/api/v1/runs/${id}/hand-readings/${answer.json.handReadings[0].id}`);
    expect(taken.json.handReadings).toEqual([]);
    await post(id, 'hand-readings', typed([['base', '61,0']]));
    rig.samples(id, 3, 201, 600);
    await rig.hears((message) => message.type === 'command' && message.command === 'end');
    const { review } = (await bench.call('GET', `/api/v1/runs/${id}/readings`)).json;
    const base = review.spots.find((entry: { spotId: string }) => entry.spotId === 'base');
    expect(base.load.absolute.mean.value).toBe(61);
    expect(base.load.rise.mean.value).toBe(39);
    expect((await post(id, 'hand-readings', typed([['base', '60']]))).status).toBe(409);
    // Signed off with its readings: none of them can go any more, until it is open again.
    const [kept] = (await runOf(id)).handReadings;
    const signOff = (disposition: string) => bench.call('PUT', `/api/v1/runs/${id}/sign-off`, { disposition, reason: '' });
    await signOff('use');
    const refused = await bench.call('DELETE', `/api/v1/runs/${id}/hand-readings/${kept!.id}`);
    expect([refused.status, refused.json.detail]).toEqual([409, 'This run is signed off with its readings; take the sign-off back first.']);
    await signOff('undecided');
    expect((await bench.call('DELETE', `/api/v1/runs/${id}/hand-readings/${kept!.id}`)).json.handReadings).toEqual([]);
  });

  it('are refused whole where one of them is none', async () => {
    const id = await started(study);
    const answer = await post(id, 'hand-readings', typed([['base', '60'], ['base', 'warm']])); // prettier-ignore
    expect(answer.status).toBe(422);
    expect(answer.json.errors).toEqual([{ pointer: '/readings/1/typed', sentence: '“warm” is not a temperature.' }]);
    expect((await post(id, 'hand-readings', typed([['tc1', '60']]))).json.detail).toContain('not read by hand');
    expect((await runOf(id)).handReadings).toEqual([]);
  });

  it('are enough for a study: the rig then records what else it has', async () => {
    const id = await started({ spots: [spot('base', { channel: 'top', byHand: true })], recipe: [phase('Load')] });
    expect((await runOf(id)).channels.map(({ key, role }) => [key, role])).toContainEqual(['top', 'hand']);
    rig.samples(id, 2, 31, 121);
    await rig.hears((message) => message.type === 'command' && message.command === 'end');
    expect((await runOf(id)).state).toBe('finished');
  });
});

describe('a check of the seat', () => {
  it('is made with a fault that is planted, which a run is not without its look', async () => {
    const { studyId, mountId } = await mounted(bench, studyBody());
    const start = (body: object) => bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: null, ...body });
    const check = { purpose: 'seat-check', faults: ['pad-off'] };
    expect((await start({ ...check, faults: ['fan-free'] })).json.detail).toContain('cannot be given the fault fan-free');
    expect((await start({ faults: ['pad-off'] })).json.detail).toContain('planted where the bench is looked at');
    const made = await start(check);
    expect(made.status, made.text).toBe(201);
    expect(made.json).toMatchObject({ purpose: 'seat-check', faults: ['pad-off'] });
    const heardOf = await rig.hears((message) => message.type === 'command' && message.command === 'start');
    expect(heardOf).toMatchObject({ faults: ['pad-off'] });
  });
});

describe('the look before a run', () => {
  async function looked(change: Partial<StudyBody> = {}, values: Record<string, (number | null)[]> = {}) {
    const { studyId, mountId } = await mounted(bench, studyBody(change));
    const asked = bench.call('POST', `/api/v1/studies/${studyId}/preflight`, { mountId, faults: ['pad-off'] });
    const look = (await rig.hears((message) => message.type === 'command' && message.command === 'look')) as {
      lookId: string;
      faults: string[];
    };
    expect(look.faults).toEqual(['pad-off']);
    const n = 12;
    const wobble = (value: number) => Array.from({ length: n }, (_, i) => value + (i % 3) / 10);
    const all = {
      tc1: wobble(30.1),
      tc2: wobble(31.2),
      room: wobble(22.1),
      throughput: wobble(0),
      fan: wobble(1900),
      duty: wobble(60),
      ...values,
    };
    rig.say({ type: 'look', lookId: look.lookId, tMs: Array.from({ length: n }, (_, i) => 1000 * (i + 1)), values: all });
    const { json } = await asked;
    const start = (body: object = {}) => bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: null, preflightId: json.id, ...body }); // prettier-ignore
    return { report: json, start };
  }

  it('is clear on a bench that is ready, and stays with the run, its faults and its seed', async () => {
    const { report, start } = await looked();
    expect(report.clear).toBe(true);
    const run = (await start()).json as Run;
    expect(run.faults).toEqual(['pad-off']);
    expect(run.preflight).toEqual({ checks: report.checks, overrideReason: '' });
    const command = (await rig.hears((message) => message.type === 'command' && message.command === 'start')) as { seed: number };
    const look = heard('look')[0] as unknown as { seed: number };
    expect(command.seed).toBe(look.seed);
  });

  it('needs a reason where it is not, and says what is wrong', async () => {
    const { report, start } = await looked(
      {},
      { tc1: Array.from({ length: 12 }, () => 30.1), room: Array.from({ length: 12 }, () => null) },
    );
    expect(report.clear).toBe(false);
    const wrong = report.checks.filter((check: { ok: boolean | null }) => check.ok === false).map((check: { text: string }) => check.text);
    expect(wrong).toEqual(['the room probe shows nothing', 'Spot tc1 stands still at 30.1 °C']);
    expect((await start()).json.detail).toContain('say why');
    const run = (await start({ overrideReason: 'probe ordered' })).json as Run;
    expect(run.preflight!.overrideReason).toBe('probe ordered');
  });

  it('is of one mount, and not for ever', async () => {
    const { report, start } = await looked();
    expect((await start({ preflightId: 'unknown' })).status).toBe(409);
    const other = await mounted(
      bench,
      studyBody({ spots: [spot('other', { channel: 'tc1' })], variants: [{ ...studyBody().variants[0]!, id: 'v-other' }] }),
    );
    const answer = await bench.call('POST', `/api/v1/studies/${other.studyId}/runs`, { mountId: other.mountId, timeScale: 1, seed: null, preflightId: report.id }); // prettier-ignore
    expect(answer.json.detail).toContain('of another mount');
  });

  it('does not wait for ever for a rig that does not know it', async () => {
    const { studyId, mountId } = await mounted(bench);
    const { json } = await bench.call('POST', `/api/v1/studies/${studyId}/preflight`, { mountId });
    expect(json.checks.find((check: { key: string }) => check.key === 'sensors')).toMatchObject({ ok: false });
  }, 15_000);
});

describe('several rigs', () => {
  it('each run their own, chosen by set-up or by name', async () => {
    const second = await FakeRig.connect(bench.port, { id: 'second', setups: ['card'] });
    const first = await started({ recipe: [phase('Load', { durationS: 600, capS: 600 })] });
    const card = studyBody({
      spots: [spot('card', { channel: 'tc1' })],
      variants: [{ ...studyBody().variants[0]!, id: 'v-card', setup: 'card' }],
    });
    const { studyId, mountId } = await mounted(bench, card);
    const start = (body: object) => bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 1, ...body });
    expect((await start({ rigId: 'fake' })).json.detail).toContain('busy');
    expect((await start({ rigId: 'nowhere' })).json.detail).toContain('not connected');
    const run = (await start({})).json as Run;
    expect(run.sourceName).toBe('second');
    expect((await start({})).json.detail).toBe('Every rig is busy with another run.');
    second.samples(run.id, 1, 1, 20);
    await second.hears(isAck(1));
    expect((await runOf(first)).state).toBe('recording');
    expect(bench.services.stores.samples.read(run.id, 'tc1').t).toHaveLength(20);
    second.close();
  });
});
