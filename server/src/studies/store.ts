import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import { type SpotBody, type Study, type StudyBody, type StudySummary, type VariantBody } from '@red-ember/contract';
import { blankJudging, USUAL_REPEATS } from '@red-ember/study';

interface StudyRow {
  id: string;
  title: string;
  family: string;
  question: string;
  claims: string;
  predictions: string;
  prediction_stamps: string;
  rules: string;
  enclosure: string;
  subjects: string;
  room_channel_id: string | null;
  factors: string;
  impossible: string;
  plan: string;
  parts: string;
  steps: string;
  recipe: string;
  locks: string;
  judging: string | null;
  figures: string;
  version: number;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
}

/** Column of each field of a spot. Names come from this table alone, never from outside. */
const SPOT_COLUMNS: Record<keyof SpotBody, string> = {
  id: 'id',
  name: 'name',
  place: 'place',
  componentClass: 'component_class',
  advisoryC: 'advisory_c',
  advisorySource: 'advisory_source',
  limitC: 'limit_c',
  limitSource: 'limit_source',
  cutOutC: 'cut_out_c',
  cutOutHoldS: 'cut_out_hold_s',
  throttleC: 'throttle_c',
  throttleSource: 'throttle_source',
  method: 'method',
  byHand: 'by_hand',
  channel: 'channel',
  sensor: 'sensor',
  instrumentChannelId: 'instrument_channel_id',
  accuracyK: 'accuracy_k',
  resolutionK: 'resolution_k',
  placementK: 'placement_k',
  twinOf: 'twin_of',
  beneath: 'beneath',
};
const SPOT_FIELDS = Object.entries(SPOT_COLUMNS)
  .map(([field, column]) => `${column} AS ${field}`)
  .join(', ');
type SpotRow = Omit<SpotBody, 'byHand' | 'beneath'> & { byHand: number; beneath: string | null };

const parse = <T>(text: string): T => JSON.parse(text) as T;

/** A prediction that was not changed keeps the time at which it was written. */
function stamps(body: StudyBody, at: string, before: Study | null): Record<string, string> {
  return Object.fromEntries(
    body.predictions.map((prediction) => {
      const old = before?.predictions.find((candidate) => candidate.id === prediction.id);
      const same = old && JSON.stringify(old) === JSON.stringify(prediction);
      return [prediction.id, (same && before!.predictionStamps[prediction.id]) || at];
    }),
  );
}

/** SQL for studies, their spots and variants. */
export class StudyStore {
  constructor(private readonly db: Database) {}

  list(trash: boolean): StudySummary[] {
    const rows = this.db
      .prepare(
        `SELECT s.id, s.title, s.family, s.question, s.subjects, s.updated_at, s.deleted_at,
                (SELECT count(*) FROM run r WHERE r.study_id = s.id) AS runs,
                EXISTS (SELECT 1 FROM run r WHERE r.study_id = s.id AND r.state IN ('waiting', 'recording')) AS live
         FROM study s WHERE (s.deleted_at IS NOT NULL) = ? AND NOT EXISTS (SELECT 1 FROM practice p WHERE p.study_id = s.id) ORDER BY s.updated_at DESC`,
      )
      .all(trash ? 1 : 0) as {
      id: string;
      title: string;
      family: StudySummary['family'];
      question: string;
      subjects: string;
      updated_at: string;
      deleted_at: string | null;
      runs: number;
      live: number;
    }[];
    return rows.map((row) => ({
      id: row.id,
      title: row.title,
      family: row.family,
      question: row.question,
      subject: parse<{ name: string }[]>(row.subjects)
        .map((subject) => subject.name)
        .join(', '),
      updatedAt: row.updated_at,
      runs: row.runs,
      live: row.live === 1,
      deletedAt: row.deleted_at,
    }));
  }

  find(id: string): Study | null {
    const row = this.db.prepare('SELECT * FROM study WHERE id = ? AND deleted_at IS NULL').get(id) as StudyRow | undefined;
    if (!row) return null;
    const spots = (this.db.prepare(`SELECT ${SPOT_FIELDS} FROM spot WHERE study_id = ? ORDER BY ordinal`).all(id) as SpotRow[]).map(
      (spot): SpotBody => ({ ...spot, byHand: spot.byHand === 1, beneath: spot.beneath ? parse(spot.beneath) : null }),
    );
    const variants = (
      this.db
        .prepare(
          'SELECT id, name, subject_id AS subjectId, is_reference AS isReference, setup, notes, levels, repeats, retired, retest FROM variant WHERE study_id = ? ORDER BY ordinal',
        )
        .all(id) as (Omit<VariantBody, 'isReference' | 'levels' | 'retired' | 'retest'> & {
        retired: number;
        isReference: number;
        levels: string;
        retest: string | null;
      })[]
    ).map((variant) => ({
      ...variant,
      isReference: variant.isReference === 1,
      levels: parse<VariantBody['levels']>(variant.levels),
      retired: variant.retired === 1,
      retest: variant.retest === null ? null : parse<VariantBody['retest']>(variant.retest),
    }));
    const { firstRun } = this.db
      .prepare('SELECT min(started_at) AS firstRun FROM run WHERE study_id = ? AND purpose = ?')
      .get(id, 'measure') as {
      firstRun: string | null;
    };
    const used = this.db
      .prepare('SELECT DISTINCT variant_id AS id FROM run WHERE study_id = ? UNION SELECT variant_id FROM mount WHERE study_id = ?')
      .all(id, id) as { id: string }[];
    return {
      id: row.id,
      title: row.title,
      family: row.family as Study['family'],
      question: row.question,
      claims: parse(row.claims),
      predictions: parse(row.predictions),
      rules: parse(row.rules),
      enclosure: parse(row.enclosure),
      subjects: parse(row.subjects),
      roomChannelId: row.room_channel_id,
      factors: parse(row.factors),
      impossible: parse(row.impossible),
      plan: parse(row.plan),
      parts: parse(row.parts),
      steps: parse(row.steps),
      recipe: parse(row.recipe),
      locks: parse(row.locks),
      figures: parse(row.figures),
      judging: row.judging === null ? blankJudging() : parse(row.judging),
      spots,
      variants,
      version: row.version,
      createdAt: row.created_at,
      updatedAt: row.updated_at,
      predictionLockedAt: firstRun,
      predictionStamps: parse(row.prediction_stamps),
      variantsWithRuns: used.map((entry) => entry.id),
    };
  }

  insert(body: StudyBody, at: string, id: string = newId()): string {
    this.db.transaction(() => {
      this.db
        .prepare(
          `INSERT INTO study (id, title, family, question, claims, predictions, prediction_stamps, rules, enclosure, subjects, room_channel_id, factors, impossible, plan, parts, steps, recipe, locks, judging, figures, version, created_at, updated_at)
           VALUES (@id, @title, @family, @question, @claims, @predictions, @predictionStamps, @rules, @enclosure, @subjects, @roomChannelId, @factors, @impossible, @plan, @parts, @steps, @recipe, @locks, @judging, @figures, 1, @at, @at)`,
        )
        .run({ id, at, ...this.columns(body), predictionStamps: JSON.stringify(stamps(body, at, null)) });
      this.writeParts(id, body);
    })();
    return id;
  }

  /** Writes the whole body if the version is still the expected one. False where it was not. */
  update(id: string, body: StudyBody, expectedVersion: number, at: string, before: Study): boolean {
    return this.db.transaction(() => {
      const { changes } = this.db
        .prepare(
          `UPDATE study SET title = @title, family = @family, question = @question, claims = @claims, predictions = @predictions, prediction_stamps = @predictionStamps, rules = @rules, enclosure = @enclosure,
             subjects = @subjects, room_channel_id = @roomChannelId, factors = @factors, impossible = @impossible, plan = @plan, parts = @parts, steps = @steps, recipe = @recipe, locks = @locks, judging = @judging, figures = @figures, version = version + 1, updated_at = @at
           WHERE id = @id AND version = @expectedVersion AND deleted_at IS NULL`,
        )
        .run({ id, at, expectedVersion, ...this.columns(body), predictionStamps: JSON.stringify(stamps(body, at, before)) });
      if (changes === 0) return false;
      this.writeParts(id, body);
      return true;
    })();
  }

  /** Runs several writes as one. */
  atomically<T>(work: () => T): T {
    return this.db.transaction(work)();
  }

  setDeleted(id: string, deletedAt: string | null): boolean {
    return (
      this.db
        .prepare('UPDATE study SET deleted_at = ? WHERE id = ? AND (deleted_at IS NULL) = ?')
        .run(deletedAt, id, deletedAt === null ? 0 : 1).changes > 0
    );
  }

  /** Spots that runs have readings of. */
  spotsWithSamples(studyId: string): Set<string> {
    const rows = this.db
      .prepare(
        'SELECT DISTINCT c.spot_id AS id FROM run_channel c JOIN run r ON r.id = c.run_id WHERE r.study_id = ? AND c.spot_id IS NOT NULL',
      )
      .all(studyId) as { id: string }[];
    return new Set(rows.map((row) => row.id));
  }

  /** Which of the ids belong to parts of other studies. */
  foreignIds(studyId: string, ids: readonly string[]): string[] {
    const owner = this.db.prepare(
      'SELECT study_id AS id FROM spot WHERE id = @id AND study_id <> @studyId UNION SELECT study_id FROM variant WHERE id = @id AND study_id <> @studyId',
    );
    return ids.filter((id) => owner.get({ id, studyId }) !== undefined);
  }

  /** Deletes for good what has been in the trash since before `before`. */
  emptyTrash(before: string): number {
    return this.db.prepare('DELETE FROM study WHERE deleted_at < ?').run(before).changes;
  }

  private columns(body: StudyBody) {
    return {
      title: body.title.trim(),
      family: body.family,
      question: body.question,
      claims: JSON.stringify(body.claims),
      predictions: JSON.stringify(body.predictions),
      rules: JSON.stringify(body.rules),
      enclosure: JSON.stringify(body.enclosure),
      subjects: JSON.stringify(body.subjects),
      roomChannelId: body.roomChannelId,
      factors: JSON.stringify(body.factors),
      impossible: JSON.stringify(body.impossible),
      plan: JSON.stringify(body.plan),
      parts: JSON.stringify(body.parts),
      steps: JSON.stringify(body.steps),
      recipe: JSON.stringify(body.recipe),
      locks: JSON.stringify(body.locks),
      judging: body.judging ? JSON.stringify(body.judging) : null,
      figures: JSON.stringify(body.figures ?? []),
    };
  }

  private writeParts(studyId: string, body: StudyBody): void {
    const keep = (ids: string[]) => JSON.stringify(ids);
    this.db
      .prepare('DELETE FROM spot WHERE study_id = ? AND id NOT IN (SELECT value FROM json_each(?))')
      .run(studyId, keep(body.spots.map((spot) => spot.id)));
    this.db
      .prepare('DELETE FROM variant WHERE study_id = ? AND id NOT IN (SELECT value FROM json_each(?))')
      .run(studyId, keep(body.variants.map((variant) => variant.id)));
    const columns = Object.entries(SPOT_COLUMNS).filter(([field]) => field !== 'id');
    const putSpot = this.db.prepare(
      `INSERT INTO spot (id, study_id, ordinal, ${columns.map(([, column]) => column).join(', ')})
       VALUES (@id, @studyId, @ordinal, ${columns.map(([field]) => `@${field}`).join(', ')})
       ON CONFLICT (id) DO UPDATE SET ordinal = excluded.ordinal, ${columns.map(([, column]) => `${column} = excluded.${column}`).join(', ')}`,
    );
    body.spots.forEach((spot, ordinal) =>
      putSpot.run({ ...spot, byHand: spot.byHand ? 1 : 0, beneath: spot.beneath ? JSON.stringify(spot.beneath) : null, studyId, ordinal }),
    );
    const putVariant = this.db.prepare(
      `INSERT INTO variant (id, study_id, ordinal, name, subject_id, is_reference, setup, notes, levels, repeats, retired, retest)
       VALUES (@id, @studyId, @ordinal, @name, @subjectId, @isReference, @setup, @notes, @levels, @repeats, @retired, @retest)
       ON CONFLICT (id) DO UPDATE SET ordinal = excluded.ordinal, name = excluded.name, subject_id = excluded.subject_id,
         is_reference = excluded.is_reference, setup = excluded.setup, notes = excluded.notes, levels = excluded.levels, repeats = excluded.repeats, retired = excluded.retired, retest = excluded.retest`,
    );
    body.variants.forEach((variant, ordinal) =>
      putVariant.run({
        ...variant,
        isReference: variant.isReference ? 1 : 0,
        levels: JSON.stringify(variant.levels ?? []),
        repeats: variant.repeats ?? USUAL_REPEATS,
        retired: variant.retired ? 1 : 0,
        retest: variant.retest ? JSON.stringify(variant.retest) : null,
        studyId,
        ordinal,
      }),
    );
  }
}
