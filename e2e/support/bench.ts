import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';
import type { Study, StudyBody } from '@red-ember/contract';

const root = join(import.meta.dirname, '../..');

async function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/** A server with its own copy of the demo data and a simulated bench, as processes that can be killed. */
export class Bench {
  private server: ChildProcess | null = null;
  private rig: ChildProcess | null = null;

  constructor(
    readonly data: string,
    readonly port: number,
  ) {}

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async startServer(): Promise<void> {
    this.server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts', '--port', String(this.port), '--data', this.data], {
      cwd: root,
      stdio: 'ignore',
    });
    for (let tries = 0; tries < 600; tries++) {
      if ((await fetch(`${this.url}/api/v1/studies`).catch(() => null))?.ok) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error('the server did not start');
  }

  /** As a power cut would: no chance to tidy up. */
  async killServer(): Promise<void> {
    await this.kill(this.server, 'SIGKILL');
  }

  startRig(): void {
    this.rig = spawn(process.execPath, ['--import', 'tsx', 'rig/src/main.ts', '--url', `ws://127.0.0.1:${this.port}/rig`], {
      cwd: root,
      stdio: 'ignore',
    });
  }

  async killRig(): Promise<void> {
    await this.kill(this.rig, 'SIGKILL');
  }

  async close(): Promise<void> {
    await this.kill(this.rig, 'SIGTERM');
    await this.kill(this.server, 'SIGTERM');
    rmSync(this.data, { recursive: true, force: true });
  }

  async get<T>(path: string): Promise<T> {
    return (await (await fetch(`${this.url}/api/v1${path}`)).json()) as T;
  }

  /** Changes a study as another window would: read, altered, and put back with its version. */
  async changeStudy(id: string, part: (study: Study) => Partial<StudyBody>): Promise<void> {
    const url = `${this.url}/api/v1/studies/${id}`;
    const study = await this.get<Study>(`/studies/${id}`);
    // What the server added must not come back; the journeys take nothing but types from the contract.
    const {
      id: _i,
      version: _v,
      createdAt: _c,
      updatedAt: _u,
      predictionLockedAt: _p,
      predictionStamps: _s,
      variantsWithRuns: _w,
      ...body
    } = study;
    const sent = await fetch(url, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-match': `"${study.version}"` },
      body: JSON.stringify({ ...body, ...part(study) }),
    });
    if (!sent.ok) throw new Error(`${id}: ${sent.status} ${await sent.text()}`);
  }

  private async kill(child: ChildProcess | null, signal: NodeJS.Signals): Promise<void> {
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }
}

/** A bench with nothing on its shelf and no rig. */
export async function emptyBench(): Promise<Bench> {
  const bench = new Bench(mkdtempSync(join(tmpdir(), 'red-ember-journey-')), await freePort());
  await bench.startServer();
  return bench;
}

/** A bench over a copy of seeded data, with its server and its rig. */
async function benchOf(seed: string): Promise<Bench> {
  const data = mkdtempSync(join(tmpdir(), 'red-ember-journey-'));
  cpSync(seed, data, { recursive: true });
  const bench = new Bench(data, await freePort());
  await bench.startServer();
  bench.startRig();
  return bench;
}

export const test = base.extend<{ bench: Bench; measured: boolean }>({
  /** Studies of the shelf have their runs. */
  measured: [false, { option: true }],
  bench: async ({ measured }, use) => {
    const bench = await benchOf((measured ? process.env.RED_EMBER_SHELF : process.env.RED_EMBER_SEED)!);
    await use(bench);
    await bench.close();
  },
  baseURL: async ({ bench }, use) => use(bench.url),
});

/** For journeys that change nothing: one bench with measured studies for all that a worker walks, so that none waits for a server. */
export const reading = base.extend<object, { shelf: Bench }>({
  shelf: [
    async ({}, use) => {
      const bench = await benchOf(process.env.RED_EMBER_SHELF!);
      await use(bench);
      await bench.close();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ shelf }, use) => use(shelf.url),
});

export { expect } from '@playwright/test';
