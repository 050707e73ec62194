import { mkdtempSync, readdirSync, readlinkSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LogProblem } from './cells.ts';
import { withLog } from './readLog.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-log-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Files of the folder that this process holds open. */
const heldOpen = () =>
  readdirSync('/proc/self/fd').flatMap((fd) => {
    try {
      const target = readlinkSync(`/proc/self/fd/${fd}`);
      return target.startsWith(folder) ? [target] : [];
    } catch {
      return [];
    }
  });

describe('rows with more cells than names', () => {
  const opened = async (text: string) => {
    const path = join(folder, 'wide.csv');
    writeFileSync(path, text);
    return withLog(path, (log) => Promise.resolve(log.shape.names)).catch((error: Error) => error.message);
  };
  it('are asked about where decimals are written with a comma between columns that commas separate', async () => {
    const rows = Array.from({ length: 9 }, (_, i) => `${i},45,${i},22,1\n`).join('');
    expect(await opened(`time,tc1,room\n${rows}`)).toContain('Line 2 has 5 cells under 3 names: are decimals written with a comma');
  });
  it('are asked about where a name is missing, and not guessed', async () => {
    const rows = Array.from({ length: 9 }, (_, i) => `${i};45.${i};22.1;7\n`).join('');
    expect(await opened(`time;tc1;room\n${rows}`)).toContain('Line 2 has 4 cells under 3 names, so nobody can say which');
  });
  it('are none where only an empty cell follows, or where the names are missing altogether', async () => {
    const rows = Array.from({ length: 9 }, (_, i) => `${i},45.${i},22.1,\n`).join('');
    expect(await opened(`time,tc1,room\n${rows}`)).toEqual(['time', 'tc1', 'room', 'column 4']);
    expect(await opened(rows)).toHaveLength(4);
  });
});

describe('a log that cannot be used', () => {
  it.each([
    ['too wide', `t,${Array.from({ length: 5000 }, (_, i) => `c${i}`).join(',')}\n${Array.from({ length: 5001 }, () => '1').join(',')}\n`],
    ['of broken objects', '{"t": 1}\n{"t": \n'],
  ])('%s is refused, and let go', async (name, text) => {
    const path = join(folder, `${name}.csv`);
    writeFileSync(path, text);
    await expect(withLog(path, () => Promise.resolve())).rejects.toThrow(LogProblem);
    await expect.poll(heldOpen).toEqual([]);
  });
});
