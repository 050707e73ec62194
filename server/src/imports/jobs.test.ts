import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportRunBody } from '@red-ember/contract';
import { LogProblem } from './cells.ts';
import { ImportJobs } from './jobs.ts';
import { readTable, UnitQuestion } from './readTable.ts';
import { scanLog } from './scanLog.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-jobs-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function log(name: string, rows: number, cell: (i: number) => string | number = (i) => 40 + (i % 100) / 7): string {
  const path = join(folder, name);
  writeFileSync(path, `Time,tc1,Room\n${Array.from({ length: rows }, (_, i) => `${i / 10},${cell(i)},22.5`).join('\n')}\n`);
  return path;
}
const body: ImportRunBody = {
  variantId: 'v',
  timeColumn: 0,
  timeFormat: 'elapsed-s',
  columns: [
    { column: 1, role: 'spot', spotId: 's' },
    { column: 2, role: 'room', spotId: null },
  ],
  loadStartS: 0,
  loadEndS: 1,
  acceptOddTemperatures: false,
  note: '',
};
const options = { spots: [{ id: 's', name: 'Spot', channel: 'tc1' }], saved: null };

describe('a log read beside the server', () => {
  // No file is small enough to be read without a worker.
  const jobs = new ImportJobs(0);

  it('comes out as it would without a worker', async () => {
    const path = log('good.csv', 3000);
    expect(await jobs.table(path, body, null)).toEqual(await readTable(path, body));
    expect(await jobs.scan(path, options, 'seen')).toEqual(await scanLog(path, options));
    expect(jobs.share('seen')).toBeNull();
  }, 60_000);

  it('names the line of a fault, and keeps a question a question', async () => {
    const fault = jobs.table(
      log('bad.csv', 3000, (i) => (i === 2000 ? 'hot' : 40)),
      body,
      null,
    );
    await expect(fault).rejects.toThrow(new LogProblem('Line 2002, tc1: “hot” is not a number.'));
    const asked = await jobs
      .table(
        log('warm.csv', 50, () => 178),
        body,
        null,
      )
      .catch((error: unknown) => error);
    expect(asked).toBeInstanceOf(UnitQuestion);
    expect((asked as UnitQuestion).sentence).toBe('A spot at 178 °C: is this °F?');
  }, 60_000);

  it('is cancelled by its id, and not by another', async () => {
    const answer = jobs.table(log('long.csv', 200_000), body, 'mine').catch((error: unknown) => error);
    expect(jobs.share('mine')).toBe(0);
    expect(jobs.cancel('other')).toBe(false);
    expect(jobs.cancel('mine')).toBe(true);
    expect(await answer).toMatchObject({ status: 409, message: 'The import was cancelled. Nothing was kept.' });
    expect(jobs.share('mine')).toBeNull();
  }, 60_000);

  it('tells how far it has come, up and never past the whole', async () => {
    const seen: number[] = [];
    const answer = jobs.scan(log('watched.csv', 200_000), options, 'watched');
    const timer = setInterval(() => {
      const share = jobs.share('watched');
      if (share !== null) seen.push(share);
    }, 20);
    await answer;
    clearInterval(timer);
    expect(seen.at(-1)).toBeGreaterThan(0);
    expect(seen.every((share, i) => share <= 1 && share >= (seen[i - 1] ?? 0))).toBe(true);
  }, 60_000);
});
