// Writes the logs that are offered on an empty shelf: a day at the card bench, as a logger would have kept it.
// node --import tsx demo/src/sampleLogs.ts
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RecipePhase } from '@red-ember/core';
import { simulateRun } from './simulateRun.ts';

const FOLDER = join(import.meta.dirname, '../../web/public/samples');
const phase = (kind: RecipePhase['kind'], name: string, durationS: number, loadPercent: number): RecipePhase => ({ kind, name, mode: 'fixed', durationS, capS: durationS, loadPercent }); // prettier-ignore
const RECIPE = [phase('idle-soak', 'Idle', 300, 0), phase('load', 'Load', 2100, 100)];
const PACE = { stepS: 5, settleEveryS: 60 };

/** Columns as the logger calls them, by the bench's channel, with decimals. */
const COLUMNS: [string, string, number][] = [
  ['Chip [°C]', 'die', 1],
  ['Hot spot [°C]', 'hot', 1],
  ['Memory [°C]', 'mem', 1],
  ['Power stages [°C]', 'stages', 1],
  ['Room [°C]', 'room', 1],
  ['Card power [W]', 'power', 1],
  ['Busy [%]', 'utilisation', 0],
  ['Fan duty [%]', 'duty', 0],
  ['Fan 1 [rpm]', 'fan', 0],
  ['Core clock [MHz]', 'clock', 0],
];

/** What was on the bench, one after the other: file, set-up, mount and hour. */
const DAY: { name: string; setup: string; seed: number; mountSeed: number; at: string }[] = [
  { name: 'Wren 8 stock paste m1', setup: 'stock-paste', seed: 11, mountSeed: 1, at: '2026-03-09T09:00:00+01:00' },
  { name: 'Wren 8 paste L m1', setup: 'paste-L', seed: 12, mountSeed: 2, at: '2026-03-09T10:30:00+01:00' },
  { name: 'Wren 8 paste L m2', setup: 'paste-L', seed: 13, mountSeed: 3, at: '2026-03-09T13:00:00+01:00' },
  { name: 'Wren 8 stock paste m2', setup: 'stock-paste', seed: 14, mountSeed: 4, at: '2026-03-09T14:30:00+01:00' },
  { name: 'Wren 8 paste L fans auto', setup: 'paste-L-auto', seed: 15, mountSeed: 3, at: '2026-03-09T16:00:00+01:00' },
];

mkdirSync(FOLDER, { recursive: true });
for (const { name, setup, seed, mountSeed, at } of DAY) {
  const run = simulateRun({ setup, seed, mountSeed }, RECIPE, { spots: [], family: 'card', pace: PACE });
  const zone = at.slice(-6);
  const local = (ms: number) => new Date(Date.parse(`${at.slice(0, 19)}Z`) + ms).toISOString().slice(0, 19) + zone;
  const cell = (key: string, i: number, decimals: number) => {
    const value = run.values[key]?.[i];
    return value === undefined || Number.isNaN(value) ? '' : value.toFixed(decimals);
  };
  const rows = run.tMs.map((ms, i) => [local(ms), ...COLUMNS.map(([, key, decimals]) => cell(key, i, decimals))].join(','));
  writeFileSync(join(FOLDER, `${name}.csv`), `Time,${COLUMNS.map(([title]) => title).join(',')}\n${rows.join('\n')}\n`);
}
