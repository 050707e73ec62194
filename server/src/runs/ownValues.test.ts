import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { suspects } from '@red-ember/core';
import type { PairVerdict, Run, RunReadings, StagedLog, Study, StudyLineUp } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
let study: Study;
const runs: string[] = [];
const render = { id: 'render', name: 'Render time', unit: 'min', better: 'low' as const, doubt: 0.05, practical: 0.5, instrument: 'the renderer', channel: '' }; // prettier-ignore
const whine = { ...render, id: 'wh', name: 'Whine by ear', unit: '', doubt: 0, channel: 'whine' };
const prediction = { id: 'p1', text: '', outcome: 'own:render' as const, spotId: '', expectedK: -8, plusMinusK: 1 };
const claim = { id: 'c1', text: 'It renders faster', outcome: 'own:render', spotId: null, direction: 'less', leastEffect: 1 };

beforeAll(async () => {
  bench = await testBench();
  study = (
    await bench.call(
      'POST',
      '/api/v1/studies',
      studyBody({ figures: [render, whine], claims: [claim] as never, predictions: [prediction] }),
    )
  ).json as Study;
  for (const [i, variant] of ['v-bare', 'v-lid', 'v-lid', 'v-bare'].entries())
    runs.push(
      madeRun(bench, study.id, variant, `2026-03-01T0${i + 1}:00:00Z`, {
        top: [30, 40 + 0.1 * i],
        more: { whine: [20, 21, 25], fan2: [0, 1100, 1600], voltage: [0.7, 1, variant === 'v-lid' ? 1.06 : 1.16] },
      }),
    );
}, 30_000);
afterAll(() => bench.remove());

const type = (run: string, values: object[]) => bench.call('PUT', `/api/v1/runs/${run}/own-values`, { values });
const value = (amount: number, load: string | null = null) => ({ figureId: 'render', load, value: amount });
const get = async <T>(path: string) => (await bench.call('GET', `/api/v1${path}`)).json as T;

describe('figures of a study’s own', () => {
  it('are kept with the study, and typed of runs that have ended long ago', async () => {
    expect(study.figures).toEqual([render, whine]);
    for (const [i, amount] of [20, 12, 12.2, 20.2].entries()) {
      const typed = await type(runs[i]!, [value(amount)]);
      expect(typed.status, typed.text).toBe(200);
      expect((typed.json as Run).own).toMatchObject([{ figureId: 'render', load: null, value: amount, at: expect.any(String) }]);
    }
    // What stays as it was keeps its time; what is left out is taken back.
    const before = (await get<Run>(`/runs/${runs[0]}`)).own[0]!.at;
    const more = await type(runs[0]!, [value(20), value(15, 'Quiet')]);
    expect((more.json as Run).own.find(({ load }) => load === null)!.at).toBe(before);
    expect(((await type(runs[0]!, [value(20)])).json as Run).own).toHaveLength(1);
    const history = await get<{ changed: string[] }[]>(`/studies/${study.id}/history`);
    expect(history.flatMap(({ changed }) => changed)).toContain('Figures of run 1 typed.');
  });

  it('are compared, ranked, claimed and printed like any other outcome, and read off a channel where one is named', async () => {
    const verdict = await get<PairVerdict>(`/studies/${study.id}/verdict`);
    const rows = verdict.judgement.cooling.rows;
    expect(rows.find(({ outcome }) => outcome === 'own:render')).toMatchObject({ label: 'Render time', unit: 'min', better: 'b', a: expect.closeTo(20.1) }); // prettier-ignore
    expect(rows.find(({ outcome }) => outcome === 'own:wh')).toMatchObject({
      a: expect.closeTo(25, 1),
      b: expect.closeTo(25, 1),
      better: null,
    });
    expect(verdict.claims[0]).toMatchObject({ outcome: 'supported' });
    expect(verdict.predictions[0]).toMatchObject({ outcome: 'right', sentence: expect.stringContaining('min in Render time') });
    const field = await get<StudyLineUp>(`/studies/${study.id}/field`);
    expect(field.field.sides[0]!.workRuns[0]!.outcomes['own:render']!.value).toBe(20);
    // Nobody compares the second fan or the volts, and whoever looks for what else changed is shown them; "Whine" is a figure already.
    const [v, w] = ['v-bare', 'v-lid'].map((id) => field.field.sides.find(({ variantId }) => variantId === id)!);
    expect(suspects(v!, w!).map(({ name, outlier, twin }) => [name, outlier, twin])).toContainEqual(['voltage', '1.16', '1.06']);
    expect(suspects(v!, w!).some(({ name }) => name === 'second fan')).toBe(false);
    const at = await get<PairVerdict>(`/studies/${study.id}/verdict?load=Quiet`);
    expect(at.judgement.cooling.rows.find(({ outcome }) => outcome === 'own:wh')!.a).toBeCloseTo(21, 1);
    const report = await bench.call('GET', `/api/v1/studies/${study.id}/report.html`);
    expect(report.text).toMatch(/Render time/);
  });

  it('are refused where figure or load is not there, or something is said twice, with the place', async () => {
    for (const [values, sentence] of [
      [[{ figureId: 'gone', load: null, value: 1 }], 'not in the study'],
      [[value(1, 'Nowhere')], 'no load called Nowhere'],
      [[value(1), value(2)], 'Render time is given twice.'],
      [[{ ...value(1), value: 'many' }], 'value'],
    ] as const) {
      const answer = await type(runs[0]!, [...values]);
      expect(answer.status).toBe(422);
      expect(answer.text).toContain(sentence);
    }
    const put = (figures: object[]) =>
      bench.call('PUT', `/api/v1/studies/${study.id}`, { ...bodyOf(study), figures }, { 'if-match': '"1"' });
    expect((await put([whine])).json.errors).toContainEqual({ pointer: '/claims/0/outcome', sentence: 'The claim is about a figure that is not in this study.' }); // prettier-ignore
    expect((await put([render, { ...whine, name: 'render TIME' }])).json.errors[0].sentence).toBe('Two figures share a name.');
    expect((await put([{ ...render, practical: 0 }])).status).toBe(422);
    const blank = studyBody({ spots: [], variants: [], predictions: [{ ...prediction, outcome: 'own:gone' }] });
    expect((await bench.call('POST', '/api/v1/studies', blank)).json.errors).toContainEqual({ pointer: '/predictions/0/outcome', sentence: 'The prediction is about a figure that is not in this study.' }); // prettier-ignore
    const tooMuch = await bench.call('POST', '/api/v1/studies', { ...blank, predictions: [{ ...prediction, outcome: 'temperature', spotId: 'tc1', expectedK: 400 }] }); // prettier-ignore
    expect(tooMuch.json.errors).toContainEqual({ pointer: '/predictions/0/expectedK', sentence: 'Such a change is beyond this bench.' });
    // A copy has the figures and none of the values.
    const copy = (await bench.call('POST', `/api/v1/studies/${study.id}/copy`, { title: 'Copy' })).json as Study;
    expect(copy.figures).toEqual(study.figures);
  });
});

it('are read off a log’s column by its head, wherever it stands, and off one that a lock watches by the lock’s channel', async () => {
  const other = await testBench();
  const by = (id: string, name: string, channel: string) => ({ ...render, id, name, channel });
  const lock = { name: 'Flow', value: '5', unit: 'l/min', tolerance: 2, channel: 'flow', overrides: [] };
  const made = await other.call(
    'POST',
    '/api/v1/studies',
    studyBody({ figures: [by('odd', 'Odd reading', 'Q17'), by('flow', 'Flow kept', 'flow')], locks: [lock] }),
  );
  expect(made.status, made.text).toBe(201);
  const { id } = made.json as Study;
  for (const head of ['s,tc1 C,room C,Q17,Flow', 's,Q17,tc1 C,room C,Flow']) {
    const names = head.split(',');
    const row = (i: number) => names.map((name) => ({ s: i, 'tc1 C': 40, 'room C': 22, Q17: 31, Flow: 4.5 })[name]).join(',');
    const form = new FormData();
    form.append('log', new Blob([[head, ...Array.from({ length: 600 }, (_, i) => row(i))].join('\n')]), 'x.csv');
    const staged = (await other.call('POST', `/api/v1/studies/${id}/logs`, form)).json as StagedLog;
    const flow = names.indexOf('Flow');
    const columns = [
      ...staged.guess.columns.filter(({ column }) => column !== flow),
      { column: flow, role: 'beside', spotId: null, lockName: 'Flow' },
    ];
    const run = await other.call('POST', `/api/v1/studies/${id}/logs/${staged.id}/run`, {
      variantId: 'v-bare',
      timeColumn: 0,
      timeFormat: 'elapsed-s',
      columns,
      loadStartS: 100,
      loadEndS: 590,
      acceptOddTemperatures: false,
      note: '',
    });
    expect(run.status, run.text).toBe(201);
    const { own } = (await other.call('GET', `/api/v1/runs/${(run.json as Run).id}/readings`)).json as RunReadings;
    expect(own).toEqual([
      { figureId: 'odd', load: 'Load', value: expect.closeTo(31, 9) },
      { figureId: 'flow', load: 'Load', value: expect.closeTo(4.5, 9) },
    ]);
  }
  await other.remove();
});
