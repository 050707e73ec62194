import type { LogPhaseBody } from '@red-ember/contract';
import { ON_THE_SHELF } from '../database/onTheShelf.ts';
import type { MadeAs } from '@red-ember/study';
import type { Database } from 'better-sqlite3';
import { HandStore } from './handStore.ts';
import { v7 as newId } from 'uuid';
import type { ArmedLimit, ChosenWindow, Disposition, GivenFigures, OwnValue, RecipePhase } from '@red-ember/core';
import type {
  ChannelRole,
  Run,
  EarlierDecision,
  RunOfBench,
  RunChannel,
  RunEvent,
  RunPhaseRecord,
  RunPurpose,
  RunState,
  VanishChoice,
  PreflightRecord,
} from '@red-ember/contract';

interface RunRow {
  id: string;
  study_id: string;
  variant_id: string;
  mount_id: string | null;
  mount_number: number | null;
  number: number;
  source: 'rig' | 'file';
  source_name: string;
  purpose: RunPurpose;
  state: RunState;
  started_at: string;
  start_known: number;
  ended_at: string | null;
  length_ms: number;
  time_scale: number;
  disposition: Disposition;
  disposition_reason: string;
  disposition_by: string;
  tags: string;
  end_reason: string;
  settings: string;
  confirmed_locks: string;
  recipe: string;
  armed: string;
  seed: number;
  last_seq: number;
  faults: string;
  on_vanish: VanishChoice;
  preflight: string | null;
  figures: string | null;
  made_as: string | null;
}

export interface StoredChannel extends RunChannel {
  sensor: string;
  /** Channel of the bench's instruments that read it; null where none was written down. */
  instrumentChannelId: string | null;
}

/** A channel that is written down for the first time: its numbers are what they were taken for. */
export type NewChannel = Omit<StoredChannel, 'readAs' | 'head'> & { head?: string };

export interface NewRun {
  studyId: string;
  variantId: string;
  mountId: string | null;
  source: 'rig' | 'file';
  /** A rig that makes its readings up; none where nothing is said. */
  simulated?: boolean;
  sourceName: string;
  /** A measurement where nothing is said. */
  purpose?: RunPurpose;
  state: RunState;
  startedAt: string;
  /** It is where nothing is said; else `startedAt` is when it was put down. */
  startKnown?: boolean;
  timeScale: number;
  settings: Record<string, string>;
  madeAs?: MadeAs;
  confirmedLocks: string[];
  recipe: RecipePhase[];
  armed: ArmedLimit[];
  seed: number;
  channels: NewChannel[];
  faults?: string[];
  onVanish?: VanishChoice;
  preflight?: PreflightRecord | null;
  /** Of a file: the same for the same readings. */
  content?: string;
  /** Of a table of figures. */
  figures?: GivenFigures;
}

/** What the conductor needs of a run besides what is shown. */
export interface RunPlan {
  recipe: RecipePhase[];
  armed: ArmedLimit[];
  seed: number;
  lastSeq: number;
}

const SELECT = 'SELECT r.*, m.number AS mount_number FROM run r LEFT JOIN mount m ON m.id = r.mount_id';

/** What runs come from, as far as one may say something of another: a log, a rig, or a bench that makes its readings up. */
export type RunKind = 'file' | 'simulated' | 'rig';
const KIND = "CASE WHEN r.source = 'file' THEN 'file' WHEN r.simulated THEN 'simulated' ELSE 'rig' END";

/** SQL for runs, their channels, phases and events. */
export class RunStore {
  constructor(
    private readonly db: Database,
    private readonly hand: HandStore = new HandStore(db),
  ) {}

  /** Runs several writes as one. */
  atomically<T>(work: () => T): T {
    return this.db.transaction(work)();
  }

  ofStudy(studyId: string): Run[] {
    return (this.db.prepare(`${SELECT} WHERE r.study_id = ? ORDER BY r.number`).all(studyId) as RunRow[]).map((row) => this.toRun(row));
  }

  /** Runs that may enter a result: checks of the seat are none. */
  measured(studyId: string): Run[] {
    return this.ofStudy(studyId).filter((run) => run.purpose === 'measure');
  }

  find(id: string): Run | null {
    const row = this.db.prepare(`${SELECT} JOIN study s ON s.id = r.study_id WHERE r.id = ? AND s.deleted_at IS NULL`).get(id) as
      RunRow | undefined;
    return row ? this.toRun(row) : null;
  }

  plan(id: string): RunPlan | null {
    const row = this.db.prepare('SELECT recipe, armed, seed, last_seq FROM run WHERE id = ?').get(id) as
      Pick<RunRow, 'recipe' | 'armed' | 'seed' | 'last_seq'> | undefined;
    return row
      ? {
          recipe: JSON.parse(row.recipe) as RecipePhase[],
          armed: JSON.parse(row.armed) as ArmedLimit[],
          seed: row.seed,
          lastSeq: row.last_seq,
        }
      : null;
  }

  /** A run that was made of the same readings, as a sentence names it; null where there is none. */
  ofContent(content: string): string | null {
    const row = this.db
      .prepare(
        `SELECT r.number, r.source_name AS name, s.title FROM run r JOIN study s ON s.id = r.study_id
         WHERE r.content = ? AND s.deleted_at IS NULL ORDER BY r.started_at LIMIT 1`,
      )
      .get(content) as { number: number; name: string; title: string } | undefined;
    return row ? `run ${row.number} of ${row.title} (${row.name})` : null;
  }

  /** Runs that were going on when the server last stopped. */
  unfinished(): string[] {
    return (this.db.prepare("SELECT id FROM run WHERE state IN ('waiting', 'recording')").all() as { id: string }[]).map((row) => row.id);
  }

  /**
   * Changes whenever a result could: a run that ended, a change that the history keeps, a channel, a calibration, a hand reading, a
   * study put away. Samples that come in while a run goes on do not change it.
   */
  resultsStamp(): string {
    const row = this.db
      .prepare(
        `SELECT (SELECT count(*) FROM history) AS a, (SELECT count(*) FROM run WHERE ended_at IS NOT NULL) AS b,
                (SELECT count(*) FROM run_channel) AS c, (SELECT count(*) FROM hand_reading WHERE removed_at IS NULL) AS d,
                (SELECT count(*) || coalesce(max(applied_at), '') FROM run_correction) AS e, (SELECT count(*) FROM study WHERE deleted_at IS NULL) AS f,
                (SELECT total(version) FROM study) AS g`,
      )
      .get() as Record<string, number>;
    return Object.values(row).join(' ');
  }

  /**
   * Runs of other studies with the same family, for the bench's history: of the kinds that the study's own runs are of, so that a simulated bench says
   * nothing of a real one. Practice lends none and is lent none. A run is there once, however many studies hold it: one that was read in from a study's
   * file is the same run.
   */
  otherStudies(studyId: string): { studyId: string; runId: string; variantId: string }[] {
    const once = "r.started_at || ' ' || r.length_ms || ' ' || r.source_name";
    return this.db
      .prepare(
        `SELECT r.study_id AS studyId, min(r.id) AS runId, r.variant_id AS variantId FROM run r JOIN study s ON s.id = r.study_id
         WHERE r.study_id <> $study AND s.deleted_at IS NULL AND r.state = 'finished' AND r.disposition <> 'reject' AND r.purpose = 'measure'
           AND s.family = (SELECT family FROM study WHERE id = $study)
           AND ${KIND} IN (SELECT value FROM json_each($kinds))
           AND NOT EXISTS (SELECT 1 FROM practice p WHERE p.study_id IN (s.id, $study))
           AND ${once} NOT IN (SELECT ${once} FROM run r WHERE r.study_id = $study)
         GROUP BY ${once} ORDER BY r.rowid`,
      )
      .all({ study: studyId, kinds: JSON.stringify(this.kindsOf(studyId)) }) as { studyId: string; runId: string; variantId: string }[];
  }

  /** @param id of a run that is there */
  kindOf(id: string): RunKind {
    return (this.db.prepare(`SELECT ${KIND} AS kind FROM run r WHERE r.id = ?`).get(id) as { kind: RunKind }).kind;
  }

  /** Kinds of the study's runs; of one without runs those that it is set up for. */
  kindsOf(studyId: string): RunKind[] {
    const own = this.db
      .prepare(`SELECT DISTINCT ${KIND} AS kind FROM run r WHERE r.study_id = ? AND r.purpose = 'measure'`)
      .all(studyId) as {
      kind: RunKind;
    }[];
    if (own.length > 0) return own.map(({ kind }) => kind);
    const setUp = this.db.prepare("SELECT 1 FROM variant WHERE study_id = ? AND setup <> '' LIMIT 1").get(studyId);
    return setUp ? ['simulated'] : ['file', 'rig'];
  }

  /** Every run of every study that is not put away, the newest first, with what it is looked for by. */
  ofBench(): RunOfBench[] {
    return this.db
      .prepare(
        `SELECT r.id, r.number, r.study_id AS studyId, s.title AS studyTitle, s.family,
                coalesce((SELECT part.value ->> 'name' FROM json_each(s.subjects) AS part WHERE part.value ->> 'id' = v.subject_id), '') AS part,
                v.name AS variant, m.number AS mountNumber, r.source, r.source_name AS sourceName, r.purpose, r.state,
                r.started_at AS startedAt, r.start_known AS startKnown, r.length_ms / 1000.0 AS lengthS, r.disposition, r.disposition_by AS dispositionBy, r.tags
         FROM run r JOIN study s ON s.id = r.study_id JOIN variant v ON v.id = r.variant_id LEFT JOIN mount m ON m.id = r.mount_id
         WHERE ${ON_THE_SHELF} ORDER BY r.started_at DESC, r.number DESC`,
      )
      .all()
      .map((row) => ({ ...(row as RunOfBench), startKnown: (row as { startKnown: number }).startKnown === 1 }));
  }

  /** Every run of the bench that was made to be measured, the newest first. */
  everMeasured(): string[] {
    const rows = this.db
      .prepare(
        `SELECT r.id FROM run r JOIN study s ON s.id = r.study_id
         WHERE s.deleted_at IS NULL AND r.purpose = 'measure' ORDER BY r.started_at DESC`,
      )
      .all() as { id: string }[];
    return rows.map(({ id }) => id);
  }

  insert(run: NewRun, id: string = newId()): string {
    this.atomically(() => {
      this.db
        .prepare(
          `INSERT INTO run (id, study_id, variant_id, mount_id, number, source, source_name, simulated, purpose, state, started_at, start_known, length_ms, time_scale, disposition, disposition_reason, end_reason, settings, confirmed_locks, recipe, armed, seed, last_seq, faults, on_vanish, preflight, content, figures, made_as)
           VALUES (@id, @studyId, @variantId, @mountId, (SELECT coalesce(max(number), 0) + 1 FROM run WHERE study_id = @studyId), @source, @sourceName, @simulated, @purpose, @state, @startedAt, @startKnown, 0, @timeScale, 'undecided', '', '', @settings, @confirmedLocks, @recipe, @armed, @seed, 0, @faults, @onVanish, @preflight, @content, @figures, @madeAs)`,
        )
        .run({
          id,
          studyId: run.studyId,
          variantId: run.variantId,
          mountId: run.mountId,
          source: run.source,
          sourceName: run.sourceName,
          simulated: run.simulated ? 1 : 0,
          purpose: run.purpose ?? 'measure',
          state: run.state,
          startedAt: run.startedAt,
          startKnown: run.startKnown === false ? 0 : 1,
          timeScale: run.timeScale,
          settings: JSON.stringify(run.settings),
          madeAs: run.madeAs ? JSON.stringify(run.madeAs) : null,
          confirmedLocks: JSON.stringify(run.confirmedLocks),
          recipe: JSON.stringify(run.recipe),
          armed: JSON.stringify(run.armed),
          seed: run.seed,
          faults: JSON.stringify(run.faults ?? []),
          onVanish: run.onVanish ?? 'cut-out',
          preflight: run.preflight ? JSON.stringify(run.preflight) : null,
          content: run.content ?? null,
          figures: run.figures ? JSON.stringify(run.figures) : null,
        });
      this.addChannels(id, run.channels);
    });
    return id;
  }

  /** Channels after those that are there already. */
  addChannels(id: string, channels: readonly (NewChannel & Partial<StoredChannel>)[]): void {
    const from = (this.db.prepare('SELECT count(*) AS n FROM run_channel WHERE run_id = ?').get(id) as { n: number }).n;
    const put = this.db.prepare(
      'INSERT INTO run_channel (run_id, ordinal, key, role, spot_id, unit, sensor, instrument_channel_id, read_as, head) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
    );
    channels.forEach(({ key, role, spotId, unit, sensor, instrumentChannelId, readAs = 'as-is', head = '' }, i) =>
      put.run(id, from + i, key, role, spotId, unit, sensor, instrumentChannelId, readAs, head),
    );
  }

  /** Channels in the place of those that are there. */
  private setChannels(id: string, channels: readonly StoredChannel[]): void {
    this.db.prepare('DELETE FROM run_channel WHERE run_id = ?').run(id);
    this.addChannels(id, channels);
  }

  setState(id: string, state: RunState, endedAt: string | null, endReason: string): void {
    this.db.prepare('UPDATE run SET state = ?, ended_at = ?, end_reason = ? WHERE id = ?').run(state, endedAt, endReason, id);
  }

  setProgress(id: string, lastSeq: number, lengthMs: number): void {
    this.db.prepare('UPDATE run SET last_seq = max(last_seq, ?), length_ms = max(length_ms, ?) WHERE id = ?').run(lastSeq, lengthMs, id);
  }

  /** @param by initials of whoever decided it */
  setDisposition(id: string, disposition: Disposition, reason: string, at: string, by = ''): void {
    this.atomically(() => {
      const before = this.db
        .prepare('SELECT disposition, disposition_reason AS reason, disposition_by AS "by" FROM run WHERE id = ?')
        .get(id);
      this.db
        .prepare('INSERT INTO history (id, entity, entity_id, at, before) VALUES (?, ?, ?, ?, ?)')
        .run(newId(), 'run', id, at, JSON.stringify(before));
      this.db
        .prepare('UPDATE run SET disposition = ?, disposition_reason = ?, disposition_by = ? WHERE id = ?')
        .run(disposition, reason, by, id);
    });
  }

  setTags(id: string, tags: string): void {
    this.db.prepare('UPDATE run SET tags = ? WHERE id = ?').run(tags, id);
  }

  /** Puts a chosen window for a phase, or takes it back; what stood before is kept in the history. */
  setWindow(id: string, phase: number, window: { startS: number; endS: number } | null, at: string): void {
    this.atomically(() => {
      this.db
        .prepare('INSERT INTO history (id, entity, entity_id, at, before) VALUES (?, ?, ?, ?, ?)')
        .run(newId(), 'run', id, at, JSON.stringify({ windows: this.windows(id) }));
      this.db.prepare('DELETE FROM run_window WHERE run_id = ? AND phase = ?').run(id, phase);
      if (window)
        this.db
          .prepare('INSERT INTO run_window (run_id, phase, start_ms, end_ms) VALUES (?, ?, ?, ?)')
          .run(id, phase, Math.round(1000 * window.startS), Math.round(1000 * window.endS));
    });
  }

  private windows(id: string): ChosenWindow[] {
    return this.db
      .prepare('SELECT phase, start_ms / 1000.0 AS startS, end_ms / 1000.0 AS endS FROM run_window WHERE run_id = ? ORDER BY phase')
      .all(id) as ChosenWindow[];
  }

  /** The phases that it goes through from now on; what it has been through stands in its own records. */
  setRecipe(id: string, recipe: readonly RecipePhase[]): void {
    this.db.prepare('UPDATE run SET recipe = ? WHERE id = ?').run(JSON.stringify(recipe), id);
  }

  /** The phases of a run that was recorded elsewhere, in place of any that are there. */
  setPhases(id: string, phases: readonly LogPhaseBody[]): void {
    this.db.prepare('DELETE FROM run_phase WHERE run_id = ?').run(id);
    phases.forEach((phase, i) => {
      this.startPhase(id, i, { kind: phase.kind === 'change' ? 'load' : phase.kind, name: phase.name }, Math.round(phase.startS * 1000));
      this.endPhase(id, i, Math.round(phase.endS * 1000), 'file');
    });
  }

  /** Puts right what is written down of a run; what stood before is kept in the history. */
  putRight(
    id: string,
    facts: {
      variantId: string;
      mountId: string | null;
      startedAt: string;
      startKnown: boolean;
      phases: readonly LogPhaseBody[] | null;
      madeAs: MadeAs | null;
      channels: readonly StoredChannel[];
      settings: Record<string, string>;
    },
    at: string,
  ): void {
    this.atomically(() => {
      const before = this.db
        .prepare('SELECT variant_id, mount_id, started_at, start_known, made_as, settings FROM run WHERE id = ?')
        .get(id);
      const phases = this.db.prepare('SELECT kind, name, start_ms, end_ms FROM run_phase WHERE run_id = ? ORDER BY ordinal').all(id);
      this.db
        .prepare('INSERT INTO history (id, entity, entity_id, at, before) VALUES (?, ?, ?, ?, ?)')
        .run(newId(), 'run', id, at, JSON.stringify({ facts: before, phases, windows: this.windows(id), channels: this.channels(id) }));
      this.db
        .prepare('UPDATE run SET variant_id = ?, mount_id = ?, started_at = ?, start_known = ?, made_as = ?, settings = ? WHERE id = ?')
        .run(
          facts.variantId,
          facts.mountId,
          facts.startedAt,
          facts.startKnown ? 1 : 0,
          facts.madeAs === null ? null : JSON.stringify(facts.madeAs),
          JSON.stringify(facts.settings),
          id,
        );
      this.setChannels(id, facts.channels);
      if (facts.phases === null) return;
      // Windows were chosen within phases that are no more.
      this.db.prepare('DELETE FROM run_window WHERE run_id = ?').run(id);
      this.setPhases(id, facts.phases);
    });
  }

  private ownValues(id: string): Run['own'] {
    const rows = this.db
      .prepare('SELECT figure_id AS figureId, load, value, at FROM own_value WHERE run_id = ? ORDER BY figure_id, load')
      .all(id);
    return (rows as (OwnValue & { load: string; at: string })[]).map((row) => ({ ...row, load: row.load === '' ? null : row.load }));
  }

  /** Puts values in the place of all that were typed; those that stay as they were keep their time. */
  setOwnValues(id: string, values: readonly OwnValue[], at: string): void {
    this.atomically(() => {
      const before = this.ownValues(id);
      this.db.prepare('DELETE FROM own_value WHERE run_id = ?').run(id);
      const insert = this.db.prepare('INSERT INTO own_value (run_id, figure_id, load, value, at) VALUES (?, ?, ?, ?, ?)');
      for (const { figureId, load, value } of values) {
        const was = before.find((old) => old.figureId === figureId && old.load === load && old.value === value);
        insert.run(id, figureId, load ?? '', value, was?.at ?? at);
      }
      this.db
        .prepare('INSERT INTO history (id, entity, entity_id, at, before) VALUES (?, ?, ?, ?, ?)')
        .run(newId(), 'run', id, at, JSON.stringify({ own: before }));
    });
  }

  startPhase(id: string, ordinal: number, phase: { kind: string; name: string }, startMs: number): void {
    this.db
      .prepare('INSERT INTO run_phase (run_id, ordinal, kind, name, start_ms) VALUES (?, ?, ?, ?, ?)')
      .run(id, ordinal, phase.kind, phase.name, startMs);
  }

  endPhase(id: string, ordinal: number, endMs: number, endedBy: string): void {
    this.db
      .prepare('UPDATE run_phase SET end_ms = ?, ended_by = ? WHERE run_id = ? AND ordinal = ? AND end_ms IS NULL')
      .run(endMs, endedBy, id, ordinal);
  }

  /** @param linkId id that the rig gave the event: one that it says again is written once */
  addEvent(id: string, atMs: number, at: string, kind: string, text: string, linkId?: string): void {
    this.db
      .prepare('INSERT OR IGNORE INTO run_event (id, run_id, at_ms, at, kind, text) VALUES (?, ?, ?, ?, ?, ?)')
      .run(linkId === undefined ? newId() : `${id} rig ${linkId}`, id, atMs, at, kind, text);
  }

  /** Takes a mark out of a run; what it was is kept in the history. */
  removeEvent(id: string, event: RunEvent, at: string): void {
    this.atomically(() => {
      this.db
        .prepare('INSERT INTO history (id, entity, entity_id, at, before) VALUES (?, ?, ?, ?, ?)')
        .run(newId(), 'run', id, at, JSON.stringify({ event }));
      this.db.prepare('DELETE FROM run_event WHERE run_id = ? AND id = ?').run(id, event.id);
    });
  }

  /** Whether an event that the rig gave this id is written already. */
  hasLinkEvent(id: string, linkId: string): boolean {
    return this.db.prepare('SELECT 1 FROM run_event WHERE id = ?').get(`${id} rig ${linkId}`) !== undefined;
  }

  channels(runId: string): StoredChannel[] {
    return this.db
      .prepare(
        `SELECT key, role, spot_id AS spotId, unit, sensor, instrument_channel_id AS instrumentChannelId, read_as AS readAs, head
         FROM run_channel WHERE run_id = ? ORDER BY ordinal`,
      )
      .all(runId) as (StoredChannel & { role: ChannelRole })[];
  }

  /** Decisions that were made about a run before the one that stands. */
  private earlier(id: string): EarlierDecision[] {
    return this.db
      .prepare(
        `SELECT at AS until, before ->> 'disposition' AS disposition, coalesce(before ->> 'reason', '') AS reason, coalesce(before ->> 'by', '') AS "by"
         FROM history WHERE entity = 'run' AND entity_id = ? AND before ->> 'disposition' <> 'undecided' ORDER BY at DESC, id DESC LIMIT 20`,
      )
      .all(id) as EarlierDecision[];
  }

  private toRun(row: RunRow): Run {
    const phases = this.db
      .prepare('SELECT kind, name, start_ms, end_ms, ended_by FROM run_phase WHERE run_id = ? ORDER BY ordinal')
      .all(row.id) as { kind: RunPhaseRecord['kind']; name: string; start_ms: number; end_ms: number | null; ended_by: string | null }[];
    const events = this.db.prepare('SELECT id, at_ms, at, kind, text FROM run_event WHERE run_id = ? ORDER BY at_ms, id').all(row.id) as {
      id: string;
      at_ms: number;
      at: string;
      kind: string;
      text: string;
    }[];
    return {
      id: row.id,
      studyId: row.study_id,
      variantId: row.variant_id,
      mountId: row.mount_id,
      mountNumber: row.mount_number,
      number: row.number,
      source: row.source,
      sourceName: row.source_name,
      purpose: row.purpose,
      state: row.state,
      startedAt: row.started_at,
      startKnown: row.start_known === 1,
      endedAt: row.ended_at,
      lengthS: row.length_ms / 1000,
      timeScale: row.time_scale,
      disposition: row.disposition,
      dispositionReason: row.disposition_reason,
      dispositionBy: row.disposition_by,
      tags: row.tags,
      earlier: this.earlier(row.id),
      endReason: row.end_reason,
      settings: JSON.parse(row.settings) as Record<string, string>,
      madeAs: row.made_as === null ? null : (JSON.parse(row.made_as) as MadeAs),
      confirmedLocks: JSON.parse(row.confirmed_locks) as string[],
      channels: this.channels(row.id).map(({ key, role, spotId, unit, readAs, head }) => ({ key, role, spotId, unit, readAs, head })),
      recipe: JSON.parse(row.recipe) as RecipePhase[],
      phases: phases.map((phase) => ({
        kind: phase.kind,
        name: phase.name,
        startS: phase.start_ms / 1000,
        endS: phase.end_ms === null ? null : phase.end_ms / 1000,
        endedBy: phase.ended_by,
      })),
      events: events.map((event): RunEvent => ({
        id: event.id,
        atS: event.at_ms / 1000,
        at: event.at,
        kind: event.kind,
        text: event.text,
      })),
      handReadings: this.hand.ofRun(row.id),
      faults: JSON.parse(row.faults) as string[],
      onVanish: row.on_vanish,
      own: this.ownValues(row.id),
      windows: this.windows(row.id),
      preflight: row.preflight === null ? null : (JSON.parse(row.preflight) as PreflightRecord),
      figures: row.figures === null ? null : (JSON.parse(row.figures) as GivenFigures),
    };
  }
}
