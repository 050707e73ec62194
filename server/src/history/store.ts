import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { HistoryEntry, MovedResult } from '@red-ember/contract';

export interface Change {
  entity: 'study' | 'run' | 'instrument' | 'limit' | 'survey';
  entityId: string;
  at: string;
  before: unknown;
  /** Initials. */
  by?: string;
  changed?: string[];
  moved?: MovedResult[];
}

/** SQL for what records said before they were changed. */
export class HistoryStore {
  constructor(private readonly db: Database) {}

  /** @returns the id of the entry */
  add({ entity, entityId, at, before, by = '', changed = [], moved = [] }: Change): string {
    const id = newId();
    this.db
      .prepare('INSERT INTO history (id, entity, entity_id, at, before, made_by, changed, moved) VALUES (?, ?, ?, ?, ?, ?, ?, ?)')
      .run(id, entity, entityId, at, JSON.stringify(before), by, JSON.stringify(changed), JSON.stringify(moved));
    return id;
  }

  /** What a change did to results, once that is worked out. */
  setMoved(id: string, moved: MovedResult[]): void {
    this.db.prepare('UPDATE history SET moved = ? WHERE id = ?').run(JSON.stringify(moved), id);
  }

  /** Newest first. */
  of(entity: Change['entity'], entityId: string): HistoryEntry[] {
    const rows = this.db
      .prepare(
        'SELECT id, at, made_by AS "by", changed, moved FROM history WHERE entity = ? AND entity_id = ? ORDER BY at DESC, id DESC LIMIT 200',
      )
      .all(entity, entityId) as { id: string; at: string; by: string; changed: string; moved: string }[];
    return rows.map((row) => ({
      id: row.id,
      at: row.at,
      by: row.by,
      changed: JSON.parse(row.changed) as string[],
      moved: JSON.parse(row.moved) as MovedResult[],
    }));
  }
}
