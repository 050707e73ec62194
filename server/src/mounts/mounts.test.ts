import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { phasesOf } from '@red-ember/core';
import { type Mount, type StudyBody } from '@red-ember/contract';
import { blankPart, blankStep, cautionsFor } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

let made = 0;
/** A study of a cooler over a paste, with steps and a serial number; ids of its own. */
async function study(change: Partial<StudyBody> = {}) {
  const tag = `m${++made}`;
  const level = (factor: string, name: string) => ({ level: { factor, level: name } });
  const variants = (['K', 'L'] as const).map((paste, i) => ({
    id: `${tag}-${paste}`,
    name: `paste ${paste}`,
    subjectId: 'part-1',
    isReference: i === 0,
    setup: 'bare',
    notes: '',
    levels: [
      { factor: `Cooler ${tag}`, level: 'low' },
      { factor: `Paste ${tag}`, level: paste },
    ],
  }));
  const body = studyBody({
    subjects: [{ id: 'part-1', name: 'Drive', details: '', serial: 'T4-02', drive: null, map: null }],
    spots: studyBody().spots.map((spot) => ({ ...spot, id: `${tag}-${spot.id}` })),
    variants,
    factors: [
      { name: `Cooler ${tag}`, levels: ['low', 'tall'], changeMin: 20 },
      { name: `Paste ${tag}`, levels: ['K', 'L'], changeMin: 10, under: `Cooler ${tag}`, renew: true },
    ],
    parts: [{ ...blankPart(`${tag}-q`, 'paste L'), ...level(`Paste ${tag}`, 'L'), kind: 'paste', conductive: true }],
    steps: [
      { ...blankStep(`${tag}-lift`, 'off', 'Lift the cooler'), ...level(`Cooler ${tag}`, 'low'), caution: 'springs' },
      { ...blankStep(`${tag}-wipe`, 'off', 'Wipe K off'), ...level(`Paste ${tag}`, 'K'), caution: 'solvent' },
      { ...blankStep(`${tag}-spread`, 'on', 'Spread L'), ...level(`Paste ${tag}`, 'L') },
      { ...blankStep(`${tag}-set`, 'on', 'Set the cooler'), ...level(`Cooler ${tag}`, 'low'), waitMin: 5 },
    ],
    ...change,
  });
  const created = await bench.call('POST', '/api/v1/studies', body);
  expect(created.status, created.text).toBe(201);
  return { tag, id: created.json.id as string, body };
}

const BEFORE = ['power', 'static', 'hot', 'scratch'];
const mount = (studyId: string, body: object) =>
  bench.call('POST', `/api/v1/studies/${studyId}/mounts`, { note: '', serial: 't4-02 ', ...body });

describe('a mount card', () => {
  it('asks for what differs alone: every caution, every step done or left out', async () => {
    const { tag, id } = await study();
    const first = await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`] });
    expect(first.status, first.text).toBe(201);
    expect(first.json).toMatchObject({ number: 1, fromVariantId: null, serial: 't4-02' });

    const steps = [`${tag}-lift`, `${tag}-wipe`, `${tag}-spread`, `${tag}-set`];
    const confirmed = [...BEFORE, 'springs', 'solvent', 'conductive'];
    const unsure = await mount(id, { variantId: `${tag}-L`, confirmed: [...BEFORE, 'springs', 'solvent'], done: steps });
    expect(unsure).toMatchObject({ status: 422, json: { detail: 'One caution is not confirmed yet.' } });
    expect(unsure.json.errors[0].sentence).toContain('masked');
    const undone = await mount(id, { variantId: `${tag}-L`, confirmed, done: steps.slice(0, 2) });
    expect(undone.json).toMatchObject({
      detail: '2 steps are neither done nor left out.',
      errors: [{ pointer: '/done', sentence: 'Spread L' }],
    });
    expect((await mount(id, { variantId: `${tag}-L`, confirmed, done: steps, by: 'J.D.' })).status).toBe(422);
    const second = await mount(id, { variantId: `${tag}-L`, confirmed, done: steps.slice(1), skipped: [`${tag}-lift`], by: 'jd' });
    expect(first.json.by).toBe('');
    expect(second.json).toMatchObject({ by: 'JD', fromVariantId: `${tag}-K`, skipped: ['Lift the cooler'] });
  });

  it('does not let another drive be written to', async () => {
    const { tag, id } = await study();
    const body = { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`] };
    expect((await mount(id, { ...body, serial: 'T4-03' })).json.detail).toContain('is T4-02, not T4-03');
    expect((await mount(id, { ...body, serial: '' })).json).toMatchObject({ errors: [{ pointer: '/serial' }] });
    expect((await mount(id, { ...body, serial: undefined })).status).toBe(422);
  });

  it('falls back on the cautions of the family where no steps are written', async () => {
    const { tag, id } = await study({
      steps: [],
      parts: [],
      subjects: [{ id: 'part-1', name: 'Drive', details: '', drive: null, map: null }],
    });
    expect((await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE })).status).toBe(422);
    expect((await mount(id, { variantId: `${tag}-K`, confirmed: cautionsFor('drive').map(({ key }) => key) })).status).toBe(201);
  });

  it('is taken back while no run rests on it', async () => {
    const { tag, id, body } = await study();
    const one = (await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`] })).json as Mount;
    bench.services.stores.runs.insert(recorded(id, one, body));
    expect((await bench.call('DELETE', `/api/v1/mounts/${one.id}`)).json.detail).toContain('Runs rest on this mount');
    const two = (
      await mount(id, {
        variantId: `${tag}-K`,
        confirmed: [...BEFORE, 'springs', 'solvent'],
        done: [`${tag}-set`],
        skipped: [`${tag}-lift`, `${tag}-wipe`],
      })
    ).json as Mount;
    expect(two.number).toBe(2);
    expect((await bench.call('DELETE', `/api/v1/mounts/${two.id}`)).status).toBe(204);
    expect((await bench.call('DELETE', `/api/v1/mounts/${two.id}`)).status).toBe(404);
  });

  it('teaches how long a factor takes to change, waiting left out', async () => {
    const { tag, id } = await study();
    const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();
    await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`], startedAt: ago(50) });
    expect((await bench.call('GET', '/api/v1/change-overs')).json).not.toHaveProperty(`Cooler ${tag}`);
    await mount(id, {
      variantId: `${tag}-L`,
      confirmed: [...BEFORE, 'springs', 'solvent', 'conductive'],
      done: ['lift', 'wipe', 'spread', 'set'].map((step) => `${tag}-${step}`),
      startedAt: ago(27),
    });
    const learned = (await bench.call('GET', '/api/v1/change-overs')).json;
    expect(learned[`Paste ${tag}`].minutes).toBeCloseTo(22, 1);
    expect(learned[`Paste ${tag}`].n).toBe(1);
  });

  it('refuses parts and steps of levels, variants and factors that are not there', async () => {
    const { body } = await study();
    const send = (change: Partial<StudyBody>) => bench.call('POST', '/api/v1/studies', { ...body, ...change });
    const stray = { level: { factor: 'Panel', level: 'mesh' } };
    expect((await send({ parts: [{ ...body.parts[0]!, ...stray }] })).json.errors[0].pointer).toBe('/parts/0/level');
    expect((await send({ steps: [{ ...body.steps[0]!, level: null, variantId: 'gone' }] })).json.errors[0].pointer).toBe(
      '/steps/0/variantId',
    );
    expect((await send({ factors: body.factors.map((factor) => ({ ...factor, under: factor.name })) })).json.errors[0].pointer).toBe(
      '/factors/0/under',
    );
  });
});

describe('photographs of a mount', () => {
  const attach = (mountId: string, content: Buffer, name = 'seat.jpg') => {
    const form = new FormData();
    form.append('photo', new File([new Uint8Array(content)], name));
    return bench.call('POST', `/api/v1/mounts/${mountId}/photos`, form);
  };
  const picture = (width: number, height: number) => sharp({ create: { width, height, channels: 3, background: '#b07a1e' } });

  it('are resized, turned upright, and lose what the camera wrote about place and owner', async () => {
    const { tag, id } = await study();
    const one = (await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`] })).json as Mount;
    const jpeg = await picture(3000, 1200)
      .jpeg()
      .withExif({ IFD0: { Make: 'secret camera' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    expect(jpeg.includes('secret camera')).toBe(true);
    const photo = await attach(one.id, jpeg);
    expect(photo.status, photo.text).toBe(201);
    expect(photo.json).toMatchObject({ name: 'seat.jpg', widthPx: 640, heightPx: 1600 });
    const shown = await fetch(`http://127.0.0.1:${bench.port}/api/v1/mount-photos/${photo.json.id}`);
    expect(shown.headers.get('content-type')).toBe('image/webp');
    const bytes = Buffer.from(await shown.arrayBuffer());
    expect(bytes.includes('secret camera')).toBe(false);
    expect((await sharp(bytes).metadata()).exif).toBeUndefined();
    expect((await bench.call('GET', `/api/v1/studies/${id}/mounts`)).json[0].photos).toHaveLength(1);
    expect((await bench.call('DELETE', `/api/v1/mount-photos/${photo.json.id}`)).status).toBe(204);
    expect((await bench.call('GET', `/api/v1/mount-photos/${photo.json.id}`)).status).toBe(404);
  });

  it('are known by their content: a page, a broken file, another format and nothing at all are refused', async () => {
    const { tag, id } = await study();
    const one = (await mount(id, { variantId: `${tag}-K`, confirmed: BEFORE, done: [`${tag}-set`] })).json as Mount;
    const png = await picture(20, 20).png().toBuffer();
    for (const [content, name] of [
      [Buffer.from('<html><script>alert(1)</script></html>'), 'seat.png'],
      [Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'), 'seat.svg'],
      [png.subarray(0, 40), 'cut.png'],
      [await picture(20, 20).gif().toBuffer(), 'seat.png'],
      [Buffer.alloc(0), 'empty.png'],
    ] as const) {
      const answer = await attach(one.id, content, name);
      expect(answer.status, name).toBe(422);
      expect(answer.json.detail).toMatch(/photograph/);
    }
    expect((await attach(one.id, png, 'seat.txt')).status).toBe(201);
    expect((await attach('nowhere', png)).status).toBe(404);
  });
});

function recorded(studyId: string, { id: mountId, variantId }: Mount, body: StudyBody) {
  return {
    studyId,
    variantId,
    mountId,
    source: 'rig' as const,
    sourceName: 'fake',
    state: 'finished' as const,
    startedAt: '2026-03-05T10:00:00Z',
    timeScale: 1,
    settings: {},
    confirmedLocks: [],
    recipe: phasesOf(body.recipe),
    armed: [],
    seed: 1,
    channels: body.spots.map((spot) => ({
      key: spot.channel,
      role: 'spot' as const,
      spotId: spot.id,
      unit: '°C',
      sensor: spot.sensor,
      instrumentChannelId: null,
    })),
  };
}

describe('the seat of a mount', () => {
  it('fixes no prediction: its check is no run of the study', async () => {
    const { tag, id, body } = await study({ steps: [] });
    const one = (await mount(id, { variantId: `${tag}-K`, confirmed: cautionsFor('drive').map(({ key }) => key) })).json as Mount;
    const lockedAt = async () => (await bench.call('GET', `/api/v1/studies/${id}`)).json.predictionLockedAt as string | null;
    bench.services.stores.runs.insert({ ...recorded(id, one, body), purpose: 'seat-check' });
    expect(await lockedAt()).toBeNull();
    bench.services.stores.runs.insert(recorded(id, one, body));
    expect(await lockedAt()).not.toBeNull();
  });
  it('is held against earlier mounts of the variant, and never enters a result', async () => {
    const { tag, id, body } = await study({ steps: [] });
    const { runs, samples } = bench.services.stores;
    const confirmed = cautionsFor('drive').map(({ key }) => key);
    /** Two minutes of idle at 30 °C, then up by `gain` with a time constant of a minute. */
    const mounted = async (gain: number, purpose: 'measure' | 'seat-check' = 'measure') => {
      const one = (await mount(id, { variantId: `${tag}-K`, confirmed })).json as Mount;
      const run = runs.insert({ ...recorded(id, one, body), purpose });
      const t = Array.from({ length: 360 }, (_, s) => s * 1000);
      for (const spot of body.spots)
        samples.append(
          run,
          spot.channel,
          t,
          t.map((ms) => 30 + (ms < 120_000 ? 0 : gain * (1 - Math.exp(-(ms / 1000 - 120) / 60)))),
        );
      runs.startPhase(run, 0, { kind: 'idle-soak', name: 'Idle' }, 0);
      runs.endPhase(run, 0, 120_000, 'time');
      runs.startPhase(run, 1, { kind: 'load', name: 'Load' }, 120_000);
      runs.endPhase(run, 1, 360_000, 'time');
      runs.setProgress(run, 1, 359_000);
      return one;
    };
    const alone = await mounted(30);
    const seat = async (one: Mount) => (await bench.call('GET', `/api/v1/mounts/${one.id}/seat`)).json;
    expect(await seat(alone)).toMatchObject({ check: { verdict: 'unknown', earlier: 0 } });
    await mounted(30.5);
    expect(await seat(await mounted(29.8))).toMatchObject({ check: { verdict: 'alike', earlier: 2 } });
    const filmed = await seat(await mounted(41, 'seat-check'));
    expect(filmed.check).toMatchObject({ verdict: 'hotter', earlier: 3 });
    expect(filmed.check.worst.differenceK).toBeCloseTo((41 - 30.1) * (1 - Math.exp(-3)), 1);
    expect(filmed.check.causes[0]).toBe('contact');
    // The check of the seat is no run of the comparison.
    expect((await bench.call('GET', `/api/v1/studies/${id}/verdict`)).json.judgement.a.runIds).not.toContain(filmed.runId);
    const bare = (await mount(id, { variantId: `${tag}-K`, confirmed })).json as Mount;
    expect(await seat(bare)).toMatchObject({ check: null, runId: null, sentence: 'No run of this mount has 3 minutes of load yet.' });
  });
});
