import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { ChangeOverMade } from '@red-ember/core';
import type { Mount, MountOfBench } from '@red-ember/contract';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';
import type { PhotoStore } from '../photographs/store.ts';

interface MountRow {
  id: string;
  study_id: string;
  variant_id: string;
  number: number;
  made_at: string;
  confirmed: string;
  note: string;
  seed: number;
  from_variant_id: string | null;
  hands_min: number | null;
  skipped: string;
  made_by: string;
  serial: string;
}

export interface NewMount {
  studyId: string;
  variantId: string;
  madeAt: string;
  confirmed: string[];
  note: string;
  seed: number;
  fromVariantId: string | null;
  handsMin: number | null;
  /** Factors that differed. */
  changed: string[];
  /** Steps in words, as they are now: the study may say something else later. */
  done: string[];
  skipped: string[];
  serial: string;
  by: string;
}

const list = (text: string) => JSON.parse(text) as string[];

/** SQL for mounts, one fitting of a variant on the part each. */
export class MountStore {
  constructor(
    private readonly db: Database,
    private readonly photographs: PhotoStore,
  ) {}

  ofStudy(studyId: string): Mount[] {
    return (this.db.prepare('SELECT * FROM mount WHERE study_id = ? ORDER BY made_at, id').all(studyId) as MountRow[]).map((row) =>
      this.toMount(row),
    );
  }

  /** Every mount of every study on the shelf, the newest first, with what it is looked for by. */
  ofBench(): MountOfBench[] {
    return this.db
      .prepare(
        `SELECT m.id, m.study_id AS studyId, m.variant_id AS variantId, m.number, m.made_at AS madeAt, m.note, m.hands_min AS handsMin, m.serial, m.made_by AS "by",
                s.title AS studyTitle, s.family, v.name AS variant, coalesce(before.name, '') AS "from",
                coalesce((SELECT part.value ->> 'name' FROM json_each(s.subjects) AS part WHERE part.value ->> 'id' = v.subject_id), '') AS part,
                json_array_length(m.skipped) AS skipped,
                (SELECT count(*) FROM mount_photo WHERE mount_id = m.id) AS photos, (SELECT count(*) FROM run WHERE mount_id = m.id) AS runs
         FROM mount m JOIN study s ON s.id = m.study_id JOIN variant v ON v.id = m.variant_id LEFT JOIN variant before ON before.id = m.from_variant_id
         WHERE ${ON_THE_SHELF} ORDER BY m.made_at DESC, m.id DESC`,
      )
      .all() as MountOfBench[];
  }

  find(id: string): (Mount & { seed: number }) | null {
    const row = this.db
      .prepare('SELECT m.* FROM mount m JOIN study s ON s.id = m.study_id WHERE m.id = ? AND s.deleted_at IS NULL')
      .get(id) as MountRow | undefined;
    return row ? { ...this.toMount(row), seed: row.seed } : null;
  }

  insert(mount: NewMount): string {
    const id = newId();
    this.db
      .prepare(
        `INSERT INTO mount (id, study_id, variant_id, number, made_at, confirmed, note, seed, from_variant_id, hands_min, changed, done, skipped, serial, made_by)
         VALUES (@id, @studyId, @variantId, (SELECT coalesce(max(number), 0) + 1 FROM mount WHERE variant_id = @variantId), @madeAt, @confirmed, @note, @seed,
           @fromVariantId, @handsMin, @changed, @done, @skipped, @serial, @by)`,
      )
      .run({
        ...mount,
        id,
        confirmed: JSON.stringify(mount.confirmed),
        changed: JSON.stringify(mount.changed),
        done: JSON.stringify(mount.done),
        skipped: JSON.stringify(mount.skipped),
      });
    return id;
  }

  /** The mount of a variant with a number of its own, as files count them; written down with what is known of it where it is not there yet. */
  numbered(mount: NewMount, number: number): string {
    const there = this.db.prepare('SELECT id FROM mount WHERE variant_id = ? AND number = ?').get(mount.variantId, number) as
      { id: string } | undefined;
    if (there) return there.id;
    const id = this.insert(mount);
    this.db.prepare('UPDATE mount SET number = ? WHERE id = ?').run(number, id);
    return id;
  }

  /** Takes a mount back that no run rests on. False where one does. */
  remove(id: string): boolean {
    return (
      this.db.prepare('DELETE FROM mount WHERE id = ? AND NOT EXISTS (SELECT 1 FROM run WHERE mount_id = mount.id)').run(id).changes > 0
    );
  }

  /** Change-overs of all studies whose minutes were taken. */
  changeOvers(): ChangeOverMade[] {
    const rows = this.db
      .prepare(
        `SELECT m.changed, m.hands_min AS minutes FROM mount m JOIN study s ON s.id = m.study_id WHERE m.hands_min IS NOT NULL AND m.changed <> '[]' AND ${ON_THE_SHELF}`,
      )
      .all() as { changed: string; minutes: number }[];
    return rows.map(({ changed, minutes }) => ({ changed: list(changed), minutes }));
  }

  private toMount(row: MountRow): Mount {
    return {
      id: row.id,
      studyId: row.study_id,
      variantId: row.variant_id,
      number: row.number,
      madeAt: row.made_at,
      confirmed: list(row.confirmed),
      note: row.note,
      fromVariantId: row.from_variant_id,
      handsMin: row.hands_min,
      skipped: list(row.skipped),
      by: row.made_by,
      serial: row.serial,
      photos: this.photographs.of(row.id),
    };
  }
}
