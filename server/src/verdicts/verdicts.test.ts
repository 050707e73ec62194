import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { METHOD_VERSION } from '@red-ember/core';
import { type PairVerdict, type RunReadings, type Study, type StudyBody, type StudyLineUp } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let studyId: string;
const ids: string[] = [];

/** `top` is the rise at the two loads. */
function addRun(variantId: string, startedAt: string, top: [number, number], into = studyId): string {
  const id = madeRun(bench, into, variantId, startedAt, { top });
  if (into === studyId) ids.push(id);
  return id;
}

beforeAll(async () => {
  bench = await testBench();
  studyId = (await bench.call('POST', '/api/v1/studies', studyBody())).json.id;
  addRun('v-bare', '2026-03-01T08:00:00Z', [30, 40]);
  addRun('v-lid', '2026-03-01T10:00:00Z', [27, 36.2]);
  addRun('v-lid', '2026-03-01T12:00:00Z', [27.2, 36]);
  addRun('v-bare', '2026-03-01T14:00:00Z', [30.2, 40.2]);
});
afterAll(() => bench.remove());

const pair = async (query = '') => (await bench.call('GET', `/api/v1/studies/${studyId}/verdict?${query}`)).json as PairVerdict;
const field = async (query = '') => (await bench.call('GET', `/api/v1/studies/${studyId}/field?${query}`)).json as StudyLineUp;
const top = (verdict: PairVerdict) => verdict.judgement.spots[0]!.comparison?.difference.value;

describe('a pair', () => {
  it('is judged at its last load, or at the one that is asked for', async () => {
    expect(top(await pair())).toBeCloseTo(-4, 1);
    const quiet = await pair('load=Quiet');
    expect(top(quiet)).toBeCloseTo(-3, 1);
    expect(quiet.loads).toEqual(['Quiet', 'Loud']);
  });
  it('is restated to one power, and read off its sweeps at one noise', async () => {
    expect(top(await pair('restate=power:60:1'))).toBeCloseTo(-2, 1);
    const noise = await pair('restate=noise:35');
    expect(noise.commonNoise).toEqual({ leastDb: 32, mostDb: 38 });
    expect(top(noise)).toBeCloseTo(-3.5, 1);
  });
  it.each(['evidence=loose', 'restate=power:x', 'restate=power:-3', 'restate=noise:', 'restate=height:3'])(
    'refuses %s in a sentence',
    async (query) => {
      const answer = await bench.call('GET', `/api/v1/studies/${studyId}/verdict?${query}`);
      expect(answer.status).toBe(422);
      expect(answer.json.detail).toMatch(/\.$/);
    },
  );
  it('holds single runs against each other, and refuses what is not there', async () => {
    const one = await pair(`a=run:${ids[0]}&b=run:${ids[1]}`);
    expect(one.judgement.a).toMatchObject({ name: 'bare, run 1', runIds: [ids[0]] });
    expect(one.judgement.findings.some((finding) => finding.check === 'mounts')).toBe(true);
    for (const asked of ['run:gone', 'level:Pad=thick', 'gone'])
      expect((await bench.call('GET', `/api/v1/studies/${studyId}/verdict?a=${asked}`)).status).toBe(404);
  });
  it('takes signed-off runs only where that is asked for, and says so of the others', async () => {
    const none = await pair('signedOff=1');
    expect(none.judgement.leftOut.map((entry) => entry.reason)).toEqual(Array.from({ length: 4 }, () => 'Not signed off.'));
    for (const id of ids) await bench.call('PUT', `/api/v1/runs/${id}/sign-off`, { disposition: 'use', reason: '' });
    // What was remembered no longer holds.
    expect(top(await pair('signedOff=1'))).toBeCloseTo(-4, 1);
    await bench.call('PUT', `/api/v1/runs/${ids[0]}/sign-off`, { disposition: 'reject', reason: 'Film left on.' });
    expect((await pair()).judgement.a.runIds).toEqual([ids[3]]);
    await bench.call('PUT', `/api/v1/runs/${ids[0]}/sign-off`, { disposition: 'use', reason: '' });
  });
});

describe('all variants', () => {
  it('stand side by side with what was free beside temperature, and the points that watts are worked out from', async () => {
    const { field: made, refusal, several, loads } = await field();
    expect(refusal).toBeNull();
    expect(made.sides.map((side) => [side.name, side.runs.length])).toEqual([
      ['bare', 2],
      ['lid', 2],
    ]);
    const [run] = made.sides[0]!.runs;
    expect(run!.figures.tc1!.value).toBeCloseTo(40, 1);
    expect(run!.outcomes).toMatchObject({ noise: { value: expect.closeTo(38, 1) }, fan: { value: expect.closeTo(2000, 0) } });
    expect(run!.points.tc1!.map((point) => Math.round(point.powerW.value))).toEqual([100, 120]);
    expect(several.map(({ name }) => name)).toEqual(['bare', 'lid']);
    expect(loads).toEqual(['Quiet', 'Loud']);
  });
  it('or the loads of one of them, each like a variant', async () => {
    const { field: made } = await field('loadsOf=v-bare');
    expect(made.sides.map((side) => side.name)).toEqual(['Quiet', 'Loud']);
    expect(made.sides[0]!.runs.map((run) => Math.round(run.figures.tc1!.value))).toEqual([30, 30]);
    expect((await bench.call('GET', `/api/v1/studies/${studyId}/field?loadsOf=nobody`)).status).toBe(404);
  });
});

describe('a window of the tester’s own', () => {
  const readings = async () => (await bench.call('GET', `/api/v1/runs/${ids[0]}/readings`)).json as RunReadings;
  it('is read in place of the proposed one, and given back', async () => {
    const before = await readings();
    expect(before.review.methodVersion).toBe(METHOD_VERSION);
    expect(before.review.spots[0]!.load!).toMatchObject({ chosen: false, window: { startS: 2700, endS: 3000 } });
    const put = await bench.call('PUT', `/api/v1/runs/${ids[0]}/windows/2`, { phase: 2, startS: 2000, endS: 2400 });
    expect(put.json.windows).toEqual([{ phase: 2, startS: 2000, endS: 2400 }]);
    expect((await readings()).review.spots[0]!.load!).toMatchObject({ chosen: true, window: { startS: 2000, endS: 2400 } });
    await bench.call('DELETE', `/api/v1/runs/${ids[0]}/windows/2`);
    expect((await readings()).review.spots[0]!.load!.chosen).toBe(false);
  });
  it.each([
    [{ phase: 2, startS: 100, endS: 400 }, 422, 'outside Loud, which goes from 30:00 to 50:00'],
    [{ phase: 2, startS: 2000, endS: 2010 }, 422, 'at least half a minute'],
    [{ phase: 9, startS: 2000, endS: 2400 }, 404, 'phase'],
    [{ phase: 2, startS: 2400, endS: 2000 }, 422, 'ends after it begins'],
  ])('refuses %j', async (window, status, words) => {
    const answer = await bench.call('PUT', `/api/v1/runs/${ids[0]}/windows/${window.phase}`, window);
    expect(answer.status).toBe(status);
    expect(JSON.stringify(answer.json)).toContain(words);
  });
});

describe('the samples beneath it all', () => {
  it('come as they were read, all of them or a stretch', async () => {
    const all = await bench.call('GET', `/api/v1/runs/${ids[0]}/samples.csv`);
    expect(all.headers.get('content-disposition')).toContain('run-1-samples.csv');
    const told = all.text.split('\r\n').filter((line) => line.startsWith('#'));
    expect(told.slice(1, 3)).toEqual([expect.stringMatching(/^# Run 1; variant: .+; mount: /), expect.stringMatching(/^# Begun 20/)]);
    expect(told).toContainEqual(expect.stringMatching(/^# Spot tc1, °C; .*no correction$/));
    const lines = all.text.trim().split('\r\n').slice(told.length);
    expect(lines[0]).toContain('"time, s",phase,"Spot tc1, °C","Spot tc2, °C",room');
    expect(lines).toHaveLength(1501);
    expect(lines[1500]).toMatch(/^\d+,Loud,/);
    const part = (await bench.call('GET', `/api/v1/runs/${ids[0]}/samples.csv?from=100&to=200`)).text
      .trim()
      .split('\r\n')
      .filter((line) => !line.startsWith('#'));
    expect(part).toHaveLength(51);
    expect(part[1]!.startsWith('100,')).toBe(true);
    expect((await bench.call('GET', '/api/v1/runs/nobody/samples.csv')).status).toBe(404);
  });
});

describe('what a study is judged against', () => {
  it('keeps its loads, readers and retests, and starts with the usual', async () => {
    const study = (await bench.call('GET', `/api/v1/studies/${studyId}`)).json;
    expect(study.judging.profiles.map((profile: { name: string }) => profile.name)).toEqual(['Wants it coolest', 'Fits hundreds']);
    const { id, version } = study;
    const body = bodyOf(study as Study);
    const next = {
      ...body,
      judging: { ...study.judging, loads: [{ id: 'l1', name: 'Show player', powerW: 62 }] },
      variants: [
        ...body.variants,
        { ...body.variants[1], id: 'v-retest', name: 'lid, pad renewed', retest: { variantId: 'v-lid', suspect: 'Pad' } },
      ],
    };
    const put = await bench.call('PUT', `/api/v1/studies/${id}`, next, { 'if-match': `"${version}"` });
    expect(put.status).toBe(200);
    expect(put.json.judging.loads[0].name).toBe('Show player');
    expect(put.json.variants[2].retest).toEqual({ variantId: 'v-lid', suspect: 'Pad' });
    const lost = {
      ...next,
      variants: next.variants.map((variant: object) => ({ ...variant, retest: { variantId: 'gone', suspect: 'Pad' } })),
    };
    expect((await bench.call('PUT', `/api/v1/studies/${id}`, lost, { 'if-match': `"${put.json.version}"` })).status).toBe(422);
  });
});

describe('a variant of another study', () => {
  const otherBody = (change: Partial<StudyBody> = {}) => {
    const body = studyBody();
    return {
      ...body,
      title: 'Last month',
      spots: [{ ...body.spots[0]!, id: 'other-tc1' }],
      variants: body.variants.map((variant) => ({ ...variant, id: `other-${variant.id}` })),
      ...change,
    };
  };
  const started = async (body: StudyBody) => (await bench.call('POST', '/api/v1/studies', body)).json.id as string;

  it('is held against this one by the spots that both have, as another sensor', async () => {
    const other = await started(otherBody());
    addRun('other-v-lid', '2026-02-01T08:00:00Z', [26, 35], other);
    addRun('other-v-lid', '2026-02-01T10:00:00Z', [26, 35.2], other);
    const verdict = await pair(`b=study:${other}:other-v-lid`);
    expect(verdict.judgement.b).toMatchObject({ name: 'lid of the other study', runIds: [expect.any(String), expect.any(String)] });
    expect(verdict.judgement.spots.map((spot) => spot.spotId)).toEqual(['tc1']);
    expect(top(verdict)).toBeCloseTo(-5, 1);
    expect(verdict.elsewhere).toMatchObject({ studyId: other, title: 'Last month', spots: { tc1: 'other-tc1' } });
    const said = verdict.judgement.findings.map((finding) => finding.evidence).join(' ');
    expect(said).toContain('nothing cancels between them');
    expect(said).toContain('Not compared, for want of a counterpart in “Last month”: Spot tc2.');
    expect(verdict.judgement.spots[0]!.comparison!.budget.shares.some((line) => line.name.startsWith('sensor accuracy'))).toBe(true);
  });

  it('is the variant itself where the other study is this one, and is named in the report', async () => {
    expect((await pair(`b=study:${studyId}:v-lid`)).judgement.b).toMatchObject({ variantId: 'v-lid', name: 'lid' });
    const other = (await bench.call('GET', '/api/v1/studies')).json.find((study: { title: string }) => study.title === 'Last month').id;
    const report = await bench.call('GET', `/api/v1/studies/${studyId}/report.html?b=study:${other}:other-v-lid`);
    expect(report.text).toContain('The other study is “Last month”');
  });

  it('is refused of another kind of part, with no spot in common, or where it is not there', async () => {
    const ask = async (b: string) => bench.call('GET', `/api/v1/studies/${studyId}/verdict?b=${b}`);
    const card = await started({
      ...otherBody(),
      family: 'card',
      spots: [],
      variants: otherBody().variants.map((variant) => ({ ...variant, id: `card-${variant.id}` })),
    });
    const answer = await ask(`study:${card}:card-other-v-lid`);
    expect([answer.status, answer.json.detail]).toEqual([422, expect.stringContaining('another kind of part')]);
    const bare = await started({
      ...otherBody(),
      spots: [],
      variants: otherBody().variants.map((variant) => ({ ...variant, id: `bare-${variant.id}` })),
    });
    expect((await ask(`study:${bare}:bare-other-v-lid`)).status).toBe(422);
    expect((await ask(`study:${bare}:gone`)).status).toBe(404);
    expect((await ask('study:gone:gone')).status).toBe(404);
  });
});

describe('what is claimed of one variant', () => {
  it('is held against its own pair, whichever is shown, and leads only there', async () => {
    const body = studyBody();
    const claim = (id: string, variantId: string | null) =>
      ({ id, text: `Claim ${id}`, outcome: 'temperature', spotId: 'm-tc1', direction: 'cooler', leastEffect: 1, variantId }) as const;
    const many = (
      await bench.call('POST', '/api/v1/studies', {
        ...body,
        spots: [{ ...body.spots[0]!, id: 'm-tc1' }],
        variants: [...body.variants, { ...body.variants[1]!, name: 'slab' }].map((variant, i) => ({ ...variant, id: `m-${i}` })),
        claims: [claim('c1', 'm-1'), claim('c2', null)],
        predictions: [{ id: 'p1', text: '', spotId: 'm-tc1', expectedK: -4, plusMinusK: 1, variantId: 'm-1' }],
      })
    ).json.id as string;
    for (const [variant, at, rise] of [
      ['m-0', 8, 40],
      ['m-1', 9, 36],
      ['m-2', 10, 43],
      ['m-2', 11, 43.2],
      ['m-1', 12, 36.2],
      ['m-0', 13, 40.1],
    ] as const)
      // prettier-ignore
      addRun(variant, `2026-03-02T${String(at).padStart(2, '0')}:00:00Z`, [30, rise], many);
    const shown = async (b: string) => (await bench.call('GET', `/api/v1/studies/${many}/verdict?a=m-0&b=${b}`)).json as PairVerdict;
    const slab = await shown('m-2');
    expect(slab.claims.map(({ of, outcome }) => [of, outcome])).toEqual([
      ['lid against bare', 'supported'],
      [null, 'contradicted'],
    ]);
    expect(slab.predictions[0]).toMatchObject({ of: 'lid against bare', outcome: 'right' });
    expect(slab.sentence.map((segment) => segment.text).join('')).toContain('“Claim c2” is contradicted');
    // Without being asked for another pair, what the first claim is about is shown.
    const usual = (await bench.call('GET', `/api/v1/studies/${many}/verdict`)).json as PairVerdict;
    expect(usual.judgement.b.variantId).toBe('m-1');
    const report = await bench.call('GET', `/api/v1/studies/${many}/report.html`);
    expect(report.text).toContain('All variants by Spot tc1');
    expect(report.text).toMatch(/<td>lid<\/td>\s*<td class="n">2<\/td>\s*<td class="n">36\.\d ± \d\.\d K<\/td>\s*<td>a<\/td>/);
    expect(report.text).toContain('Load by load, bare');
    expect(report.text).toContain('2 runs, mounts unknown');
    const lid = await shown('m-1');
    expect(lid.claims.map(({ of, outcome }) => [of, outcome])).toEqual([
      [null, 'supported'],
      [null, 'supported'],
    ]);
    expect(lid.sentence.map((segment) => segment.text).join('')).toContain('“Claim c1” is supported');
  });
  it('cannot be of a variant that is not there', async () => {
    const claims = [
      { id: 'c9', text: 'It cools', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 1, variantId: 'gone' },
    ];
    const body = studyBody();
    const answer = await bench.call('POST', '/api/v1/studies', { ...body, spots: [], variants: [], claims });
    expect([answer.status, JSON.stringify(answer.json)]).toEqual([422, expect.stringContaining('/claims/0/variantId')]);
  });
});
