import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { Series } from '@red-ember/core';
import type { HandReading } from '@red-ember/contract';

interface Row {
  id: string;
  spot_id: string;
  at_ms: number;
  at: string;
  value_c: number;
  typed: string;
}

/** SQL for readings typed by hand. One that was taken back stays, and is no longer read. */
export class HandStore {
  constructor(private readonly db: Database) {}

  /** All of them, or none. */
  add(runId: string, readings: readonly Omit<HandReading, 'id'>[]): void {
    const put = this.db.prepare('INSERT INTO hand_reading (id, run_id, spot_id, at_ms, at, value_c, typed) VALUES (?, ?, ?, ?, ?, ?, ?)');
    this.db.transaction(() => {
      for (const { spotId, atS, at, valueC, typed } of readings) put.run(newId(), runId, spotId, Math.round(atS * 1000), at, valueC, typed);
    })();
  }

  ofRun(runId: string): HandReading[] {
    const rows = this.db
      .prepare('SELECT id, spot_id, at_ms, at, value_c, typed FROM hand_reading WHERE run_id = ? AND removed_at IS NULL ORDER BY at_ms, id')
      .all(runId) as Row[];
    return rows.map((row) => ({
      id: row.id,
      spotId: row.spot_id,
      atS: row.at_ms / 1000,
      at: row.at,
      valueC: row.value_c,
      typed: row.typed,
    }));
  }

  /** @returns whether there was one to take back */
  remove(runId: string, id: string, at: string): boolean {
    const sql = 'UPDATE hand_reading SET removed_at = ? WHERE id = ? AND run_id = ? AND removed_at IS NULL';
    return this.db.prepare(sql).run(at, id, runId).changes > 0;
  }
}

/** Readings of one spot as a series; of several within the same millisecond the last one counts. */
export function handSeries(readings: readonly Pick<HandReading, 'spotId' | 'atS' | 'valueC'>[], spotId: string): Series {
  const own = readings.filter((reading, i) => {
    if (reading.spotId !== spotId) return false;
    return !readings.slice(i + 1).some((later) => later.spotId === spotId && later.atS === reading.atS);
  });
  return { t: Float64Array.from(own, (reading) => reading.atS), y: Float64Array.from(own, (reading) => reading.valueC) };
}
