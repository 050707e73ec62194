import type { Database } from 'better-sqlite3';
import type { LineEntry } from '@red-ember/core';

/** SQL for what went over the lines of runs. */
export class LineStore {
  constructor(private readonly db: Database) {}

  append(runId: string, entries: readonly LineEntry[]): void {
    const insert = this.db.prepare(
      `INSERT INTO line_entry (run_id, n, t_ms, at, kind, percent, from_seq, to_seq)
       VALUES (@runId, (SELECT coalesce(max(n), 0) + 1 FROM line_entry WHERE run_id = @runId), @tMs, @at, @kind, @percent, @fromSeq, @toSeq)`,
    );
    for (const { atS, ...entry } of entries) insert.run({ runId, tMs: Math.round(1000 * atS), ...entry });
  }

  /** In the order in which it happened. */
  ofRun(runId: string): LineEntry[] {
    const rows = this.db
      .prepare(
        'SELECT t_ms / 1000.0 AS atS, at, kind, percent, from_seq AS fromSeq, to_seq AS toSeq FROM line_entry WHERE run_id = ? ORDER BY n',
      )
      .all(runId);
    return rows as LineEntry[];
  }
}
