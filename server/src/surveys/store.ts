import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import type { Survey, SurveyBody, SurveySummary } from '@red-ember/contract';

interface SurveyRow {
  id: string;
  study_id: string;
  body: string;
  row_count: number;
  columns: number;
  version: number;
  created_at: string;
  deleted_at: string | null;
}

const FIELDS = 'id, study_id, body, row_count, columns, version, created_at, deleted_at';

/** SQL for camera pictures: float32 row by row, and what is said about them. */
export class SurveyStore {
  constructor(private readonly db: Database) {}

  ofStudy(studyId: string, trash: boolean): SurveySummary[] {
    return (
      this.db
        .prepare(`SELECT ${FIELDS} FROM survey WHERE study_id = ? AND (deleted_at IS NOT NULL) = ? ORDER BY created_at, id`)
        .all(studyId, trash ? 1 : 0) as SurveyRow[]
    ).map(toSummary);
  }

  find(id: string): Survey | null {
    const row = this.db
      .prepare(
        `SELECT ${FIELDS}, matrix FROM survey WHERE id = ? AND EXISTS (SELECT 1 FROM study s WHERE s.id = survey.study_id AND s.deleted_at IS NULL)`,
      )
      .get(id) as (SurveyRow & { matrix: Buffer }) | undefined;
    if (!row) return null;
    const values = new Float32Array(new Uint8Array(row.matrix).buffer);
    const matrix = Array.from({ length: row.row_count }, (_, r) =>
      Array.from(values.subarray(r * row.columns, (r + 1) * row.columns), (value) =>
        Number.isNaN(value) ? null : Math.round(value * 100) / 100,
      ),
    );
    return { ...toSummary(row), matrix };
  }

  insert(studyId: string, body: SurveyBody, matrix: number[][], at: string, id = newId()): string {
    const values = Float32Array.from(matrix.flat());
    this.db
      .prepare('INSERT INTO survey (id, study_id, body, row_count, columns, matrix, version, created_at) VALUES (?, ?, ?, ?, ?, ?, 1, ?)')
      .run(id, studyId, JSON.stringify(body), matrix.length, matrix[0]!.length, Buffer.from(values.buffer), at);
    return id;
  }

  /** False where somebody else wrote in between. */
  update(id: string, body: SurveyBody, expectedVersion: number): boolean {
    return (
      this.db
        .prepare('UPDATE survey SET body = ?, version = version + 1 WHERE id = ? AND version = ? AND deleted_at IS NULL')
        .run(JSON.stringify(body), id, expectedVersion).changes > 0
    );
  }

  setDeleted(id: string, deletedAt: string | null): boolean {
    return (
      this.db
        .prepare('UPDATE survey SET deleted_at = ? WHERE id = ? AND (deleted_at IS NULL) = ?')
        .run(deletedAt, id, deletedAt === null ? 0 : 1).changes > 0
    );
  }
}

function toSummary(row: SurveyRow): SurveySummary {
  return {
    ...(JSON.parse(row.body) as SurveyBody),
    id: row.id,
    studyId: row.study_id,
    version: row.version,
    createdAt: row.created_at,
    rows: row.row_count,
    columns: row.columns,
    deletedAt: row.deleted_at,
  };
}
