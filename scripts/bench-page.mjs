// How long somebody waits for the trace of a long run in the browser: from the click to the first line drawn, and from "Closer" to the
// next. Data comes from demo/src/benchLong.ts, which leaves it in a folder: node scripts/bench-page.mjs FOLDER
import { spawn, spawnSync } from 'node:child_process';
import { createServer } from 'node:net';
import { chromium } from '@playwright/test';
import { root } from './prepare.mjs';

const folder = process.argv[2];
if (!folder) throw new Error('Say which data folder.');
const built = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn'], {
  cwd: root,
  stdio: 'inherit',
});
if (built.status !== 0) process.exit(built.status ?? 1);

const port = await new Promise((resolve) => {
  const probe = createServer().listen(0, '127.0.0.1', () => {
    const { port: free } = /** @type {import('node:net').AddressInfo} */ (probe.address());
    probe.close(() => resolve(free));
  });
});
const base = `http://127.0.0.1:${port}`;
const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts', '--port', String(port), '--data', folder], {
  cwd: root,
  stdio: 'ignore',
});
const say = (name, values) => {
  const sorted = [...values].sort((a, b) => a - b);
  console.log(
    `${name.padEnd(64)} ${sorted[Math.floor(sorted.length / 2)].toFixed(1).padStart(9)} ms (${sorted[0].toFixed(0)} to ${sorted.at(-1).toFixed(0)})`,
  );
};

/** In the page: presses what is found, and waits until the lines of the trace are others than before. */
const pressAndWait = ({ find, text }) =>
  new Promise((resolve, reject) => {
    const lines = () => [...document.querySelectorAll('figure .trace-path')].map((path) => path.getAttribute('d')).join();
    const before = lines();
    const target = [...document.querySelectorAll(find)].find((element) => element.textContent.trim().startsWith(text));
    if (!target) return reject(new Error(`nothing says "${text}"`));
    const start = performance.now();
    const look = () => {
      const now = lines();
      // One more frame, so that what is counted has been painted.
      if (now !== '' && now !== before) requestAnimationFrame(() => resolve(performance.now() - start));
      else if (performance.now() - start > 20_000) reject(new Error('no line was drawn'));
      else requestAnimationFrame(look);
    };
    target.click();
    requestAnimationFrame(look);
  });

try {
  for (let tries = 0; !(await fetch(`${base}/api/v1/studies`).catch(() => null))?.ok; tries++) {
    if (tries > 150) throw new Error('the server does not answer');
    await new Promise((done) => setTimeout(done, 100));
  }
  const [{ id: runId }] = await (await fetch(`${base}/api/v1/studies/long/runs`)).json();
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const opened = [];
    const zoomed = [];
    const moved = [];
    for (let round = 0; round < 5; round++) {
      await page.goto(`${base}/studies/long/run`);
      await page.locator(`a[href$="/run/${runId}"]`).first().waitFor();
      await page.waitForTimeout(500);
      opened.push(await page.evaluate(pressAndWait, { find: `a[href$="/run/${runId}"]`, text: '' }));
      for (let step = 0; step < 3; step++) {
        await page.waitForTimeout(500);
        zoomed.push(await page.evaluate(pressAndWait, { find: 'button', text: 'Closer' }));
      }
      await page.waitForTimeout(500);
      moved.push(await page.evaluate(pressAndWait, { find: 'button', text: 'Later' }));
    }
    say('from the click to the first line of the trace', opened);
    say('from "Closer" to the next', zoomed);
    say('from "Later" to the next', moved);
  } finally {
    await browser.close();
  }
} finally {
  server.kill('SIGTERM');
}
