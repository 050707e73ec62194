/**
 * The watch over a load beside the heaviest reading there is: a study of 200 runs judged, lined up and reported, a hostile body, a
 * photograph and a long log imported, while a run goes on at the clock's own pace with twelve channels. How long the watch's event
 * loop was held up, whether a sample was lost, and whether the load stayed on.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { Run } from '@red-ember/contract';
import { blankSpot, blankStudy, cautionsFor } from '@red-ember/study';
import { DRIVE_SOURCE, RigClient, SeededRandom } from '@red-ember/rig';
import { createServices, openDatabase, startBench } from '@red-ember/server';

const RUNS = 200;
const SPOTS = ['tc1', 'tc2', 'tc3', 'own'];
const SAMPLES = 1800;

const folder = mkdtempSync(join(tmpdir(), 'red-ember-watch-'));
const study = (title: string, prefix: string) => ({
  ...blankStudy(title),
  spots: SPOTS.map((key) => ({ ...blankSpot(`${prefix}-${key}`, key, key), limitC: 105, cutOutC: 110 })),
  variants: ['bare', 'slot-lid', 'finned', 'other'].map((name, i) => ({
    id: `${prefix}-${name}`,
    name,
    subjectId: 'part-1',
    isReference: i === 0,
    setup: i === 1 ? 'slot-lid' : 'bare',
    notes: '',
  })),
  recipe: [{ kind: 'load' as const, name: 'Load', mode: 'fixed' as const, durationS: 3600, capS: 3600, loadPercent: 100 }],
});

/** Two hundred finished runs of half an hour, none of them read yet. */
function makeRuns(): void {
  const db = openDatabase(folder);
  const { stores, close } = createServices(db, folder, () => {});
  const body = study('Two hundred runs', 'many');
  stores.studies.insert(body, new Date().toISOString(), 'many');
  const random = new SeededRandom(5);
  for (let i = 0; i < RUNS; i++) {
    const id = stores.runs.insert({
      studyId: 'many',
      variantId: body.variants[i % body.variants.length]!.id,
      mountId: null,
      source: 'file',
      sourceName: `run-${i}.csv`,
      state: 'finished',
      startedAt: new Date(Date.UTC(2026, 2, 1 + Math.floor(i / 8), 8 + (i % 8))).toISOString(),
      timeScale: 1,
      settings: {},
      confirmedLocks: [],
      recipe: [],
      armed: [],
      seed: i,
      channels: [
        ...SPOTS.map((key) => ({ key, role: 'spot' as const, spotId: `many-${key}`, unit: '°C', sensor: key, instrumentChannelId: null })),
        { key: 'room', role: 'room', spotId: null, unit: '°C', sensor: 'room', instrumentChannelId: null },
      ],
    });
    const tMs = Int32Array.from({ length: SAMPLES }, (_, k) => 1000 * (k + 1));
    for (const [k, key] of [...SPOTS, 'room'].entries())
      stores.samples.appendAll(
        id,
        key,
        tMs,
        Float64Array.from(
          tMs,
          (ms) => 22 + (key === 'room' ? 0 : (30 + k + (i % 4)) * (1 - Math.exp(-ms / 200_000))) + 0.1 * random.normal(),
        ),
      );
    stores.runs.startPhase(id, 0, { kind: 'load', name: 'Load' }, 0);
    stores.runs.endPhase(id, 0, 1000 * SAMPLES, 'time');
    stores.runs.setProgress(id, 1, 1000 * SAMPLES);
  }
  close();
  db.close();
}

makeRuns();
const bench = await startBench({
  dataFolder: folder,
  webFolder: null,
  access: { host: '127.0.0.1', passphrase: null },
  port: 0,
  log: () => {},
  logError: (error) => console.error(error),
  apart: true,
});
const rig = new RigClient({ url: `ws://127.0.0.1:${bench.port}/rig`, id: 'watched', name: 'Watched', source: DRIVE_SOURCE });
rig.start();
const at = `http://127.0.0.1:${bench.port}/api/v1`;
async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  const json = body === undefined || body instanceof FormData ? {} : { headers: { 'content-type': 'application/json' } };
  const answer = await fetch(at + path, {
    method,
    ...json,
    ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
  });
  return (/json/.test(answer.headers.get('content-type') ?? '') ? await answer.json() : await answer.text()) as T;
}
while (!(await ask<{ connected: boolean }[]>('GET', '/rigs'))[0]?.connected) await new Promise((done) => setTimeout(done, 50));

const live = await ask<{ id: string }>('POST', '/studies', study('Live', 'live'));
const mount = await ask<{ id: string }>('POST', `/studies/${live.id}/mounts`, {
  variantId: 'live-bare',
  confirmed: cautionsFor('drive').map(({ key }) => key),
  note: '',
});
const run = await ask<Run>('POST', `/studies/${live.id}/runs`, { mountId: mount.id, timeScale: 1, seed: 1 });
await new Promise((done) => setTimeout(done, 5000));

const line = (name: string, value: string) => console.log(`${name.padEnd(64)} ${value.padStart(12)}`);
const delay = monitorEventLoopDelay({ resolution: 5 });
delay.enable();
let [worst, p99] = [0, 0];
/** Keeps what was worst so far; what comes next may hold up this process itself, which is not what is measured. */
function noted(): void {
  worst = Math.max(worst, delay.max);
  p99 = Math.max(p99, delay.percentile(99));
  delay.reset();
}
async function timed(name: string, work: () => Promise<unknown>): Promise<void> {
  const begun = performance.now();
  await work();
  line(`  ${name}`, `${((performance.now() - begun) / 1000).toFixed(1)} s`);
}
console.log(`A run under load, and beside it a study of ${RUNS} runs that nobody has read yet`);
await timed('judged', () => ask('GET', '/studies/many/verdict'));
await timed('lined up', () => ask('GET', '/studies/many/field'));
await timed('reported', () => ask('GET', '/studies/many/report.html'));
await timed('a hostile body of 300 kB', () =>
  ask('POST', '/studies', { ...study('Hostile', 'hostile'), variants: Array.from({ length: 20_000 }, () => ({ id: 7 })) }),
);
await timed('30 MB of a log looked at', () => {
  noted();
  const row = `${Array.from({ length: 16 }, () => '45.23').join(',')}\n`;
  const text = `time s,${Array.from({ length: 16 }, (_, i) => `tc${i}`).join(',')}\n${Array.from({ length: 288_000 }, (_, i) => `${i / 10},${row}`).join('')}`;
  const form = new FormData();
  form.append('log', new Blob([text]), 'long.csv');
  delay.reset();
  return ask('POST', '/studies/many/logs', form);
});
noted();
delay.disable();
const { lengthS, events } = await ask<Run>('GET', `/runs/${run.id}`);
const kept = bench.services.stores.samples.read(run.id, 'tc1').t.length;
line('samples lost', String(Math.round(lengthS) - kept));
line('times the load went off', String(events.filter(({ kind }) => kind === 'load-off').length));
line('event loop of the watch held up, 99th percentile', `${(p99 / 1e6).toFixed(1)} ms`);
line('event loop of the watch held up, at most', `${(worst / 1e6).toFixed(1)} ms`);
await ask('POST', `/runs/${run.id}/stop`, { reason: '' });
rig.close();
await bench.close();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
