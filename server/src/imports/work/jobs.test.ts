import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ImportRunBody } from '@red-ember/contract';
import { LogProblem } from '../read/cells.ts';
import { ImportJobs } from './jobs.ts';
import { readTable, UnitQuestion } from '../read/readTable.ts';
import { peekLog, scanLog } from '../look/scanLog.ts';

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

describe('a long log that is looked at here and there', () => {
  it('shows what a look from end to end would, with the edges of the load to the line', async () => {
    const path = join(folder, 'peek.csv');
    const on = (i: number) => i >= 31_337 && i < 88_888;
    const rows = Array.from({ length: 120_000 }, (_, i) => `${(i / 10).toFixed(1)},${on(i) ? 70 : 30},22.5,${on(i) ? 6000 : 0}`);
    writeFileSync(path, `Time,tc1,Room,Throughput\n${rows.join('\n')}\n`);
    const [peeked, whole] = [await peekLog(path, options), await scanLog(path, options)];
    expect(peeked!.guess).toEqual(whole.guess);
    expect(peeked!.guess).toMatchObject({ loadStartS: 3133.7, loadEndS: 8888.8, lengthS: 11_999.9 });
    expect(Math.abs(peeked!.count / whole.count - 1)).toBeLessThan(0.02);
    expect({ ...peeked, guess: null, count: 0, about: false }).toEqual({ ...whole, guess: null, count: 0 });
  });

  it('takes the whole log for the load where nothing tells when it was on', async () => {
    const guess = (await peekLog(log('flat.csv', 20_000), options))!.guess;
    expect(guess).toMatchObject({ loadStartS: 0, loadEndS: 1999.9 });
  });

  it('is not for logs with quotes or two bytes a letter', async () => {
    expect(
      await peekLog(
        log('q.csv', 100, () => '"40"'),
        options,
      ),
    ).toBeNull();
    const wide = join(folder, 'wide.csv');
    writeFileSync(wide, Buffer.from(`\ufeffTime,tc1\n${Array.from({ length: 50 }, (_, i) => `${i},40`).join('\n')}\n`, 'utf16le'));
    expect(await peekLog(wide, options)).toBeNull();
  });
});

describe('a log read beside the server', () => {
  // No file is small enough to be read without a worker.
  const jobs = new ImportJobs(0);
  afterAll(() => jobs.close());

  it('comes out as it would without a worker', async () => {
    const path = log('good.csv', 3000);
    expect(await jobs.table(path, body, null)).toEqual(await readTable(path, body));
    // A quote is what keeps a log from being looked at only here and there.
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
