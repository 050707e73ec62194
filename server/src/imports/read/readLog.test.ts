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
