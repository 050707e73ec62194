import type { Database } from 'better-sqlite3';
import type { Normal } from '@red-ember/core';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';

/** What is normal so far into a load. */
export interface NormalAfter {
  loadS: number;
  /** A spot goes by its name, which it has in another study as well. */
  normals: Normal[];
}

interface KnownNormal {
  /** Clean runs that it rests on, by their numbers in their study. */
  of: number[];
  /** The shortest load first. */
  after: NormalAfter[];
}

/** One version of what is normal of a set-up. */
export interface KeptSignature extends KnownNormal {
  version: number;
  madeAt: string;
  /** When the last run began that it rests on, ISO. */
  measuredAt: string;
  study: { id: string; title: string };
  restsOn: string;
}

interface Row {
  version: number;
  madeAt: string;
  measuredAt: string;
  studyId: string;
  studyTitle: string;
  restsOn: string;
  body: string;
}

const FIELDS =
  'version, made_at AS madeAt, measured_at AS measuredAt, study_id AS studyId, study_title AS studyTitle, rests_on AS restsOn, body';
const kept = ({ version, madeAt, measuredAt, studyId, studyTitle, restsOn, body }: Row): KeptSignature => ({
  ...(JSON.parse(body) as KnownNormal),
  version,
  madeAt,
  measuredAt,
  study: { id: studyId, title: studyTitle },
  restsOn,
});

/** A part that stands in hundreds of studies is known well from the newest of them. */
const MOST_ABOUT = 40;

/** SQL for what is normal of parts and set-ups, version after version. */
export class SignatureStore {
  constructor(private readonly db: Database) {}

  /** Every version of a set-up, the newest first. */
  versions(setUp: string): KeptSignature[] {
    const rows = this.db.prepare(`SELECT ${FIELDS} FROM signature WHERE set_up = ? ORDER BY version DESC`).all(setUp) as Row[];
    return rows.map(kept);
  }

  /** Numbered after the last one. */
  insert(setUp: string, { study, madeAt, measuredAt, restsOn, ...known }: Omit<KeptSignature, 'version'>): void {
    this.db
      .prepare(
        `INSERT INTO signature (set_up, version, made_at, measured_at, study_id, study_title, rests_on, body)
         SELECT @setUp, 1 + coalesce(max(version), 0), @madeAt, @measuredAt, @studyId, @studyTitle, @restsOn, @body
           FROM signature WHERE set_up = @setUp`,
      )
      .run({ setUp, madeAt, measuredAt, studyId: study.id, studyTitle: study.title, restsOn, body: JSON.stringify(known) });
  }

  isOnTheShelf(studyId: string): boolean {
    return this.db.prepare(`SELECT 1 FROM study s WHERE s.id = ? AND ${ON_THE_SHELF}`).get(studyId) !== undefined;
  }

  /** Studies on the shelf with runs in which a part of this name is written down, that which was measured last first; no more than are looked through. */
  studiesAbout(partName: string): string[] {
    const rows = this.db
      .prepare(
        `SELECT s.id FROM study s WHERE ${ON_THE_SHELF}
            AND EXISTS (SELECT 1 FROM json_each(s.subjects) part WHERE lower(trim(part.value ->> 'name')) = lower(trim(?)))
            AND EXISTS (SELECT 1 FROM run r WHERE r.study_id = s.id)
          ORDER BY (SELECT max(r.started_at) FROM run r WHERE r.study_id = s.id) DESC, s.id LIMIT ${MOST_ABOUT}`,
      )
      .all(partName) as { id: string }[];
    return rows.map(({ id }) => id);
  }
}
