import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import SQLite, { type Database } from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { blankStudy } from '@red-ember/study';
import { createServices } from '../services.ts';
import { listMigrations } from './migrate.ts';
import { openDatabase } from './open.ts';

const folders: string[] = [];
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true, force: true })));

const AT = '2026-01-01T00:00:00.000Z';
const blank = blankStudy('Old study', 'card');
const json = JSON.stringify;

/** What stood in a bench's tables, by table and column, under every schema it has had; a version takes what it knows. */
const ROWS: [string, Record<string, unknown>][] = [
  [
    'study',
    {
      id: 's1',
      title: 'Old study',
      family: 'card',
      question: 'Does it help?',
      claim: json({ text: 'It cools', spotId: 'sp', direction: 'cooler', leastEffectK: 1 }),
      claims: json([
        { id: 'c1', text: 'It cools', outcome: 'temperature', spotId: 'sp', direction: 'cooler', leastEffect: 1, variantId: null },
      ]),
      rules: json(blank.rules),
      enclosure: json(blank.enclosure),
      subject: json({ name: 'Wren 8', details: '' }),
      subjects: json([{ id: 'part-1', name: 'Wren 8', details: '', drive: null, map: null }]),
      recipe: json(blank.recipe),
      settings: json([{ name: 'Driver', value: '4.1' }]),
      locks: json([{ name: 'Driver', value: '4.1', unit: '', tolerance: null, channel: '', overrides: [] }]),
      version: 3,
      created_at: AT,
      updated_at: AT,
    },
  ],
  [
    'spot',
    {
      id: 'sp',
      study_id: 's1',
      ordinal: 0,
      name: 'Chip',
      place: '',
      component_class: 'graphics core',
      limit_c: 95,
      limit_source: 'data sheet',
      cut_out_c: 100,
      cut_out_hold_s: 5,
      channel: 'die',
      sensor: 'die',
      accuracy_k: 1,
      resolution_k: 1,
    },
  ],
  ['variant', { id: 'va', study_id: 's1', ordinal: 0, name: 'bare', is_reference: 1, setup: '', notes: '', subject_id: 'part-1' }],
  ['mount', { id: 'm1', study_id: 's1', variant_id: 'va', number: 1, made_at: AT, confirmed: '[]', note: '', seed: 7 }],
  [
    'run',
    {
      id: 'r1',
      study_id: 's1',
      variant_id: 'va',
      mount_id: 'm1',
      number: 1,
      source: 'rig',
      source_name: 'bench-2',
      state: 'finished',
      started_at: AT,
      ended_at: AT,
      length_ms: 60_000,
      time_scale: 1,
      disposition: 'use',
      disposition_reason: '',
      end_reason: '',
      settings: json({ Driver: '4.1' }),
      recipe: json(blank.recipe),
      armed: '[]',
      seed: 5,
      last_seq: 1,
    },
  ],
  ['run_channel', { run_id: 'r1', ordinal: 0, key: 'die', role: 'spot', spot_id: 'sp', unit: '°C', sensor: 'die' }],
  ['run_channel', { run_id: 'r1', ordinal: 1, key: 'room', role: 'room', spot_id: null, unit: '°C', sensor: 'room' }],
  ['run_channel', { run_id: 'r1', ordinal: 2, key: 'fan', role: 'fan', spot_id: null, unit: '1/min', sensor: 'fan' }],
  ['run_channel', { run_id: 'r1', ordinal: 3, key: 'duty', role: 'held', spot_id: null, unit: '%', sensor: 'duty' }],
  ['run_channel', { run_id: 'r1', ordinal: 4, key: 'front', role: 'held', spot_id: null, unit: '', sensor: 'front' }],
  ['run_phase', { run_id: 'r1', ordinal: 0, kind: 'load', name: 'Load', start_ms: 0, end_ms: 60_000, ended_by: 'time' }],
  ['run_event', { id: 'e1', run_id: 'r1', at_ms: 1000, at: AT, kind: 'note', text: 'hello' }],
  ['history', { id: 'h1', entity: 'study', entity_id: 's1', at: AT, before: 'null' }],
  [
    'instrument',
    {
      id: 'i1',
      body: json({
        name: 'Meter',
        kind: 'other',
        serial: '',
        notes: '',
        channels: [
          { id: 'i1-a', name: 'Tacho', quantity: 'fan speed' },
          { id: 'i1-b', name: 'Ear', quantity: 'sound level' },
        ],
      }),
      version: 1,
      updated_at: AT,
    },
  ],
  ['component_limit', { component_class: 'memory', body: json({}), version: 1, updated_at: AT }],
  [
    'import_mapping',
    {
      signature: '["t","duty"]',
      body: json({ timeColumn: 0, timeFormat: 'elapsed-s', columns: [{ column: 1, role: 'held', lockName: 'Fan duty', spotName: null }] }),
      used_at: AT,
    },
  ],
  ['hand_reading', { id: 'hr', run_id: 'r1', spot_id: 'sp', at_ms: 5000, at: AT, value_c: 55, typed: '55' }],
  ['run_window', { run_id: 'r1', phase: 0, start_ms: 0, end_ms: 60_000 }],
];

/** A database as a product of that schema version left it, with a row in every table that it had. */
function madeBy(version: number): string {
  const path = mkdtempSync(join(tmpdir(), 'red-ember-old-'));
  folders.push(path);
  const db: Database = new SQLite(join(path, 'bench.sqlite'));
  for (const migration of listMigrations().filter((candidate) => candidate.version <= version))
    db.exec(readFileSync(migration.file, 'utf8'));
  db.pragma(`user_version = ${version}`);
  const current = version >= 8;
  for (const [table, row] of ROWS) {
    const known = (db.pragma(`table_info(${table})`) as { name: string }[]).map((column) => column.name);
    const columns = Object.keys(row).filter((name) => known.includes(name));
    if (known.length === 0) continue;
    const value = (name: string) => (current && row[name] === 'held' ? 'beside' : row[name]);
    db.prepare(`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`).run(...columns.map(value));
  }
  db.close();
  return path;
}

const newest = listMigrations().at(-1)!.version;

describe('data of every schema that there has been', () => {
  it.each(Array.from({ length: newest }, (_, i) => i + 1))(
    'version %i is brought to the newest with its rows, and can be read',
    (version) => {
      const path = madeBy(version);
      const db = openDatabase(path);
      const services = createServices(db, path, () => {});
      expect(db.pragma('user_version', { simple: true })).toBe(newest);
      expect(db.pragma('foreign_key_check')).toEqual([]);
      expect(services.studies.get('s1')).toMatchObject({
        title: 'Old study',
        claims: [{ text: 'It cools', spotId: 'sp', leastEffect: 1 }],
        subjects: [{ id: 'part-1', name: 'Wren 8' }],
        locks: [{ name: 'Driver', value: '4.1' }],
        spots: [{ id: 'sp', limitC: 95 }],
        variants: [{ id: 'va', name: 'bare' }],
      });
      const run = services.runs.get('r1');
      expect(run).toMatchObject({
        state: 'finished',
        mountNumber: 1,
        disposition: 'use',
        phases: [{ name: 'Load' }],
        events: [{ text: 'hello' }],
      });
      if (version < 8)
        expect(run.channels.map(({ key, role, unit }) => [key, role, unit])).toEqual([
          ['die', 'spot', '°C'],
          ['room', 'room', '°C'],
          ['fan', 'fan', 'rpm'],
          ['duty', 'duty', '%'],
          ['front', 'beside', ''],
        ]);
      expect(run.handReadings).toHaveLength(version >= 6 ? 1 : 0);
      expect(run.windows).toHaveLength(version >= 7 ? 1 : 0);
      expect(services.studies.history('s1')).toHaveLength(1);
      if (version >= 2 && version < 8)
        expect(services.instruments.list()[0]!.channels.map((channel) => channel.quantity)).toEqual(['rotation', 'level']);
      if (version >= 5 && version < 8) expect(db.prepare('SELECT body FROM import_mapping').pluck().get()).toContain('"role":"beside"');
      services.close();
      db.close();
    },
  );
});
