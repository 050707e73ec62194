import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { Mount } from '@red-ember/contract';

interface MountRow {
  id: string;
  study_id: string;
  variant_id: string;
  number: number;
  made_at: string;
  confirmed: string;
  note: string;
  seed: number;
}

const toMount = (row: MountRow): Mount => ({
  id: row.id,
  studyId: row.study_id,
  variantId: row.variant_id,
  number: row.number,
  madeAt: row.made_at,
  confirmed: JSON.parse(row.confirmed) as string[],
  note: row.note,
});

/** SQL for mounts: one fitting of a variant on the part. */
export class MountStore {
  constructor(private readonly db: Database) {}

  ofStudy(studyId: string): Mount[] {
    return (this.db.prepare('SELECT * FROM mount WHERE study_id = ? ORDER BY made_at').all(studyId) as MountRow[]).map(toMount);
  }

  find(id: string): (Mount & { seed: number }) | null {
    const row = this.db.prepare('SELECT * FROM mount WHERE id = ?').get(id) as MountRow | undefined;
    return row ? { ...toMount(row), seed: row.seed } : null;
  }

  insert(mount: { studyId: string; variantId: string; madeAt: string; confirmed: string[]; note: string; seed: number }): string {
    const id = newId();
    this.db
      .prepare(
        `INSERT INTO mount (id, study_id, variant_id, number, made_at, confirmed, note, seed)
         VALUES (@id, @studyId, @variantId, (SELECT coalesce(max(number), 0) + 1 FROM mount WHERE variant_id = @variantId), @madeAt, @confirmed, @note, @seed)`,
      )
      .run({ ...mount, id, confirmed: JSON.stringify(mount.confirmed) });
    return id;
  }
}
