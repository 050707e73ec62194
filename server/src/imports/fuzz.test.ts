import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportRunBody } from '@red-ember/contract';
import { cellsOf } from './read/cellRow.ts';
import { LogProblem, numberOf } from './read/cells.ts';
import { sniff, withLog } from './read/readLog.ts';
import { readTable } from './read/readTable.ts';
import { scanLog } from './look/scanLog.ts';
import { lookedAt } from '../tests/lookedAt.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-fuzz-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let files = 0;
function put(data: string | Buffer): string {
  const path = join(folder, `f${files++}.log`);
  writeFileSync(path, data);
  return path;
}
const body = (change: Partial<ImportRunBody> = {}): ImportRunBody => ({
  variantId: 'v',
  timeColumn: 0,
  timeFormat: 'elapsed-s',
  columns: [{ column: 1, role: 'spot', spotId: 's' }],
  loadStartS: 0,
  loadEndS: 1,
  acceptOddTemperatures: true,
  note: '',
  ...change,
});
const options = lookedAt([{ id: 's', name: 'Spot', channel: 'tc1' }]);
/** Whatever happens is a result, or a sentence for the tester. */
async function never(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
  } catch (error) {
    expect(error).toBeInstanceOf(LogProblem);
    expect((error as Error).message).toMatch(/[.?]$/);
  }
}
const runs = { numRuns: 120, seed: 42 };

describe('whatever is fed to the reader of logs', () => {
  it('bytes of any kind are read, or refused with a sentence', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 3000 }), async (bytes) => {
        const path = put(Buffer.from(bytes));
        await never(() => scanLog(path, options));
        await never(() => readTable(path, body()));
      }),
      runs,
    );
  });

  it('text that looks like a log, with anything in its cells, likewise', async () => {
    const cell = fc.oneof(
      fc.double({ noDefaultInfinity: false }).map(String),
      fc.constantFrom('', 'N/A', '---', 'nan', '1e308', '-1e400', '12,5', '1.234,5', "'", '"', '#', '{', '[', '\u0000', '50°', '−3', '٣'),
      fc.string({ maxLength: 8 }),
    );
    const table = fc.array(fc.array(cell, { minLength: 1, maxLength: 6 }), { maxLength: 30 });
    const delimiter = fc.constantFrom(',', ';', '\t', '|');
    const ending = fc.constantFrom('\n', '\r\n', '\r');
    await fc.assert(
      fc.asyncProperty(table, delimiter, ending, async (rows, between, end) => {
        const path = put(`Time${between}tc1${between}Room${end}${rows.map((cells) => cells.join(between)).join(end)}`);
        await never(() => scanLog(path, options));
        await never(() => readTable(path, body()));
      }),
      runs,
    );
  });

  it('lines of JSON, likewise', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.oneof(fc.json(), fc.string({ maxLength: 20 })), { maxLength: 30 }), async (lines) => {
        const path = put(`{"t":0,"tc1":40}\n${lines.join('\n')}`);
        await never(() => scanLog(path, options));
        await never(() => readTable(path, body()));
      }),
      runs,
    );
  });
});

describe('the quick reader and the careful one', () => {
  const number = fc
    .tuple(fc.integer({ min: -99_999_999, max: 99_999_999 }), fc.integer({ min: 0, max: 7 }))
    .map(([digits, places]) => (digits / 10 ** places).toFixed(places));

  it('find the same cells in any text without quotes', async () => {
    const cell = fc.oneof(number, fc.constantFrom('', ' ', 'x', '-', '1.', '.5', '+7', '1e3', ' 8.5 ', 'å'));
    const rows = fc.array(fc.array(cell, { minLength: 2, maxLength: 5 }), { minLength: 1, maxLength: 20 });
    await fc.assert(
      fc.asyncProperty(rows, fc.constantFrom('\n', '\r\n'), async (made, end) => {
        const text = `a,b,c,d,e${end}${made.map((cells) => cells.join(',')).join(end)}${end}`;
        const cells = (path: string) =>
          withLog(path, async (log) => {
            const all: { line: number; cells: string[] }[] = [];
            for await (const batch of log.batches) for (const row of batch) all.push({ line: row.line, cells: cellsOf(row) });
            return all;
          }).catch((error: unknown) => {
            // Both may ask the same question of rows that are wider than their names.
            if (error instanceof LogProblem) return error.message;
            throw error;
          });
        const plain = put(text);
        // A quoted name in the header is what sends the same rows through the other reader.
        const quoted = put(text.replace('a,b', '"a",b'));
        expect((await sniff(quoted)).plain).toBe(false);
        expect(await cells(plain)).toEqual(await cells(quoted));
      }),
      runs,
    );
  });

  it('give several cells at once as they give each of them, and name those that have to be looked at', async () => {
    const cell = fc.oneof(
      number,
      fc.constantFrom('', 'x', '-', '1.', '.5', '+7', '1e3', '8.5 °C', '12,5', 'load', '-127', '123456789012345678'),
    );
    const rows = fc.array(fc.array(cell, { minLength: 1, maxLength: 6 }), { minLength: 3, maxLength: 20 });
    const asked = fc.subarray([0, 1, 2, 3, 4, 5], { minLength: 1 });
    await fc.assert(
      fc.asyncProperty(rows, asked, fc.constantFrom('a', '"a"'), fc.constantFrom(';', '\t'), async (made, columns, first, delimiter) => {
        const lines = [['0', ...made[0]!].slice(0, 6), ...made].map((cells) => cells.join(delimiter));
        const path = put([[first, 'b', 'c', 'd', 'e', 'f'].join(delimiter), ...lines].join('\n'));
        const wanted = Int32Array.from(columns);
        await withLog(path, async (log) => {
          for await (const batch of log.batches)
            for (const row of batch) {
              const out = new Float64Array(wanted.length);
              const odd = new Int32Array(wanted.length);
              const count = row.numbers(wanted, log.decimal, out, odd);
              const one = columns.map((column) => row.number(column, log.decimal));
              expect([...odd.subarray(0, count)]).toEqual(one.flatMap((value, k) => (value === undefined ? [k] : [])));
              one.forEach((value, k) => {
                if (value !== undefined) expect(out[k]).toBe(value);
                else expect(row.text(columns[k]!)).toBe(cellsOf(row)[columns[k]!]);
              });
            }
        }).catch((error: unknown) => {
          if (!(error instanceof LogProblem)) throw error;
        });
      }),
      runs,
    );
  });

  it('see the same in a log of numbers, texts and gaps, row after row', async () => {
    const texts = fc.constantFrom('idle', 'load', '', '-', '41.5', '1e2', '70 °C');
    const rows = fc.array(fc.tuple(number, texts, texts), { minLength: 12, maxLength: 80 });
    await fc.assert(
      fc.asyncProperty(rows, async (made) => {
        const text = `Time,tc1,tc2,note\n${made.map((cells, i) => `2026-03-01 10:${String(Math.floor(i / 40)).padStart(2, '0')}:${((i % 40) * 1.5).toFixed(1).padStart(4, '0')},${cells.join(',')}`).join('\n')}\n`;
        const look = (path: string) =>
          scanLog(path, lookedAt([])).catch((error: unknown) => {
            if (error instanceof LogProblem) return error.message;
            throw error;
          });
        expect(await look(put(text))).toEqual(await look(put(text.replace('Time', '"Time"'))));
      }),
      runs,
    );
  });

  it('read every number as exactly the double that it means', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(number, { minLength: 12, maxLength: 40 }), async (values) => {
        const path = put(`Time,tc1\n${values.map((value, i) => `${i},${value}`).join('\n')}\n`);
        await withLog(path, async (log) => {
          let i = 0;
          for await (const batch of log.batches)
            for (const row of batch) {
              const read = row.number(1, '.');
              if (read !== undefined) expect(Object.is(read, Number(values[i]))).toBe(true);
              expect(numberOf(row.text(1)!, '.')).toBe(Number(values[i]));
              i++;
            }
          expect(i).toBe(values.length);
        });
      }),
      runs,
    );
  });
});

describe('what is between the two', () => {
  const rows = (n: number, cell: (i: number) => string) => Array.from({ length: n }, (_, i) => `${i},${cell(i)}`).join('\n');

  it('a quote far down begins the work anew by the rules of CSV', async () => {
    const path = put(`Time,tc1\n${rows(60_000, (i) => (i === 59_000 ? '"41.5"' : '40.25'))}\n`);
    expect((await sniff(path)).plain).toBe(true);
    const table = await readTable(path, body());
    expect(table.tMs).toHaveLength(60_000);
    expect(table.columns[0]![59_000]).toBe(41.5);
  });

  it('lines across the pieces in which a file is read come out whole', async () => {
    const path = put(`Time,tc1\n${rows(250_000, (i) => (40 + (i % 977) / 100).toFixed(2))}`);
    const table = await readTable(path, body());
    expect(table.tMs).toHaveLength(250_000);
    expect(table.columns[0]!.every((value, i) => value === Number((40 + (i % 977) / 100).toFixed(2)))).toBe(true);
  });

  it.each([
    ['a line of ten megabytes', `Time,tc1\n0,40\n1,${'4'.repeat(10_000_000)}\n`, 'longer than a megabyte'],
    ['a quoted line of ten megabytes', `"Time",tc1\n0,40\n1,"${'4'.repeat(10_000_000)}"\n`, 'longer than a megabyte'],
    ['1e308', `Time,tc1\n${rows(20, (i) => (i === 9 ? '1e308' : '40'))}\n`, 'beyond anything a bench reads'],
    ['a million degrees', `Time,tc1\n${rows(20, (i) => (i === 9 ? '2000000' : '40'))}\n`, 'beyond anything a bench reads'],
    ['negative kelvin', `Time,tc1\n${rows(20, () => '-3')}\n`, 'below absolute zero'],
    ['text for a temperature', `Time,tc1\n${rows(20, (i) => (i === 9 ? 'warm' : '40'))}\n`, 'Line 11, tc1: “warm” is not a number'],
    ['time that stands still', `Time,tc1\n${Array.from({ length: 40 }, () => '5,40').join('\n')}\n`, 'not one log in its order'],
    ['time that goes back an hour', `Time,tc1\n${Array.from({ length: 40 }, (_, i) => `${i < 20 ? 3600 + i : i},40`).join('\n')}\n`, 'goes back in time'], // prettier-ignore
    ['JSON in one piece', '[{"t":1,"tc1":40}]', 'one object a line'],
    ['JSON that breaks off', `${Array.from({ length: 30 }, (_, i) => `{"t":${i},"tc1":40}`).join('\n')}\n{"t":31,`, 'Line 31 is not JSON'],
  ])('%s is refused with a sentence', async (what, text, sentence) => {
    const kelvin = what === 'negative kelvin' ? body({ columns: [{ column: 1, role: 'spot', spotId: 's', unit: 'K' }] }) : body();
    await expect(readTable(put(text), kelvin)).rejects.toThrow(sentence);
  });
});

describe('lines of JSON', () => {
  it('are read by the names in them, late columns and nested ones too', async () => {
    const lines = Array.from({ length: 40 }, (_, i) =>
      JSON.stringify({ t: i / 2, tc: { controller: 40 + i / 10 }, ...(i >= 20 ? { room: 22.5 } : {}), ...(i === 5 ? { tc: {} } : {}) }),
    );
    const path = put(`# a comment\n${lines.join('\n')}\n\n`);
    const scan = await scanLog(path, lookedAt([{ id: 's', name: 'Controller', channel: 'controller' }]));
    expect(scan.names).toEqual(['t', 'tc.controller', 'room']);
    expect(scan.rows).toBe(40);
    expect(scan.guess).toMatchObject({ timeColumn: 0, timeFormat: 'elapsed-s', lengthS: 19.5 });
    expect(scan.guess.columns.map(({ role }) => role)).toEqual(['spot', 'room']);
    const table = await readTable(path, body({ columns: scan.guess.columns }));
    expect(table.columns[0]![4]).toBe(40.4);
    expect(table.columns[0]![5]).toBeNaN();
    expect(table.columns[1]![19]).toBeNaN();
    expect(table.columns[1]![20]).toBe(22.5);
  });

  it('may write their times as dates', async () => {
    const path = put(Array.from({ length: 12 }, (_, i) => JSON.stringify({ time: `2026-03-01T10:00:${String(i).padStart(2, '0')}Z`, tc1: 40 })).join('\n')); // prettier-ignore
    const table = await readTable(path, body({ timeFormat: 'iso' }));
    expect([...table.tMs.subarray(0, 3)]).toEqual([0, 1000, 2000]);
  });
});
