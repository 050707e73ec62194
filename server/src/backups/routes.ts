import type { Handlers } from '../http/serve.ts';
import type { BackupService, RestoreService } from './service.ts';

export const backupHandlers = (backups: BackupService) => ({ makeBackup: () => backups.make() }) satisfies Partial<Handlers>;

/** Of the process that holds the data: the other one is ended by a restore. */
export const restoreHandlers = (restores: RestoreService) =>
  ({
    listBackups: () => restores.shelf(),
    restoreBackup: ({ params }) => restores.restore(params.backup),
  }) satisfies Partial<Handlers>;
