/**
 * A log of eight hours at ten samples a second with sixteen channels: made, imported, read, opened and zoomed, through the same
 * services as the server's. Prints milliseconds and the most memory the process ever held.
 */
import { spawnSync } from 'node:child_process';
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { gzipSync } from 'node:zlib';
import { type ImportRunBody } from '@red-ember/contract';
import { blankSpot, blankStudy } from '@red-ember/study';
import { SeededRandom } from '@red-ember/rig';
import { createServices, openDatabase } from '@red-ember/server';

const SECONDS = 8 * 3600;
const RATE = 10;
const SPOTS = 12;
/** Deviations beyond which a sample is a spike: one of some five thousand. */
const SPIKES_BEYOND = 3.72;
/** Windows over which every spot is read, minutes. */
const WINDOWS = [5, 15, 30, 60, 120];
/** Index of the load among the phases. */
const LOAD = 1;
const LOAD_S = { from: 1800, to: 27_000 };
const OTHERS = ['Room', 'Throughput MB/s', 'Power W', 'Busy %'] as const;

/** Data is left there for whoever names a folder: the page is timed on it. */
const kept = process.argv[2];
const folder = kept ?? mkdtempSync(join(tmpdir(), 'red-ember-long-'));
const path = join(folder, 'long.csv');

/** A script of the kind that testers write, on the same file, where a Python with what it needs is there. */
function peer(): void {
  const script = join(import.meta.dirname, '../../scripts/peer.py');
  for (let turn = 0; turn < 3; turn++) {
    const { status, stdout } = spawnSync('python3', [script, path, String(LOAD_S.from), String(LOAD_S.to), join(folder, 'peer.npz')], { encoding: 'utf8' }); // prettier-ignore
    if (status !== 0) return console.log('No python3 with pandas, scipy and bottleneck: not compared.');
    console.log(`a script with pandas, scipy and bottleneck: ${stdout.trim()}`);
  }
}

/** Two time constants, noise that is soon over and noise that lasts for a quarter of an hour, a spike now and then, a load of seven hours; the same every time. */
async function makeLog(): Promise<void> {
  const random = new SeededRandom(7);
  const noise = new Float64Array(SPOTS + 1);
  const slow = new Float64Array(SPOTS + 1);
  const out = createWriteStream(path);
  const put = (text: string) => (out.write(text) ? null : new Promise<void>((done) => out.once('drain', () => done())));
  await put(`Elapsed (s),${Array.from({ length: SPOTS }, (_, i) => `TC${i + 1}`).join(',')},${OTHERS.join(',')}\n`);
  for (let s = 0; s < SECONDS; s++) {
    let text = '';
    for (let k = 0; k < RATE; k++) {
      const t = s + k / RATE;
      const on = t >= LOAD_S.from && t < LOAD_S.to;
      const warm = on ? 1 - 0.6 * Math.exp(-(t - LOAD_S.from) / 40) - 0.4 * Math.exp(-(t - LOAD_S.from) / 600) : 0;
      const cells = [t.toFixed(1)];
      for (let i = 0; i <= SPOTS; i++) {
        noise[i] = 0.95 * noise[i]! + 0.03 * random.normal();
        slow[i] = 0.9999 * slow[i]! + 0.002 * random.normal();
        const spike = Math.abs(random.normal()) > SPIKES_BEYOND ? 30 : 0;
        cells.push(((i < SPOTS ? 28 + (35 + i) * warm : 22) + noise[i]! + slow[i]! + spike).toFixed(2));
      }
      cells.push(
        (on ? 6100 + 20 * random.normal() : 0).toFixed(1),
        (on ? 7.4 + 0.02 * random.normal() : 1.3).toFixed(3),
        on ? '99.4' : '0.0',
      );
      text += `${cells.join(',')}\n`;
    }
    await put(text);
  }
  await new Promise<void>((done) => out.end(done));
}

/** The same as most loggers write it: a date and a clock in columns of their own, and what the host says of itself. */
async function makeDated(to: string): Promise<void> {
  const out = createWriteStream(to);
  const put = (text: string) => (out.write(text) ? null : new Promise<void>((done) => out.once('drain', () => done())));
  const begun = Date.UTC(2026, 10, 3, 8);
  let text = '';
  for await (const line of createInterface({ input: createReadStream(path) })) {
    const at = line.indexOf(',');
    const s = Number(line.slice(0, at));
    const stamp = Number.isNaN(s) ? 'Date,Time' : new Date(begun + 1000 * s).toISOString().replace('T', ',').replace('Z', '');
    text += `${stamp}${line.slice(at)},${Number.isNaN(s) ? 'State' : s < LOAD_S.from ? 'idle' : 'busy'}\n`;
    if (text.length < 1_000_000) continue;
    await put(text);
    text = '';
  }
  await new Promise<void>((done) => out.end(text, done));
}

async function time<T>(name: string, work: () => T | Promise<T>): Promise<T> {
  const start = performance.now();
  const result = await work();
  console.log(`${name.padEnd(64)} ${(performance.now() - start).toFixed(1).padStart(9)} ms`);
  return result;
}

await makeLog();
console.log(`8 h at 10 Hz, 16 channels: ${(statSync(path).size / 1e6).toFixed(1)} MB of CSV`);
peer();
const db = openDatabase(folder);
const services = createServices(db, folder, () => {});
const body = {
  ...blankStudy('Long'),
  spots: Array.from({ length: SPOTS }, (_, i) => blankSpot(`s${i + 1}`, `Spot ${i + 1}`, `tc${i + 1}`)),
  variants: [{ id: 'v', name: 'bare', subjectId: 'part-1', isReference: true, setup: '', notes: '' }],
};
services.stores.studies.insert(body, new Date().toISOString(), 'long');
const dated = join(folder, 'dated.csv');
// Made now: what is put down is taken from where it lay.
await makeDated(dated);
const staged = await time('look it through, from end to end', () => services.imports.stage('long', path, 'long.csv', 'UTC', 'a'));
const second = await time('the same with dates, a clock and a column of texts', () =>
  services.imports.stage('long', dated, 'dated.csv', 'UTC', 'c'),
);
services.imports.staging.remove(second.id);
// Somebody looks at the columns now; a worker gets ready meanwhile.
await new Promise((done) => setTimeout(done, 2000));
const map: ImportRunBody = {
  variantId: 'v',
  timeColumn: 0,
  timeFormat: 'elapsed-s',
  columns: [
    ...body.spots.map(({ id }, i) => ({ column: i + 1, role: 'spot' as const, spotId: id })),
    ...(['room', 'throughput', 'power', 'utilisation'] as const).map((role, i) => ({ column: SPOTS + 1 + i, role, spotId: null })),
  ],
  loadStartS: Math.round(staged.guess.loadStartS),
  loadEndS: Math.round(staged.guess.loadEndS),
  acceptOddTemperatures: false,
  note: '',
};
const run = await time('read it in a worker and store it as a run', () =>
  services.imports.makeRun('long', staged.id, 'long.csv', map, 'b'),
);
await time('every reading of it, from stored data', () => services.readings.readings(run.id));
await time('the same again, as it is kept', () => services.readings.readings(run.id));
for (const minutes of WINDOWS) {
  services.runs.setWindow(run.id, LOAD, { startS: map.loadEndS - 60 * minutes, endS: map.loadEndS });
  await time(`  over the last ${minutes} min of the load`, () => services.readings.readings(run.id));
}
services.runs.setWindow(run.id, LOAD, null);
const whole = await time('its whole trace, 600 points a channel', () => services.runs.trace(run.id, 0, Infinity, 600));
console.log(`${'  over the wire, compressed'.padEnd(64)} ${(gzipSync(JSON.stringify(whole)).length / 1000).toFixed(1).padStart(9)} kB`);
await time('the same again, as it is kept', () => services.runs.trace(run.id, 0, Infinity, 600));
await time('five minutes of it, 600 points a channel', () => services.runs.trace(run.id, 14_000, 14_300, 600));
console.log(`${'most memory held by the process'.padEnd(64)} ${(process.resourceUsage().maxRSS / 1024).toFixed(0).padStart(9)} MB`);
services.close();
db.close();
rmSync(kept ? path : folder, { recursive: true, force: true });
