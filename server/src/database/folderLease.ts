import { chmodSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import SQLite from 'better-sqlite3';
import { DataProblem } from './dataProblem.ts';

/** Makes a folder of data where it is missing, for its owner alone. @throws DataProblem it cannot be made */
export function ownFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    chmodSync(folder, 0o700);
  } catch (error) {
    throw new DataProblem(`${folder} cannot be used for data: ${(error as Error).message}. Choose another folder with --data.`);
  }
}

/**
 * Holds a folder of data for one process: two servers would write into each other's record. The operating system lets go of it when
 * the process ends, however it ends.
 *
 * @returns lets go of it
 * @throws DataProblem another process holds it
 */
export function holdFolder(folder: string, who: string): () => void {
  ownFolder(folder);
  const note = join(folder, 'bench.lease.txt');
  const db = new SQLite(join(folder, 'bench.lease'), { timeout: 0 });
  try {
    // A lock of the operating system's, held by an open transaction: nothing is ever written.
    db.pragma('journal_mode = DELETE');
    db.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    db.close();
    if (!(error as { code?: string }).code?.startsWith('SQLITE_BUSY')) throw error;
    let holder = 'another process';
    try {
      holder = readFileSync(note, 'utf8').trim();
    } catch {
      // Without the note it is still another process.
    }
    throw new DataProblem(
      `The data in ${folder} is in use by ${holder}. Use that one, end it first, or choose another folder with --data.`,
    );
  }
  writeFileSync(note, `${who} (process ${process.pid})\n`, { mode: 0o600 });
  return () => db.close();
}
