/**
 * A rig with 32 channels over the real link into a real server: whether every sample is kept, and how long the server's event loop is
 * held up. The rig samples once a second of its clock, which runs sixty times as fast: sixty samples a second of every channel, six
 * times what a bench of ten a second sends, with settling judged three times a second.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { type LinkChannel } from '@red-ember/contract';
import { blankSpot, blankStudy, cautionsFor } from '@red-ember/study';
import { RigClient, type RigSource } from '@red-ember/rig';
import { startBench } from '@red-ember/server';

const CHANNELS = 32;
const LOAD_S = 3600;

const channels: LinkChannel[] = [
  ...Array.from({ length: CHANNELS - 1 }, (_, i): LinkChannel => ({
    key: `tc${i}`,
    label: `TC ${i}`,
    quantity: 'temperature',
    unit: '°C',
  })),
  { key: 'room', label: 'Room', quantity: 'temperature', unit: '°C' },
];
const source: RigSource = {
  simulated: true,
  channels,
  setups: [{ key: 'bare', label: 'Bare' }],
  begin() {
    let t = 0;
    return {
      read(dtS) {
        t += dtS;
        return Object.fromEntries(
          channels.map(({ key }, i) => [key, 22 + (key === 'room' ? 0 : 30 + i) * (1 - Math.exp(-t / 400)) + 0.05 * Math.sin(17 * t + i)]),
        );
      },
    };
  },
};

const folder = mkdtempSync(join(tmpdir(), 'red-ember-live-'));
const bench = await startBench({
  dataFolder: folder,
  webFolder: null,
  access: { host: '127.0.0.1', passphrase: null },
  port: 0,
  log: () => {},
  logError: (error) => console.error(error),
  apart: true,
});
const rig = new RigClient({ url: `ws://127.0.0.1:${bench.port}/rig`, id: 'load', name: 'Load', source });
rig.start();
const api = async (method: string, path: string, body?: unknown) =>
  (await fetch(`http://127.0.0.1:${bench.port}/api/v1${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  }).then((answer) => answer.json())) as Record<string, any>;
while (!((await api('GET', '/rigs')) as unknown as { connected: boolean }[])[0]?.connected)
  await new Promise((done) => setTimeout(done, 50));

const study = await api('POST', '/studies', {
  ...blankStudy('Live'),
  spots: channels.slice(0, -1).map(({ key }) => ({ ...blankSpot(`s-${key}`, key, key), limitC: 105, cutOutC: 110 })),
  variants: [{ id: 'v', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' }],
  recipe: [{ kind: 'load', name: 'Load', mode: 'until-settled', durationS: LOAD_S, capS: LOAD_S + 1, loadPercent: 100 }],
});
const mount = await api('POST', `/studies/${study.id}/mounts`, {
  variantId: 'v',
  confirmed: cautionsFor('drive').map(({ key }) => key),
  note: '',
});

const run = await api('POST', `/studies/${study.id}/runs`, { mountId: mount.id, timeScale: 60, seed: 1 });
// A page that watches, as in real work.
const watching = await fetch(`http://127.0.0.1:${bench.port}/api/v1/runs/${run.id}/live`);
void (async () => {
  for await (const _ of watching.body!) continue;
})().catch(() => {});
const delay = monitorEventLoopDelay({ resolution: 5 });
delay.enable();
const begun = performance.now();
for (;;) {
  await new Promise((done) => setTimeout(done, 500));
  const now = await api('GET', `/runs/${run.id}`);
  if (now.state !== 'recording' && now.state !== 'waiting') break;
}
delay.disable();
const seconds = (performance.now() - begun) / 1000;
const kept = channels.map(({ key }) => bench.services.stores.samples.read(run.id, key).t.length);
const lengthS = ((await api('GET', `/runs/${run.id}`)) as { lengthS: number }).lengthS;
console.log(
  `32 channels, ${lengthS} samples each in ${seconds.toFixed(0)} s (${(lengthS / seconds).toFixed(0)} a second), a page watching`,
);
console.log(`${'samples lost'.padEnd(64)} ${String(CHANNELS * lengthS - kept.reduce((sum, n) => sum + n, 0)).padStart(9)}`);
console.log(`${'event loop held up, 99th percentile'.padEnd(64)} ${(delay.percentile(99) / 1e6).toFixed(1).padStart(9)} ms`);
console.log(`${'event loop held up, at most'.padEnd(64)} ${(delay.max / 1e6).toFixed(1).padStart(9)} ms`);
rig.close();
await bench.close();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
