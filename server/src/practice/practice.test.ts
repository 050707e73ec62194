import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { HandInBody, PracticeSheet, PracticeShelf, Study } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { madeRun } from '../tests/madeRun.ts';
import { FakeRig, testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(async () => {
  await bench.remove();
});

const ask = async <T>(method: string, path: string, body?: unknown): Promise<{ status: number; json: T & { detail?: string } }> =>
  bench.call(method, `/api/v1${path}`, body);
const begin = async (body: object): Promise<PracticeSheet> => (await ask<PracticeSheet>('POST', '/practice', body)).json;
const studyOf = async (sheet: PracticeSheet): Promise<Study> => (await ask<Study>('GET', `/studies/${sheet.studyId}`)).json;
const answer = (change: Partial<HandInBody> = {}): HandInBody => ({ call: 'cooler', differenceK: -20, plusMinusK: 1, found: ['film-left'], sentence: 'It cools.', ...change }); // prettier-ignore

/** The third probe of the practice bench’s drive. */
const TC3: Record<string, [number, number, number]> = { tc3: [30, 50, 60] };

async function mountOf(sheet: PracticeSheet, side: 'a' | 'b'): Promise<string> {
  const study = await studyOf(sheet);
  const variantId = study.variants.find(({ name }) => name === sheet.question[side])!.id;
  const confirmed = cautionsFor('drive').map(({ key }) => key);
  const { json } = await ask<{ id: string }>('POST', `/studies/${sheet.studyId}/mounts`, { variantId, confirmed, note: '' });
  return json.id;
}

describe('an exercise', () => {
  it('is begun as a study of its own, and its seed makes it again', async () => {
    const { exercises } = (await ask<PracticeShelf>('GET', '/practice')).json;
    expect(exercises).toHaveLength(13);
    const sheet = await begin({ exercise: 'cover', seed: 7 });
    expect(sheet).toMatchObject({ exercise: 'cover', seed: 7, hints: [], hintsLeft: 2, runs: 0, answer: null, marks: null, truth: null });
    const again = await begin({ exercise: 'cover', seed: 7 });
    expect(again.question).toEqual(sheet.question);
    expect(again.studyId).not.toBe(sheet.studyId);
    expect((await studyOf(again)).variants.map(({ setup }) => setup)).toEqual((await studyOf(sheet)).variants.map(({ setup }) => setup));
    expect((await begin({ exercise: 'cover' })).seed).toBeGreaterThan(0);
  });

  it('is told of before it is handed in by nothing that is answered', async () => {
    const sheet = await begin({ exercise: 'cover', seed: 7 });
    const texts = await Promise.all(
      [`/practice/${sheet.studyId}`, `/studies/${sheet.studyId}`, `/studies/${sheet.studyId}/runs`, '/practice'].map(
        async (path) => (await bench.call('GET', `/api/v1${path}`)).text,
      ),
    );
    // The list of what might be wrong is the same for all of them.
    for (const text of texts.slice(1)) expect(text).not.toContain('film');
    expect(texts[0]).not.toContain('film-left-on');
    expect(JSON.parse(texts[0]!)).toMatchObject({ truth: null, marks: null });
  });

  it('plants its trap on the mount that it is on, and nowhere else, and no run says so', async () => {
    const rig = await FakeRig.connect(bench.port, { id: 'practice', more: ['tc3', 'power'].map((key) => ({ key, quantity: 'temperature', unit: '°C' })), setups: ['4t-bare', '4t-comb-sink', '4t-thick-slab', 'slot-lid'] }); // prettier-ignore
    const sheet = await begin({ exercise: 'cover', seed: 7 });
    const heard: string[][] = [];
    for (const side of ['b', 'b', 'a'] as const) {
      const mountId = await mountOf(sheet, side);
      const started = await ask<{ id: string; faults: string[] }>('POST', `/studies/${sheet.studyId}/runs`, {
        mountId,
        timeScale: 1,
        seed: 5,
      });
      expect([started.status, started.json.faults]).toEqual([201, []]);
      const told = await rig.hears((message) => message.type === 'command' && message.command === 'start' && message.runId === started.json.id); // prettier-ignore
      heard.push((told as unknown as { faults: string[] }).faults);
      const early = await ask('POST', `/practice/${sheet.studyId}/answer`, answer());
      expect([early.status, early.json.detail]).toEqual([409, expect.stringContaining('A run goes on')]);
      expect((await ask('DELETE', `/practice/${sheet.studyId}`)).status).toBe(409);
      await ask('POST', `/runs/${started.json.id}/stop`, { reason: 'seen enough' });
    }
    expect(heard).toEqual([['film-left-on'], [], []]);
    rig.close();
  });

  it('gives hints one by one, takes one answer, and opens what was true', async () => {
    const sheet = await begin({ exercise: 'cover', seed: 7 });
    const study = await studyOf(sheet);
    for (const [i, { id }] of [study.variants[0]!, study.variants[1]!, study.variants[1]!, study.variants[0]!].entries())
      madeRun(bench, sheet.studyId, id, `2026-05-0${i + 1}T08:00:00Z`, { top: [i % 3 === 0 ? 50 : 32, 60], more: TC3 });
    expect((await ask<PracticeSheet>('POST', `/practice/${sheet.studyId}/hints`)).json).toMatchObject({
      hintsLeft: 1,
      hints: [expect.any(String)],
    });
    const { status, json } = await ask<PracticeSheet>('POST', `/practice/${sheet.studyId}/answer`, answer({ found: ['wrong-plug'] }));
    expect(status).toBe(200);
    expect(json.marks).toMatchObject({ missed: ['film-left'], imagined: ['wrong-plug'], hints: 1, skippedSteps: 0 });
    expect(json.marks!.hours).toBeGreaterThan(0);
    expect(json.truth!.planted[0]).toContain(`The film was left on a pad: on mount 1 of ${sheet.question.b}.`);
    expect(json.truth!.seen[0]).toContain('seat check');
    expect(json.truth!.verdict.length).toBeGreaterThan(10);
    expect(json.truth!.calls).toContain(json.truth!.differenceK < 0 ? 'cooler' : 'warmer');
    expect((await ask('POST', `/practice/${sheet.studyId}/answer`, answer())).status).toBe(409);
    expect((await ask('POST', `/practice/${sheet.studyId}/hints`)).status).toBe(409);
    const { attempts } = (await ask<PracticeShelf>('GET', '/practice')).json;
    expect(attempts.find(({ studyId }) => studyId === sheet.studyId)).toMatchObject({ runs: 4, hints: 1, marks: json.marks });
  });

  it('with nothing done is answered all the same, and an answer that is none is refused', async () => {
    const sheet = await begin({ exercise: 'alike', seed: 3 });
    const bad = await ask('POST', `/practice/${sheet.studyId}/answer`, {
      ...answer(),
      call: 'colder',
      found: ['nonsense'],
      plusMinusK: -1,
    });
    expect(bad.status).toBe(422);
    const { json } = await ask<PracticeSheet>('POST', `/practice/${sheet.studyId}/answer`, answer({ call: 'cannot', differenceK: null, plusMinusK: null, found: [] })); // prettier-ignore
    expect(json.marks).toMatchObject({ call: 'held-back', figure: null, missed: [], imagined: [], hours: 0 });
    expect(json.truth!.planted).toEqual(['Nothing was wrong with the bench.']);
  });

  it('that is none, or another, is refused in a sentence', async () => {
    expect((await ask('POST', '/practice', { exercise: 'nothing' })).status).toBe(404);
    expect((await ask('POST', '/practice', {})).status).toBe(404);
    expect((await ask('POST', '/practice', { exercise: 'cover', seed: 0 })).status).toBe(422);
    const own = (await ask<Study>('POST', '/studies', studyBody({ title: 'In earnest' }))).json;
    expect((await ask('GET', `/practice/${own.id}`)).status).toBe(404);
    expect((await ask('DELETE', `/practice/${own.id}`)).status).toBe(404);
    expect((await ask<Study>('GET', `/studies/${own.id}`)).status).toBe(200);
  });
});

describe('practice is kept apart', () => {
  it('from the shelf, the list of runs, what changing over takes, and the scatter that studies lend each other', async () => {
    const shelf = (await ask<{ id: string; title: string }[]>('GET', '/studies')).json;
    expect(shelf.map(({ title }) => title)).toEqual(['In earnest']);
    const own = shelf[0]!.id;
    const before = (await ask('GET', `/studies/${own}/scatter`)).json;
    const sheet = await begin({ exercise: 'cover', seed: 9 });
    const study = await studyOf(sheet);
    for (const [i, { id }] of [...study.variants, ...study.variants].entries())
      madeRun(bench, sheet.studyId, id, `2026-06-0${i + 1}T08:00:00Z`, { top: [40 + 3 * i, 60 + 3 * i], more: TC3 });
    expect((await ask('GET', `/studies/${own}/scatter`)).json).toEqual(before);
    madeRun(bench, own, 'v-bare', '2026-06-08T08:00:00Z', { top: [30, 40] });
    expect((await ask<{ studyId: string }[]>('GET', '/runs')).json.map(({ studyId }) => studyId)).toEqual([own]);
    await ask('DELETE', `/practice/${sheet.studyId}`);
    expect((await ask<PracticeShelf>('GET', '/practice')).json.attempts.map(({ studyId }) => studyId)).not.toContain(sheet.studyId);
    expect((await ask<unknown[]>('GET', '/studies?trash=true')).json).toEqual([]);
  });

  it('and an exercise made of a study leaves the study alone', async () => {
    const body = studyBody({ title: 'Own cover' });
    body.variants = body.variants.map((variant, i) => ({ ...variant, id: `own-${i}`, setup: ['4t-bare', '4t-comb-sink'][i] ?? '' }));
    body.spots = body.spots.map((spot) => ({ ...spot, id: `own-${spot.id}` }));
    body.claims = body.predictions = [];
    const own = (await ask<Study>('POST', '/studies', body)).json;
    const sheet = await begin({ studyId: own.id, seed: 4 });
    expect(sheet).toMatchObject({ title: 'Own cover, practice', exercise: '', seed: 4, hintsLeft: 2 });
    expect((await ask<Study>('GET', `/studies/${own.id}`)).json).toEqual(own);
    const { json } = await ask<PracticeSheet>('POST', `/practice/${sheet.studyId}/answer`, answer());
    expect(json.marks!.call).toBe('right');
    const file = await ask('POST', '/practice', { studyId: (await ask<Study>('POST', '/studies', studyBody({ title: 'No set-ups', spots: [], variants: [], claims: [], predictions: [] }))).json.id }); // prettier-ignore
    expect([file.status, file.json.detail]).toEqual([422, expect.stringContaining('two variants')]);
  });
});
