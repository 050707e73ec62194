import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { strangerRun, WRITTEN, type StrangerRun } from '@red-ember/testing/strangerLogs';
import { studyBody } from '@red-ember/testing';
import type { LogStudy, Run, RunSignature, StagedLog, Study, VariantNormal } from '@red-ember/contract';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

let seed = 300;
/** Runs of one variant as a stranger's logger saw them, in the order in which they were made. */
async function runsOf(made: Partial<StrangerRun>[]): Promise<Run[]> {
  const ids: string[] = [];
  for (const [i, one] of made.entries()) {
    const form = new FormData();
    const text = WRITTEN.iso(strangerRun({ seed: ++seed, riseK: 40, lengthS: 1800, ...one }), 86_400 * 20_000 + 7200 * seed);
    form.append('log', new Blob([text]), `V stock m${i + 1}.csv`);
    ids.push(((await bench.call('POST', '/api/v1/logs', form)).json as StagedLog).id);
  }
  const study = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })) });
  expect(study.status, study.text).toBe(201);
  const runs = (await bench.call('GET', `/api/v1/studies/${(study.json as LogStudy).study.id}/runs`)).json as Run[];
  return runs.sort((p, q) => p.number - q.number);
}
const signatureOf = async (run: Run) => (await bench.call('GET', `/api/v1/runs/${run.id}/signature`)).json as RunSignature;

/** A study of its own that is like the one that `studyBody` makes. */
async function copied(title: string): Promise<string> {
  const all = (await bench.call('GET', '/api/v1/studies')).json as { id: string; title: string }[];
  const of = all.find((study) => study.title === studyBody().title)!;
  const copy = await bench.call('POST', `/api/v1/studies/${of.id}/copy`, { title });
  expect(copy.status, copy.text).toBe(201);
  return copy.json.id as string;
}

describe('a run against the clean ones of its variant', () => {
  it('is not judged before there are two of them', async () => {
    const [first, second] = await runsOf([{}, {}]);
    expect(await signatureOf(second!)).toMatchObject({ of: [first!.number], why: 'Not known yet: it takes 2 clean runs of it beside this one.', suspects: [] }); // prettier-ignore
  });

  it('is as they are, or is named with what departs and what to look at', async () => {
    const [a, b, clean, warmer] = await runsOf([{}, { riseK: 40.5 }, { riseK: 39.8 }, { riseK: 52 }]);
    const asUsual = await signatureOf(clean!);
    expect(asUsual.why).toBe('');
    expect(asUsual.of).toEqual([a!.number, b!.number, warmer!.number]);
    // The bad one stands among those that say what is normal until it is rejected: then the rest is known better.
    const refused = await bench.call('PUT', `/api/v1/runs/${warmer!.id}/sign-off`, { disposition: 'reject', reason: 'film left on' });
    expect(refused.status, refused.text).toBeLessThan(300);
    expect(await signatureOf(clean!)).toMatchObject({ of: [a!.number, b!.number], suspects: [] });
    const { suspects, offNormal } = await signatureOf(warmer!);
    expect(offNormal.map(({ key }) => key)).toContain('perWatt');
    expect(suspects[0]).toMatchObject({ key: 'pad', look: expect.stringContaining('films') });
    expect(suspects[0]!.text).toMatch(/rose \d+ % more than usual for each watt/);
  });

  it('says before a run how fast its fans usually turn for their duty', async () => {
    const { json: study } = await bench.call('POST', '/api/v1/studies', studyBody());
    const variant = (study as Study).variants[0]!.id;
    const duty: [number, number, number] = [30, 40, 66];
    const made = (day: number, fan: [number, number, number]) =>
      madeRun(bench, study.id as string, variant, `2026-03-0${day}T10:00:00Z`, { top: [30, 40], more: { duty, fan } });
    const usual = async () => bench.services.signatures.usualSpeeds(bench.services.studies.get(study.id as string), variant);
    made(1, [900, 1200, 2000]);
    expect(await usual()).toEqual({});
    made(2, [910, 1212, 2010]);
    expect(await usual()).toEqual({
      fan: { perDuty: expect.closeTo(30.15, 1), within: expect.closeTo(0.1, 1), dutyPercent: expect.closeTo(40, 1) },
    });
  });

  it('is held against them while it goes on, from the fifth minute of its load on, in whole minutes', async () => {
    const id = await copied('Looked at early');
    const { variants, title } = bench.services.studies.get(id);
    const made = (day: number, top: number, goesOnAtS?: number) =>
      madeRun(bench, id, variants[0]!.id, `2026-03-0${day}T10:00:00Z`, {
        top: [top, 40],
        ...(goesOnAtS === undefined ? {} : { goesOnAtS }),
      });
    made(1, 30);
    made(2, 30.1);
    const of = async (runId: string) => (await bench.call('GET', `/api/v1/runs/${runId}/signature`)).json as RunSignature;
    expect(await of(made(3, 36, 200))).toMatchObject({ why: 'Said from minute 5 of the load on.', loadS: 0, suspects: [] });
    const going = await of(made(4, 36, 470));
    expect(going).toMatchObject({ of: [1, 2], why: '', loadS: 420 });
    expect(going.suspects.length, title).toBeGreaterThan(0);
    expect(await of(made(5, 30, 470))).toMatchObject({ suspects: [] });
    // What no trace shows was seen while it was recorded, and comes first.
    const text = 'The rig’s clock goes 0.8 % fast by this machine’s: 4.8 s in 10 min';
    bench.services.stores.runs.addEvent(going.runId, 470_000, new Date().toISOString(), 'clock-off', text);
    expect((await of(going.runId)).suspects[0]).toMatchObject({ key: 'clock', text });
    // One that goes on says nothing of what is normal.
    expect((await of(made(6, 30))).of).toEqual([1, 2]);
  });

  it('is refused without the run', async () => {
    expect((await bench.call('GET', '/api/v1/runs/nobody/signature')).status).toBe(404);
  });
});

describe('what is normal of a variant', () => {
  it('is told by its clean runs, and over time by six and more', async () => {
    const id = await copied('Control');
    const study = (await bench.call('GET', `/api/v1/studies/${id}`)).json as Study;
    const [bare, lid] = study.variants;
    const normal = async (variant = '') =>
      (await bench.call('GET', `/api/v1/studies/${id}/normal${variant ? `?variant=${variant}` : ''}`)).json as VariantNormal;
    expect(await normal()).toMatchObject({ variants: [], of: [], why: expect.stringContaining('2 clean runs'), normals: [], control: [] });
    const made = (day: number, rise: number) =>
      madeRun(bench, id, bare!.id, new Date(Date.parse('2026-04-01T08:00:00Z') + day * 86_400_000).toISOString(), {
        top: [rise, rise + 10],
      });
    // Written down in another order than they were measured in.
    for (const day of [4, 0, 1, 2, 3]) made(day, 30 + 0.1 * (day % 3));
    const five = await normal();
    expect(five.of).toHaveLength(5);
    expect(five.normals.find(({ key }) => key === 'power')).toMatchObject({ runs: 5 });
    expect(five.control[0]).toMatchObject({ chart: null, off: false, sentence: expect.stringContaining('5 of them are there') });
    for (let day = 5; day < 12; day++) made(day, 30 + 0.1 * (day % 3));
    const quiet = await normal();
    expect(quiet.control[0]).toMatchObject({ off: false, sentence: 'The bench is still the bench it was.' });
    expect(quiet.control[0]!.runs.map(({ at }) => at)).toEqual(quiet.control[0]!.runs.map(({ at }) => at).sort());
    made(12, 33);
    const moved = await normal();
    expect(moved.control[0]).toMatchObject({ off: true, sentence: expect.stringContaining('beyond') });
    expect(moved.control[0]!.chart!.points.at(-1)!.off).toContain('beyond');
    // One that was rejected is none of them; another variant has none yet.
    const last = moved.control[0]!.runs.at(-1)!.runId;
    await bench.call('PUT', `/api/v1/runs/${last}/sign-off`, { disposition: 'reject', reason: 'window open' });
    expect((await normal()).control[0]).toMatchObject({ off: false });
    expect(await normal(lid!.id)).toMatchObject({ variantId: lid!.id, of: [], control: [] });
    expect((await bench.call('GET', `/api/v1/studies/${id}/normal?variant=nothing`)).status).toBe(404);
  });
});
