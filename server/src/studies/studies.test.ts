import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Run, Study } from '@red-ember/contract';
import { blankPlan, bodyOf, sinceMade } from '@red-ember/study';
import { madeRun } from '../tests/madeRun.ts';
import { spot, studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

/** Fresh ids: parts of one study cannot be taken over by another. */
let n = 0;
function body(change: Parameters<typeof studyBody>[0] = {}) {
  const tag = `s${++n}`;
  const plain = studyBody(change);
  return {
    ...plain,
    spots: plain.spots.map((entry) => ({ ...entry, id: `${tag}-${entry.id}` })),
    variants: plain.variants.map((entry) => ({ ...entry, id: `${tag}-${entry.id}` })),
  };
}

describe('studies', () => {
  it('are kept as written, with a version as ETag', async () => {
    const sent = body({ question: 'Does it help?' });
    const made = await bench.call('POST', '/api/v1/studies', sent);
    expect(made.status).toBe(201);
    expect(made.headers.get('etag')).toBe('"1"');
    const got = await bench.call('GET', `/api/v1/studies/${made.json.id}`);
    expect(got.json).toMatchObject(sent);
    expect(got.json).toMatchObject({ version: 1, predictionLockedAt: null, variantsWithRuns: [] });
  });

  it('refuse a save on top of another one, and need to know the version', async () => {
    const sent = body();
    const { id } = (await bench.call('POST', '/api/v1/studies', sent)).json;
    expect((await bench.call('PUT', `/api/v1/studies/${id}`, { ...sent, title: 'One' }, { 'if-match': '"1"' })).json.version).toBe(2);
    const late = await bench.call('PUT', `/api/v1/studies/${id}`, { ...sent, title: 'Two' }, { 'if-match': '"1"' });
    expect(late.status).toBe(412);
    expect(late.headers.get('content-type')).toContain('application/problem+json');
    expect(late.json.detail).toContain('saved in another window');
    expect((await bench.call('GET', `/api/v1/studies/${id}`)).json.title).toBe('One');
    expect((await bench.call('PUT', `/api/v1/studies/${id}`, sent)).status).toBe(428);
  });

  it('point at every field that is wrong', async () => {
    const plain = body();
    const bad = {
      ...plain,
      title: '',
      rules: { ...plain.rules, roomMinC: 25, roomMaxC: 75 },
      spots: [
        { ...plain.spots[0]!, limitC: null },
        { ...plain.spots[1]!, limitC: 212, name: plain.spots[0]!.name },
      ],
      recipe: [{ ...plain.recipe[0]!, durationS: 0 }],
    };
    const answer = await bench.call('POST', '/api/v1/studies', bad);
    expect(answer.status).toBe(422);
    const at = Object.fromEntries(
      (answer.json.errors as { pointer: string; sentence: string }[]).map((error) => [error.pointer, error.sentence]),
    );
    expect(at['/title']).toContain('title');
    expect(at['/rules/roomMaxC']).toContain('is this °F?');
    expect(at['/spots/0/limitC']).toBe('Give a limit, so that headroom can be shown.');
    expect(at['/spots/1/limitC']).toContain('is this °F?');
    expect(at['/spots']).toBe('Two spots share a name.');
    expect(at['/recipe/0/durationS']).toContain('shorter than a minute');
  });

  it.each([
    ['unknown fields', { surprise: 1 }],
    ['huge text', { question: 'x'.repeat(5000) }],
    [
      'a claim about a spot that is not there',
      { claims: [{ id: 'c', text: 'c', outcome: 'temperature', spotId: 'nowhere', direction: 'cooler', leastEffect: 1 }] },
    ],
    [
      'two references',
      { variants: [1, 2].map((i) => ({ id: `twin-${i}`, name: `v${i}`, subjectId: 'part-1', isReference: true, setup: '', notes: '' })) },
    ],
    ['two spots on one channel', { spots: [spot('dup-a', { channel: 'tc1' }), spot('dup-b', { channel: 'tc1' })] }],
    ['a cut-out below the limit', { spots: [spot('cold', { cutOutC: 60 })] }],
    [
      'a variant on a part that is not there',
      { variants: [{ id: 'lost', name: 'v', subjectId: 'gone', isReference: true, setup: '', notes: '' }] },
    ],
    ['a spot on the same place as nothing', { spots: [spot('one', { twinOf: 'gone' })] }],
    ['a limit under its throttling point', { spots: [spot('low', { throttleC: 90, throttleSource: 'data sheet' })] }],
    [
      'a lock of a part that is not there',
      { locks: [{ name: 'Firmware', value: '1', unit: '', tolerance: null, channel: '', overrides: [{ subjectId: 'gone', value: '2' }] }] },
    ],
    ['a watched lock in words', { locks: [{ name: 'Fan', value: 'fast', unit: '%', tolerance: 1, channel: 'fan', overrides: [] }] }],
    ['not an object', 'nonsense'],
  ])('refuse %s', async (_what, change) => {
    const answer = await bench.call('POST', '/api/v1/studies', typeof change === 'string' ? change : { ...body(), ...change });
    expect([400, 422]).toContain(answer.status);
    expect(answer.json.detail.length).toBeGreaterThan(10);
  });

  it('keep the plan, and point at what it names in vain', async () => {
    const sent = body();
    const [a, b] = sent.variants.map((variant) => variant.id) as [string, string];
    const at = (level: string) => [{ factor: 'Pad', level }];
    const planned = {
      ...sent,
      factors: [{ name: 'Pad', levels: ['P6', 'P12'], changeMin: 15 }],
      impossible: [{ levels: at('P12'), reason: 'none left' }],
      variants: sent.variants.map((variant, i) => ({ ...variant, levels: at(i === 0 ? 'P6' : 'P12'), repeats: 3 })),
      plan: { ...blankPlan(), order: [a, b, b, a, a, b], firstVariantId: a, lastVariantId: b },
    };
    const made = await bench.call('POST', '/api/v1/studies', planned);
    expect(made.json).toMatchObject({ factors: planned.factors, impossible: planned.impossible, plan: planned.plan });
    expect(made.json.variants[1]).toMatchObject({ levels: at('P12'), repeats: 3 });
    const bad = {
      ...planned,
      impossible: [{ levels: at('P24'), reason: 'unheard of' }],
      variants: planned.variants.map((variant, i) => (i === 0 ? { ...variant, levels: at('P9') } : variant)),
      plan: { ...planned.plan, order: [a, 'gone'], firstVariantId: b },
    };
    const answer = await bench.call('PUT', `/api/v1/studies/${made.json.id}`, bad, { 'if-match': '"1"' });
    expect(answer.status).toBe(422);
    expect(answer.json.errors.map((error: { pointer: string }) => error.pointer).sort()).toEqual([
      '/impossible/0',
      '/plan/lastVariantId',
      '/plan/order',
      '/variants/0/levels',
    ]);
    const copy = await bench.call('POST', `/api/v1/studies/${made.json.id}/copy`, { title: 'Again' });
    // The plan of a copy names the copy's own variants.
    const own = copy.json.variants.map((variant: { id: string }) => variant.id);
    expect(own).not.toContain(a);
    expect(copy.json.plan.order).toEqual([own[0], own[1], own[1], own[0], own[0], own[1]]);
  });

  it('say nothing of scatter where there are no runs', async () => {
    const { id } = (await bench.call('POST', '/api/v1/studies', body())).json;
    const { json } = await bench.call('GET', `/api/v1/studies/${id}/scatter`);
    expect(json.every((entry: { untouched: unknown }) => entry.untouched === null)).toBe(true);
    expect((await bench.call('GET', '/api/v1/studies/none/scatter')).status).toBe(404);
  });

  it('do not let one study take over the parts of another', async () => {
    const mine = body();
    await bench.call('POST', '/api/v1/studies', mine);
    expect((await bench.call('POST', '/api/v1/studies', { ...body(), spots: mine.spots })).status).toBe(422);
  });

  it('go to the trash and come back, with what they hold', async () => {
    const { id } = (await bench.call('POST', '/api/v1/studies', body({ title: 'Thrown away' }))).json;
    expect((await bench.call('DELETE', `/api/v1/studies/${id}`)).status).toBe(204);
    expect((await bench.call('GET', `/api/v1/studies/${id}`)).status).toBe(404);
    expect((await bench.call('GET', '/api/v1/studies?trash=true')).json.map((study: { id: string }) => study.id)).toContain(id);
    expect((await bench.call('POST', `/api/v1/studies/${id}/restore`)).json.spots).toHaveLength(2);
    expect((await bench.call('POST', `/api/v1/studies/${id}/restore`)).status).toBe(404);
  });

  it('mounts need every caution confirmed', async () => {
    const sent = body();
    const { id } = (await bench.call('POST', '/api/v1/studies', sent)).json;
    const answer = await bench.call('POST', `/api/v1/studies/${id}/mounts`, {
      variantId: sent.variants[0]!.id,
      confirmed: ['power'],
      note: '',
    });
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toBe('5 cautions are not confirmed yet.');
    expect((await bench.call('GET', `/api/v1/studies/${id}/mounts`)).json).toEqual([]);
  });

  it('judge nothing before there are runs, and say why', async () => {
    const { id } = (await bench.call('POST', '/api/v1/studies', body())).json;
    expect((await bench.call('GET', `/api/v1/studies/${id}/verdict`)).json.refusal).toBe('bare and lid have no finished run yet.');
    const alone = (await bench.call('POST', '/api/v1/studies', body({ variants: [] }))).json;
    expect((await bench.call('GET', `/api/v1/studies/${alone.id}/verdict`)).json.refusal).toContain('needs two variants');
  });

  it('are copied with everything written down, under new ids and without runs', async () => {
    const sent = body({ title: 'First' });
    sent.claims = [{ id: 'c', text: 'It cools', outcome: 'temperature', spotId: sent.spots[0]!.id, direction: 'cooler', leastEffect: 1 }];
    sent.spots[1]!.twinOf = sent.spots[0]!.id;
    const { id } = (await bench.call('POST', '/api/v1/studies', sent)).json;
    const copy = (await bench.call('POST', `/api/v1/studies/${id}/copy`, { title: 'Second' })).json;
    expect(copy).toMatchObject({ title: 'Second', version: 1, predictionLockedAt: null });
    expect(copy.spots.map((entry: { name: string }) => entry.name)).toEqual(sent.spots.map((entry) => entry.name));
    expect(copy.spots[0].id).not.toBe(sent.spots[0]!.id);
    expect(copy.claims[0].spotId).toBe(copy.spots[0].id);
    expect(copy.spots[1].twinOf).toBe(copy.spots[0].id);
    expect((await bench.call('POST', `/api/v1/studies/${id}/copy`, { title: '' })).status).toBe(422);
  });

  it('are copied with their channels as they are, though a spot is called like one', async () => {
    const sent = body({ title: 'Named alike' });
    // The first spot's id is what the second is read by.
    sent.spots[1] = { ...sent.spots[1]!, channel: sent.spots[0]!.id, sensor: sent.spots[0]!.id };
    sent.locks = [{ name: 'Duty', value: '60', unit: '%', tolerance: 1, channel: sent.variants[0]!.id, overrides: [] }];
    const { id } = (await bench.call('POST', '/api/v1/studies', sent)).json;
    const copy = (await bench.call('POST', `/api/v1/studies/${id}/copy`, { title: 'Copy' })).json;
    expect(copy.spots[1]).toMatchObject({ channel: sent.spots[0]!.id, sensor: sent.spots[0]!.id });
    expect(copy.locks[0].channel).toBe(sent.variants[0]!.id);
    expect(copy.spots[0].id).not.toBe(sent.spots[0]!.id);
  });

  it('stamp a prediction when it is written, and anew only when it changes', async () => {
    const sent = body();
    sent.predictions = ['p1', 'p2'].map((id) => ({ id, text: '', spotId: sent.spots[0]!.id, expectedK: -1, plusMinusK: 1 }));
    const made = (await bench.call('POST', '/api/v1/studies', sent)).json;
    await new Promise((done) => setTimeout(done, 5));
    const changed = { ...sent, predictions: [sent.predictions[0]!, { ...sent.predictions[1]!, expectedK: -4 }] };
    const after = (await bench.call('PUT', `/api/v1/studies/${made.id}`, changed, { 'if-match': '"1"' })).json;
    expect(after.predictionStamps.p1).toBe(made.predictionStamps.p1);
    expect(after.predictionStamps.p2 > made.predictionStamps.p2).toBe(true);
  });

  it('take no list where one thing of a list is meant', async () => {
    for (const part of ['locks', 'variants', 'spots', 'steps']) {
      const answer = await bench.call('POST', '/api/v1/studies', { ...body(), [part]: [[]] });
      expect(answer.status, part).toBe(422);
      expect(answer.json.detail).toContain('A list stands where one thing of a list is meant.');
    }
  });
  it('ask before runs that are there become runs of something else', async () => {
    const levels = (paste: string) => [{ factor: 'Paste', level: paste }];
    const sent = studyBody({ factors: [{ name: 'Paste', levels: ['K', 'L'], changeMin: 10 }] });
    const tagged = { ...sent, variants: sent.variants.map((variant, i) => ({ ...variant, id: `ask-${i}`, levels: levels(i === 0 ? 'K' : 'L') })), spots: sent.spots.map((spot) => ({ ...spot, id: `ask-${spot.id}` })) }; // prettier-ignore
    const { id } = (await bench.call('POST', '/api/v1/studies', tagged)).json as { id: string };
    madeRun(bench, id, 'ask-0', '2026-01-01T10:00:00Z', { top: [30, 40] });
    const turned = { ...tagged, factors: [{ ...tagged.factors[0]!, levels: ['W', 'L'] }], variants: tagged.variants.map((variant, i) => (i === 0 ? { ...variant, levels: levels('W') } : variant)) }; // prettier-ignore
    const save = (query = '') => bench.call('PUT', `/api/v1/studies/${id}${query}`, turned, { 'if-match': '"1"' });
    const asked = await save();
    expect(asked.status).toBe(409);
    expect(asked.json.detail).toContain('has runs with Paste K. They would become runs with Paste W.');
    expect(asked.json.errors).toMatchObject([{ pointer: '/variants/0/levels' }]);
    expect((await bench.call('GET', `/api/v1/studies/${id}`)).json.version).toBe(1);
    expect((await save('?measured=renamed')).json.version).toBe(2);
  });
  it('keep a history in words', async () => {
    const sent = body();
    const { id } = (await bench.call('POST', '/api/v1/studies', sent)).json;
    const changed = { ...sent, rules: { ...sent.rules, practicalK: 2 }, spots: [{ ...sent.spots[0]!, limitC: 80 }, sent.spots[1]!] };
    const save = (by: string) => bench.call('PUT', `/api/v1/studies/${id}?by=${encodeURIComponent(by)}`, changed, { 'if-match': '"1"' });
    expect((await save('J. D.')).status).toBe(422);
    expect((await save('öb')).status).toBe(200);
    const [entry] = (await bench.call('GET', `/api/v1/studies/${id}/history`)).json;
    expect(entry.by).toBe('ÖB');
    expect(entry.changed).toEqual(['house rules', 'spot Spot tc1']);
    expect(entry.moved).toEqual([]); // no run rests on it yet
  });
});

describe('runs that were measured', () => {
  it('keep their variant and limits as they were, whatever the study says later, and are not measured on once it is retired', async () => {
    const made = (await bench.call('POST', '/api/v1/studies', body())).json as Study;
    const runId = madeRun(bench, made.id, made.variants[0]!.id, '2026-03-01T08:00:00Z', { top: [30, 40] });
    const was = bodyOf(made);
    const changed = {
      ...was,
      spots: was.spots.map((spot) => ({ ...spot, limitC: spot.limitC + 10, cutOutC: spot.cutOutC + 10 })),
      variants: was.variants.map((variant) => ({ ...variant, name: `${variant.name}, old`, retired: true })),
    };
    const saved = await bench.call('PUT', `/api/v1/studies/${made.id}`, changed, { 'if-match': `"${made.version}"` });
    expect(saved.status, saved.text).toBe(200);
    expect((saved.json as Study).variants.every((variant) => variant.retired)).toBe(true);
    const run = (await bench.call('GET', `/api/v1/runs/${runId}`)).json as Run;
    expect(run.madeAs).toMatchObject({ variant: 'bare', setup: 'bare', limits: [{ spot: 'Spot tc1', limitC: 85, cutOutC: 90 }, {}] });
    expect(sinceMade(run.madeAs, saved.json as Study, run.variantId)).toContain('It was called bare then.');
    const report = (await bench.call('GET', `/api/v1/studies/${made.id}/report.html`)).text;
    expect(report).toContain('The limit of Spot tc1 was 85 °C then, 95 °C now');
    expect((await bench.call('GET', `/api/v1/studies/${made.id}/next`)).json).toMatchObject({
      acts: [],
      sentence: 'bare, old and lid, old are retired: no more runs are planned.',
    });
    // What was measured stands all the same.
    expect((await bench.call('GET', `/api/v1/studies/${made.id}/verdict`)).json.judgement.a.runIds).toEqual([runId]);
  });
});
