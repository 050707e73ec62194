import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { thermocoupleVoltage } from '@red-ember/core';
import type { Run, StagedLog } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';
import { guessTime } from './look/guess.ts';
import { numberOf, readNumber } from './read/cells.ts';
import { readTime } from './read/times.ts';

let bench: TestBench;
let studyId: string;
beforeAll(async () => {
  bench = await testBench();
  studyId = (await bench.call('POST', '/api/v1/studies', studyBody())).json.id as string;
});
afterAll(() => bench.remove());

async function stage(text: string | Buffer, name = 'log.csv') {
  const form = new FormData();
  form.append('log', new Blob([new Uint8Array(Buffer.from(text))]), name);
  return bench.call('POST', `/api/v1/studies/${studyId}/logs`, form);
}

const mapping = {
  variantId: 'v-bare',
  timeColumn: 0,
  timeFormat: 'elapsed-s',
  columns: [{ column: 1, role: 'spot', spotId: 'tc1' }],
  loadStartS: 10,
  loadEndS: 90,
  acceptOddTemperatures: false,
  note: '',
};
const make = (id: string, change: object = {}) =>
  bench.call('POST', `/api/v1/studies/${studyId}/logs/${id}/run?name=log.csv`, { ...mapping, ...change });
const table = (row: (i: number) => string, header = 'Time,tc1,Room') =>
  `${header}\n${Array.from({ length: 100 }, (_, i) => row(i)).join('\n')}\n`;

describe('thermocouple voltages', () => {
  const voltage = (change: object = {}) => ({ type: 'K', coldJunctionColumn: 2, coldJunctionC: 25, ...change });
  const mapped = (change: object = {}) => ({ columns: [{ column: 1, role: 'spot', spotId: 'tc1', voltage: voltage(change) }] });
  /** 60 °C measured by type K with the cold junction drifting from 22 to 24 °C. */
  const millivolts = (i: number) =>
    `${i},${(thermocoupleVoltage('K', 60) - thermocoupleVoltage('K', 22 + i / 50)).toFixed(5)},${22 + i / 50}`;

  it('become temperatures, the cold junction followed, and the run says so', async () => {
    const { id } = (await stage(table(millivolts, 'Time,TC1 mV,Junction'))).json;
    const run = (await make(id, mapped())).json;
    const { y } = bench.services.stores.samples.read(run.id, 'column-1');
    for (const i of [0, 50, 99]) expect(y[i]).toBeCloseTo(60, 2);
    expect(run.events[0].text).toBe('TC1 mV: type K voltage in mV, cold junction read from Junction, ITS-90.');
  });
  it('are refused with their line where they are no such voltage', async () => {
    const { id } = (await stage(table((i) => `${i},${i === 7 ? 80_000 : 1.5},23`, 'Time,TC1,Junction'))).json;
    const answer = await make(id, mapped());
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toContain(
      'Line 9, TC1: 80000 mV with the cold junction at 23 °C is no voltage of a type K thermocouple. Is it in mV?',
    );
    expect((await make(id, mapped({ type: 'X' }))).status).toBe(422);
    expect((await make(id, mapped({ coldJunctionColumn: null, coldJunctionC: 75 }))).json.detail).toContain('is this °F?');
  });
});

describe('a recorded log', () => {
  it('is understood by its header and becomes a run', async () => {
    const staged = (
      await stage(
        table((i) => `${i};${30 + i / 10};22,`, 'Elapsed;tc1;Room air')
          .replace(/,\n/g, '\n')
          .replace(/,$/gm, ''),
      )
    ).json as StagedLog;
    expect(staged.guess).toMatchObject({
      timeColumn: 0,
      timeFormat: 'elapsed-s',
      columns: [
        { column: 1, role: 'spot', spotId: 'tc1' },
        { column: 2, role: 'room' },
      ],
    });
    const run = (await make(staged.id, { columns: staged.guess.columns })).json;
    expect(run).toMatchObject({ source: 'file', sourceName: 'log.csv', state: 'finished', lengthS: 99 });
    expect(bench.services.stores.samples.read(run.id, 'column-1').y[50]).toBe(35);
    expect(run.phases.map((phase: { kind: string }) => phase.kind)).toEqual(['idle-soak', 'load', 'cool-down']);
  });

  it('reads ISO times with offsets, a byte order mark and quotes', async () => {
    const rows = table(
      (i) =>
        `"2026-03-01T10:${String(Math.floor(i / 60)).padStart(2, '0')}:${String(i % 60).padStart(2, '0')}+01:00","${40 + i / 100}",21.5`,
    );
    const staged = (await stage(`\uFEFF${rows}`)).json as StagedLog;
    expect(staged.columns[0]!.name).toBe('Time');
    expect(staged.guess.timeFormat).toBe('iso');
    expect((await make(staged.id, { timeFormat: 'iso' })).json).toMatchObject({ lengthS: 99, startedAt: '2026-03-01T09:00:00.000Z' });
  });

  it.each([
    ['not a number', table((i) => `${i},${i === 5 ? 'warm' : 40},22`), 'Line 7, tc1: “warm” is not a number.'],
    ['time standing still', table((i) => `${Math.floor(i / 2)},40,22`), 'Line 3 repeats the time before it, and so do 49 more of 100'],
    ['time going back an hour', table((i) => `${i > 50 ? i - 3600 : i},40,22`), 'Line 53 goes back in time'],
    ['no time at all', table((i) => `${i === 3 ? '' : i},40,22`), 'Line 5: “” is not a time in seconds.'],
    ['below absolute zero', table((i) => `${i},${i === 3 ? -300 : 40},22`), 'is this °F?'],
    ['beyond anything', table((i) => `${i},${i === 3 ? '1e308' : 40},22`), 'beyond anything a bench reads'],
    ['an empty column', table((i) => `${i},,22`), 'holds no readings at all'],
    ['too few rows', 'Time,tc1\n0,40\n1,41\n', 'needs at least ten'],
  ])('with %s is refused with its line, and nothing is kept', async (_what, text, sentence) => {
    const before = (await bench.call('GET', `/api/v1/studies/${studyId}/runs`)).json.length;
    const answer = await make((await stage(text)).json.id);
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toContain(sentence);
    expect((await bench.call('GET', `/api/v1/studies/${studyId}/runs`)).json.length).toBe(before);
  });

  it.each([
    ['nothing', '', 'empty'],
    ['one column', 'a\n1\n2\n', 'Only one column'],
    ['an open quote', 'a,b\n1,"2\n3,4\n', 'quote'],
    ['a quote in the wrong place', '<";', 'quote'],
    ['more columns than any logger writes', `${Array.from({ length: 1100 }, (_, i) => `c${i}`).join(',')}\n`, 'more than 1000 columns'],
    ['a ten megabyte line', `a,b\n${'1'.repeat(10_000_000)},2\n`, 'longer than a megabyte'],
  ])('with %s is not even staged', async (_what, text, word) => {
    const answer = await stage(text);
    expect(answer.status).toBe(422);
    expect(answer.json.detail).toContain(word);
  });

  it('refuses mappings that make no sense, and unknown uploads', async () => {
    const { id } = (await stage(table((i) => `${i},40,22`))).json as StagedLog;
    expect((await make(id, { columns: [] })).json.detail).toContain('at least one column');
    expect((await make(id, { loadEndS: 5 })).json.detail).toContain('must end after');
    expect((await make(id, { loadStartS: 500, loadEndS: 600 })).json.detail).toContain('after the log has ended');
    expect((await make(id, { variantId: 'nobody' })).status).toBe(404);
    expect((await make('../../etc/passwd')).status).toBe(404);
    expect((await make(id)).status).toBe(201);
    expect((await make(id)).status).toBe(404); // used up
    expect(readdirSync(join(bench.folder, 'imports')).every((name) => /\.(log|json|trace)$/.test(name))).toBe(true);
  });

  it('never crashes the server, whatever the bytes', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), async (bytes) => {
        const answer = await stage(Buffer.from(bytes));
        expect([201, 422]).toContain(answer.status);
        if (answer.status === 422) expect(answer.json.detail).toMatch(/[.!?]$/);
      }),
      { numRuns: 60 },
    );
  }, 60_000);
});

describe('a log as loggers write them', () => {
  const made = async (text: string | Buffer, change: object = {}) => {
    const staged = (await stage(text)).json as StagedLog;
    const { timeColumn, timeFormat, columns } = staged.guess;
    const answer = await make(staged.id, { timeColumn, timeFormat, columns, ...change });
    expect(answer.status, answer.text).toBe(201);
    const read = (key: string) => bench.services.stores.samples.read(answer.json.id, key);
    return { staged, run: answer.json, read };
  };
  const notes = (run: { events: { text: string }[] }) => run.events.map((event) => event.text);
  const rowsOf = (row: (i: number) => string) => Array.from({ length: 100 }, (_, i) => row(i)).join('\r\n');
  const clock = (s: number) => [s / 3600, (s / 60) % 60, s % 60].map((part) => String(Math.floor(part)).padStart(2, '0')).join(':');

  it('with columns that nothing tells of: they are kept, and what they hold is said afterwards', async () => {
    const { staged, run, read } = await made(
      `time_s,tc1 C,room C,Q17,Zeta,state\r\n${rowsOf((i) => `${i},40,22,${i === 50 ? 'err' : 31 + i / 100},${12_345_678 + i},x`)}`,
    );
    const kept = staged.guess.columns.filter(({ role }) => role === 'beside').map(({ column }) => column);
    expect(kept).toEqual([3, 4]);
    const channel = (head: string) => (run as Run).channels.find((candidate) => candidate.head === head)!;
    expect(channel('Q17')).toMatchObject({ key: 'column-3', role: 'beside', spotId: null });
    expect(read('column-3').y[99]).toBeCloseTo(31.99);
    expect(read('column-3').y[50]).toBeNaN();
    expect(read('column-4').y[0]).toBe(12_345_678);
    const put = await bench.call('PUT', `/api/v1/runs/${run.id}/facts`, {
      channels: [{ key: 'column-3', role: 'exhaust', spotId: null, readAs: 'as-is' }],
    });
    expect(put.status, put.text).toBe(200);
    expect((put.json as Run).channels.find(({ key }) => key === 'column-3')).toMatchObject({ role: 'exhaust', unit: '°C', head: 'Q17' });
    expect((put.json as Run).events.map(({ text }) => text).join(' ')).not.toContain('column 4');
  });

  it('that came out of the bench itself', async () => {
    const phases = [
      { kind: 'idle-soak', name: 'Idle', startS: 0, endS: 30 },
      { kind: 'load', name: 'Loud', startS: 30, endS: 99 },
    ];
    const { run } = await made(`time_s,tc1 C,room C\r\n${rowsOf((i) => `${i},${i < 30 ? 30 : 50},22`)}`, { phases });
    const exported = (await bench.call('GET', `/api/v1/runs/${run.id}/samples.csv`)).text;
    const { staged, run: again, read } = await made(exported);
    expect(staged.guess.phases.map(({ kind, startS }) => [kind, startS])).toEqual([
      ['idle-soak', 0],
      ['load', 30],
    ]);
    const spot = (again as Run).channels.find(({ role }) => role === 'spot')!;
    expect(Array.from(read(spot.key).y.subarray(28, 32))).toEqual([30, 30, 50, 50]);
  });

  it('with a preamble, comments, a row of units and decimal commas', async () => {
    const text = [
      '# bench logger 3',
      'Logger;LH-8',
      'Serial;0042',
      '',
      'Time;tc1;Room air;Throughput',
      's;°C;°C;MB/s',
      rowsOf((i) => `${i},0;${(40 + i / 10).toFixed(1).replace('.', ',')};22,5;1.234,5`),
    ].join('\r\n');
    const { staged, read } = await made(text);
    expect(staged.written).toEqual({ encoding: 'UTF-8', delimiter: ';', decimal: ',', headerLine: 5, unitsLine: 6 });
    expect(staged.columns.map((column) => column.name)).toEqual(['Time [s]', 'tc1 [°C]', 'Room air [°C]', 'Throughput [MB/s]']);
    expect(read('column-1').y[5]).toBe(40.5);
    expect(read('column-3').y[0]).toBe(1234.5);
  });

  it.each([
    ['UTF-16 with its mark', (text: string) => Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]), 'UTF-16'],
    ['the other UTF-16', (text: string) => Buffer.concat([Buffer.from([0xfe, 0xff]), Buffer.from(text, 'utf16le').swap16()]), 'UTF-16'],
    ['Latin-1', (text: string) => Buffer.from(text, 'latin1'), 'Latin-1'],
  ])('in %s', async (_what, encode, name) => {
    const { staged, read } = await made(encode(table((i) => `${i},${i + 20},22`, 'Time,tc1 [°C],Room')));
    expect(staged.written.encoding).toBe(name);
    expect(staged.columns[1]!.name).toBe('tc1 [°C]');
    expect(read('column-1').y[7]).toBe(27);
  });

  it('in Fahrenheit and kelvin, stored in °C, and the run says so', async () => {
    const { run, read } = await made(table((i) => `${i},${104 + i / 10},295.15`, 'Time,tc1 [°F],Room (K)'));
    expect(read('column-1').y[0]).toBeCloseTo(40, 9);
    expect(read('column-2').y[0]).toBeCloseTo(22, 9);
    expect(notes(run)).toEqual(['tc1 [°F]: written in °F, stored in °C.', 'Room (K): written in K, stored in °C.']);
  });

  it.each([
    ['a clock over midnight', 'clock', (i: number) => clock((86_350 + i) % 86_400), null],
    ['day first with dots', 'day-month', (i: number) => `01.03.2026 10:${clock(i).slice(3)}`, '2026-03-01T10:00:00.000Z'],
    ['seconds since 1970', 'epoch-s', (i: number) => String(1_772_359_200 + i), '2026-03-01T10:00:00.000Z'],
    ['milliseconds since 1970', 'epoch-ms', (i: number) => String(1_772_359_200_000 + 1000 * i), '2026-03-01T10:00:00.000Z'],
  ] as const)('with times as %s', async (_what, format, time, startedAt) => {
    const { staged, run } = await made(table((i) => `${time(i)},40,22`));
    expect(staged.guess).toMatchObject({ timeFormat: format, lengthS: format === 'clock' ? expect.any(Number) : 99 });
    expect(run.lengthS).toBe(99);
    if (startedAt) expect(run.startedAt).toBe(startedAt);
  });

  it('with minutes, blanks for thousands, and a header that comes again', async () => {
    const { run, read } = await made(
      `Elapsed (min)\ttc1\tThroughput\n${rowsOf((i) => (i === 40 ? 'Elapsed (min)\ttc1\tThroughput' : `${i}\t40\t6 100.5`))}`,
    );
    expect(run.lengthS).toBe(99 * 60);
    expect(read('column-2').y[0]).toBe(6100.5);
    expect(notes(run)).toEqual(['Line 42 repeats the header and was left out.']);
  });

  it('leaves out single rows that repeat or go back, and names their lines', async () => {
    const { run, read } = await made(table((i) => `${i === 20 ? 19 : i === 60 ? 30 : i},${i},22`));
    expect(read('column-1').t).toHaveLength(98);
    expect(notes(run)).toEqual(['Line 22 repeats the time before it and was left out.', 'Line 62 goes back in time and was left out.']);
  });

  it('without a header, and with a column that starts late', async () => {
    const { staged } = await made(
      rowsOf((i) => `${i},${i < 30 ? '' : 40},22`),
      {
        columns: [{ column: 1, role: 'spot', spotId: 'tc1' }],
      },
    );
    expect(staged.written.headerLine).toBeNull();
    expect(staged.columns.map((column) => column.name)).toEqual(['column 1', 'column 2', 'column 3']);
  });

  it('is known again by its columns, on the spots of the study by their names', async () => {
    const header = 'Zeit,Kanal 7,Kanal 8';
    const first = (await stage(table((i) => `${i},40,22`, header))).json as StagedLog;
    expect(first.known).toBe(false);
    expect(first.guess.columns.map(({ role }) => role)).toEqual(['beside', 'beside']);
    await make(first.id, {
      columns: [
        { column: 1, role: 'spot', spotId: 'tc2', unit: 'C' },
        { column: 2, role: 'room', spotId: null },
      ],
    });
    const again = (await stage(table((i) => `${i},41,22`, header))).json as StagedLog;
    expect(again.known).toBe(true);
    expect(again.guess.columns).toMatchObject([
      { column: 1, role: 'spot', spotId: 'tc2', unit: 'C' },
      { column: 2, role: 'room' },
    ]);
  });

  it('is read as it was written, whatever the marks', async () => {
    await fc.assert(
      fc.property(
        fc.double({ min: -999_999, max: 999_999, noNaN: true }),
        fc.constantFrom(...(['.', ','] as const)),
        fc.constantFrom('', ' ', '’', '\u00a0'),
        (value, decimal, group) => {
          const [whole, part] = Math.abs(value).toFixed(3).split('.') as [string, string];
          const grouped = whole.replace(/\B(?=(\d{3})+$)/g, group);
          const text = `${value < 0 ? '-' : ''}${grouped}${decimal}${part}`;
          expect(numberOf(text, decimal)).toBeCloseTo(value, 2);
        },
      ),
    );
  });
});

describe('cells', () => {
  it('tell a number from a missing mark and from nonsense', () => {
    expect(['', 'N/A', '---', 'nan', '.'].map((cell) => readNumber(cell, 2, 'c'))).toEqual([NaN, NaN, NaN, NaN, NaN]);
    expect(readNumber(' -3.5e1 ', 2, 'c')).toBe(-35);
    expect(readNumber('12 °C', 2, 'c')).toBe(12);
    expect(() => readNumber('12 apples', 2, 'c')).toThrow('Line 2, c: “12 apples” is not a number.');
    expect(readTime('2026-03-01 10:00:00', 'iso', 2) - readTime('2026-03-01T09:59:59Z', 'iso', 2)).toBe(1);
    expect(() => readTime('10:00', 'iso', 4)).toThrow('Line 4');
  });
  it('guess the time by name, else by a unit that stands alone', () => {
    const time = (names: string[], units: string[] = names.map(() => '')) =>
      guessTime({ names, units, samples: names.map(() => ['1', '2']), decimal: '.' }, null)?.spec.timeColumn ?? null;
    expect(time(['A', 'Throughput MB/s', 'Elapsed (s)'])).toBe(2);
    expect(time(['A', 'Throughput MB/s'])).toBeNull();
    expect(time(['A', 'B', 'C'], ['°C', 's', 'MB/s'])).toBe(1);
    expect(time(['A', 'B [min]'])).toBe(1);
  });
});
