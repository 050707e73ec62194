import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setUpOf } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import type { RunSignature, Study, StudyBody, VariantNormal } from '@red-ember/contract';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

const PART = { id: 'part-1', name: 'Thistle 4T', details: '', serial: 'T-1', drive: null, map: null };
let made = 0;
/** Its spots and variants are its own, and called alike. */
async function studyOf(title: string, change: Partial<StudyBody> = {}): Promise<Study> {
  const body = studyBody({ title, subjects: [PART], ...change });
  const own = <T extends { id: string }>(all: readonly T[]) => all.map((one) => ({ ...one, id: `${one.id}-${made}` }));
  made++;
  const answer = await bench.call('POST', '/api/v1/studies', { ...body, spots: own(body.spots), variants: own(body.variants) });
  expect(answer.status, answer.text).toBe(201);
  return answer.json as Study;
}
let day = 0;
const measure = (study: Study, rise: number, fan = 1212, real = false) =>
  madeRun(bench, study.id, study.variants[0]!.id, new Date(Date.UTC(2026, 2, 1) + 86_400_000 * ++day).toISOString(), {
    real,
    top: [rise, rise + 10],
    more: { duty: [30, 40, 66], fan: [900, fan, 2000] },
  });
const signature = async (runId: string) => (await bench.call('GET', `/api/v1/runs/${runId}/signature`)).json as RunSignature;
const normal = async (study: Study) => (await bench.call('GET', `/api/v1/studies/${study.id}/normal`)).json as VariantNormal;
const speeds = (study: Study) => bench.services.signatures.usualSpeeds(bench.services.studies.get(study.id), study.variants[0]!.id);

describe('what is normal of a part and its set-up', () => {
  it('is known to a new study of it from the first run on, and to no other', async () => {
    const first = await studyOf('In spring');
    for (const rise of [30, 30.1, 30.2]) measure(first, rise);
    const later = await studyOf('In autumn');
    const [asUsual, warmer] = [measure(later, 30.1), measure(later, 36)];
    const kept = { version: 1, study: { id: first.id, title: 'In spring' } };
    // The second run says nothing of the first: one run beside it is none.
    expect(await signature(asUsual)).toMatchObject({ kept, of: [1, 2, 3], why: '', suspects: [], loadS: 1200 });
    const off = await signature(warmer);
    expect(off).toMatchObject({ kept, of: [1, 2, 3] });
    expect(off.offNormal.map(({ key, id }) => `${key} ${id}`)).toContain(`perWatt ${later.spots[0]!.id}`);
    expect(off.suspects.length).toBeGreaterThan(0);

    const unknown: [string, Partial<StudyBody>][] = [
      ['another serial number', { subjects: [{ ...PART, serial: 'T-2' }] }],
      ['another fan duty', { locks: [{ name: 'Fan duty', value: '55', unit: '%', tolerance: 1, channel: 'duty', overrides: [] }] }],
      ['a part that nobody named', { subjects: [{ ...PART, name: 'Unnamed part' }] }],
    ];
    for (const [title, change] of unknown)
      expect(await signature(measure(await studyOf(title, change), 30)), title).toMatchObject({ kept: null, of: [], why: expect.stringContaining('Not known yet') }); // prettier-ignore
  });

  it('of a simulated bench is not lent to a real one, nor the other way', async () => {
    const serial = { subjects: [{ ...PART, serial: 'T-6' }] };
    const simulated = await studyOf('Simulated', serial);
    for (const rise of [30, 30.1]) measure(simulated, rise);
    const real = await studyOf('In earnest', serial);
    expect(await signature(measure(real, 30, 1212, true))).toMatchObject({ kept: null, why: expect.stringContaining('Not known yet') });
    expect(await signature(measure(await studyOf('Simulated again', serial), 30))).toMatchObject({ kept: { study: { id: simulated.id } } });
  });

  it('is said before the first run as well', async () => {
    const [known, fresh] = [await studyOf('Fans known', { locks: [] }), await studyOf('Fans to be')];
    expect(await speeds(await studyOf('Nothing known', { subjects: [{ ...PART, serial: 'T-9' }] }))).toEqual({});
    for (const rise of [30, 30.1]) measure(known, rise, 1600);
    // What was measured last, whichever study is asked for first.
    expect((await speeds(fresh)).fan!.perDuty).toBeCloseTo(1600 / 40, 0);
    expect(await normal(fresh)).toMatchObject({ kept: { study: { id: known.id } }, why: '', of: [1, 2] });
  });

  it('stands in versions: one more whenever the clean runs are others, each against the one before', async () => {
    const serial = { subjects: [{ ...PART, serial: 'T-3' }] };
    const study = await studyOf('Versions', serial);
    const runs = [30, 30.1].map((rise) => measure(study, rise));
    expect((await normal(study)).versions).toMatchObject([{ version: 1, of: [1, 2], moved: [] }]);
    expect((await normal(study)).versions).toHaveLength(1);
    // Two pages that ask at once keep it once.
    const again = await studyOf('At once', { subjects: [{ ...PART, serial: 'T-5' }] });
    for (const rise of [30, 30.1]) measure(again, rise);
    await Promise.all([normal(again), normal(again), speeds(again)]);
    expect((await normal(again)).versions).toHaveLength(1);
    measure(study, 30.2);
    expect((await normal(study)).versions).toMatchObject([{ version: 2, of: [1, 2, 3], moved: [] }, { version: 1 }]);
    await bench.call('PUT', `/api/v1/runs/${runs[0]}/sign-off`, { disposition: 'reject', reason: 'window open' });
    expect((await normal(study)).versions[0]).toMatchObject({ version: 3, of: [2, 3] });

    const year = await studyOf('A year later', serial);
    for (const rise of [40, 40.1]) measure(year, rise);
    const [now, before] = (await normal(year)).versions;
    expect(before).toMatchObject({ version: 3, study: { title: 'Versions' } });
    expect(now).toMatchObject({ version: 4, of: [1, 2], study: { id: year.id } });
    const moved = now!.moved.find(({ key, of }) => key === 'perWatt' && of === year.spots[0]!.name)!;
    expect(moved.to / moved.from).toBeGreaterThan(40 / 30);
    // What was kept stays, whatever becomes of the study.
    expect((await bench.call('DELETE', `/api/v1/studies/${study.id}`)).status).toBeLessThan(300);
    expect((await normal(year)).versions).toHaveLength(4);
  });

  it('is neither learnt from an exercise nor told to one', async () => {
    const begun = await bench.call('POST', '/api/v1/practice', { exercise: 'cover', seed: 3 });
    const practice = bench.services.studies.get((begun.json as { studyId: string }).studyId);
    const variant = practice.variants[0]!.id;
    for (const [i, rise] of [30, 30.1, 30].entries())
      madeRun(bench, practice.id, variant, `2026-05-0${i + 1}T10:00:00Z`, { top: [rise, 40], more: { tc3: [30, 50, 60] } });
    const asked = (await bench.call('GET', `/api/v1/studies/${practice.id}/normal?variant=${variant}`)).json as VariantNormal;
    expect(asked).toMatchObject({ of: [1, 2, 3], versions: [], kept: null });
    const { family, subjects, spots, variants, recipe, locks, rules, parts } = practice;
    const alike = parts.map((part) => ({ ...part, variantId: part.variantId && `${part.variantId}-${made}` }));
    const twin = await studyOf('Of the same part', { family, subjects, spots, variants, recipe, locks, rules, parts: alike });
    const side = twin.variants[0]!.id;
    expect(setUpOf(twin, side)).toBe(setUpOf(practice, variant));
    const known = async (id: string, of: string) => (await bench.call('GET', `/api/v1/studies/${id}/normal?variant=${of}`)).json as VariantNormal; // prettier-ignore
    expect((await known(twin.id, side)).kept).toBeNull();
    for (const [i, rise] of [30, 30.1].entries()) madeRun(bench, twin.id, side, `2026-06-0${i + 1}T10:00:00Z`, { top: [rise, 40], more: { tc3: [30, 50, 60] } }); // prettier-ignore
    expect((await known(twin.id, side)).versions).toHaveLength(1);
    const next = await bench.call('POST', '/api/v1/practice', { exercise: 'cover', seed: 3 });
    const again = bench.services.studies.get((next.json as { studyId: string }).studyId);
    expect(setUpOf(again, again.variants[0]!.id)).toBe(setUpOf(twin, side));
    expect(await known(again.id, again.variants[0]!.id)).toMatchObject({ kept: null, versions: [] });
  });
});

describe('a clock that is off', () => {
  it('is a suspect in the first run already', async () => {
    const run = measure(await studyOf('First of its kind', { subjects: [{ ...PART, serial: 'T-4' }] }), 30);
    const text = 'The rig’s clock goes 0.8 % fast by this machine’s: 4.8 s in 10 min';
    bench.services.stores.runs.addEvent(run, 470_000, new Date().toISOString(), 'clock-off', text);
    expect(await signature(run)).toMatchObject({ why: expect.stringContaining('Not known yet'), suspects: [{ key: 'clock', text }] });
  });
});
