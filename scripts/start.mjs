// One command to a running bench, empty or with the demo's studies: npm start, npm run demo -- [--port 4500] [--host 127.0.0.1] [--data FOLDER] [--fresh]
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, renameSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { setPriority } from 'node:os';
import { parseArgs } from 'node:util';
import { assertNode, ensureDependencies, root, run } from './prepare.mjs';

const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '4500' },
    host: { type: 'string', default: '127.0.0.1' },
    data: { type: 'string' },
    fresh: { type: 'boolean', default: false },
    demo: { type: 'boolean', default: false },
  },
});
const port = Number(values.port);
if (!Number.isInteger(port) || port < 1 || port > 65_535) {
  console.error(`--port must be a number from 1 to 65535, not "${values.port}".`);
  process.exit(1);
}
const data = values.data ? resolve(process.env.INIT_CWD ?? process.cwd(), values.data) : join(root, values.demo ? 'data' : 'data/own');

/** --fresh sets the old data aside instead of deleting it. */
function setAside() {
  if (!existsSync(data)) return;
  const old = readdirSync(data).filter((name) => name.startsWith('bench.sqlite') || name === 'imports');
  if (old.length === 0) return;
  const aside = join(data, `set-aside-${new Date().toISOString().replace(/[:.]/g, '-')}`);
  mkdirSync(aside);
  for (const name of old) renameSync(join(data, name), join(aside, name));
  console.log(`The old data is in ${aside}.`);
}

assertNode();
ensureDependencies();
console.log('Building the pages…');
run(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn']);
if (values.fresh) setAside();
if (values.demo) {
  console.log('Looking after the first demo study…');
  run(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', data, '--first']);
}

const children = new Map();
let ending = false;
/** The server ended for a reason that is still there, and has said which. */
const ANOTHER_START_IS_NO_USE = 78;
const MOST_RESTARTS = 5;
const WITHIN_MS = 60_000;

/** Starts a process, and again where it dies: each by itself, so that one that falls does not take the other with it. */
function start(name, args, restarts = []) {
  const child = spawn(process.execPath, ['--import', 'tsx', ...args], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { LOG_LEVEL: 'warn', ...process.env },
  });
  children.set(name, child);
  child.stdout.on('data', (text) => process.stdout.write(text));
  child.on('exit', (code, signal) => {
    if (ending) return;
    if (code === ANOTHER_START_IS_NO_USE) {
      end(code);
      return;
    }
    const recent = restarts.filter((at) => performance.now() - at < WITHIN_MS);
    if (recent.length >= MOST_RESTARTS) {
      console.error(`${name} died ${MOST_RESTARTS} times within a minute and is not started again. Data is kept.`);
      end(code ?? 1);
      return;
    }
    console.error(`${name} ${signal ? `was killed (${signal})` : `ended (${code})`} and is started again. Nothing recorded is lost.`);
    setTimeout(() => ending || start(name, args, [...recent, performance.now()]), 300);
  });
}
function end(code) {
  ending = true;
  for (const child of children.values()) child.kill('SIGTERM');
  setTimeout(() => process.exit(code), 500).unref();
}
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => end(0));

/** The other demo studies are made while one looks at the first: they appear on the shelf one by one. Made once, they stay. */
function makeTheRest() {
  const child = spawn(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', data, '--beside'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  children.set('The demo', child);
  if (child.pid !== undefined) setPriority(child.pid, 10);
  child.on('exit', (code) => {
    children.delete('The demo');
    if (code && !ending) console.error('Not all demo studies could be made; the next start makes those that are missing.');
  });
}

start('The server', ['server/src/main.ts', '--port', String(port), '--host', values.host, '--data', data]);
const within = ['0.0.0.0', '::'].includes(values.host) ? '127.0.0.1' : values.host.includes(':') ? `[${values.host}]` : values.host;
const passphrase = process.env.RED_EMBER_PASSPHRASE;
const headers = passphrase ? { 'x-passphrase': Buffer.from(passphrase, 'utf8').toString('latin1') } : {};
for (let tries = 0; ; tries++) {
  const answer = await fetch(`http://${within}:${port}/api/v1/studies`, { headers }).catch(() => null);
  if (answer?.ok || ending) break;
  if (tries > 150) {
    console.error('The server does not answer.');
    end(1);
    break;
  }
  await new Promise((done) => setTimeout(done, 200));
}
if (!ending) start('The simulated benches', ['rig/src/main.ts', '--url', `ws://${within}:${port}/rig`]);
if (!ending && values.demo) makeTheRest();
if (!ending) console.log(`\nRed Ember is ready: http://${within}:${port}\nData: ${data}\nCtrl-C ends it.`);
