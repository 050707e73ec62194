/**
 * How time and memory grow: with studies on the shelf, with runs of a study, with the length and the width of a log. Each size is made
 * anew, through the same services as the server's; the last column is the power of the size by which it grew from the size before.
 */
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SeededRandom } from '@red-ember/rig';
import { createServices, frozenAt, openDatabase, rigChannels, startBench, type Services } from '@red-ember/server';
import { blankSpot, blankStudy } from '@red-ember/study';
import type { StudyBody } from '@red-ember/contract';

const random = new SeededRandom(11);

function study(title: string, spots: number): StudyBody {
  return {
    ...blankStudy(title),
    spots: Array.from({ length: spots }, (_, i) => blankSpot(`${title} s${i}`, `Spot ${i + 1}`, `tc${i + 1}`)),
    variants: ['bare', 'lid'].map((name, i) => ({ id: `${title} ${name}`, name, subjectId: 'part-1', isReference: i === 0, setup: '', notes: '' })), // prettier-ignore
  };
}

/** Works on a bench of its own, which is gone afterwards. */
async function onBench<T>(work: (services: Services, folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'red-ember-growth-'));
  const db = openDatabase(folder);
  const services = createServices(db, folder, () => {});
  try {
    return await work(services, folder);
  } finally {
    services.close();
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

const once = async (work: () => unknown): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};
/** The middle one of three. */
const thrice = async (work: () => unknown): Promise<number> => {
  const times = [await once(work), await once(work), await once(work)];
  return times.sort((p, q) => p - q)[1]!;
};

/** The longest that somebody else waits for the shelf while something is done, ms. */
async function waitedMeanwhile(work: () => Promise<unknown>, ask: () => Promise<unknown>): Promise<number> {
  const going = new AbortController();
  let longest = 0;
  const others = (async () => {
    while (!going.signal.aborted) longest = Math.max(longest, await once(ask));
  })();
  await work();
  going.abort();
  await others;
  return longest;
}

type Measured = Record<string, number>;

/** A line for each figure: its values over the sizes, and the power by which it grew at last. */
function print(what: string, sizes: readonly number[], measured: readonly Measured[]): void {
  console.log(`\n${what.padEnd(52)}${sizes.map((size) => String(size).padStart(10)).join('')}      power`);
  for (const name of Object.keys(measured[0]!)) {
    const values = measured.map((each) => each[name]!);
    const [before, last] = values.slice(-2) as [number, number];
    const [small, large] = sizes.slice(-2) as [number, number];
    const power = Math.log(last / before) / Math.log(large / small);
    console.log(`${name.padEnd(52)}${values.map((value) => value.toFixed(1).padStart(10)).join('')}${power.toFixed(2).padStart(11)}`);
  }
}

const sizeMB = (folder: string) => statSync(join(folder, 'bench.sqlite')).size / 1e6;

const ofStudies = (n: number) =>
  onBench(async (services, folder): Promise<Measured> => {
    for (let i = 0; i < n; i++) services.stores.studies.insert(study(`Study ${i}`, 4), new Date().toISOString());
    return {
      'the shelf, ms': await thrice(() => services.studies.list()),
      'a word looked for, ms': await thrice(() => services.search.find('spot')),
      'the file, MB': sizeMB(folder),
    };
  });

const RUN_S = 2400;
/** A run of forty minutes, once a second, four spots, room, work and power. */
function makeRun({ stores, studies }: Pick<Services, 'stores' | 'studies'>, studyId: string, i: number): void {
  const body = studies.get(studyId);
  const variant = body.variants[i % 2]!;
  const offered = ['room', 'throughput', 'power', 'utilisation'].map((key) => ({ key, unit: '' }));
  const channels = rigChannels(body, offered);
  const startedAt = new Date(Date.UTC(2026, 0, 1) + i * 7_200_000).toISOString();
  const id = stores.runs.insert({ studyId, variantId: variant.id, mountId: null, source: 'rig', sourceName: 'growth', simulated: true, state: 'finished', startedAt, timeScale: 1, ...frozenAt(body, variant.id), confirmedLocks: [], recipe: [], armed: [], seed: 1, channels }); // prettier-ignore
  const tMs = Array.from({ length: RUN_S }, (_, k) => 1000 * (k + 1));
  const level = 40 - 3 * (i % 2) + 0.3 * random.normal();
  for (const { key, role } of channels)
    stores.samples.append(id, key, tMs, tMs.map((ms) => {
      const on = ms > 480_000;
      const warm = on ? level * (1 - Math.exp(-(ms - 480_000) / 300_000)) : 0;
      return role === 'spot' ? 30 + warm + 0.1 * random.normal() : role === 'room' ? 22 + 0.03 * random.normal() : on ? 100 + 0.2 * random.normal() : 1;
    })); // prettier-ignore
  [['idle-soak', 'Idle', 0, 480], ['load', 'Load', 480, RUN_S]].forEach(([kind, name, from, to], ordinal) => {
    stores.runs.startPhase(id, ordinal, { kind: kind as string, name: name as string }, 1000 * (from as number));
    stores.runs.endPhase(id, ordinal, 1000 * (to as number), 'time');
  }); // prettier-ignore
  stores.runs.setProgress(id, 1, 1000 * RUN_S);
}

/** Through the whole server, its desk and its threads, as a page asks it. */
async function ofRuns(n: number): Promise<Measured> {
  const folder = mkdtempSync(join(tmpdir(), 'red-ember-growth-'));
  const bench = await startBench({ dataFolder: folder, webFolder: null, access: { host: '127.0.0.1', passphrase: null }, port: 0, apart: true, log: () => {}, logError: () => {} }); // prettier-ignore
  const origin = `http://127.0.0.1:${bench.port}`;
  const get = async (path: string) => (await fetch(`${origin}/api/v1${path}`)).text();
  try {
    const id = bench.services.stores.studies.insert(study('Growing', 4), new Date().toISOString());
    for (let i = 0; i < n; i++) makeRun(bench.services, id, i);
    let first = 0;
    const waited = await waitedMeanwhile(
      async () => (first = await once(() => get(`/studies/${id}/field`))),
      () => get('/studies'),
    );
    const runs = JSON.parse(await get(`/studies/${id}/runs`)) as { id: string }[];
    const body = JSON.stringify({ disposition: 'use', reason: '' });
    const headers = { origin, 'content-type': 'application/json' };
    const signed = await fetch(`${origin}/api/v1/runs/${runs[0]!.id}/sign-off`, { method: 'PUT', headers, body });
    if (!signed.ok) throw new Error(await signed.text());
    return {
      'all variants, first asked for: runs are read, ms': first,
      'the shelf was waited for meanwhile, ms': waited,
      'all variants, once a run was signed off, ms': await once(() => get(`/studies/${id}/field`)),
      'two sides, first asked for, ms': await once(() => get(`/studies/${id}/verdict`)),
      'the list of runs, ms': await thrice(() => get(`/studies/${id}/runs`)),
      'the file, MB': sizeMB(folder),
    };
  } finally {
    await bench.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A log once a second over so many hours and channels. */
function writeLog(path: string, hours: number, channels: number): void {
  const lines = [`Elapsed (s),${Array.from({ length: channels - 1 }, (_, i) => `TC${i + 1} °C`).join(',')},Room °C`];
  for (let s = 0; s < 3600 * hours; s++) {
    const warm = s < 1800 ? 0 : 1 - Math.exp(-(s - 1800) / 600);
    const cells = Array.from({ length: channels - 1 }, (_, i) => (28 + (35 + i / 4) * warm + 0.1 * random.normal()).toFixed(2));
    lines.push(`${s},${cells.join(',')},${(22 + 0.03 * random.normal()).toFixed(2)}`);
  }
  writeFileSync(path, lines.join('\n'));
}

const ofLog = (hours: number, channels: number) =>
  onBench(async (services, folder): Promise<Measured> => {
    const path = join(folder, 'log.csv');
    writeLog(path, hours, channels);
    const before = process.memoryUsage().rss;
    let id = '';
    const ms = await once(async () => {
      const staged = await services.imports.stage(null, path, 'log.csv', 'UTC');
      const { runs } = await services.logStudies.make({ logs: [{ id: staged.id }] }, null);
      id = runs[0]!.id;
    });
    return {
      'from the file to a run, ms': ms,
      'its readings, ms': await once(() => services.readings.readings(id)),
      'its whole trace, ms': await thrice(() => services.runs.trace(id, 0, Infinity, 600)),
      'more memory held afterwards, MB': Math.max(1, (process.memoryUsage().rss - before) / 1e6),
    };
  });

async function over<T>(sizes: readonly T[], measure: (size: T) => Promise<Measured>): Promise<Measured[]> {
  const all: Measured[] = [];
  for (const size of sizes) all.push(await measure(size));
  return all;
}

const [STUDIES, RUNS, HOURS, CHANNELS] = [
  [10, 300, 3000],
  [5, 50, 200],
  [2, 8, 24],
  [4, 16, 64],
];
print('Studies on the shelf', STUDIES, await over(STUDIES, ofStudies));
print('Runs of a study', RUNS, await over(RUNS, ofRuns));
print('Hours of a log, 16 channels', HOURS, await over(HOURS, (hours) => ofLog(hours, 16)));
print('Channels of a log, 8 hours', CHANNELS, await over(CHANNELS, (channels) => ofLog(8, channels)));
console.log(`\nmost memory held by the process: ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`);
