import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ColumnMapBody, TimeFormat } from '@red-ember/contract';
import { tableWords } from '../look/words.ts';
import { readTable, type TableBody } from './readTable.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-table-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const COLUMNS: ColumnMapBody[] = [
  { column: 1, role: 'spot', spotId: 'tc1', unit: 'C' },
  { column: 2, role: 'room', spotId: null, unit: 'C' },
  { column: 3, role: 'fan', spotId: null },
];
async function read(lines: readonly string[], timeFormat: TimeFormat = 'elapsed-s', change: Partial<TableBody> = {}) {
  const path = join(folder, 'log.csv');
  writeFileSync(path, ['time,core,room,fan', ...lines].join('\n'));
  const body: TableBody = { timeColumn: 0, timeFormat, dateColumn: null, columns: COLUMNS, acceptOddTemperatures: false, ...change };
  const table = await readTable(path, body);
  return { ...table, words: tableWords(body, table) };
}
const rows = (n: number, cells: (i: number) => string) => Array.from({ length: n }, (_, i) => `${i},${cells(i)}`);

describe('what a device writes where it has no reading', () => {
  it.each(['-999', '-9999', '-999.9', '65535', '32767', '-32768', '3276.7', '-127', '9999', '9.9E+37', '-9.9e37'])(
    '%s is no temperature',
    async (code) => {
      const { columns } = await read(rows(40, (i) => `${i % 7 === 3 ? code : 40 + i / 10},22,1200`));
      const [core] = columns;
      expect(core!.filter(Number.isNaN)).toHaveLength(6);
      expect(core!.filter((value) => !Number.isNaN(value)).every((value) => value >= 40 && value < 45)).toBe(true);
    },
  );
  it('is said, by column, with what stood there and how often, and nowhere else', async () => {
    const { words, columns } = await read(
      rows(40, (i) => `${i === 3 ? -999 : i === 9 ? 65535 : 40},${i === 5 ? 999.9 : 22},${i === 2 ? 65535 : 1200}`),
    );
    expect(words).toEqual([
      'core: -999 and 65535 in 2 rows are taken as no reading.',
      'room: 999.9 in 1 row is taken as no reading.',
      'fan: 65535 in 1 row is taken as no reading.',
    ]);
    expect(columns.map((column) => column.filter(Number.isNaN).length)).toEqual([2, 1, 1]);
  });
  it('is it in °F and in confirmed degrees too', async () => {
    const fahrenheit = COLUMNS.map((map) => (map.unit ? { ...map, unit: 'F' as const } : map));
    expect(
      (
        await read(
          rows(40, (i) => `${i === 3 ? -999 : 140},72,1200`),
          'elapsed-s',
          { columns: fahrenheit },
        )
      ).words,
    ).toContain('core: -999 in 1 row is taken as no reading.');
    const odd = await read(
      rows(40, (i) => `${i === 3 ? -999 : 190},22,1200`),
      'elapsed-s',
      { acceptOddTemperatures: true },
    );
    expect([odd.words[0], odd.columns[0]![0]]).toEqual(['core: -999 in 1 row is taken as no reading.', 190]);
  });
  it('but any other odd temperature is asked about, or refused, and a column of nothing else is refused', async () => {
    await expect(read(rows(40, (i) => `${i === 3 ? 212 : 40},22,1200`))).rejects.toThrow('Line 5, core: A spot at 212 °C: is this °F?');
    await expect(
      read(
        rows(40, (i) => `${i === 3 ? -400 : 40},22,1200`),
        'elapsed-s',
        { acceptOddTemperatures: true },
      ),
    ).rejects.toThrow('below absolute zero');
    await expect(read(rows(40, () => '-999,22,1200'))).rejects.toThrow('core holds no readings at all');
  });
});

describe('a clock that is set back by an hour', () => {
  const two = (n: number) => String(n).padStart(2, '0');
  const stamp = (s: number) => `2026-10-25 ${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`;
  const at = (i: number) => 2 * 3600 + 3000 + 2 * i;
  it.each([
    ['dates', 'iso', stamp],
    ['times of day', 'clock', (s: number) => stamp(s).slice(11)],
  ] as const)('in %s counts on from there, and it is said where', async (_, format, shown) => {
    const { tMs, words } = await read(
      Array.from({ length: 900 }, (__, i) => `${shown(at(i) - (i >= 400 ? 3600 : 0))},40,22,1200`),
      format,
    );
    expect([...tMs]).toEqual(Array.from({ length: 900 }, (__, i) => 2000 * i));
    expect(words).toEqual(['Line 402: the clock falls back by an hour; the times are counted on from there.']);
  });
  it('and forward again goes on as well', async () => {
    const lines = Array.from({ length: 900 }, (_, i) => `${stamp(at(i) - (i >= 400 && i < 600 ? 3600 : 0))},40,22,1200`);
    const { tMs } = await read(lines, 'iso');
    expect([tMs.at(-1), tMs.length]).toEqual([2 * 899_000, 900]);
  });
  it('is none where a counter, or by another time, goes back: that is not one log in its order', async () => {
    await expect(
      read(
        Array.from({ length: 900 }, (_, i) => `${stamp(at(i) - (i >= 400 ? 1800 : 0))},40,22,1200`),
        'iso',
      ),
    ).rejects.toThrow('goes back in time');
    await expect(read(Array.from({ length: 5000 }, (_, i) => `${i >= 4000 ? i - 3600 : i},40,22,1200`))).rejects.toThrow(
      'goes back in time',
    );
  });
});
