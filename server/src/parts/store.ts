import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { KeptPartBody } from '@red-ember/contract';
import { partByItself, USUAL_CURRENCY, type FittedPartEntry } from '@red-ember/study';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';

/** A part as one study, or the bench itself, speaks of it. */
export interface WrittenPart {
  study: { id: string; title: string } | null;
  kept: { id: string; version: number } | null;
  currency: string;
  part: FittedPartEntry;
}

interface Row {
  studyId: string | null;
  title: string;
  keptId: string;
  version: number;
  currency: string;
  part: string;
}

/** What is kept of a body: nothing that one study alone says. */
const asKept = ({ part, currency }: KeptPartBody): string => JSON.stringify({ part: partByItself(part), currency });

/** SQL for the parts that studies put on, which stand in the studies, and for those that are kept on the bench. */
export class PartStore {
  constructor(private readonly db: Database) {}

  /** Of every study on the shelf and of the bench, that which was changed last first; those of one study in its own order. */
  everyPart(): WrittenPart[] {
    const rows = this.db
      .prepare(
        `SELECT s.id AS studyId, s.title AS title, '' AS keptId, 0 AS version, coalesce(s.plan ->> 'currency', @usual) AS currency,
                part.value AS part, s.updated_at AS at, part.key AS place
           FROM study s, json_each(s.parts) part WHERE ${ON_THE_SHELF}
         UNION ALL
         SELECT NULL, '', k.id, k.version, k.body ->> 'currency', k.body -> 'part', k.updated_at, 0 FROM kept_part k
         ORDER BY at DESC, studyId, keptId, place`,
      )
      .all({ usual: USUAL_CURRENCY }) as Row[];
    return rows.map(({ studyId, title, keptId, version, currency, part }) => ({
      study: studyId === null ? null : { id: studyId, title },
      kept: studyId === null ? { id: keptId, version } : null,
      currency,
      part: JSON.parse(part) as FittedPartEntry,
    }));
  }

  versionOf(id: string): number | null {
    const row = this.db.prepare('SELECT version FROM kept_part WHERE id = ?').get(id) as { version: number } | undefined;
    return row?.version ?? null;
  }

  insert(body: KeptPartBody, at: string): string {
    const id = newId();
    this.db.prepare('INSERT INTO kept_part (id, body, version, updated_at) VALUES (?, ?, 1, ?)').run(id, asKept(body), at);
    return id;
  }

  /** False where somebody else wrote in between. */
  update(id: string, body: KeptPartBody, expectedVersion: number, at: string): boolean {
    return (
      this.db
        .prepare('UPDATE kept_part SET body = ?, version = version + 1, updated_at = ? WHERE id = ? AND version = ?')
        .run(asKept(body), at, id, expectedVersion).changes > 0
    );
  }

  /** With its photographs. */
  remove(id: string): boolean {
    return this.db.prepare('DELETE FROM kept_part WHERE id = ?').run(id).changes > 0;
  }
}
