// How much of the browser's main thread a followed run takes: twelve channels at ten samples a second after an hour, at the clock's own
// pace, and the same bench in time-lapse. Share of the time, longest task, and how long a click waits: node --import tsx scripts/bench-live-page.mjs
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import WebSocket from 'ws';
import { root } from './prepare.mjs';

// Named at run time: the check of the scripts would else check the workspace again, by rules that are not its own.
const { blankSpot, blankStudy, cautionsFor } = await import(String('@red-ember/study'));

const CHANNELS = [...Array.from({ length: 10 }, (_, i) => `tc${i + 1}`), 'room', 'power'];
const RATE = 10;
const WATCHED_S = 20;

const build = ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn'];
if (spawnSync(process.execPath, build, { cwd: root, stdio: 'inherit' }).status !== 0) process.exit(1);
const port = await new Promise((resolve) => {
  const probe = createServer().listen(0, '127.0.0.1', () => {
    const { port: free } = /** @type {import('node:net').AddressInfo} */ (probe.address());
    probe.close(() => resolve(free));
  });
});
const folder = mkdtempSync(join(tmpdir(), 'red-ember-live-page-'));
const base = `http://127.0.0.1:${port}`;
const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts', '--port', String(port), '--data', folder], {
  cwd: root,
  stdio: 'ignore',
});
const ask = async (method, path, body) => {
  const answer = await fetch(`${base}/api/v1${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  return answer.json();
};

/** A rig of twelve channels; in time-lapse it sends as many samples as the clock would, fifteen at a time, as the benches do. */
function rig(id, timeScale) {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/rig`);
  const say = (message) => socket.readyState === WebSocket.OPEN && socket.send(JSON.stringify(message));
  let [run, seq, tMs, load, acked] = [null, 0, 0, 0, 0];
  const shown = (key, t, i) => {
    if (key === 'room') return 22 + 0.05 * Math.sin(t);
    if (key === 'power') return load > 0 ? 206 + Math.sin(7 * t) : 26;
    return Math.round((22 + (30 + 2 * i) * (1 - Math.exp(-t / 400)) + 0.2 * Math.sin(17 * t + i)) * 1000) / 1000;
  };
  const send = (count, stepMs) => {
    const times = Array.from({ length: count }, () => (tMs += stepMs));
    const values = Object.fromEntries(CHANNELS.map((key, i) => [key, times.map((ms) => shown(key, ms / 1000, i))]));
    say({ type: 'samples', runId: run, seq: ++seq, tMs: times, values });
  };
  socket.on('open', () =>
    say({
      type: 'hello',
      version: 1,
      rig: { id, name: id, simulated: true },
      channels: CHANNELS.map((key) => ({
        key,
        label: key,
        quantity: key === 'power' ? 'power' : 'temperature',
        unit: key === 'power' ? 'W' : '°C',
      })),
      setups: [{ key: 'bare', label: 'Bare' }],
      run: null,
    }),
  );
  socket.on('message', (data) => {
    const message = JSON.parse(String(data));
    if (message.type === 'ack') acked = message.seq;
    if (message.command === 'load' && message.runId === run) load = message.percent;
    if (message.command !== 'start' || run) return;
    run = message.runId;
    // The hour before, as after a line that was lost.
    if (timeScale === 1) for (let k = 0; k < 18; k++) send(2000, 1000 / RATE);
    const every = timeScale === 1 ? 1000 / RATE : 25;
    setInterval(() => {
      if (timeScale === 1) send(1, 1000 / RATE);
      else if (acked === seq) send(Math.min(15, Math.max(1, Math.round((timeScale * every) / 1000))), 1000);
    }, every);
  });
  setInterval(() => say({ type: 'state', runId: run, loadPercent: load }), 1000);
  return socket;
}

async function scene(browser, name, timeScale) {
  const id = `rig-${timeScale}`;
  const socket = rig(id, timeScale);
  while (!(await ask('GET', '/rigs')).some((entry) => entry.id === id && entry.connected))
    await new Promise((done) => setTimeout(done, 50));
  const study = await ask('POST', '/studies', {
    ...blankStudy(name),
    spots: CHANNELS.slice(0, 10).map((key) => ({ ...blankSpot(`${id}-${key}`, key, key), limitC: 105, cutOutC: 110 })),
    variants: [{ id: `${id}-v`, name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' }],
    recipe: [{ kind: 'load', name: 'Load', mode: 'until-settled', durationS: 27_000, capS: 28_800, loadPercent: 100 }],
  });
  if (!study.id) throw new Error(study.detail);
  const mount = await ask('POST', `/studies/${study.id}/mounts`, {
    variantId: `${id}-v`,
    confirmed: cautionsFor(study.family).map(({ key }) => key),
    note: '',
  });

  const run = await ask('POST', `/studies/${study.id}/runs`, { mountId: mount.id, timeScale, seed: 1, rigId: id });
  if (!run.id) throw new Error(run.detail);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    /** @type {any} */ (window).longest = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries())
        /** @type {any} */ (window).longest = Math.max(/** @type {any} */ (window).longest, entry.duration);
    }).observe({ entryTypes: ['longtask'] });
  });
  await page.goto(`${base}/studies/${study.id}/run/${run.id}`);
  await page.locator('.trace-path').nth(9).waitFor({ state: 'attached', timeout: 60_000 });
  await page.waitForTimeout(4000);
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const busy = async () => (await session.send('Performance.getMetrics')).metrics.find((metric) => metric.name === 'TaskDuration').value;
  await page.evaluate(() => {
    /** @type {any} */ (window).longest = 0;
  });
  const [before, begun] = [await busy(), performance.now()];
  const clicks = [];
  for (let k = 0; k < WATCHED_S; k++) {
    await page.waitForTimeout(1000);
    clicks.push(
      await page.evaluate(
        () =>
          new Promise((resolve) => {
            const button = [...document.querySelectorAll('button')].find((entry) => entry.textContent.includes('Keys'));
            const start = performance.now();
            setTimeout(() => {
              button.click();
              requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - start), 0));
            }, 0);
          }),
      ),
    );
    await page.keyboard.press('Escape');
  }
  const share = (100 * ((await busy()) - before)) / ((performance.now() - begun) / 1000);
  const longest = await page.evaluate(() => /** @type {any} */ (window).longest);
  clicks.sort((a, b) => a - b);
  const line = (what, value) => console.log(`${`${name}: ${what}`.padEnd(64)} ${value.padStart(9)}`);
  line('main thread', `${share.toFixed(0)} %`);
  line('longest task (0: none over 50 ms)', `${longest.toFixed(0)} ms`);
  line('a click answered, median', `${clicks[Math.floor(clicks.length / 2)].toFixed(0)} ms`);
  line('a click answered, at most', `${clicks.at(-1).toFixed(0)} ms`);
  if (process.env.SHOT) await page.screenshot({ path: `${process.env.SHOT}-${timeScale}.png` });
  await page.close();
  await ask('POST', `/runs/${run.id}/stop`, { reason: '' });
  socket.terminate();
}

try {
  for (let tries = 0; !(await fetch(`${base}/api/v1/studies`).catch(() => null))?.ok; tries++) {
    if (tries > 150) throw new Error('the server does not answer');
    await new Promise((done) => setTimeout(done, 100));
  }
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    await scene(browser, '1×, ten a second, after an hour', 1);
    await scene(browser, '60×', 60);
    await scene(browser, '600×', 600);
  } finally {
    await browser.close();
  }
} finally {
  server.kill('SIGTERM');
  setTimeout(() => {
    rmSync(folder, { recursive: true, force: true });
    process.exit(0);
  }, 1500);
}
