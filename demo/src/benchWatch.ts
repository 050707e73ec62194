/**
 * The watch over a load beside the heaviest reading there is: a study of 200 runs judged, lined up and reported, a hostile body, a
 * photograph and a long log imported, while a run goes on at the clock's own pace with twelve channels. How long other pages waited, how
 * long the watch's event loop was held up, whether a sample was lost, and whether the load stayed on.
 */
import { fork } from 'node:child_process';
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

const ask =
  (at: string) =>
  async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const json = body === undefined || body instanceof FormData ? {} : { headers: { 'content-type': 'application/json' } };
    const answer = await fetch(at + path, {
      method,
      ...json,
      ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
    });
    return (/json/.test(answer.headers.get('content-type') ?? '') ? await answer.json() : await answer.text()) as T;
  };
const line = (name: string, value: string) => console.log(`${name.padEnd(64)} ${value.padStart(12)}`);

/** Asks again and again until it is told to end; then the longest that one of them took, ms. */
function waited(work: () => Promise<unknown>): () => Promise<number> {
  let longest = 0;
  const end = new AbortController();
  const asking = (async () => {
    while (!end.signal.aborted) {
      const begun = performance.now();
      await work();
      longest = Math.max(longest, performance.now() - begun);
      await new Promise((done) => setTimeout(done, 20));
    }
  })();
  return async () => {
    end.abort();
    await asking;
    return longest;
  };
}

/** The rig and whoever asks: in a process of their own, since what is large to read for them is not what is measured. */
async function besides(port: number): Promise<void> {
  const call = ask(`http://127.0.0.1:${port}/api/v1`);
  const rig = new RigClient({ url: `ws://127.0.0.1:${port}/rig`, id: 'watched', name: 'Watched', source: DRIVE_SOURCE });
  rig.start();
  while (!(await call<{ connected: boolean }[]>('GET', '/rigs'))[0]?.connected) await new Promise((done) => setTimeout(done, 50));
  const live = await call<{ id: string }>('POST', '/studies', study('Live', 'live'));
  const mount = await call<{ id: string }>('POST', `/studies/${live.id}/mounts`, {
    variantId: 'live-bare',
    confirmed: cautionsFor('drive').map(({ key }) => key),
    note: '',
  });
  const run = await call<Run>('POST', `/studies/${live.id}/runs`, { mountId: mount.id, timeScale: 1, seed: 1 });
  await new Promise((done) => setTimeout(done, 5000));
  process.send!({ begun: true });
  const timed = async (name: string, work: () => Promise<unknown>) => {
    const begun = performance.now();
    await work();
    line(`  ${name}`, `${((performance.now() - begun) / 1000).toFixed(1)} s`);
  };
  console.log(`A run under load, and beside it a study of ${RUNS} runs that nobody has read yet`);
  const longest = waited(() => call('GET', '/limits'));
  await timed('judged', () => call('GET', '/studies/many/verdict'));
  line('  a page that asks for something else meanwhile waits, at most', `${(await longest()).toFixed(0)} ms`);
  await timed('lined up', () => call('GET', '/studies/many/field'));
  await timed('reported', () => call('GET', '/studies/many/report.html'));
  await timed('a hostile body of 300 kB', () =>
    call('POST', '/studies', { ...study('Hostile', 'hostile'), variants: Array.from({ length: 20_000 }, () => ({ id: 7 })) }),
  );
  await timed('30 MB of a log looked at', () => {
    const row = `${Array.from({ length: 16 }, () => '45.23').join(',')}\n`;
    const text = `time s,${Array.from({ length: 16 }, (_, i) => `tc${i}`).join(',')}\n${Array.from({ length: 288_000 }, (_, i) => `${i / 10},${row}`).join('')}`;
    const form = new FormData();
    form.append('log', new Blob([text]), 'long.csv');
    return call('POST', '/studies/many/logs', form);
  });
  process.send!({ over: run.id });
  await new Promise((done) => process.once('message', done));
  await call('POST', `/runs/${run.id}/stop`, { reason: '' });
  rig.close();
  process.exit(0);
}

async function watch(): Promise<void> {
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
  const child = fork(import.meta.filename, ['--port', String(bench.port)], { execArgv: ['--import', 'tsx'], stdio: ['ignore', 'inherit', 'inherit', 'ipc'] }); // prettier-ignore
  const heard = <K extends 'begun' | 'over'>(key: K) =>
    new Promise<string>((done) =>
      child.on('message', (message: Partial<Record<K, string>>) => key in message && done(String(message[key]))),
    );
  const over = heard('over');
  await heard('begun');
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  const runId = await over;
  delay.disable();
  const { lengthS, events } = bench.services.runs.get(runId);
  const kept = bench.services.stores.samples.read(runId, 'tc1').t.length;
  line('samples lost', String(Math.round(lengthS) - kept));
  line('times the load went off', String(events.filter(({ kind }) => kind === 'load-off').length));
  line('event loop of the watch held up, 99th percentile', `${(delay.percentile(99) / 1e6).toFixed(1)} ms`);
  line('event loop of the watch held up, at most', `${(delay.max / 1e6).toFixed(1)} ms`);
  child.send('end');
  await new Promise((done) => child.once('exit', done));
  await bench.close();
}

const port = process.argv[2] === '--port' ? Number(process.argv[3]) : null;
if (port === null) await watch();
else await besides(port);
rmSync(folder, { recursive: true, force: true });
process.exit(0);
