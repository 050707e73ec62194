import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportRunBody } from '@red-ember/contract';
import { LogProblem } from '../read/cells.ts';
import { ImportJobs } from './jobs.ts';
import { readTable, UnitQuestion } from '../read/readTable.ts';
import { scanLog } from '../look/scanLog.ts';
import { lookedAt } from '../../tests/lookedAt.ts';

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
const options = lookedAt([{ id: 's', name: 'Spot', channel: 'tc1' }]);

describe('a long log', () => {
  it('is looked through in memory of its own size, with the edges of its load to the second', async () => {
    const path = join(folder, 'long look.csv');
    const on = (i: number) => i >= 31_337 && i < 88_888;
    const rows = Array.from({ length: 120_000 }, (_, i) => `${(i / 10).toFixed(1)},${on(i) ? 70 : 30},22.5,${on(i) ? 6000 : 0}`);
    writeFileSync(path, `Time,tc1,Room,Throughput\n${rows.join('\n')}\n`);
    const { guess, rows: count } = await scanLog(path, options);
    expect(count).toBe(120_000);
    expect(Math.abs(guess.loadStartS - 3133.7)).toBeLessThan(2);
    expect(Math.abs(guess.loadEndS - 8888.8)).toBeLessThan(2);
    expect(guess.lengthS).toBeCloseTo(11_999.9, 6);
    expect(guess.phases.map(({ kind }) => kind)).toEqual(['idle-soak', 'load', 'cool-down']);
  });

  it('is one load where nothing tells when it was on', async () => {
    const { guess } = await scanLog(log('flat.csv', 20_000, () => 40), options); // prettier-ignore
    expect(guess).toMatchObject({ loadStartS: 0, loadEndS: 1999.9 });
    expect(guess.phases[0]!.why).toContain('Nothing tells');
  });
});

describe('a log read beside the server', () => {
  // No file is small enough to be read without a worker.
  const jobs = new ImportJobs(0);
  afterAll(() => jobs.close());

  it('comes out as it would without a worker', async () => {
    const path = log('good.csv', 3000);
    expect(await jobs.table(path, body, null)).toEqual(await readTable(path, body));
    const quoted = log('quoted.csv', 3000, (i) => (i === 7 ? '"41.5"' : 40));
    expect(await jobs.scan(quoted, options, 'seen')).toEqual(await scanLog(quoted, options));
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
    const answer = jobs.table(log('watched.csv', 200_000), body, 'watched');
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
