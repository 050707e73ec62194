import type { Database } from 'better-sqlite3';
import { HIT_KINDS, type HitKind, type SearchHit } from '@red-ember/contract';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';

/** Letters without their marks, in small: what is typed in a hurry is found. */
export const folded = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Columns of every source: title, text, id, at; the study is `s`. */
const OF_STUDY: Record<Exclude<HitKind, 'instrument' | 'kept'>, string> = {
  study: `SELECT s.title AS title, s.question || ' ' || coalesce((SELECT group_concat(c.value ->> 'text', ' · ') FROM json_each(s.claims) c), '') AS text,
          '' AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle FROM study s`,
  part: `SELECT p.value ->> 'name' AS title, trim(coalesce(p.value ->> 'details', '') || ' ' || coalesce(p.value ->> 'serial', '')) AS text,
          '' AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle FROM study s, json_each(s.subjects) p`,
  variant: `SELECT v.name AS title, v.notes AS text, v.id AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle
          FROM variant v JOIN study s ON s.id = v.study_id`,
  fitted: `SELECT p.value ->> 'name' AS title, trim(coalesce(p.value ->> 'kind', '') || ' ' || coalesce(p.value ->> 'serial', '') || ' ' || coalesce(p.value ->> 'note', '') || ' ' || coalesce(p.value ->> 'tags', '')) AS text,
          '' AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle FROM study s, json_each(s.parts) p`,
  spot: `SELECT x.name AS title, trim(x.place || ' ' || x.sensor) AS text, x.id AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle
          FROM spot x JOIN study s ON s.id = x.study_id`,
  setting: `SELECT l.value ->> 'name' AS title, trim((l.value ->> 'value') || ' ' || coalesce(l.value ->> 'unit', '')) AS text,
          '' AS id, s.updated_at AS at, s.id AS studyId, s.title AS studyTitle FROM study s, json_each(s.locks) l`,
  mount: `SELECT 'Mount ' || m.number || ' of ' || v.name AS title, trim(m.note || ' ' || m.serial || ' ' || coalesce((SELECT group_concat(p.name, ' ') FROM mount_photo p WHERE p.mount_id = m.id), '')) AS text,
          m.id AS id, m.made_at AS at, s.id AS studyId, s.title AS studyTitle FROM mount m JOIN variant v ON v.id = m.variant_id JOIN study s ON s.id = m.study_id`,
  run: `SELECT 'Run ' || r.number || ', ' || v.name AS title, trim(r.source_name || ' ' || r.end_reason || ' ' || r.disposition_reason || ' ' || r.tags) AS text,
          r.id AS id, r.started_at AS at, s.id AS studyId, s.title AS studyTitle FROM run r JOIN variant v ON v.id = r.variant_id JOIN study s ON s.id = r.study_id`,
  note: `SELECT 'Run ' || r.number || ', ' || v.name AS title, e.text AS text, r.id AS id, e.at AS at, s.id AS studyId, s.title AS studyTitle
          FROM run_event e JOIN run r ON r.id = e.run_id JOIN variant v ON v.id = r.variant_id JOIN study s ON s.id = r.study_id`,
  survey: `SELECT y.body ->> 'name' AS title, coalesce((SELECT group_concat(g.value ->> 'name', ' · ') FROM json_each(y.body, '$.regions') g), '') AS text,
          y.id AS id, y.created_at AS at, s.id AS studyId, s.title AS studyTitle FROM survey y JOIN study s ON s.id = y.study_id AND y.deleted_at IS NULL`,
};
/** Of no study. */
const INSTRUMENT = `SELECT i.body ->> 'name' AS title, trim((i.body ->> 'kind') || ' ' || (i.body ->> 'serial') || ' ' || (i.body ->> 'notes') || ' ' ||
  coalesce((SELECT group_concat(c.value ->> 'name', ' · ') FROM json_each(i.body, '$.channels') c), '')) AS text, i.id AS id, i.updated_at AS at, '' AS studyId, '' AS studyTitle
  FROM instrument i WHERE i.deleted_at IS NULL`;

const KEPT = `SELECT k.body ->> '$.part.name' AS title, trim(coalesce(k.body ->> '$.part.kind', '') || ' ' || coalesce(k.body ->> '$.part.serial', '') || ' ' || coalesce(k.body ->> '$.part.note', '') || ' ' ||
  coalesce(k.body ->> '$.part.tags', '') || ' ' || coalesce((SELECT group_concat(p.name, ' ') FROM part_photo p WHERE p.part_id = k.id), '')) AS text, k.id AS id, k.updated_at AS at, '' AS studyId, '' AS studyTitle
  FROM kept_part k`;
const OF_THE_BENCH = { instrument: INSTRUMENT, kept: KEPT };

/** SQL that looks for words in everything that was written down. */
export class SearchStore {
  constructor(private readonly db: Database) {
    db.function('folded', { deterministic: true }, (text: unknown) => (typeof text === 'string' ? folded(text) : ''));
  }

  /**
   * Things in which every word stands, in their own text or in the title of their study, and at least one in their own.
   *
   * @param words folded
   * @param most of each kind, the newest
   * @returns of each kind up to one more than `most`
   */
  find(words: readonly string[], most: number): Map<HitKind, SearchHit[]> {
    const all = words.map((_, i) => `instr(own || ' ' || folded(studyTitle), $w${i}) > 0`).join(' AND ');
    const own = words.map((_, i) => `instr(own, $w${i}) > 0`).join(' OR ');
    const values = { ...Object.fromEntries(words.map((word, i) => [`w${i}`, word])), most: most + 1 };
    return new Map(
      HIT_KINDS.map((kind) => {
        const source = kind === 'instrument' || kind === 'kept' ? OF_THE_BENCH[kind] : `${OF_STUDY[kind]} WHERE ${ON_THE_SHELF}`;
        const rows = this.db
          .prepare(
            `SELECT title, text, id, at, studyId, studyTitle FROM (SELECT *, folded(title || ' ' || text) AS own FROM (${source}))
             WHERE ${all} AND (${own}) ORDER BY at DESC LIMIT $most`,
          )
          .all(values) as Omit<SearchHit, 'kind'>[];
        return [kind, rows.map((row): SearchHit => ({ kind, ...row }))];
      }),
    );
  }
}
