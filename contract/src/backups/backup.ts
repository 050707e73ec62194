export type BackupKind = 'daily' | 'by-hand' | 'before-update' | 'set-aside';

/** A copy of the whole bench that lies in its folder of data. */
export interface Backup {
  id: string;
  kind: BackupKind;
  /** When it was written, ISO. */
  at: string;
  bytes: number;
}

/** How the last restore went, since the server was started. */
export interface RestoreOutcome {
  backupId: string;
  at: string;
  ok: boolean;
  sentence: string;
}

export interface BackupShelf {
  /** Another one each time the data are opened: whoever waits for a restore sees by it that it is over. */
  opened: string;
  /** The newest first. */
  backups: Backup[];
  restored: RestoreOutcome | null;
}
