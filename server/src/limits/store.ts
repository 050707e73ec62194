import type { Database } from 'better-sqlite3';
import type { LimitBody } from '@red-ember/contract';
import type { ComponentClass } from '@red-ember/study';

export interface StoredLimit {
  body: LimitBody;
  version: number;
  updatedAt: string;
}

/** SQL for the limits that differ from the library as it ships. */
export class LimitStore {
  constructor(private readonly db: Database) {}

  all(): Map<ComponentClass, StoredLimit> {
    const rows = this.db.prepare('SELECT component_class, body, version, updated_at FROM component_limit').all() as {
      component_class: ComponentClass;
      body: string;
      version: number;
      updated_at: string;
    }[];
    return new Map(
      rows.map((row) => [
        row.component_class,
        { body: JSON.parse(row.body) as LimitBody, version: row.version, updatedAt: row.updated_at },
      ]),
    );
  }

  /** False where somebody else wrote in between. */
  put(componentClass: ComponentClass, body: LimitBody, expectedVersion: number, at: string): boolean {
    if (expectedVersion === 0)
      return (
        this.db
          .prepare('INSERT INTO component_limit (component_class, body, version, updated_at) VALUES (?, ?, 1, ?) ON CONFLICT DO NOTHING')
          .run(componentClass, JSON.stringify(body), at).changes > 0
      );
    return (
      this.db
        .prepare('UPDATE component_limit SET body = ?, version = version + 1, updated_at = ? WHERE component_class = ? AND version = ?')
        .run(JSON.stringify(body), at, componentClass, expectedVersion).changes > 0
    );
  }
}
