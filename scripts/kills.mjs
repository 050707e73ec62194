// Kills server, desk and rig at random moments, also in the middle of a save, an import, a copy and a migration, and looks whether
// anything that was acknowledged is lost or anything is half there: node --import tsx scripts/kills.mjs [--kills 200] [--seed 1]
import { spawn } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { root } from './prepare.mjs';

// Named at run time: the check of the scripts would else check the workspace again, by rules that are not its own.
const { blankSpot, blankStudy, cautionsFor } = await import(String('@red-ember/study'));

const SQLite = createRequire(join(root, 'server/package.json'))('better-sqlite3');
const { values } = parseArgs({ options: { kills: { type: 'string', default: '200' }, seed: { type: 'string', default: '1' } } });
const KILLS = Number(values.kills);
let state = Number(values.seed) >>> 0 || 1;
const random = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
const pick = (list) => list[Math.floor(random() * list.length)];
const pause = (ms) => new Promise((done) => setTimeout(done, ms));

const folder = mkdtempSync(join(tmpdir(), 'red-ember-kills-'));
const data = join(folder, 'data');
mkdirSync(join(folder, 'copies'));
const port = 4700 + Math.floor(random() * 200);
const at = `http://127.0.0.1:${port}/api/v1`;
const start = (args) =>
  spawn(process.execPath, ['--import', 'tsx', ...args], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, LOG_LEVEL: 'fatal' },
  });
let server;
let rig;
const startServer = () => (server = start(['server/src/main.ts', '--port', String(port), '--data', data]));
const startRig = () => (rig = start(['rig/src/main.ts', '--source', 'drive', '--url', `ws://127.0.0.1:${port}/rig`]));
const kill = (child) =>
  new Promise((done) => {
    if (child.exitCode !== null || child.signalCode !== null) return done(null);
    child.once('exit', done);
    child.kill('SIGKILL');
  });
async function ask(method, path, body, headers = {}) {
  const json = body === undefined || body instanceof FormData ? {} : { 'content-type': 'application/json' };
  const answer = await fetch(at + path, {
    method,
    headers: { ...json, ...headers },
    ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
  });
  const text = await answer.text();
  return { status: answer.status, json: text.startsWith('{') || text.startsWith('[') ? JSON.parse(text) : null };
}
async function up() {
  for (let tries = 0; tries < 600; tries++) {
    if ((await ask('GET', '/studies').catch(() => null))?.status === 200) return;
    await pause(50);
  }
  throw new Error('the server does not come back');
}

const problems = [];
const wrong = (text) => {
  problems.push(text);
  console.error(`  WRONG: ${text}`);
};

const spots = ['tc1', 'tc2'].map((key) => ({ ...blankSpot(`k-${key}`, key, key), limitC: 105, cutOutC: 110 }));
const body = (title) => ({
  ...blankStudy(title),
  spots,
  variants: [{ id: 'k-bare', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' }],
  recipe: [{ kind: 'load', name: 'Load', mode: 'fixed', durationS: 28_000, capS: 28_000, loadPercent: 100 }],
});
const log = (rows) => {
  const form = new FormData();
  form.append(
    'log',
    new Blob([`time s,tc1,tc2,room\n${Array.from({ length: rows }, (_, i) => `${i},${40 + (i % 7)},41,22\n`).join('')}`]),
    'log.csv',
  );
  return form;
};

startServer();
await up();
startRig();
const { json: study } = await ask('POST', '/studies', body('Kills 0'));
const { json: mount } = await ask('POST', `/studies/${study.id}/mounts`, {
  variantId: 'k-bare',
  confirmed: cautionsFor(study.family).map(({ key }) => key),
  note: '',
});
/** The last title whose save was acknowledged, and the one that may or may not have been. */
let saved = { title: 'Kills 0', version: study.version };
let asked = null;
let imports = 0;
let acknowledgedImports = 0;
const counts = {};
const ROWS = 60_000;

/** What goes on while it is killed; never throws: the answer may never come. */
const acts = {
  async save() {
    asked = `Kills ${Math.floor(random() * 1e9)}`;
    const answer = await ask('PUT', `/studies/${study.id}`, body(asked), { 'if-match': `"${saved.version}"` }).catch(() => null);
    if (answer?.status === 200) {
      saved = { title: asked, version: answer.json.version };
      asked = null;
    }
  },
  async import() {
    const staged = await ask('POST', `/studies/${study.id}/logs`, log(ROWS)).catch(() => null);
    if (staged?.status !== 200 && staged?.status !== 201) return;
    imports++;
    const columns = [
      { column: 1, role: 'spot', spotId: 'k-tc1' },
      { column: 2, role: 'spot', spotId: 'k-tc2' },
      { column: 3, role: 'room', spotId: null },
    ];
    const answer = await ask('POST', `/studies/${study.id}/logs/${staged.json.id}/run?name=log.csv`, {
      variantId: 'k-bare',
      timeColumn: 0,
      timeFormat: 'elapsed-s',
      columns,
      loadStartS: 100,
      loadEndS: ROWS - 10,
      acceptOddTemperatures: true,
      note: '',
    }).catch(() => null);
    if (answer?.status === 200 || answer?.status === 201) acknowledgedImports++;
    // 503: the desk was killed under it, and it says so.
    else if (answer && answer.status !== 503) wrong(`an import was answered ${answer.status}: ${answer.json?.detail}`);
  },
  async copy() {
    const copy = start([
      'server/src/database/backupCommand.ts',
      'backup',
      '--data',
      data,
      '--to',
      join(folder, 'copies', `c${Math.floor(random() * 1e9)}.sqlite`),
    ]);
    if (random() < 0.5) setTimeout(() => copy.kill('SIGKILL'), 300 + 900 * random());
    await new Promise((done) => copy.once('exit', done));
  },
  /** The run alone. */
  async watch() {},
};

async function running() {
  const rigs = (await ask('GET', '/rigs')).json;
  if (!rigs.some((entry) => entry.connected)) return;
  const runs = (await ask('GET', `/studies/${study.id}/runs`)).json.filter((run) => run.source === 'rig');
  const live = runs.find((run) => run.state === 'waiting' || run.state === 'recording');
  if (!live) await ask('POST', `/studies/${study.id}/runs`, { mountId: mount.id, timeScale: 60, seed: 5 });
  else if (live.phases.at(-1)?.kind === 'pause') await ask('POST', `/runs/${live.id}/go-on`, { reason: 'kills' });
}

function inspect() {
  const db = new SQLite(join(data, 'bench.sqlite'), { readonly: true, timeout: 5000 });
  try {
    // One moment of a bench that goes on.
    db.exec('BEGIN');
    const health = db.pragma('integrity_check', { simple: true });
    if (health !== 'ok') wrong(`the database is damaged: ${health}`);
    for (const run of db.prepare('SELECT id, source, state, length_ms FROM run').all()) {
      const rows = db
        .prepare(
          'SELECT t, n FROM sample_chunk WHERE run_id = ? AND key = (SELECT min(key) FROM sample_chunk WHERE run_id = ?) ORDER BY start_ms',
        )
        .all(run.id, run.id);
      const times = rows.flatMap(({ t }) => [...new Int32Array(new Uint8Array(t).buffer)]);
      if (run.source === 'file' && times.length !== ROWS) wrong(`an imported run holds ${times.length} of ${ROWS} samples`);
      if (run.source !== 'rig') continue;
      for (let i = 0; i < times.length; i++)
        if (times[i] !== 1000 * (i + 1)) {
          wrong(`run ${run.id}: sample ${i} is at ${times[i]} ms`);
          break;
        }
      if (times.length * 1000 !== run.length_ms) wrong(`run ${run.id}: ${times.length} samples, ${run.length_ms} ms`);
    }
    return db.prepare("SELECT count(*) AS n FROM run WHERE source = 'file'").get().n;
  } finally {
    db.close();
  }
}

console.log(`${KILLS} kills, seed ${values.seed}, data in ${data}`);
let done = 0;
while (done < KILLS && problems.length < 20) {
  await running().catch(() => {});
  const what = pick(['save', 'save', 'import', 'copy', 'watch']);
  const whom = pick(['server', 'server', 'desk', 'rig', 'both']);
  const act = acts[what]();
  await pause(20 + 1200 * random() ** 2);
  if (whom === 'desk') {
    // The child of the server; it is found by its parent.
    const desk = readdirSync('/proc').find(
      (pid) =>
        /^\d+$/.test(pid) &&
        existsSync(`/proc/${pid}/task/${pid}/children`) &&
        parentOf(pid) === server.pid &&
        commandOf(pid).includes('desk/main.ts'),
    );
    if (desk) process.kill(Number(desk), 'SIGKILL');
  }
  if (whom === 'server' || whom === 'both') await kill(server);
  if (whom === 'rig' || whom === 'both') await kill(rig);
  done++;
  counts[`${whom} in ${what}`] = (counts[`${whom} in ${what}`] ?? 0) + 1;
  if (whom === 'server' || whom === 'both') startServer();
  if (whom === 'rig' || whom === 'both') startRig();
  await up();
  await act;
  const now = (await ask('GET', `/studies/${study.id}`)).json;
  if (now.title !== saved.title && now.title !== asked) wrong(`saved as “${saved.title}”, found as “${now.title}”`);
  saved = { title: now.title, version: now.version };
  asked = null;
  const found = inspect();
  if (found < acknowledgedImports || found > imports)
    wrong(`${found} imported runs; ${acknowledgedImports} were acknowledged, ${imports} asked for`);
  if (done % 20 === 0) console.log(`  ${done} kills, ${problems.length} problems`);
}
await kill(server);
await kill(rig);

// A migration that is cut short is done again, whole; a restore that is cut short leaves the old bench or the new one.
mkdirSync(join(folder, 'old'));
for (let i = 0; i < Math.ceil(KILLS / 10); i++) {
  const copy = join(folder, 'old', String(i));
  cpSync(data, copy, { recursive: true });
  const db = new SQLite(join(copy, 'bench.sqlite'));
  const studies = db.prepare('SELECT count(*) AS n FROM study').get().n;
  db.close();
  const kept = readdirSync(join(folder, 'copies')).find((name) => name.endsWith('.sqlite'));
  const child = kept && start(['server/src/database/backupCommand.ts', 'restore', join(folder, 'copies', kept), '--data', copy]);
  if (!child) break;
  setTimeout(() => child.kill('SIGKILL'), 300 + 700 * random());
  await new Promise((ended) => child.once('exit', ended));
  done++;
  counts['a restore'] = (counts['a restore'] ?? 0) + 1;
  const file = join(copy, 'bench.sqlite');
  const aside = readdirSync(copy).filter((name) => name.startsWith('set-aside'));
  const from = existsSync(file) ? file : aside.map((name) => join(copy, name, 'bench.sqlite')).find((name) => existsSync(name));
  if (!from) {
    wrong('a restore that was cut short left no bench at all');
    continue;
  }
  const after = new SQLite(from);
  if (after.pragma('integrity_check', { simple: true }) !== 'ok') wrong('a restore that was cut short left a damaged bench');
  if (after.prepare('SELECT count(*) AS n FROM study').get().n < Math.min(1, studies))
    wrong('a restore that was cut short left an empty bench');
  after.close();
}

/** @param {string} pid */
function parentOf(pid) {
  try {
    return Number(/^PPid:\s+(\d+)/m.exec(readText(`/proc/${pid}/status`))?.[1]);
  } catch {
    return 0;
  }
}
function commandOf(pid) {
  try {
    return readText(`/proc/${pid}/cmdline`);
  } catch {
    return '';
  }
}
function readText(path) {
  return readFileSync(path, 'utf8');
}

for (const [what, n] of Object.entries(counts).sort()) console.log(`  ${String(n).padStart(4)} ${what}`);
console.log(`${done} kills, ${problems.length} problems, ${imports} imports asked for, ${acknowledgedImports} acknowledged`);
rmSync(folder, { recursive: true, force: true });
process.exit(problems.length === 0 ? 0 : 1);
