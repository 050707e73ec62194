import type { Database } from 'better-sqlite3';
import type { ColumnMapBody, ImportRunBody } from '@red-ember/contract';

/** A mapping as it is kept: spots by name, since another study has others by the same names. */
export interface SavedMapping extends Pick<ImportRunBody, 'timeColumn' | 'timeFormat'> {
  columns: (Omit<ColumnMapBody, 'spotId' | 'spotName' | 'componentClass'> & { spotName: string | null })[];
}

/** The same logger writes the same columns. */
const signatureOf = (names: readonly string[]) => JSON.stringify(names.map((name) => name.trim().toLowerCase()));

/** SQL for mappings of logs. */
export class MappingStore {
  constructor(private readonly db: Database) {}

  find(names: readonly string[]): SavedMapping | null {
    const row = this.db.prepare('SELECT body FROM import_mapping WHERE signature = ?').get(signatureOf(names)) as
      { body: string } | undefined;
    return row ? (JSON.parse(row.body) as SavedMapping) : null;
  }

  keep(names: readonly string[], mapping: SavedMapping, at: string): void {
    this.db
      .prepare(
        'INSERT INTO import_mapping (signature, body, used_at) VALUES (?, ?, ?) ON CONFLICT (signature) DO UPDATE SET body = excluded.body, used_at = excluded.used_at',
      )
      .run(signatureOf(names), JSON.stringify(mapping), at);
  }
}
