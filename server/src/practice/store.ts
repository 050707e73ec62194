import type { Database } from 'better-sqlite3';
import type { HandInBody, PracticeMarks, PracticeTruth } from '@red-ember/contract';
import type { Drawn } from '@red-ember/practice';

/** What was handed in, and what came of it. */
export interface HandedIn {
  at: string;
  answer: HandInBody;
  marks: PracticeMarks;
  truth: PracticeTruth;
}

/** One try at an exercise. */
export interface Try {
  studyId: string;
  /** One of the exercises; empty where it was made of a study. */
  exercise: string;
  seed: number;
  drawn: Drawn;
  sides: { a: string; b: string };
  begunAt: string;
  hints: number;
  handedIn: HandedIn | null;
}

interface Row {
  study_id: string;
  exercise: string;
  seed: number;
  drawn: string;
  sides: string;
  begun_at: string;
  hints: number;
  handed_in: string | null;
}

const tryOf = (row: Row): Try => ({
  studyId: row.study_id,
  exercise: row.exercise,
  seed: row.seed,
  drawn: JSON.parse(row.drawn) as Drawn,
  sides: JSON.parse(row.sides) as Try['sides'],
  begunAt: row.begun_at,
  hints: row.hints,
  handedIn: row.handed_in === null ? null : (JSON.parse(row.handed_in) as HandedIn),
});

/** SQL for tries at exercises. */
export class PracticeStore {
  constructor(private readonly db: Database) {}

  atomically<T>(work: () => T): T {
    return this.db.transaction(work)();
  }

  /** Tries whose studies are not put away, the newest first. */
  list(): Try[] {
    const rows = this.db
      .prepare(
        'SELECT p.* FROM practice p JOIN study s ON s.id = p.study_id WHERE s.deleted_at IS NULL ORDER BY p.begun_at DESC, p.rowid DESC',
      )
      .all() as Row[];
    return rows.map(tryOf);
  }

  find(studyId: string): Try | null {
    const row = this.db.prepare('SELECT * FROM practice WHERE study_id = ?').get(studyId) as Row | undefined;
    return row ? tryOf(row) : null;
  }

  insert({ studyId, exercise, seed, drawn, sides, begunAt }: Omit<Try, 'hints' | 'handedIn'>): void {
    this.db
      .prepare('INSERT INTO practice (study_id, exercise, seed, drawn, sides, begun_at) VALUES (?, ?, ?, ?, ?, ?)')
      .run(studyId, exercise, seed, JSON.stringify(drawn), JSON.stringify(sides), begunAt);
  }

  takeHint(studyId: string): void {
    this.db.prepare('UPDATE practice SET hints = hints + 1 WHERE study_id = ?').run(studyId);
  }

  handIn(studyId: string, handedIn: HandedIn): void {
    this.db.prepare('UPDATE practice SET handed_in = ? WHERE study_id = ? AND handed_in IS NULL').run(JSON.stringify(handedIn), studyId);
  }
}
