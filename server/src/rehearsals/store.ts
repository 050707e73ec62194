import type { Database } from 'better-sqlite3';
import type { Rehearsal, RehearsalStep } from '@red-ember/contract';

interface Row {
  id: string;
  rigId: string;
  rigName: string;
  at: string;
  loadPercent: number;
  brokenOff: string;
  steps: string;
}

const COLUMNS = 'id, rig_id AS rigId, rig_name AS rigName, at, load_percent AS loadPercent, broken_off AS brokenOff, steps';

/** SQL for rehearsals that are over. */
export class RehearsalStore {
  constructor(private readonly db: Database) {}

  /** The newest first. */
  ofRig(rigId: string): Rehearsal[] {
    const rows = this.db
      .prepare(`SELECT ${COLUMNS} FROM rehearsal WHERE rig_id = ? ORDER BY at DESC, id DESC LIMIT 50`)
      .all(rigId) as Row[];
    return rows.map((row) => ({ ...row, trying: null, steps: JSON.parse(row.steps) as RehearsalStep[] }));
  }

  insert({ trying: _over, steps, ...rehearsal }: Rehearsal): void {
    this.db
      .prepare('INSERT INTO rehearsal VALUES (@id, @rigId, @rigName, @at, @loadPercent, @brokenOff, @steps)')
      .run({ ...rehearsal, steps: JSON.stringify(steps) });
  }
}
