import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { Database } from 'better-sqlite3';
import type { Backup, BackupShelf, RestoreOutcome } from '@red-ember/contract';
import { COPIES, inspect, listCopies, writeCopy, type Copy } from '../database/copies.ts';
import { DataProblem } from '../database/dataProblem.ts';
import { ownFolder } from '../database/folderLease.ts';
import { conflict, notFound, unprocessable } from '../http/problems.ts';

const backupOf = ({ id, kind, at, bytes }: Copy): Backup => ({ id, kind, at: at.toISOString(), bytes });

/** Copies of the bench: what there is, and one more. */
export class BackupService {
  constructor(
    private readonly db: Database,
    private readonly folder: string,
    private readonly now: () => Date = () => new Date(),
  ) {}

  list(): Backup[] {
    return listCopies(this.folder).map(backupOf);
  }

  /** Copies the bench while it runs; nothing half is ever left. */
  async make(): Promise<Backup> {
    const stamp = this.now().toISOString().slice(0, 23).replace(/[:T.]/g, '-');
    const id = `bench-${stamp}.sqlite`;
    ownFolder(join(this.folder, COPIES));
    await writeCopy(this.db, join(this.folder, COPIES, id));
    return this.list().find((backup) => backup.id === id)!;
  }

  /** @throws HttpProblem 404 where there is none of that name any more */
  find(id: string): Copy {
    const copy = listCopies(this.folder).find((candidate) => candidate.id === id);
    if (!copy) throw notFound('This copy');
    return copy;
  }
}

/** Closes the bench, puts a copy in its place, and opens it again; what came of it is said by whoever opens it. */
export type Reopen = (copy: { id: string; file: string }) => void;

/** Brings a copy back while nobody measures. */
export class RestoreService {
  private readonly opened = randomUUID();

  constructor(
    private readonly backups: BackupService,
    private readonly loaded: () => boolean,
    private readonly reopen: Reopen | null,
    private readonly outcome: RestoreOutcome | null,
  ) {}

  shelf(): BackupShelf {
    return { opened: this.opened, backups: this.backups.list(), restored: this.outcome };
  }

  /**
   * Looks whether a copy can be brought back, and does it once that is answered.
   *
   * @returns the shelf as it still is; another `opened` says that it is done
   * @throws HttpProblem 404 without the copy, 409 while a run goes on, 422 for a copy that is damaged or newer
   */
  restore(id: string): BackupShelf {
    const { file } = this.backups.find(id);
    if (this.loaded()) throw conflict('A run goes on, or a rehearsal. End it first: a restore closes the bench for some seconds.');
    if (!this.reopen) throw conflict('This server was opened over data that are not its own to close: use npm run restore.');
    try {
      inspect(file);
    } catch (error) {
      if (error instanceof DataProblem) throw unprocessable(error.message);
      throw error;
    }
    this.reopen({ id, file });
    return this.shelf();
  }
}
