import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { Calibration, CalibrationBody, CalibrationPointBody, Instrument, InstrumentBody, RunOfChannel } from '@red-ember/contract';

interface CalibrationRow {
  id: string;
  instrumentId: string;
  channelId: string;
  madeOn: string;
  dueOn: string;
  referenceAccuracyK: number;
  points: string;
  note: string;
  createdAt: string;
}

const CALIBRATION = `SELECT id, instrument_id AS instrumentId, channel_id AS channelId, made_on AS madeOn, due_on AS dueOn,
  reference_accuracy_k AS referenceAccuracyK, points, note, created_at AS createdAt FROM calibration`;

/** SQL for instruments, their calibrations, and the corrections that runs carry. */
export class InstrumentStore {
  constructor(private readonly db: Database) {}

  atomically<T>(work: () => T): T {
    return this.db.transaction(work)();
  }

  list(trash: boolean): Instrument[] {
    const rows = this.db
      .prepare('SELECT id FROM instrument WHERE (deleted_at IS NOT NULL) = ? ORDER BY updated_at DESC')
      .all(trash ? 1 : 0) as { id: string }[];
    return rows.map((row) => this.find(row.id)!);
  }

  find(id: string): Instrument | null {
    const row = this.db.prepare('SELECT id, body, version, updated_at, deleted_at FROM instrument WHERE id = ?').get(id) as
      { id: string; body: string; version: number; updated_at: string; deleted_at: string | null } | undefined;
    if (!row) return null;
    const calibrations = (
      this.db.prepare(`${CALIBRATION} WHERE instrument_id = ? ORDER BY made_on DESC, id DESC`).all(id) as CalibrationRow[]
    ).map((entry) => this.toCalibration(entry));
    return {
      ...(JSON.parse(row.body) as InstrumentBody),
      id: row.id,
      version: row.version,
      updatedAt: row.updated_at,
      deletedAt: row.deleted_at,
      calibrations,
    };
  }

  insert(body: InstrumentBody, at: string, id = newId()): string {
    this.db.prepare('INSERT INTO instrument (id, body, version, updated_at) VALUES (?, ?, 1, ?)').run(id, JSON.stringify(body), at);
    return id;
  }

  /** False where somebody else wrote in between. */
  update(id: string, body: InstrumentBody, expectedVersion: number, at: string): boolean {
    return (
      this.db
        .prepare(
          'UPDATE instrument SET body = ?, version = version + 1, updated_at = ? WHERE id = ? AND version = ? AND deleted_at IS NULL',
        )
        .run(JSON.stringify(body), at, id, expectedVersion).changes > 0
    );
  }

  setDeleted(id: string, deletedAt: string | null): boolean {
    return (
      this.db
        .prepare('UPDATE instrument SET deleted_at = ? WHERE id = ? AND (deleted_at IS NULL) = ?')
        .run(deletedAt, id, deletedAt === null ? 0 : 1).changes > 0
    );
  }

  addCalibration(instrumentId: string, body: CalibrationBody, at: string, id = newId()): string {
    this.db
      .prepare(
        `INSERT INTO calibration (id, instrument_id, channel_id, made_on, due_on, reference_accuracy_k, points, note, created_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(id, instrumentId, body.channelId, body.madeOn, body.dueOn, body.referenceAccuracyK, JSON.stringify(body.points), body.note, at);
    return id;
  }

  calibration(id: string): Calibration | null {
    const row = this.db.prepare(`${CALIBRATION} WHERE id = ?`).get(id) as CalibrationRow | undefined;
    return row ? this.toCalibration(row) : null;
  }

  /** The newest calibration of a channel made on or before a day; null where there is none. */
  newestOf(channelId: string, onDay: string): Calibration | null {
    const row = this.db
      .prepare(`${CALIBRATION} WHERE channel_id = ? AND made_on <= ? ORDER BY made_on DESC, id DESC LIMIT 1`)
      .get(channelId, onDay) as CalibrationRow | undefined;
    return row ? this.toCalibration(row) : null;
  }

  /** Runs of which a channel was read by this instrument channel, newest first. */
  runsOf(channelId: string): (RunOfChannel & { key: string })[] {
    return this.db
      .prepare(
        `SELECT r.id AS runId, r.study_id AS studyId, s.title AS studyTitle, r.number, r.started_at AS startedAt, k.calibration_id AS calibrationId, c.key
         FROM run_channel c JOIN run r ON r.id = c.run_id JOIN study s ON s.id = r.study_id
         LEFT JOIN run_correction k ON k.run_id = r.id AND k.key = c.key
         WHERE c.instrument_channel_id = ? AND s.deleted_at IS NULL ORDER BY r.started_at DESC LIMIT 500`,
      )
      .all(channelId) as (RunOfChannel & { key: string })[];
  }

  /** Notes that a channel of a run is corrected by a calibration; replaces an earlier one. */
  correct(runId: string, key: string, calibrationId: string, at: string): void {
    this.db
      .prepare(
        `INSERT INTO run_correction (run_id, key, calibration_id, applied_at) VALUES (?, ?, ?, ?)
         ON CONFLICT (run_id, key) DO UPDATE SET calibration_id = excluded.calibration_id, applied_at = excluded.applied_at`,
      )
      .run(runId, key, calibrationId, at);
  }

  /** Nothing corrects this channel of a run any more. */
  uncorrect(runId: string, key: string): void {
    this.db.prepare('DELETE FROM run_correction WHERE run_id = ? AND key = ?').run(runId, key);
  }

  /** Calibration that corrects each channel of a run, by the channel's key. */
  correctionsOf(runId: string): Map<string, Calibration> {
    const rows = this.db.prepare('SELECT key, calibration_id AS id FROM run_correction WHERE run_id = ?').all(runId) as {
      key: string;
      id: string;
    }[];
    return new Map(rows.map((row) => [row.key, this.calibration(row.id)!]));
  }

  private toCalibration(row: CalibrationRow): Calibration {
    const runs = this.db.prepare('SELECT run_id AS id FROM run_correction WHERE calibration_id = ?').all(row.id) as { id: string }[];
    return { ...row, points: JSON.parse(row.points) as CalibrationPointBody[], runIds: runs.map((run) => run.id) };
  }
}
