import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Run, RunReadings, Study } from '@red-ember/contract';
import { madeRun } from '../tests/madeRun.ts';
import { spot, studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let study: Study;
const lock = { name: 'Firmware', value: 'LH-2.4', unit: '', tolerance: null, channel: '', overrides: [] };

beforeAll(async () => {
  bench = await testBench();
  const made = await bench.call(
    'POST',
    '/api/v1/studies',
    studyBody({ spots: [spot('tc1'), spot('tc2'), spot('gun', { byHand: true, channel: 'gun', resolutionK: 0.5 })], locks: [lock] }),
  );
  expect(made.status, made.text).toBe(201);
  study = made.json as Study;
}, 30_000);
afterAll(() => bench.remove());

let hour = 0;
const finished = () => madeRun(bench, study.id, 'v-bare', `2026-03-02T${String(++hour).padStart(2, '0')}:00:00Z`, { top: [30, 40] });
const put = (id: string, body: object) => bench.call('PUT', `/api/v1/runs/${id}/facts`, body);
const rise = async (id: string, spotId: string) => {
  const { review } = (await bench.call('GET', `/api/v1/runs/${id}/readings`)).json as RunReadings;
  return review.spots.find((entry) => entry.spotId === spotId)?.load?.rise?.mean.value;
};
const changes = async () =>
  ((await bench.call('GET', `/api/v1/studies/${study.id}/history`)).json as { changed: string[] }[]).flatMap(({ changed }) => changed);

describe('what the channels of a run read', () => {
  it('is put right afterwards: two spots that were swapped, a series that was °F', async () => {
    const id = finished();
    expect(await rise(id, 'tc1')).toBeCloseTo(40, 1);
    const swapped = await put(id, {
      channels: [
        { key: 'tc1', role: 'spot', spotId: 'tc2', readAs: 'as-is' },
        { key: 'tc2', role: 'spot', spotId: 'tc1', readAs: 'as-is' },
      ],
    });
    expect(swapped.status, swapped.text).toBe(200);
    expect(await rise(id, 'tc1')).toBeCloseTo(38, 1);
    expect(await rise(id, 'tc2')).toBeCloseTo(40, 1);
    // 62 °F that were taken for 62 °C are 16.7 °C; the room stays what it was.
    await put(id, { channels: [{ key: 'tc1', role: 'spot', spotId: 'tc2', readAs: 'fahrenheit' }] });
    expect(await rise(id, 'tc2')).toBeCloseTo(((62 - 32) * 5) / 9 - 22, 1);
    const trace = (await bench.call('GET', `/api/v1/runs/${id}/trace`)).json as { series: { key: string; y: number[] }[] };
    expect(trace.series.find(({ key }) => key === 'tc1')!.y.at(-1)).toBeCloseTo(16.67, 1);
    // And back: nothing that was stored has changed.
    await put(id, { channels: [{ key: 'tc1', role: 'spot', spotId: 'tc2', readAs: 'as-is' }] });
    expect(await rise(id, 'tc2')).toBeCloseTo(40, 1);
    expect(await changes()).toContainEqual(expect.stringMatching(/tc1 read from Spot tc2 instead of Spot tc1/));
  });

  it('gives a channel another role, and its unit with it', async () => {
    const id = finished();
    const run = (await put(id, { channels: [{ key: 'tc2', role: 'intake', spotId: null, readAs: 'as-is' }] })).json as Run;
    expect(run.channels.find(({ key }) => key === 'tc2')).toEqual({
      key: 'tc2',
      role: 'intake',
      spotId: null,
      unit: '°C',
      readAs: 'as-is',
      head: '',
    });
    expect(await rise(id, 'tc2')).toBeUndefined();
  });

  it.each([
    ['a channel that is not there', [{ key: 'x', role: 'spot', spotId: 'tc1', readAs: 'as-is' }], 422, 'no recorded channel x'],
    ['another study’s spot', [{ key: 'tc1', role: 'spot', spotId: 'nobody', readAs: 'as-is' }], 404, 'This spot'],
    ['two channels of one spot', [{ key: 'tc1', role: 'spot', spotId: 'tc2', readAs: 'as-is' }], 422, 'cannot be read by tc1 and by tc2'],
    ['two rooms', [{ key: 'tc1', role: 'room', spotId: null, readAs: 'as-is' }], 422, 'room air cannot be read by tc1 and by room'],
    ['a unit that nobody knows', [{ key: 'tc1', role: 'spot', spotId: 'tc1', readAs: 'smoots' }], 422, 'unit'],
    ['a spot without its name', [{ key: 'tc1', role: 'spot', readAs: 'as-is' }], 422, 'Choose the spot'],
  ])('is refused for %s', async (_what, channels, status, words) => {
    const id = finished();
    const before = bench.services.stores.runs.channels(id);
    const answer = await put(id, { channels });
    expect(answer.status, answer.text).toBe(status);
    expect(answer.text).toContain(words);
    expect(bench.services.stores.runs.channels(id)).toEqual(before);
  });

  it('leaves a run at least one spot, one that is read by hand among them', async () => {
    const beside = ['tc1', 'tc2'].map((key) => ({ key, role: 'beside', spotId: null, readAs: 'as-is' }));
    expect((await put(finished(), { channels: beside })).status).toBe(200);
    const [bare] = studyBody().variants;
    const body = studyBody({
      spots: [spot('n1', { channel: 'tc1' }), spot('n2', { channel: 'tc2' })],
      variants: [{ ...bare!, id: 'n-bare' }],
    });
    const other = (await bench.call('POST', '/api/v1/studies', body)).json as Study;
    const id = madeRun(bench, other.id, 'n-bare', '2026-03-03T01:00:00Z', { top: [30, 40] });
    const refused = await put(id, { channels: beside });
    expect([refused.status, refused.json.detail]).toEqual([422, 'Leave at least one channel that was read from a spot.']);
  });

  it('keeps what was held, firmware among it, and refuses what the study does not hold', async () => {
    const id = finished();
    const run = (await put(id, { settings: [{ name: 'Firmware', value: 'LH-2.5' }] })).json as Run;
    expect(run.settings.Firmware).toBe('LH-2.5');
    expect(await changes()).toContainEqual(expect.stringMatching(/Firmware LH-2.5 instead of LH-2.4/));
    expect((await put(id, { settings: [{ name: '__proto__', value: 'x' }] })).status).toBe(422);
    const twice = await put(id, { settings: ['a', 'b'].map((value) => ({ name: 'Firmware', value })) });
    expect(twice.json.detail).toContain('given twice');
  });
});

describe('what stands on paper', () => {
  const mark = (id: string, body: object) => bench.call('POST', `/api/v1/runs/${id}/noted`, { kind: 'mark', ...body });
  const read = (id: string, typed: string, more: object) =>
    bench.call('POST', `/api/v1/runs/${id}/noted-readings`, { readings: [{ spotId: 'gun', typed }], usual: 'C', ...more });

  it('is noted with its time after the run has ended, and can be taken back', async () => {
    const id = finished();
    const noted = await mark(id, { text: 'door opened', atS: 754 });
    expect(noted.status, noted.text).toBe(201);
    const event = (noted.json as Run).events.find(({ text }) => text === 'door opened')!;
    expect(event.atS).toBe(754);
    expect(await changes()).toContainEqual(expect.stringMatching(/^Run \d+, noted afterwards at 12:34: door opened\.$/));
    const back = await bench.call('DELETE', `/api/v1/runs/${id}/noted/${event.id}`);
    expect((back.json as Run).events).toEqual([]);
    expect((await bench.call('DELETE', `/api/v1/runs/${id}/noted/${event.id}`)).status).toBe(404);
  });

  it('is read like what was typed during the run', async () => {
    const id = finished();
    for (const atS of [2700, 2800, 2900]) expect((await read(id, '71,5', { atS })).status).toBe(201);
    expect(await rise(id, 'gun')).toBeCloseTo(49.5, 1);
  });

  it('is refused without a time, outside the run, or once the run is signed off', async () => {
    const id = finished();
    expect((await mark(id, { text: 'x' })).json.errors[0]).toMatchObject({ pointer: '/atS' });
    expect((await mark(id, { text: 'x', atS: 3001 })).json.detail).toContain('ended at 50:00');
    expect((await mark(id, { text: 'x', atS: -1 })).status).toBe(422);
    expect((await read(id, '70', {})).json.errors[0]).toMatchObject({ pointer: '/atS' });
    const recorded = await bench.call('POST', `/api/v1/runs/${id}/noted-readings`, {
      readings: [{ spotId: 'tc1', typed: '70' }],
      usual: 'C',
      atS: 100,
    });
    expect(recorded.status).toBe(422);
    await bench.call('PUT', `/api/v1/runs/${id}/sign-off`, { disposition: 'use', reason: '' });
    expect((await mark(id, { text: 'x', atS: 100 })).status).toBe(409);
    expect((await read(id, '70', { atS: 100 })).status).toBe(409);
  });
});
