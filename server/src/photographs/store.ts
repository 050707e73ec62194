import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { Photo } from '@red-ember/contract';

/** Whose photographs a table holds: its name and the column of the thing that was photographed. */
const OF = { mount: ['mount_photo', 'mount_id'], part: ['part_photo', 'part_id'] } as const;

/** SQL for the photographs of one kind of thing. */
export class PhotoStore {
  private readonly table: string;
  private readonly owner: string;

  constructor(
    private readonly db: Database,
    of: keyof typeof OF,
  ) {
    [this.table, this.owner] = OF[of];
  }

  /** The oldest first. */
  of(ownerId: string): Photo[] {
    return this.db
      .prepare(
        `SELECT id, made_at AS madeAt, name, width_px AS widthPx, height_px AS heightPx FROM ${this.table} WHERE ${this.owner} = ? ORDER BY made_at, id`,
      )
      .all(ownerId) as Photo[];
  }

  add(ownerId: string, photo: Omit<Photo, 'id'>, image: Buffer): Photo {
    const id = newId();
    this.db
      .prepare(
        `INSERT INTO ${this.table} (id, ${this.owner}, made_at, name, width_px, height_px, image)
         VALUES (@id, @ownerId, @madeAt, @name, @widthPx, @heightPx, @image)`,
      )
      .run({ ...photo, id, ownerId, image });
    return { id, ...photo };
  }

  /** Null where there is none. */
  image(id: string): { ownerId: string; image: Buffer } | null {
    const row = this.db.prepare(`SELECT ${this.owner} AS ownerId, image FROM ${this.table} WHERE id = ?`).get(id);
    return (row as { ownerId: string; image: Buffer } | undefined) ?? null;
  }

  remove(id: string): boolean {
    return this.db.prepare(`DELETE FROM ${this.table} WHERE id = ?`).run(id).changes > 0;
  }
}
