import type { Database } from 'better-sqlite3';
import { v7 as newId } from 'uuid';
import { renamed, withIds } from '../studies/ids.ts';
import type { StudyBody } from '@red-ember/contract';

const RUNS = "SELECT id FROM run WHERE study_id = $study AND state NOT IN ('waiting', 'recording')";
const MOUNTS = 'SELECT id FROM mount WHERE study_id = $study';
/** Instruments with a channel that a run or a spot of the study names. */
const INSTRUMENTS = `SELECT i.id FROM instrument i, json_each(i.body, '$.channels') c WHERE c.value ->> 'id' IN (
  SELECT instrument_channel_id FROM run_channel WHERE run_id IN (${RUNS})
  UNION SELECT instrument_channel_id FROM spot WHERE study_id = $study
  UNION SELECT room_channel_id FROM study WHERE id = $study)`;

/** Tables with rows of a study, after those that they refer to; of each, which rows. */
const TABLES = {
  instrument: `id IN (${INSTRUMENTS})`,
  calibration: `instrument_id IN (${INSTRUMENTS})`,
  study: 'id = $study',
  spot: 'study_id = $study',
  variant: 'study_id = $study',
  mount: 'study_id = $study',
  mount_photo: `mount_id IN (${MOUNTS})`,
  practice: 'study_id = $study',
  run: `id IN (${RUNS})`,
  run_channel: `run_id IN (${RUNS})`,
  run_phase: `run_id IN (${RUNS})`,
  run_event: `run_id IN (${RUNS})`,
  run_window: `run_id IN (${RUNS})`,
  run_correction: `run_id IN (${RUNS})`,
  sample_chunk: `run_id IN (${RUNS})`,
  hand_reading: `run_id IN (${RUNS})`,
  line_entry: `run_id IN (${RUNS})`,
  own_value: `run_id IN (${RUNS})`,
  survey: 'study_id = $study',
  history: `(entity = 'study' AND entity_id = $study) OR (entity = 'run' AND entity_id IN (${RUNS}))
    OR (entity = 'survey' AND entity_id IN (SELECT id FROM survey WHERE study_id = $study))`,
} as const;
type Table = keyof typeof TABLES;

/** Tables that belong to the bench and stay with it; what was read of runs is read anew. */
export const OF_THE_BENCH = [
  'component_limit',
  'import_mapping',
  'kept_part',
  'overview',
  'part_photo',
  'rehearsal',
  'review_cache',
  'signature',
];
export const OF_A_STUDY = Object.keys(TABLES) as Table[];

/** What a column names by its id, whichever table it stands in. */
const NAMES: Readonly<Record<string, 'study' | 'spot' | 'variant' | 'mount' | 'run'>> = {
  study_id: 'study',
  spot_id: 'spot',
  twin_of: 'spot',
  variant_id: 'variant',
  from_variant_id: 'variant',
  mount_id: 'mount',
  run_id: 'run',
};
/** Columns of JSON in which spots and variants are named by their fields. */
const JSON_COLUMNS: Partial<Record<Table, readonly string[]>> = {
  study: ['claims', 'predictions', 'plan', 'parts', 'steps', 'factors', 'judging'],
  variant: ['retest'],
  run: ['made_as', 'figures', 'preflight'],
};

type Row = Record<string, unknown> & { id: string };

const columnsOf = (db: Database, table: string) => (db.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name);

/** Copies the rows of a study from one database into another, each as it comes out of `as`; one without a row is left out. */
function copyRows(from: Database, to: Database, studyId: string, as: (table: Table, row: Row) => Row | null): void {
  for (const table of OF_A_STUDY) {
    const columns = columnsOf(to, table);
    const into = to.prepare(`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map((name) => `@${name}`).join(', ')})`);
    const rows = from.prepare(`SELECT ${columns.join(', ')} FROM ${table} WHERE ${TABLES[table]}`);
    for (const row of rows.iterate({ study: studyId })) {
      const made = as(table, row as Row);
      if (made) into.run(made);
    }
  }
}

/** Copies a study and everything that hangs on it, as they stand at one moment, into an empty bench; runs that go on stay behind. */
export function copyOut(bench: Database, studyId: string, to: Database): void {
  bench.transaction(() => to.transaction(() => copyRows(bench, to, studyId, (_table, row) => row))())();
}

/** Photographs of all mounts that there are. */
export function photographsIn(file: Database): { id: string; image: Buffer }[] {
  return file.prepare('SELECT id, image FROM mount_photo').all() as { id: string; image: Buffer }[];
}

function sidesRenamed(sides: string, variants: ReadonlyMap<string, string>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(JSON.parse(sides) as Record<string, string>).map(([side, id]) => [side, variants.get(id) ?? id]),
  );
}

/** The one study of a file. @returns null where there is none, or more than one */
export function onlyStudy(file: Database): string | null {
  const studies = file.prepare('SELECT id FROM study LIMIT 2').all() as { id: string }[];
  return studies.length === 1 ? studies[0]!.id : null;
}

/** SQL that takes a study of another bench into this one. */
export class StudyFileStore {
  constructor(private readonly db: Database) {}

  /** A study that is here already under that id, whatever has become of it since. */
  titleOf(studyId: string): string | null {
    return (this.db.prepare('SELECT title FROM study WHERE id = ?').get(studyId) as { title: string } | undefined)?.title ?? null;
  }

  /**
   * Copies the study of a file under ids of its own; the bench's own instruments and calibrations are taken for those of the same id.
   * All of it or nothing.
   *
   * @param sound looks at what has come in, and throws where it cannot stay
   * @returns the study's new id
   */
  copyIn(file: Database, studyId: string, at: string, sound: (id: string) => void): string {
    const ids = { study: new Map<string, string>(), spot: new Map(), variant: new Map(), mount: new Map(), run: new Map() } as Record<
      'study' | 'spot' | 'variant' | 'mount' | 'run',
      Map<string, string>
    >;
    for (const [table, map] of Object.entries(ids))
      for (const { id } of file.prepare(`SELECT id FROM ${table}`).all() as { id: string }[]) map.set(id, newId());
    const named = new Map([...ids.spot, ...ids.variant]);
    const as = (table: Table, row: Row): Row | null => {
      if (table === 'instrument' || table === 'calibration')
        return this.db.prepare(`SELECT 1 FROM ${table} WHERE id = ?`).get(row.id) ? null : row;
      const made: Row = { ...row };
      for (const [column, what] of Object.entries(NAMES)) if (typeof made[column] === 'string') made[column] = ids[what].get(made[column]) ?? null; // prettier-ignore
      if (table in ids) made.id = ids[table as keyof typeof ids].get(row.id)!;
      else if ('id' in row) made.id = newId();
      for (const column of JSON_COLUMNS[table] ?? [])
        if (typeof made[column] === 'string') made[column] = JSON.stringify(renamed(JSON.parse(made[column]), named));
      // The sides of a try are named by their places in it.
      if (table === 'practice') made.sides = JSON.stringify(sidesRenamed(row.sides as string, ids.variant));
      if (table === 'study') Object.assign(made, { version: 1, updated_at: at, deleted_at: null });
      if (table === 'history') {
        // What another study's camera picture said before is of no use under another id.
        if (row.entity === 'survey') return null;
        made.entity_id = ids[row.entity as 'study' | 'run'].get(row.entity_id as string)!;
        const before = JSON.parse(row.before as string) as StudyBody | null;
        made.before = JSON.stringify(row.entity === 'study' && before ? withIds(before, named) : renamed(before, named));
      }
      return made;
    };
    return this.db.transaction(() => {
      copyRows(file, this.db, studyId, as);
      const id = ids.study.get(studyId)!;
      sound(id);
      return id;
    })();
  }
}
