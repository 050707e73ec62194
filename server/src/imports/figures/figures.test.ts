import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { factorView } from '@red-ember/core';
import type { ColumnMapBody, LogStudy, PairVerdict, Run, RunReadings, StagedLog, StudyLineUp } from '@red-ember/contract';
import { testBench, type TestBench } from '../../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());
afterEach(async () => {
  for (const { id } of (await bench.call('GET', '/api/v1/logs')).json as StagedLog[]) await bench.call('DELETE', `/api/v1/logs/${id}`);
});

async function put(name: string, content: string): Promise<StagedLog> {
  const form = new FormData();
  form.append('log', new Blob([content]), name);
  const answer = await bench.call('POST', '/api/v1/logs', form);
  expect(answer.status, answer.text).toBe(201);
  return answer.json as StagedLog;
}
const ask = (ids: string[], said: object = {}) => bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id, ...said })) });
async function made(ids: string[], said: object = {}): Promise<LogStudy> {
  const answer = await ask(ids, said);
  expect(answer.status, answer.text).toBe(201);
  return answer.json as LogStudy;
}
const get = async <T>(path: string) => (await bench.call('GET', `/api/v1${path}`)).json as T;

/** A cooler's rise and level over its fan's duty. */
const rise = (duty: number, k: number) => k * (30 + 1400 / duty);
const level = (duty: number, quiet: number) => 10 * Math.log10(10 ** 2.9 + 10 ** ((14 + 0.62 * duty - quiet) / 10));
const sweep = (k: number, quiet: number, duties = [30, 35, 40, 45, 50, 60, 75, 90]) =>
  ['Duty %;level dB(A);GPU rise K', ...duties.map((d) => `${d};${level(d, quiet).toFixed(1)};${rise(d, k).toFixed(1)}`)]
    .join('\n')
    .replaceAll('.', ',');

describe('sweeps without a time', () => {
  it('become a run each, with a load a step, and are read at one level', async () => {
    const [stock, other] = [await put('sweep stock.csv', sweep(0.8, 0)), await put('sweep tall 120.csv', sweep(0.76, 4))];
    expect(stock.kind).toBe('sweep');
    expect(stock.guess.columns.map(({ role, spotName, unit }) => [role, spotName, unit])).toEqual([
      ['duty', undefined, undefined],
      ['level', undefined, undefined],
      ['spot', 'GPU', 'K'],
    ]);
    const { study, runs } = await made([stock.id, other.id], { noiseFloorDb: 29 });
    expect(study.rules).toMatchObject({ basis: 'rise', fans: 'equal-noise' });
    expect(runs).toHaveLength(2);
    expect(runs[0]!.figures!.loads.map(({ name }) => name)).toEqual([30, 35, 40, 45, 50, 60, 75, 90].map((duty) => `Fan, ${duty} %`));
    const { review } = await get<RunReadings>(`/runs/${runs[0]!.id}/readings`);
    expect(review.asGiven).toBe(true);
    // The lowest step lies less than 3 dB above the room: its own level cannot be told.
    expect(level(30, 4) - 29).toBeLessThan(3);
    const quiet = await get<RunReadings>(`/runs/${runs.find((run) => run.sourceName.includes('tall'))!.id}/readings`);
    expect(quiet.review.loads[0]!.freedDb).toBeNull();
    expect(quiet.review.loads.at(-1)!.freedDb).toBeCloseTo(14 + 0.62 * 90 - 4, 1);

    const [a, b] = study.variants;
    const at = 36;
    const { judgement, commonNoise } = await get<PairVerdict>(`/studies/${study.id}/verdict?a=${a!.id}&b=${b!.id}&restate=noise:${at}`);
    expect(judgement.findings.map(({ evidence }) => evidence).join(' ')).toContain('All runs are figures as given, no traces');
    expect(commonNoise!.leastDb).toBeGreaterThan(29);
    const dutyAt = (quietBy: number) => {
      const own = 10 * Math.log10(10 ** (at / 10) - 10 ** 2.9);
      return (own - 14 + quietBy) / 0.62;
    };
    const truth = rise(dutyAt(4), 0.76) - rise(dutyAt(0), 0.8);
    expect(Math.abs(judgement.spots[0]!.comparison!.difference.value - truth)).toBeLessThan(0.5);
  });

  it('of results leave out what was broken off, whatever stands there, and take runs that are counted anew for repeats', async () => {
    const rows = [
      'Paste\tRun\tHot spot °C\tDie °C\tRoom °C',
      'grey\t1\t84.1\t70.2\t22.4',
      'grey\t2\t84.6\t70.4\t22.6',
      'white\t1\t86.9\t72.3\t22.5',
      'white\t2\t87.4\t72.8\t22.9',
      'dry\t1\t101.5\t88.9\t22.5',
      'dry\taborted\t\t\t',
      'dry\t3\taborted\taborted\t22.5',
    ];
    const pastes = await put('pastes.tsv', rows.join('\n'));
    expect(pastes.guess.columns.map(({ role }) => role)).toEqual(['factor', 'repeat', 'spot', 'spot', 'room']);
    const { study, runs } = await made([pastes.id]);
    expect(runs).toHaveLength(5);
    expect(study.variants.map(({ name }) => name)).toEqual(['grey', 'white', 'dry']);
    expect(study.rules.fans).toBe('not-applicable');
    const half = await put('half.tsv', [...rows.slice(0, 3), 'white\t1\tabout 86\t72.3\t22.5'].join('\n'));
    expect((await ask([half.id])).text).toContain('Line 4, Hot spot °C: “about 86” is not a number.');
  });

  it('of results call no degrees where fans that they tell of turned otherwise, and do where they turned alike', async () => {
    const table = (fast: number) =>
      ['Paste;Hot spot °C;Fan rpm;Room °C', ...['grey;84.1;3010', 'grey;84.4;3004', `liquid;76.2;${fast}`, `liquid;76.0;${fast + 6}`].map((row) => `${row};22.5`)].join('\n'); // prettier-ignore
    const callOf = async (fast: number) => {
      const { study } = await made([(await put(`pastes at ${fast}.csv`, table(fast))).id]);
      expect(study.rules.fans).toBe('locked');
      const [a, b] = study.variants;
      const { judgement } = await get<PairVerdict>(`/studies/${study.id}/verdict?a=${a!.id}&b=${b!.id}`);
      return judgement.spots[0]!.call.kind;
    };
    expect(await callOf(3008)).toBe('cooler');
    expect(['blocked', 'withheld']).toContain(await callOf(3600));
  });

  it('are put in order, and refused with the line where they cannot be one', async () => {
    const lines = sweep(0.8, 0).split('\n');
    const shuffled = await put('mixed.csv', [lines[0], lines[3], lines[1], lines[2]].join('\n'));
    const { runs } = await made([shuffled.id]);
    expect(runs[0]!.figures!.loads.map(({ name }) => name)).toEqual(['Fan, 30 %', 'Fan, 35 %', 'Fan, 40 %']);
    const one = await put('single.csv', lines.slice(0, 2).join('\n'));
    expect((await ask([one.id])).text).toContain('A sweep needs two rows or more');
    const twice = await put('twice.csv', [...lines, lines[2]].join('\n'));
    expect((await ask([twice.id])).text).toContain('Line 10: 35 % stands there twice');
  });
});

/** Two runs of each of eight combinations; `cooler` always changes with the airflow where it is asked for. */
function results(withCooler: boolean): string {
  const rows: string[] = [];
  let n = 0;
  for (const repeat of [1, 2])
    for (const plate of ['off', 'on'])
      for (const fan of ['off', 'on'])
        for (const air of ['tower', 'downward']) {
          const noise = [0.3, -0.4, 0.2, 0.5, -0.3, 0.1, -0.5, 0.4][(7 * n) % 8]!;
          const value = 64 + (plate === 'on' ? 2 : 0) - (fan === 'on' ? 5 : 0) - (air === 'downward' ? 3 : 0) + noise;
          const cooler = withCooler ? `${air === 'tower' ? 'model V' : 'model W'},` : '';
          rows.push(`${++n},${plate},${fan},${air},${cooler}${repeat},${value.toFixed(1)}`);
        }
  return [`Run,Plate,Little fan,Airflow,${withCooler ? 'Cooler,' : ''}Repeat,Stages rise (K)`, ...rows].join('\n');
}

describe('a table of results', () => {
  it('becomes a run a row: what was changed makes factors and variants', async () => {
    const log = await put('set.csv', results(false));
    expect([log.kind, ...log.guess.columns.map(({ role }) => role)]).toEqual([
      'results',
      'order',
      'factor',
      'factor',
      'factor',
      'repeat',
      'spot',
    ]);
    const { study, runs } = await made([log.id]);
    expect(study.factors.map(({ name, levels }) => [name, ...levels])).toEqual([
      ['Plate', 'off', 'on'],
      ['Little fan', 'off', 'on'],
      ['Airflow', 'tower', 'downward'],
    ]);
    expect(study.variants).toHaveLength(8);
    expect(study.variants[0]).toMatchObject({ isReference: true, name: 'tower' });
    expect(runs).toHaveLength(16);
    const { field, refusal } = await get<StudyLineUp>(`/studies/${study.id}/field`);
    expect(refusal).toBeNull();
    const { effects, refused } = factorView(field, study.factors, { spotId: field.spots[0]!.id });
    expect(refused).toEqual([]);
    const found = (name: string) => effects.find(({ term }) => term.length === 1 && term[0] === name)!;
    // The first level stands high or low: the size is what counts.
    for (const [name, size] of [
      ['Plate', 2],
      ['Little fan', 5],
      ['Airflow', 3],
    ] as const) {
      // prettier-ignore
      expect(Math.abs(Math.abs(found(name).value) - size), name).toBeLessThan(0.5);
      expect(found(name).told, name).toBe(true);
    }
  });

  it('credits neither of two things that always changed together', async () => {
    const log = await put('set together.csv', results(true));
    const { study } = await made([log.id]);
    const { field } = await get<StudyLineUp>(`/studies/${study.id}/field`);
    const { effects, refused } = factorView(field, study.factors, { spotId: field.spots[0]!.id });
    expect(refused.flatMap(({ terms }) => terms.flat())).toEqual(expect.arrayContaining(['Airflow', 'Cooler']));
    const credited = effects.map(({ term }) => term.join(' × '));
    expect(credited.filter((term) => /Airflow|Cooler/.test(term))).toEqual([]);
    expect(credited).toEqual(expect.arrayContaining(['Plate', 'Little fan']));
  });

  it('takes temperatures with a room, leaves holes out, and names what is no number', async () => {
    const rows = ['Pad,Room °C,Memory °C', 'bare,22.0,71.5', 'padR,22.4,', 'padR,22.1,68.0', 'bare,21.9,71.1'];
    const { study, runs } = await made([(await put('pads.csv', rows.join('\n'))).id]);
    expect(study.rules.basis).toBe('rise');
    expect(runs).toHaveLength(3);
    const { review } = await get<RunReadings>(`/runs/${runs[0]!.id}/readings`);
    expect(review.spots[0]!.load!.rise!.mean.value).toBeCloseTo(49.5, 6);
    const bad = await put('bad.csv', [...rows, 'bare,22.0,warm'].join('\n'));
    expect((await ask([bad.id])).text).toContain('Line 6, Memory °C: “warm” is not a number.');
  });
});

describe('figures of one’s own in a table of results', () => {
  const rows = [
    'Paste,Repeat,GPU rise (K),Score,Render time (min),Spread rating',
    'soft,1,40.1,1204,12.4,4',
    'soft,2,40.3,1198,12.5,4',
    'hard,1,38.0,1260,11.9,2',
    'hard,2,37.8,1255,11.8,',
  ];

  it('are named by the study, with their unit and the way that is better, and written down with each run', async () => {
    const log = await put('pastes.csv', rows.join('\n'));
    expect(log.guess.columns.filter(({ role }) => role === 'own').map(({ column }) => column)).toEqual([3, 4, 5]);
    const { study, runs } = await made([log.id]);
    expect(study.factors.map(({ name }) => name)).toEqual(['Paste']);
    expect(study.figures!.map(({ name, unit, better }) => [name, unit, better])).toEqual([
      ['Score', '', 'high'],
      ['Render time', 'min', 'low'],
      ['Spread rating', '', 'high'],
    ]);
    const idOf = (name: string) => study.figures!.find((figure) => figure.name === name)!.id;
    expect(runs[0]!.own.map(({ figureId, load, value }) => [figureId, load, value])).toEqual(
      expect.arrayContaining([
        [idOf('Score'), null, 1204],
        [idOf('Render time'), null, 12.4],
        [idOf('Spread rating'), null, 4],
      ]),
    );
    // A hole is no figure.
    expect(runs[3]!.own.map(({ figureId }) => figureId)).not.toContain(idOf('Spread rating'));
    const of = (name: string) => study.variants.find((variant) => variant.name === name)!.id;
    const { judgement } = await get<PairVerdict>(`/studies/${study.id}/verdict?a=${of('soft')}&b=${of('hard')}`);
    const score = judgement.cooling.rows.find(({ label }) => label === 'Score')!;
    expect(score.comparison!.difference.value).toBeCloseTo(56.5, 6);
  });

  it('go on under the name that a study knows, whatever else is read from the table', async () => {
    const { study } = await made([(await put('pastes one.csv', rows.slice(0, 4).join('\n'))).id]);
    const more = await put('pastes two.csv', [rows[0], 'hard,3,37.9,1262,11.7,3'].join('\n'));
    const answer = await bench.call('POST', '/api/v1/logs/study', { addTo: study.id, logs: [{ id: more.id, columns: columnsOf(more) }] });
    expect(answer.status, answer.text).toBe(201);
    const added = answer.json as LogStudy;
    expect(added.study.figures).toHaveLength(3);
    expect(added.runs[0]!.own.find(({ figureId }) => figureId === study.figures![0]!.id)!.value).toBe(1262);
  });

  it('are refused with the line where a cell is no number', async () => {
    const log = await put('pastes three.csv', [...rows, 'hard,3,37.9,much,11.7,3'].join('\n'));
    const answer = await ask([log.id], { columns: columnsOf(log, { column: 3, role: 'own', spotId: null }) });
    expect(answer.text).toContain('Line 6, Score: “much” is not a number.');
  });
});

/** What was guessed of a table with the first column as what was changed, and a column put right. */
const columnsOf = ({ guess }: StagedLog, right?: ColumnMapBody): ColumnMapBody[] => [
  ...guess.columns.filter(({ column }) => column !== 0 && column !== right?.column),
  { column: 0, role: 'factor', spotId: null },
  ...(right ? [right] : []),
];

describe('runs of figures', () => {
  it('have nothing to draw and nothing to put phases into, and are the same table twice', async () => {
    const log = await put('again.csv', sweep(0.9, 1));
    const { runs } = await made([log.id]);
    const run = await get<Run>(`/runs/${runs[0]!.id}`);
    expect(run).toMatchObject({ channels: [], phases: [], state: 'finished' });
    const twin = await put('again, renamed.csv', sweep(0.9, 1));
    expect(twin.duplicateOf).toContain('run 1 of');
  });
});
