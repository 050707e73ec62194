import { gzipSync } from 'node:zlib';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { LogStudy, PairVerdict, StagedLog } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { strangerRun, WRITTEN, type StrangerRun } from '@red-ember/testing/strangerLogs';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());
afterEach(async () => {
  for (const { id } of (await bench.call('GET', '/api/v1/logs')).json as StagedLog[]) await bench.call('DELETE', `/api/v1/logs/${id}`);
});

async function put(name: string, content: string | Buffer, zone = 'Europe/Berlin', folder = '') {
  const form = new FormData();
  form.append('log', new Blob([new Uint8Array(Buffer.from(content))]), name);
  return bench.call('POST', `/api/v1/logs?zone=${encodeURIComponent(zone)}&folder=${encodeURIComponent(folder)}`, form);
}
async function staged(name: string, content: string | Buffer, zone?: string): Promise<StagedLog> {
  const answer = await put(name, content, zone);
  expect(answer.status, answer.text).toBe(201);
  return answer.json as StagedLog;
}
async function made(ids: string[], more: object = {}): Promise<LogStudy> {
  const answer = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })), ...more });
  expect(answer.status, answer.text).toBe(201);
  return answer.json as LogStudy;
}
const local = (text: string) => Date.parse(`${text}Z`) / 1000;
const short = { lengthS: 900, idleS: 200 };

/** A day: two pads, two mounts each, one run with the fan free, one with a slow host, one file twice. */
const DAY: [string, Partial<StrangerRun>, keyof typeof WRITTEN, string][] = [
  ['Alder 5 bare m1.csv', { riseK: 44 }, 'semicolons', '2026-06-02T08:00:00'],
  ['Alder 5 padR m1.csv', { riseK: 41.1 }, 'iso', '2026-06-02T03:00:00'],
  ['Alder 5 padR m2.csv', { riseK: 41.4 }, 'semicolons', '2026-06-02T10:00:00'],
  ['Alder 5 bare m2.csv', { riseK: 44.3 }, 'iso', '2026-06-02T05:00:00'],
  ['Alder 5 padR fans auto.csv', { riseK: 47, duty: null }, 'semicolons', '2026-06-02T12:00:00'],
  ['Alder 5 padR slow host.csv', { riseK: 41, busy: 60 }, 'iso', '2026-06-02T07:00:00'],
  ['Alder 5 bare m2 (copy).csv', { riseK: 44.3 }, 'iso', '2026-06-02T05:00:00'],
];

describe('a stranger’s day, put down together', () => {
  it('gives the right roles, variants, mounts and hours, and a verdict of the runs that may be compared', async () => {
    const logs: StagedLog[] = [];
    for (const [i, [name, run, style, at]] of DAY.entries()) {
      // The copy is the same readings.
      const seed = name.includes('copy') ? 4 : i + 1;
      logs.push(await staged(name, WRITTEN[style](strangerRun({ seed, riseK: 40, ...run }), local(at))));
    }
    for (const { guess, columns, fileName } of logs) {
      const roles = Object.fromEntries(guess.columns.map((map) => [columns[map.column]!.name.split(' ')[0]!.toLowerCase(), map.role]));
      expect(roles, fileName).toEqual({
        die: 'spot',
        vram: 'spot',
        ambient: 'room',
        pwm: 'duty',
        fan: 'fan',
        total: 'power',
        load: 'utilisation',
      });
      expect(guess.columns.filter(({ role }) => role === 'spot').map((map) => map.componentClass)).toEqual(['graphics core', 'memory']);
      expect(guess.phases.map(({ kind, startS }) => [kind, Math.round(startS / 5) * 5])).toEqual([
        ['idle-soak', 0],
        ['load', 300],
      ]);
    }
    expect(logs.at(-1)!.duplicateOf).toBe('Alder 5 bare m2.csv');
    expect(logs[0]!.guess.startedAt).toEqual({ iso: '2026-06-02T06:00:00.000Z', zone: 'assumed' });
    expect(logs[1]!.guess.startedAt).toEqual({ iso: '2026-06-02T08:00:00.000Z', zone: 'said' });
    expect(logs[4]!.doubts.join(' ')).toContain('it was not held');
    expect(logs[5]!.doubts.join(' ')).toContain('busy for only 60 %');

    const { study, runs, leftOut } = await made(logs.map(({ id }) => id));
    expect(leftOut).toEqual([{ fileName: 'Alder 5 bare m2 (copy).csv', reason: 'It holds the same readings as Alder 5 bare m2.csv.' }]);
    expect(study.title).toBe('Alder 5: bare against padR');
    expect(study.rules.fans).toBe('locked');
    expect(study.locks).toMatchObject([{ name: 'Fan duty', value: '55', channel: 'duty' }]);
    expect(study.variants.map(({ name, isReference }) => [name, isReference])).toEqual([
      ['bare', true],
      ['padR', false],
    ]);
    const nameOf = (id: string) => study.variants.find((variant) => variant.id === id)!.name;
    expect(runs.map((run) => [nameOf(run.variantId), run.mountNumber])).toEqual([
      ['bare', 1],
      ['padR', 1],
      ['padR', 2],
      ['bare', 2],
      ['padR', null],
      ['padR', null],
    ]);
    expect(study.spots.map(({ name, resolutionK }) => [name.toLowerCase(), resolutionK])).toEqual([
      ['die', 1],
      ['vram', 2],
    ]);

    const verdict = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict?a=${study.variants[0]!.id}&b=${study.variants[1]!.id}`))
      .json as PairVerdict;
    const die = verdict.judgement.spots[0]!;
    expect(die.comparison!.verdict).toBe('b-cooler');
    expect(Math.abs(die.comparison!.difference.value + 2.9)).toBeLessThan(0.5);
    expect([verdict.judgement.a.runIds.length, verdict.judgement.b.runIds.length]).toEqual([2, 2]);
    expect(verdict.judgement.leftOut.map(({ reason }) => reason)).toEqual([
      expect.stringContaining('Fan duty was to be held at 55 % and was off it by'),
      expect.stringContaining('it did less work and only looks cooler'),
    ]);
    // Steps of two kelvin are no spikes.
    expect(JSON.stringify(verdict.judgement.findings)).not.toContain('left out as spikes');
  }, 60_000);

  it('takes fans for free where no log of a variant held them, and then calls what was free and no degrees', async () => {
    const ids: string[] = [];
    for (const [i, [name, run]] of (
      [
        ['Rowan fan curve m1.csv', { riseK: 47, duty: null }],
        ['Rowan fan curve m2.csv', { riseK: 47.2, duty: null }],
        ['Rowan fans full m1.csv', { riseK: 39, duty: 100 }],
        ['Rowan fans full m2.csv', { riseK: 39.3, duty: 100 }],
      ] as [string, Partial<StrangerRun>][]
    ).entries())
      ids.push(
        (await staged(name, WRITTEN.iso(strangerRun({ seed: 700 + i, riseK: 40, ...run }), local(`2026-07-0${i + 1}T08:00:00`)))).id,
      );
    const { study } = await made(ids);
    expect(study.variants).toHaveLength(2);
    expect(study.rules.fans).toBe('as-shipped');
    expect(study.locks).toEqual([]);
    const [a, b] = study.variants;
    const { judgement } = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict?a=${a!.id}&b=${b!.id}`)).json as PairVerdict;
    expect(judgement.leftOut).toEqual([]);
    expect([judgement.a.runIds.length, judgement.b.runIds.length]).toEqual([2, 2]);
    for (const { call } of judgement.spots) expect(['cooler', 'warmer', 'equivalent']).not.toContain(call.kind);
    expect(judgement.cooling.rows.find(({ outcome }) => outcome === 'fan')!.better).not.toBeNull();
  }, 60_000);

  it('makes a study of a log of a day and a night, whose load lasts longer than any that is planned', async () => {
    const rows = Array.from({ length: 24 * 360 }, (_, i) => {
      const warm = i < 180 ? 0 : 1 - Math.exp(-(i - 180) / 60);
      return `${10 * i};${(30 + 40 * warm + 0.1 * Math.sin(i)).toFixed(1)};22.0`;
    });
    const { study, runs } = await made([(await staged('endurance.csv', ['Time;GPU;Room', ...rows].join('\n'))).id]);
    expect(Math.max(...study.recipe.map(({ durationS }) => durationS))).toBe(28_800);
    expect(runs[0]!.lengthS).toBeGreaterThan(86_000);
    const { review } = (await bench.call('GET', `/api/v1/runs/${runs[0]!.id}/readings`)).json;
    expect(review.spots[0].load.rise.mean.value).toBeCloseTo(48, 0);
    expect(review.loadS).toBeGreaterThan(80_000);
  }, 60_000);

  it('takes the first 32 of 63 temperatures, and says so', async () => {
    const head = ['Time', ...Array.from({ length: 63 }, (_, i) => `TC${i + 1} °C`), 'Room °C'];
    const rows = Array.from({ length: 900 }, (_, s) => {
      const warm = s < 200 ? 0 : 1 - Math.exp(-(s - 200) / 100);
      return [s, ...Array.from({ length: 63 }, (_, i) => (30 + (30 + i / 3) * warm + 0.1 * Math.sin(s + i)).toFixed(1)), '22.0'].join(',');
    });
    const log = await staged('many probes.csv', [head.join(','), ...rows].join('\n'));
    expect(log.doubts).toContain('It holds 63 temperatures, and a study reads 32: the first ones are taken. Choose others at its columns.');
    const { study, runs } = await made([log.id]);
    expect(study.spots).toHaveLength(32);
    expect(runs).toHaveLength(1);
  }, 60_000);

  it('sees by its speed alone that a fan was free', async () => {
    const rpm = (moves: boolean) =>
      [
        'Time;GPU;Fan;Room',
        ...Array.from({ length: 900 }, (_, s) => {
          const warm = s < 120 ? 0 : 1 - Math.exp(-(s - 120) / 150);
          return `${s};${(30 + 40 * warm + 0.1 * Math.sin(s)).toFixed(1)};${Math.round(moves ? 700 + 1200 * warm : s === 500 ? 0 : 1500 + 4 * Math.sin(s))};22.0`;
        }),
      ].join('\n');
    const free = await made([(await staged('session in the small case.csv', rpm(true))).id]);
    expect(free.study.rules.fans).toBe('as-shipped');
    const held = await made([(await staged('session in the tall case.csv', rpm(false))).id]);
    expect(held.study.rules.fans).toBe('locked');
  });

  it('makes nothing at all where one of them cannot be read', async () => {
    const before = (await bench.call('GET', '/api/v1/studies')).json.length;
    const good = await staged('Q bare m1.csv', WRITTEN.iso(strangerRun({ seed: 1, riseK: 40, ...short }), 0));
    const text = WRITTEN.kelvin(strangerRun({ seed: 2, riseK: 40, ...short }), 0).split('\n');
    text[500] = text[500]!.replace(/^\d+/, '5');
    const half = text.map((line, i) => (i > 300 && i % 2 === 0 ? line.replace(/^\d+/, '7') : line)).join('\n');
    const bad = await staged('Q lid m1.csv', half);
    const answer = await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: good.id }, { id: bad.id }] });
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toMatch(/^In Q lid m1.csv: Nothing was imported. Line \d+/);
    expect(answer.json.errors[0].pointer).toBe('/logs/1');
    expect((await bench.call('GET', '/api/v1/studies')).json.length).toBe(before);
    expect(((await bench.call('GET', '/api/v1/logs')).json as StagedLog[]).length).toBe(2);
  });

  it('takes what was put right: variant, mount, beginning, phases, and a log that is left aside', async () => {
    const one = await staged('x.csv', WRITTEN.kelvin(strangerRun({ seed: 5, riseK: 40, ...short }), 0));
    const two = await staged('y.csv', WRITTEN.kelvin(strangerRun({ seed: 6, riseK: 38, ...short }), 0));
    const phases = [
      { kind: 'idle-soak', name: 'Rest', startS: 0, endS: 250 },
      { kind: 'load', name: 'Stress', startS: 250, endS: 600 },
      { kind: 'change', name: 'panel off', startS: 600, endS: 899 },
    ];
    const { study, runs, leftOut } = (
      await bench.call('POST', '/api/v1/logs/study', {
        title: 'Put right',
        family: 'regulator',
        logs: [
          { id: one.id, variant: 'as it came', mount: 4, startedAt: '2026-01-05T10:00:00Z', phases },
          { id: two.id, use: false },
        ],
      })
    ).json as LogStudy;
    expect([study.title, study.family]).toEqual(['Put right', 'regulator']);
    expect(leftOut).toEqual([{ fileName: 'y.csv', reason: 'Left aside.' }]);
    expect(((await bench.call('GET', '/api/v1/logs')).json as StagedLog[]).map(({ fileName }) => fileName)).toEqual(['y.csv']);
    expect(runs[0]).toMatchObject({ mountNumber: 4, startedAt: '2026-01-05T10:00:00.000Z' });
    expect(runs[0]!.phases.map(({ kind, name }) => [kind, name])).toEqual([
      ['idle-soak', 'Rest'],
      ['load', 'Stress'],
      ['load', 'panel off'],
    ]);
    expect(runs[0]!.events.map(({ kind, text, atS }) => [kind, text, atS])).toContainEqual(['change', 'panel off', 600]);
    expect(study.recipe.map(({ kind }) => kind)).toEqual(['idle-soak', 'load', 'change']);
  });
});

describe('a day in folders', () => {
  it('has a variant for each folder, and its mounts by the names within; a path out of them is only a name', async () => {
    const ids: string[] = [];
    for (const [i, [folder, name]] of [
      ['tuesday/bare', 'm1.csv'],
      ['tuesday/padR', 'm1.csv'],
      ['../../tuesday/padR', 'm2.csv'],
      ['tuesday/bare', 'm2.csv'],
    ].entries()) {
      const text = WRITTEN.iso(
        strangerRun({ seed: i + 1, riseK: folder!.endsWith('bare') ? 44 : 41, ...short }),
        local(`2026-06-02T0${3 + i}:00:00`),
      );
      const answer = await put(name!, text, 'Europe/Berlin', folder);
      expect(answer.status, answer.text).toBe(201);
      ids.push((answer.json as StagedLog).id);
    }
    const names = ((await bench.call('GET', '/api/v1/logs')).json as StagedLog[]).map(({ fileName }) => fileName);
    expect(names).toContain('tuesday/padR/m2.csv');
    const { study, runs } = await made(ids);
    expect(study.variants.map(({ name }) => name).sort()).toEqual(['bare', 'padR']);
    expect(runs.map(({ mountNumber }) => mountNumber)).toEqual([1, 1, 2, 2]);
  });
});

describe('logs whose names are longer than those of variants may be', () => {
  it('are as many variants as they name, also where they begin or end alike, and on another day too', async () => {
    const sink = 'big tower sink with adhesive strips on memory and inductors, second-hand 120 mm fan';
    const log = (how: string, run: number, seed: number) =>
      staged(`Retrofit ${how} - Lauf ${run}.csv`, WRITTEN.semicolons(strangerRun({ seed, riseK: 40, ...short }), 86_400 + 3600 * seed));
    const first = [
      await log('factory shroud', 1, 81),
      await log(`${sink}, as shipped`, 1, 82),
      await log(`${sink}, tuned`, 1, 83),
      await log(`${sink}, as shipped`, 2, 84),
    ];
    const { study, runs } = await made(first.map(({ id }) => id));
    expect(study.variants).toHaveLength(3);
    expect(study.variants.find(({ isReference }) => isReference)!.name).toBe('factory shroud');
    expect(study.variants.every(({ name }) => name.length <= 60 && !/lauf/i.test(name))).toBe(true);
    expect(runs[1]!.variantId).toBe(runs[3]!.variantId);
    const next = [await log(`${sink}, tuned`, 2, 85), await log('factory shroud', 2, 86)];
    const added = await made(
      next.map(({ id }) => id),
      { addTo: study.id },
    );
    expect(added.study.variants).toHaveLength(3);
    expect(added.runs.map(({ variantId }) => variantId).sort()).toEqual([runs[0]!.variantId, runs[2]!.variantId].sort());
    // One by itself: what all names began with is the part of the study that it goes into.
    const alone = await made([(await log(`${sink}, as shipped`, 3, 87)).id], { addTo: study.id });
    expect(alone.runs[0]!.variantId).toBe(runs[1]!.variantId);
  });
});

describe('logs of another day', () => {
  it('are added to a study that is there: its own spots and variants where they are called or classed alike, new ones where not', async () => {
    const day = (variant: string, seed: number, riseK: number) =>
      staged(`S ${variant} m${seed}.csv`, WRITTEN.semicolons(strangerRun({ seed: 70 + seed, riseK, ...short }), 86_400 * seed));
    const { study } = await made([(await day('bare', 1, 40)).id, (await day('lid', 2, 38)).id]);
    const chip = study.spots[0]!;
    const renamed = {
      ...bodyOf(study),
      spots: study.spots.map((spot) => (spot.id === chip.id ? { ...spot, name: 'Chip of the card' } : spot)),
    };
    expect((await bench.call('PUT', `/api/v1/studies/${study.id}`, renamed, { 'if-match': `"${study.version}"` })).status).toBe(200);
    const next = [(await day('lid', 3, 38.2)).id, (await day('fin', 4, 36)).id];
    const added = await made(next, { addTo: study.id });
    expect(added.study.id).toBe(study.id);
    expect(added.study.title).toBe(study.title);
    expect(added.study.variants.map(({ name, isReference }) => [name, isReference])).toEqual([['bare', true], ['lid', false], ['fin', false]]); // prettier-ignore
    expect(added.study.spots.map(({ name }) => name)).toEqual(['Chip of the card', 'VRAM']);
    expect(added.runs.map(({ number }) => number)).toEqual([3, 4]);
    expect(added.runs[0]!.channels.find(({ role }) => role === 'spot')!.spotId).toBe(chip.id);
    expect((await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: next[0] }], addTo: 'nowhere' })).status).toBe(404);
  });
});

describe('two loggers of one bench', () => {
  /** A load of ten minutes after three of rest, a row a second, under the heads that are given: chip, memory, room, watts. */
  const log = (heads: string, seed: number) => {
    const rows = strangerRun({ seed, riseK: 40, ...short });
    const lines = rows.map(({ s, chip, memory, room, watts }) => [s, chip, memory, room, watts].join(','));
    return `time s,${heads}\n${lines.join('\n')}`;
  };
  it('mean one spot where one of them writes "temp" behind it, and the room by its name in another language', async () => {
    const one = await staged('Q bare m1.csv', log('Hot spot [°C],Memory [°C],Ambient [°C],Power [W]', 81));
    const other = await staged('Q lid m1.csv', log('hot spot temp (C),memory temperature (C),Raumluft (C),Leistung (W)', 82));
    const { study, runs } = await made([one.id, other.id], { family: 'card' });
    expect(study.spots.map(({ name }) => name)).toEqual(['Hot spot', 'Memory']);
    for (const { channels } of runs) expect(channels.map(({ role }) => role).sort()).toEqual(['power', 'room', 'spot', 'spot']);
  });
  it('mean one sensor where a part has it by itself, whatever each of them calls it; one that somebody put there is another', async () => {
    const one = await staged('V bare m1.csv', log('GPU Temperature [°C],GPU Memory Junction Temperature [°C],Ambient [°C],Power [W]', 84));
    const other = await staged('V lid m1.csv', log('T_core (C),mem (C),T_amb (C),P_board (W)', 85));
    const third = await staged('V fin m1.csv', log('gpu_temp (C),TC 3 memory (C),room (C),watts (W)', 86));
    const { study, runs } = await made([one.id, other.id, third.id], { family: 'card' });
    expect(study.spots.map(({ name }) => name)).toEqual(['GPU Temperature', 'GPU Memory Junction Temperature', 'TC 3 memory']);
    expect(study.spots[0]!.sensor).toBe('GPU Temperature, T_core, gpu_temp');
    const spotsOf = (i: number) => runs[i]!.channels.filter(({ role }) => role === 'spot').map(({ spotId }) => spotId);
    expect(spotsOf(1)).toEqual(spotsOf(0));
    expect(spotsOf(2)[0]).toBe(spotsOf(0)[0]);
    expect(spotsOf(2)[1]).not.toBe(spotsOf(0)[1]);
  });
  it('are two of a processor, whose package and hottest core are two things', async () => {
    const one = await staged('U bare m1.csv', log('CPU package (C),VRM 1 (C),Room (C),Power (W)', 87));
    const other = await staged('U fin m1.csv', log('Core max (C),VRM 1 (C),Room (C),Power (W)', 88));
    const { study } = await made([one.id, other.id], { family: 'regulator' });
    expect(study.spots.map(({ name }) => name)).toEqual(['CPU package', 'VRM 1', 'Core max']);
  });
  it('are two spots where one log holds both', async () => {
    const one = await staged('R bare m1.csv', log('GPU (C),GPU temp (C),T_amb (C),Power (W)', 83));
    const { study, runs } = await made([one.id], { family: 'card' });
    expect(study.spots.map(({ name }) => name)).toEqual(['GPU', 'GPU temp']);
    expect(runs[0]!.channels.filter(({ role }) => role === 'room')).toHaveLength(1);
  });
});

describe('logs that make no study together', () => {
  it('are refused with the sentence of the study, and stay', async () => {
    // Each of two loggers read twenty other places: a study of both has forty.
    const ids: string[] = [];
    for (const name of ['chip', 'sensor']) {
      const header = `s,room C,${Array.from({ length: 20 }, (_, i) => `${name} ${i} C`).join(',')}`;
      const rows = Array.from({ length: 400 }, (_, s) =>
        [s, 22, ...Array.from({ length: 20 }, (_, i) => 30 + i + (s > 100 ? name.length * 3 : 0))].join(','),
      );
      ids.push((await staged(`${name}s.csv`, [header, ...rows].join('\n'))).id);
    }
    const answer = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })) });
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toContain('A study holds up to 32 spots.');
    expect((await bench.call('GET', '/api/v1/logs')).json).toHaveLength(2);
  });
  it('nor are long names and many marks too much for it', async () => {
    const rows = Array.from({ length: 4000 }, (_, s) =>
      [s, 22, 60, s % 100 === 0 && s > 300 ? `mark ${s} ${'x'.repeat(300)}` : ''].join(','),
    );
    const log = await staged(`${'long '.repeat(30)}.csv`, ['s,room C,chip C,notes', ...rows].join('\n'));
    const { study, runs } = await made([log.id]);
    expect(study.title.length).toBeLessThanOrEqual(120);
    expect(study.recipe.length).toBeLessThanOrEqual(20);
    expect(runs[0]!.phases.length).toBeGreaterThan(20);
  });
});

describe('a part that vanishes under load', () => {
  const rows = (gone: (s: number) => boolean, off: (s: number) => boolean) =>
    strangerRun({ seed: 92, riseK: 40, ...short })
      .map(({ s, chip, room, watts }) => [s, gone(s) ? '' : chip, room, off(s) ? 1.1 : watts].join(','))
      .join('\n');
  const log = (name: string, text: string) => staged(name, `time s,Controller (C),Room (C),Power (W)\n${text}`);
  it('is asked about where its own sensor falls silent as the load ends, and not where it goes on or fell silent before', async () => {
    const asked = ({ doubts }: StagedLog) => doubts.some((doubt) => doubt.includes('vanished under load'));
    const after = (at: number) => (s: number) => s >= at;
    const vanished = await log('Y bare.csv', rows(after(600), after(600)));
    expect(vanished.doubts.find((doubt) => doubt.includes('vanished'))).toContain('“Controller (C)” reads nothing from 9:59 on');
    expect(
      asked(
        await log(
          'Y lid.csv',
          rows(() => false, after(600)),
        ),
      ),
    ).toBe(false);
    expect(asked(await log('Y fin.csv', rows(after(400), after(800))))).toBe(false);
    expect(
      asked(
        await log(
          'Y pad.csv',
          rows(
            () => false,
            () => false,
          ),
        ),
      ),
    ).toBe(false);
  });
});

describe('the time of a log', () => {
  const rows = (time: (s: number) => string) => strangerRun({ seed: 90, riseK: 40, ...short }).map(({ s, chip, room }) => `${time(s)},${chip},${room}`).join('\n'); // prettier-ignore
  it('is found by seconds or milliseconds since 1970, whatever the column is called', async () => {
    for (const [name, of] of [
      ['ts', 1000],
      ['sampled', 1],
    ] as const) {
      const log = await staged(`W ${name}.csv`, `${name},GPU (C),Room (C)\n${rows((s) => String(of * (1_780_000_000 + s)))}`);
      expect(log.guess!.startedAt).toMatchObject({ iso: '2026-05-28T20:26:40.000Z', zone: 'said' });
    }
  });
  it('has the month first where its hours go to twelve and nothing else tells', async () => {
    const two = (n: number) => String(n).padStart(2, '0');
    const at = (s: number) => `10/05/2026 08:${two(Math.floor(s / 60))}:${two(s % 60)}`;
    const american = await staged('X am.csv', `time,GPU (C),Room (C)\n${rows((s) => `${at(s)} AM`)}`);
    expect(american.guess!.startedAt.iso).toBe('2026-10-05T06:00:00.000Z');
    expect(american.doubts.join(' ')).toContain('the month first, as its hours go to twelve');
    const other = await staged('X.csv', `time,GPU (C),Room (C)\n${rows(at)}`);
    expect(other.guess!.startedAt.iso).toBe('2026-05-10T06:00:00.000Z');
  });
});

describe('one log, however it is written', () => {
  const rows = strangerRun({ seed: 3, riseK: 42, ...short });
  it.each([
    ['semicolons', 'day-month', '2026-06-02T06:00:00.000Z'],
    ['iso', 'iso', '2026-06-02T13:00:00.000Z'],
    ['american', 'month-day', '2026-06-02T06:00:00.000Z'],
    ['kelvin', 'elapsed-ms', null],
  ] as const)('%s', async (style, timeFormat, iso) => {
    const rows = strangerRun({ seed: 40 + style.length, riseK: 42, ...short });
    // In American dates only a day beyond the twelfth tells days from months.
    const at = style === 'american' ? local('2026-06-22T08:00:00') : local('2026-06-02T08:00:00');
    const log = await staged(`${style}.csv`, WRITTEN[style](rows, at));
    expect(log.guess).toMatchObject({ timeFormat, lengthS: 899 });
    if (iso) expect(log.guess.startedAt.iso).toBe(style === 'american' ? iso.replace('-02T', '-22T') : iso);
    expect(log.figures.powerW).toBeCloseTo(180, 0);
    expect(log.figures.roomC).toBeCloseTo(22, 0);
    const { runs } = await made([log.id]);
    const chip = bench.services.stores.samples.read(runs[0]!.id, runs[0]!.channels.find(({ role }) => role === 'spot')!.key);
    expect(chip.y[0]).toBeCloseTo(rows[0]!.chip, 1);
    expect(chip.t.at(-1)).toBe(899);
    const power = bench.services.stores.samples.read(runs[0]!.id, runs[0]!.channels.find(({ role }) => role === 'power')!.key);
    expect(power.y.at(-1)).toBeCloseTo(rows.at(-1)!.watts, 1);
  });

  it('asks which number is the day where both could be', async () => {
    const log = await staged('a.csv', WRITTEN.american(rows, local('2026-04-03T08:00:00')));
    expect(log.doubts.join(' ')).toContain('4/3/2026: is the day or the month written first?');
    // Put right, it is read in the zone that it was put down with.
    const { runs } = (await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: log.id, timeFormat: 'month-day' }] })).json as LogStudy;
    expect(runs[0]!.startedAt).toBe('2026-04-03T06:00:00.000Z');
  });

  it('with quoted decimal commas among commas, dates with single figures, and thousands', async () => {
    const rows = strangerRun({ seed: 90, riseK: 40, ...short });
    const comma = (value: number) => `"${value.toFixed(1).replace('.', ',')}"`;
    const text = ['Date,Time,"Core temperature [°C]",Ambient [°C],Total power [W],Clock [MHz]', ...rows.map((row) => `11.5.2026,10:${String(Math.floor(row.s / 60)).padStart(2, '0')}:${String(row.s % 60).padStart(2, '0')},${comma(row.chip)},${comma(row.room)},"1.${String(Math.round(row.watts)).padStart(3, '0')},5",2400`)].join('\n'); // prettier-ignore
    const log = await staged('quoted.csv', text);
    expect(log.written.decimal).toBe(',');
    expect(log.guess.columns.map(({ role }) => role)).toEqual(['spot', 'room', 'power', 'clock']);
    const { runs } = await made([log.id]);
    const power = runs[0]!.channels.find(({ role }) => role === 'power')!.key;
    expect(bench.services.stores.samples.read(runs[0]!.id, power).y[0]).toBeCloseTo(1000 + Math.round(rows[0]!.watts) + 0.5, 6);
    const thousands = await staged('thousands.csv', ['s,chip C,room C,clock MHz', ...rows.map((row) => `${row.s},${row.chip}.5,${row.room},"2,400"`)].join('\n')); // prettier-ignore
    expect(thousands.written.decimal).toBe('.');
  });

  it('by short names and since 1970, as scripts write them', async () => {
    const rows = strangerRun({ seed: 91, riseK: 40, ...short });
    const text = ['epoch,T_core,T_room,P_board,gpu_util,fan_pwm', ...rows.map((row) => [1_780_000_000.5 + row.s, row.chip, row.room, row.watts, row.busy, row.duty].join(','))].join('\n'); // prettier-ignore
    const log = await staged('script.csv', text);
    expect(log.guess.timeFormat).toBe('epoch-s');
    expect(log.guess.columns.map(({ role }) => role)).toEqual(['spot', 'room', 'power', 'utilisation', 'duty']);
  });
  it('rises over the air are no temperatures of a trace', async () => {
    const log = await staged('rise.csv', ['s,Chip rise K,Memory C,Room C,W', ...strangerRun({ seed: 92, riseK: 40, ...short }).map((row) => [row.s, row.chip - row.room, row.memory, row.room, row.watts].join(','))].join('\n')); // prettier-ignore
    expect(log.guess.columns.map(({ role }) => role)).toEqual(['spot', 'room', 'power', 'beside']);
    expect(log.doubts.join(' ')).toContain('“Chip rise K” reads like a rise over the air');
  });

  it('packed, and known again as the same in another writing', async () => {
    const text = WRITTEN.semicolons(rows, local('2026-06-02T08:00:00'));
    const first = await staged('a m1.csv', text);
    const packed = await staged('b m1.csv.gz', gzipSync(text.replaceAll(',', '.')));
    expect(packed.rows).toBe(first.rows);
    expect(packed.duplicateOf).toBe('a m1.csv');
    expect((await put('d.csv.gz', gzipSync(gzipSync(text)))).json.detail).toContain('packed more than once');
    expect((await put('c.csv.gz', gzipSync(text).subarray(0, 400))).json.detail).toContain('damaged or cut short');
  });

  it('is told of once it is a run, in whichever study', async () => {
    const text = WRITTEN.iso(strangerRun({ seed: 60, riseK: 41, ...short }), 77);
    const { study } = await made([(await staged('first.csv', text)).id]);
    const again = await staged('second.csv', text);
    expect(again.duplicateOf).toBe(`run 1 of ${study.title} (first.csv)`);
    const answer = await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: again.id }] });
    expect(answer.status).toBe(422);
    expect((await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: again.id, use: true }] })).status).toBe(201);
  });
});

describe('what is written beside the readings', () => {
  const rows = strangerRun({ seed: 9, riseK: 40, ...short });
  const marked = (mark: (s: number) => string) => ['s,die C,ambient C,W,notes', ...rows.map((row) => [row.s, row.chip, row.room, row.watts, mark(row.s)].join(','))].join('\n'); // prettier-ignore
  it('becomes phases and marks of the run, without signs that nobody sees', async () => {
    const log = await staged(
      'm.csv',
      marked((s) => (s === 500 ? '"panel off, <b>loud</b>\u202e"' : '')),
    );
    expect(log.guess.phases.map(({ kind, name, startS }) => [kind, name, startS])).toEqual([
      ['idle-soak', 'Idle', 0],
      ['load', 'Load', 200],
      ['change', 'panel off, <b>loud</b>', 500],
    ]);
    const { runs } = await made([log.id]);
    expect(runs[0]!.events).toContainEqual(expect.objectContaining({ kind: 'mark', text: 'panel off, <b>loud</b>', atS: 500 }));
  });
  it('is no marks where every row holds another text', async () => {
    const log = await staged(
      'n.csv',
      marked((s) => `step ${s}`),
    );
    expect(log.guess.columns.some(({ role }) => role === 'mark')).toBe(false);
    expect(log.doubts.join(' ')).toContain('too many different texts');
  });
});

describe('a file that is no trace', () => {
  it('is told for what it is', async () => {
    const sweep = await staged(
      'sweep quiet fan.csv',
      'Fan %;rpm;level dB(A);chip rise K\n30;900;31,1;55,4\n50;1140;34,5;50,8\n70;1380;38,3;47,6\n',
    );
    const results = await staged(
      'results.csv',
      'Run,Plate,Airflow,Stages rise (K)\n1,off,down,59\n2,on,down,62\n3,off,up,58\n4,on,up,60\n',
    );
    expect([sweep.kind, results.kind]).toEqual(['sweep', 'results']);
    expect(sweep.guess.columns.map(({ role }) => role)).toEqual(['duty', 'fan', 'level', 'spot']);
  });
  it('and columns of numbers without a time are asked about', async () => {
    const log = await staged('numbers.csv', `${Array.from({ length: 18 }, (_, i) => `v${i}`).join(',')}\n${Array.from({ length: 3000 }, (_, r) => Array.from({ length: 18 }, (_, c) => (40 + Math.sin(r + c)).toFixed(2)).join(',')).join('\n')}`); // prettier-ignore
    expect(log.kind).toBe('trace');
    expect(log.guess.timeColumn).toBeNull();
    expect(log.doubts.join(' ')).toContain('No column looks like a time');
    const answer = await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: log.id }] });
    expect(answer.json.detail).toContain('choose the column that holds the time');
  });
});

it('a run is put right afterwards: its variant, its mount, its beginning and its phases, with history', async () => {
  const ids = [];
  for (const [i, variant] of ['bare', 'lid'].entries())
    ids.push((await staged(`R ${variant} m1.csv`, WRITTEN.iso(strangerRun({ seed: 20 + i, riseK: 40 - 3 * i, ...short }), 3600 * i))).id);
  const { study, runs } = await made(ids);
  const [bare, lid] = study.variants;
  const facts = (body: object, id = runs[1]!.id) => bench.call('PUT', `/api/v1/runs/${id}/facts`, body);
  const phases = [
    { kind: 'idle-soak', name: 'Rest', startS: 0, endS: 300 },
    { kind: 'load', name: 'Load', startS: 300, endS: 800 },
  ];
  const put = await facts({ variantId: bare!.id, mount: 2, startedAt: '2026-02-01T08:00:00Z', phases });
  expect(put.status, put.text).toBe(200);
  expect(put.json).toMatchObject({ variantId: bare!.id, mountNumber: 2, startedAt: '2026-02-01T08:00:00.000Z' });
  expect(put.json.phases.map(({ name }: { name: string }) => name)).toEqual(['Rest', 'Load']);
  const history = (await bench.call('GET', `/api/v1/studies/${study.id}/history`)).json as { changed: string[] }[];
  expect(history[0]!.changed[0]).toContain('Run 2 put right: bare instead of lid, mount 2 instead of mount 1');
  const readings = (await bench.call('GET', `/api/v1/runs/${runs[1]!.id}/readings`)).json;
  expect(readings.review.loadS).toBe(500);

  expect((await facts({ variantId: 'nobody' })).status).toBe(404);
  expect((await facts({ mount: 0 })).status).toBe(422);
  expect((await facts({ phases: [{ ...phases[0]! }] })).json.detail).toContain('under load');
  expect((await facts({ phases: [{ ...phases[0]!, endS: 400 }, phases[1]] })).json.detail).toContain('begins before Rest has ended');
  expect((await facts({ variantId: lid!.id, mount: null })).json).toMatchObject({ variantId: lid!.id, mountNumber: null });
});

it('logs that do not say when they began are not taken as made in the order in which they were put down', async () => {
  const ids = [];
  for (const [i, name] of ['bare m1', 'bare m2', 'lid m1', 'lid m2'].entries())
    ids.push((await staged(`T ${name}.csv`, WRITTEN.kelvin(strangerRun({ seed: 40 + i, riseK: i < 2 ? 40 : 36, ...short }), 0))).id);
  const { study, runs } = await made(ids);
  expect(runs.map(({ startKnown }) => startKnown)).toEqual([false, false, false, false]);
  const found = async () =>
    ((await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json as PairVerdict).judgement.findings
      .filter(({ check }) => check === 'order')
      .map(({ evidence }) => evidence);
  expect((await found())[0]).toContain('Nobody wrote down when these runs were made');
  const csv = await bench.call('GET', `/api/v1/runs/${runs[0]!.id}/samples.csv`);
  expect(csv.text).toContain('Begun not known when');

  for (const [i, { id }] of runs.entries()) {
    const put = await bench.call('PUT', `/api/v1/runs/${id}/facts`, { startedAt: `2026-02-01T0${i + 1}:00:00Z` });
    expect(put.json).toMatchObject({ startKnown: true, startedAt: `2026-02-01T0${i + 1}:00:00.000Z` });
  }
  expect((await found())[0]).toContain('All runs of one side came before all of the other');
});

describe('variants that were held at duties of their own', () => {
  it('break no lock: the difference is read, and not called', async () => {
    const ids: string[] = [];
    for (const [i, [variant, riseK, duty]] of (
      [
        ['bare', 44, 50],
        ['padR', 41, 62],
        ['bare', 44.2, 50],
        ['padR', 41.3, 62],
      ] as const
    ).entries()) {
      const rows = strangerRun({ seed: 90 + i, riseK, duty });
      ids.push(
        (await staged(`Alder 7 ${variant} m${1 + Math.floor(i / 2)}.csv`, WRITTEN.iso(rows, local('2026-06-03T06:00:00') + 7200 * i))).id,
      );
    }
    const { study } = await made(ids);
    expect([study.rules.fans, study.locks]).toEqual(['as-shipped', []]);
    const verdict = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json as PairVerdict;
    expect(verdict.refusal).toBeFalsy();
    const calls = verdict.judgement!.spots.map(({ call }) => call);
    // The chip; the memory is read in steps of 2 K.
    expect(calls[0]!.kind).toBe('withheld');
    expect(verdict.sentence!.map(({ text }) => text).join('')).toContain('the fans were not set alike');
  });
});

describe('what a study is called of which nothing is said', () => {
  const long = (what: string) => `${what} with adhesive strips on memory and inductors and a second-hand fan`;
  const titleOf = async (names: string[]) => {
    const logs: StagedLog[] = [];
    for (const [i, name] of names.entries()) logs.push(await staged(`${name}.csv`, WRITTEN.iso(strangerRun({ ...short, seed: 40 * names.length + i, riseK: 40 + i }), local(`2026-09-0${i + 1}T08:00:00`)))); // prettier-ignore
    return (await made(logs.map(({ id }) => id))).study.title;
  };
  it('names as many variants as have room, and shows that the end of what has none is left off', async () => {
    const many = await titleOf(['oak', 'elm', 'ash', 'yew', 'fir']);
    expect(many).toMatch(/ against \w+, \w+, \w+ and more$/);
    const title = await titleOf([long('comb'), long('slab'), long('bare')]);
    expect(title.length).toBeLessThanOrEqual(120);
    expect(title).toMatch(/…$/);
  });
});

describe('a room probe that the part warms with one side', () => {
  const log = async (variant: string, run: number, probe: (s: number) => number, seed = 70) => {
    const rows = strangerRun({ seed: seed + 2 * run + variant.length, riseK: 44, duty: 55 }).map((row) => ({
      ...row,
      room: row.room + probe(row.s),
    }));
    const at = local('2026-06-05T06:00:00') + 7200 * run + (variant === 'bare' ? 0 : 3600);
    return (await staged(`Alder 9 ${variant} m${run}.csv`, WRITTEN.iso(rows, at))).id;
  };
  const verdictOf = async (probe: (s: number) => number, seed = 70) => {
    const { study } = await made([
      await log('bare', 1, () => 0, seed),
      await log('bare', 2, () => 0, seed),
      await log('hood', 1, probe, seed),
      await log('hood', 2, probe, seed),
    ]);
    const { judgement } = (await bench.call('GET', `/api/v1/studies/${study.id}/verdict`)).json as PairVerdict;
    const said = judgement!.findings.filter(({ check, evidence }) => check === 'room' && evidence.includes('its probe may stand in air'));
    return { chip: judgement!.spots[0]!, said };
  };

  it('makes nobody cooler: the doubt takes it in, and it is said', async () => {
    const { chip, said } = await verdictOf((s) => (s < 300 ? 0 : 5 * (1 - Math.exp(-(s - 300) / 150))));
    expect(said).toHaveLength(1);
    expect(chip.comparison!.difference.value).toBeLessThan(-4);
    expect(chip.call.kind).toBe('no-call');
  });
  it('while one that reads otherwise all along is another thing', async () => {
    expect((await verdictOf(() => 0, 170)).said).toEqual([]);
  });
});
