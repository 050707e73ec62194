import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Database } from 'better-sqlite3';
import { COPIES, surplusDaily, writeCopy } from './copies.ts';
import { ownFolder } from './folderLease.ts';

/** It is looked this often whether a copy of today is there, ms. */
const LOOK_EVERY_MS = 15 * 60_000;

/** Makes a copy of the bench every day while it runs, and keeps seven. */
export class DailyCopy {
  private readonly timer = setInterval(() => void this.look(), LOOK_EVERY_MS);
  private working: Promise<void> | null = null;

  constructor(
    private readonly db: Database,
    private readonly folder: string,
    private readonly log: (text: string) => void,
    private readonly now: () => Date = () => new Date(),
  ) {
    this.timer.unref();
  }

  /** Makes the copy of today where there is none. Never throws: a full disk must not end the server. */
  async look(): Promise<void> {
    this.working ??= this.make().finally(() => (this.working = null));
    await this.working;
  }

  private async make(): Promise<void> {
    const to = join(this.folder, COPIES, `daily-${this.now().toISOString().slice(0, 10)}.sqlite`);
    if (existsSync(to)) return;
    try {
      ownFolder(join(this.folder, COPIES));
      const { studies } = await writeCopy(this.db, to);
      for (const old of surplusDaily(this.folder)) rmSync(old, { force: true });
      this.log(`Copy of today: ${to}, ${studies} studies.`);
    } catch (error) {
      this.log(`The copy of today could not be made: ${(error as Error).message}`);
    }
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.working;
  }
}
