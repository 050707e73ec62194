import type { Database } from 'better-sqlite3';
import { USUAL_CURRENCY, type FittedPartEntry } from '@red-ember/study';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';

export interface PartOfStudy {
  studyId: string;
  studyTitle: string;
  currency: string;
  part: FittedPartEntry;
}

/** SQL for the parts that studies put on; they stand in the studies. */
export class PartStore {
  constructor(private readonly db: Database) {}

  /** Of every study on the shelf, that which was changed last first, in their own order. */
  everyPart(): PartOfStudy[] {
    const rows = this.db
      .prepare(
        `SELECT s.id AS studyId, s.title AS studyTitle, coalesce(s.plan ->> 'currency', @usual) AS currency, part.value AS part FROM study s, json_each(s.parts) part
         WHERE ${ON_THE_SHELF} ORDER BY s.updated_at DESC, s.id, part.key`,
      )
      .all({ usual: USUAL_CURRENCY }) as (Omit<PartOfStudy, 'part'> & { part: string })[];
    return rows.map((row) => ({ ...row, part: JSON.parse(row.part) as FittedPartEntry }));
  }
}
