import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Study } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { spot, studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

const channel = (id: string, change: object = {}) => ({
  id,
  name: id,
  quantity: 'temperature',
  percentOfReading: 0,
  fixed: 1,
  thermocouple: null,
  resolution: 0.1,
  lagS: 3,
  drift: 0,
  place: '',
  ...change,
});
const logger = (channels: object[], name = 'Logger') => ({ name, kind: 'thermocouple logger', serial: '', notes: '', channels });
const calibration = (channelId: string, offset: number, change: object = {}) => ({
  channelId,
  madeOn: '2026-03-01',
  dueOn: '2027-03-01',
  referenceAccuracyK: 0.1,
  points: [
    { indicatedC: -offset, referenceC: 0, reference: 'ice point' },
    { indicatedC: 100 - offset, referenceC: 100, reference: 'boiling point' },
  ],
  note: '',
  applyToRuns: [],
  ...change,
});

/** A log of 20 minutes: room 22 °C, spots idling at 30 °C and settled at 60 °C, a fan that leaves its duty half-way through the load. */
function log(startedAt: string): string {
  const start = Date.parse(startedAt);
  const lines = ['Time,tc1,tc2,Room,Throughput,Fan'];
  for (let s = 0; s < 1200; s += 2) {
    const load = s >= 300;
    const wiggle = 0.02 * Math.sin(s);
    const at = load ? 60 - 30 * Math.exp(-(s - 300) / 60) : 30;
    lines.push(
      `${new Date(start + s * 1000).toISOString()},${(at + wiggle).toFixed(2)},${(at - 4 + wiggle).toFixed(2)},22.0,${load ? 6000 : 0},${s < 800 ? 60 : 66}`,
    );
  }
  return lines.join('\n');
}

let n = 0;
async function studyWithRun(startedAt: string, change: Parameters<typeof studyBody>[0] = {}) {
  const tag = `c${++n}`;
  const body = studyBody({
    spots: [
      spot(`${tag}-1`, { channel: 'tc1', instrumentChannelId: 'cal-1', accuracyK: 1, twinOf: null }),
      spot(`${tag}-2`, { channel: 'tc2', twinOf: `${tag}-1`, limitC: 70, cutOutC: 75 }),
    ],
    variants: [
      { id: `${tag}-a`, name: 'bare', subjectId: 'part-1', isReference: true, setup: '', notes: '' },
      { id: `${tag}-b`, name: 'lid', subjectId: 'part-1', isReference: false, setup: '', notes: '' },
    ],
    locks: [{ name: 'Fan duty', value: '60', unit: '%', tolerance: 2, channel: 'fan', overrides: [] }],
    ...change,
  });
  const { id } = (await bench.call('POST', '/api/v1/studies', body)).json;
  const run = async (variantId: string, at: string) => {
    const form = new FormData();
    form.append('log', new Blob([log(at)]), 'bench.csv');
    const staged = (await bench.call('POST', `/api/v1/studies/${id}/logs`, form)).json;
    const answer = await bench.call('POST', `/api/v1/studies/${id}/logs/${staged.id}/run`, {
      variantId,
      timeColumn: 0,
      timeFormat: 'iso',
      columns: [
        { column: 1, role: 'spot', spotId: `${tag}-1` },
        { column: 2, role: 'spot', spotId: `${tag}-2` },
        { column: 3, role: 'room', spotId: null },
        { column: 4, role: 'throughput', spotId: null },
        { column: 5, role: 'beside', spotId: null, lockName: 'Fan duty' },
      ],
      loadStartS: 300,
      loadEndS: 1200,
      acceptOddTemperatures: false,
      note: '',
    });
    expect(answer.status, answer.text).toBe(201);
    return answer.json.id as string;
  };
  return { id: id as string, tag, body, run, first: await run(`${tag}-a`, startedAt) };
}
const readings = async (runId: string) => (await bench.call('GET', `/api/v1/runs/${runId}/readings`)).json;
const loadOf = async (runId: string, i = 0) => (await readings(runId)).review.spots[i].load.absolute.mean.value as number;

describe('instruments', () => {
  it('are kept with a version, and refuse a save on top of another', async () => {
    const made = (await bench.call('POST', '/api/v1/instruments', logger([channel('v-1')]))).json;
    expect(made).toMatchObject({ version: 1, calibrations: [] });
    const put = (version: number, name: string) =>
      bench.call('PUT', `/api/v1/instruments/${made.id}`, logger([channel('v-1')], name), { 'if-match': `"${version}"` });
    expect((await put(1, 'One')).json.version).toBe(2);
    expect((await put(1, 'Two')).status).toBe(412);
    expect((await bench.call('POST', '/api/v1/instruments', logger([channel('v-1')]))).status).toBe(422);
    expect((await bench.call('DELETE', `/api/v1/instruments/${made.id}`)).status).toBe(204);
    expect((await bench.call('GET', '/api/v1/instruments?trash=true')).json).toHaveLength(1);
    expect((await bench.call('POST', `/api/v1/instruments/${made.id}/restore`)).json.name).toBe('One');
  });

  it('correct runs from the calibration’s day on, and earlier ones by choice; samples stay as they were', async () => {
    const { id } = (await bench.call('POST', '/api/v1/instruments', logger([channel('cal-1'), channel('cal-w', { quantity: 'power' })])))
      .json;
    const early = await studyWithRun('2026-02-20T10:00:00Z');
    expect(await loadOf(early.first)).toBeCloseTo(60, 1);
    const first = await bench.call('POST', `/api/v1/instruments/${id}/calibrations`, calibration('cal-1', 0.5));
    expect(first.json).toMatchObject({ channelId: 'cal-1', runIds: [] });
    expect(await loadOf(early.first)).toBeCloseTo(60, 1);
    const late = await early.run(`${early.tag}-b`, '2026-03-10T10:00:00Z');
    expect(await loadOf(late)).toBeCloseTo(60.5, 1);
    expect((await bench.call('GET', `/api/v1/runs/${late}/conditions`)).json['Sensor, Spot ' + early.tag + '-1']).toContain(
      'calibrated 2026-03-01',
    );
    const chosen = calibration('cal-1', 0.8, { madeOn: '2026-04-01', applyToRuns: [early.first] });
    await bench.call('POST', `/api/v1/instruments/${id}/calibrations`, chosen);
    expect(await loadOf(early.first)).toBeCloseTo(60.8, 1);
    expect(await loadOf(late)).toBeCloseTo(60.5, 1);
    const [entry] = (await bench.call('GET', `/api/v1/studies/${early.id}/history`)).json;
    expect(entry.changed).toEqual(['calibration of cal-1 applied to run 1']);
    expect(entry.moved[0].before).toContain('+0.50 K');
    expect(entry.moved[0].after).toContain('−0.30 K');
    const raw = (await bench.call('GET', `/api/v1/runs/${early.first}/trace`)).json.series[0].y;
    expect(raw.at(-1)).toBeCloseTo(60, 1);
    expect((await bench.call('GET', '/api/v1/instrument-channels/cal-1/runs')).json.map((run: { runId: string }) => run.runId)).toEqual([
      late,
      early.first,
    ]);
    // What the calibration leaves stands for the stated accuracy in the verdict of runs that all carry one.
    const verdict = (await bench.call('GET', `/api/v1/studies/${early.id}/verdict`)).json;
    expect(verdict.spots[0].accuracyK).toBeCloseTo(0.1, 2);
    expect(verdict.spots[1].accuracyK).toBe(0.5);
    // A channel that was calibrated cannot be taken away.
    expect((await bench.call('PUT', `/api/v1/instruments/${id}`, logger([channel('cal-w')]), { 'if-match': '"1"' })).status).toBe(409);
  });

  it('say when a calibration had fallen due, and refuse senseless ones', async () => {
    const { id } = (await bench.call('POST', '/api/v1/instruments', logger([channel('due-1'), channel('due-w', { quantity: 'power' })])))
      .json;
    const post = (body: object) => bench.call('POST', `/api/v1/instruments/${id}/calibrations`, body);
    expect((await post(calibration('nowhere', 0.1))).json.detail).toContain('not one of the instrument');
    expect((await post(calibration('due-w', 0.1))).json.detail).toContain('only temperatures');
    expect((await post(calibration('due-1', 0.1, { madeOn: '2999-01-01', dueOn: '2999-02-01' }))).json.detail).toContain('in the future');
    expect((await post(calibration('due-1', 0.1, { applyToRuns: ['gone'] }))).status).toBe(404);
    await post(calibration('due-1', 0.1, { madeOn: '2026-01-01', dueOn: '2026-02-01' }));
    const study = await studyWithRun('2026-03-05T10:00:00Z', {});
    const body = (await bench.call('GET', `/api/v1/studies/${study.id}`)).json;
    const rest = bodyOf(body as Study);
    rest.spots[0]!.instrumentChannelId = 'due-1';
    await bench.call('PUT', `/api/v1/studies/${study.id}`, rest, { 'if-match': `"${body.version}"` });
    const run = await study.run(`${study.tag}-a`, '2026-03-06T10:00:00Z');
    const findings = (await readings(run)).findings as { check: string; evidence: string }[];
    expect(findings.find((finding) => finding.check === 'calibration')!.evidence).toContain('fallen due on 2026-02-01');
  });
});

describe('what runs are held to', () => {
  it('finds a lock that moved, and a sensor that reads low beside its twin', async () => {
    const study = await studyWithRun('2026-05-01T10:00:00Z');
    await study.run(`${study.tag}-b`, '2026-05-02T10:00:00Z');
    const { review, findings } = await readings(study.first);
    expect(review.locks[0]).toMatchObject({ name: 'Fan duty', watch: { held: false, leftAtS: 800 } });
    expect(
      (findings as { evidence: string }[]).some((finding) => finding.evidence.includes('was off it by up to 6.0 %, from 13:20 on')),
    ).toBe(true);
    const [twin] = (await bench.call('GET', `/api/v1/studies/${study.id}/agreements`)).json;
    expect(twin.agreement.bias.value).toBeGreaterThan(3.5);
    expect(twin.flag).toContain('low near its limit');
    expect(twin.points.length).toBeLessThanOrEqual(300);
    const verdict = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json;
    expect(verdict.judgement.findings.filter((finding: { check: string }) => finding.check === 'agreement')).toHaveLength(1);
  });

  it('keeps with a change what it moved', async () => {
    const study = await studyWithRun('2026-05-03T10:00:00Z');
    await study.run(`${study.tag}-b`, '2026-05-04T10:00:00Z');
    const now = (await bench.call('GET', `/api/v1/studies/${study.id}`)).json;
    const change = { ...study.body, rules: { ...study.body.rules, practicalK: 9 } };
    const saved = await bench.call('PUT', `/api/v1/studies/${study.id}`, change, { 'if-match': `"${now.version}"` });
    expect(saved.status, saved.text).toBe(200);
    const [entry] = (await bench.call('GET', `/api/v1/studies/${study.id}/history`)).json;
    expect(entry.changed).toEqual(['house rules']);
    expect(entry.moved).toHaveLength(2);
    expect(entry.moved[0].before).toContain('no call');
    expect(entry.moved[0].after).toContain('equivalent');
  });

  it('reports the hottest of several sensors where the house rules ask for it', async () => {
    const study = await studyWithRun('2026-05-05T10:00:00Z');
    await study.run(`${study.tag}-b`, '2026-05-06T10:00:00Z');
    const change = { ...study.body, rules: { ...study.body.rules, figure: 'hottest' } };
    await bench.call('PUT', `/api/v1/studies/${study.id}`, change, { 'if-match': '"1"' });
    const verdict = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json;
    expect(verdict.spots[0]).toMatchObject({ id: 'hottest', limitC: 70 });
    // 60 °C as read, and 0.8 K by the calibration of April.
    expect(verdict.judgement.spots[0].a.spotC).toBeCloseTo(60.8, 1);
    const report = await bench.call('GET', `/api/v1/studies/${study.id}/report.html`);
    expect(report.text).toContain('Hottest of 2 spots');
    expect(report.text).toContain('Fan duty: 60 % ± 2, watched by fan');
  });

  it('reports a spot that is over its limit as over, in words and for those who hear the page', async () => {
    const study = await studyWithRun('2026-05-07T10:00:00Z');
    await study.run(`${study.tag}-b`, '2026-05-08T10:00:00Z');
    // The runs settle near 60 °C: with a limit of 55 °C nothing is left.
    const spots = study.body.spots.map((entry) => ({ ...entry, limitC: 55, cutOutC: 75 }));
    expect((await bench.call('PUT', `/api/v1/studies/${study.id}`, { ...study.body, spots }, { 'if-match': '"1"' })).status).toBe(200);
    const { text } = await bench.call('GET', `/api/v1/studies/${study.id}/report.html`);
    expect(text).toMatch(/>\d+ K over</);
    expect(text).toMatch(/aria-label="[^"]*\d K over, limit 55 °C"/);
    expect(text).not.toMatch(/[−-]\d+ K left|>0 K left/);
  });

  it('scores predictions over all studies', async () => {
    const { record } = (await bench.call('GET', '/api/v1/record')).json;
    expect(record).toMatchObject({ right: 0, missed: 0 });
  });
});
