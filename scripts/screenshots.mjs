// Takes the pictures of docs/screenshots anew, from fresh demo data: node scripts/screenshots.mjs [name…]
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM, ensureChromium, ensureDependencies, root, run } from './prepare.mjs';

const PORT = 4577;
const STUDY = '/studies/demo-slot-lid';
const VIEWS = {
  shelf: '/',
  ask: `${STUDY}/ask`,
  look: `${STUDY}/look`,
  map: '/studies/demo-five-boards/look/map',
  camera: `${STUDY}/look/camera`,
  equip: `${STUDY}/equip`,
  hold: '/studies/demo-five-boards/hold',
  plan: `${STUDY}/plan`,
  order: '/studies/demo-armour/plan/order',
  read: '/studies/demo-heat-path/read',
  judge: `${STUDY}/judge`,
  report: `${STUDY}/report`,
  practice: '/practice',
};
/** Several pages of one station on one picture. */
const SHEETS = {
  'bench-pages': ['/runs', '/runs/mounts', '/runs/parts', '/bench', '/instruments', '/limits'],
  mount: ['/studies/demo-fixes/mount', '/studies/demo-pastes/mount/pads'],
  'judge-pages': [
    '/studies/demo-pastes/judge/all',
    '/studies/demo-fixes/judge/steps',
    '/studies/demo-armour/judge/factors',
    '/studies/demo-loop/judge/choice',
    '/studies/demo-watts-steps/judge/carry',
    '/studies/demo-fixes/judge/held',
    '/studies/demo-retrofit/judge/what-if?air=31.5&fan=1.2',
    '/studies/demo-odd-board/judge/odd',
  ],
};
const wanted = process.argv.slice(2);
const wants = (name) => wanted.length === 0 || wanted.includes(name);

ensureDependencies();
ensureChromium();
run(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn']);
const data = mkdtempSync(join(tmpdir(), 'red-ember-pictures-'));
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
run(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', data]);
const start = (...args) => spawn(process.execPath, ['--import', 'tsx', ...args], { cwd: root, stdio: 'ignore' });
const children = [start('server/src/main.ts', '--port', String(PORT), '--data', data)];
const base = `http://127.0.0.1:${PORT}`;
while (!(await fetch(`${base}/api/v1/rigs`).catch(() => null))?.ok) await new Promise((done) => setTimeout(done, 200));
children.push(start('rig/src/main.ts', '--url', `ws://127.0.0.1:${PORT}/rig`));

const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
try {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, timezoneId: 'UTC', locale: 'en-GB' })).newPage();
  page.on('console', (message) => ['error', 'warning'].includes(message.type()) && console.log(message.text()));
  page.on('pageerror', (error) => console.log(error.message));
  const shoot = async (name) => {
    await page.waitForLoadState('networkidle').catch(() => {});
    await page.waitForTimeout(900);
    await page.screenshot({ path: join(out, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
  };
  for (const [name, path] of Object.entries(VIEWS)) {
    if (!wants(name)) continue;
    await page.goto(base + path);
    await shoot(name);
  }
  if (wants('bench-pages')) {
    const ask = async (path, options) =>
      (await fetch(`${base}/api/v1${path}`, { headers: { 'content-type': 'application/json' }, ...options })).json();
    for (const { id } of await ask('/rigs'))
      await ask(`/rigs/${id}/rehearsals`, { method: 'POST', body: JSON.stringify({ loadPercent: 20 }) });
    while ((await ask('/rigs')).some(({ rehearsal }) => rehearsal?.trying)) await page.waitForTimeout(500);
  }
  for (const [name, paths] of Object.entries(SHEETS)) {
    if (!wants(name)) continue;
    const cells = [];
    for (const path of paths) {
      await page.goto(base + path);
      await page.waitForLoadState('networkidle').catch(() => {});
      await page.waitForTimeout(900);
      cells.push((await page.screenshot()).toString('base64'));
    }
    const sheet = await (await browser.newContext({ viewport: { width: 1960, height: 10 } })).newPage();
    const images = cells.map((cell) => `<img width="960" height="600" src="data:image/png;base64,${cell}">`).join('');
    await sheet.setContent(
      `<body style="margin:0;background:#8b8174;display:grid;grid-template-columns:960px 960px;gap:40px">${images}</body>`,
    );
    await sheet.screenshot({ path: join(out, `${name}.png`), fullPage: true });
    console.log(`docs/screenshots/${name}.png`);
  }
  if (wants('logs')) {
    await page.goto(`${base}/logs`);
    const samples = join(root, 'web/public/samples');
    await page.locator('input[type=file]').setInputFiles(readdirSync(samples).map((name) => join(samples, name)));
    await page.getByRole('heading', { name: /^5 logs/ }).waitFor();
    await page.getByRole('button', { name: 'Wren 8 paste L fans auto.csv', exact: true }).click();
    await page.getByRole('slider').first().waitFor();
    await shoot('logs');
  }
  const start = async (study, variant, { scale, reason = '' }) => {
    await page.goto(`${base}/studies/${study}/mount`);
    await page.getByRole('radio', { name: new RegExp(`^${variant}`) }).check();
    const boxes = page.locator('form').getByRole('checkbox');
    for (const box of await boxes.all()) await box.check();
    await page.getByRole('button', { name: /is mounted$/ }).click();
    await page.getByRole('heading', { name: /On the bench/ }).waitFor();
    await page.goto(`${base}/studies/${study}/run`);
    await page.getByText(scale, { exact: true }).click();
    await page.getByRole('button', { name: 'All of them' }).click();
    await page.getByRole('button', { name: 'Look at the bench' }).click();
    if (reason) await page.getByLabel(/say why the run is started/).fill(reason);
    await page.getByRole('button', { name: 'Start the run' }).click();
  };
  if (wants('live')) {
    await start('demo-long-session', 'small case', { scale: '600×' });
    await page.getByText('Vent open again').first().waitFor();
    await page.locator('[aria-current=step]', { hasText: 'Vent open again' }).waitFor({ timeout: 60_000 });
    await page.waitForTimeout(250);
    await page.screenshot({ path: join(out, 'live.png') });
    console.log('docs/screenshots/live.png');
  }
  if (wants('arm')) {
    await start('demo-watts', 'still air', { scale: '60×', reason: 'Everything is read by infrared; I stay beside it.' });
    await page.locator('[aria-current=step]', { hasText: 'Worst case' }).waitFor({ timeout: 60_000 });
    await page.keyboard.press('a');
    for (let round = 0; round < 2; round++) {
      await page.waitForTimeout(6000);
      if (round === 0) await page.keyboard.press('h');
      for (const text of await page.getByText(/^shows \d/).allTextContents()) {
        await page.keyboard.type(/[\d.]+/.exec(text)[0]);
        await page.keyboard.press('Tab');
      }
      // The last Tab came to the button that writes them all down.
      await page.keyboard.press('Enter');
    }
    await page.waitForTimeout(1500);
    await shoot('arm');
  }
} finally {
  await browser.close();
  for (const child of children) child.kill('SIGTERM');
  setTimeout(() => rmSync(data, { recursive: true, force: true }), 500);
}
