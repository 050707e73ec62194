import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import WebSocket from 'ws';
import { LINK_VERSION, type Latch, type ServerMessage, type StudyBody } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import { studyBody } from '@red-ember/testing';
import { startBench, type BenchOptions, type RunningBench } from '../bench.ts';

export interface TestBench extends RunningBench {
  folder: string;
  call(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; headers: Headers; json: any; text: string }>;
  remove(): Promise<void>;
}

/** A whole server on a free port over a folder of its own, or over an existing one. */
export async function testBench(
  folder = mkdtempSync(join(tmpdir(), 'red-ember-test-')),
  options: Pick<BenchOptions, 'apart'> = {},
): Promise<TestBench> {
  const bench = await startBench({
    dataFolder: folder,
    webFolder: null,
    access: { host: '127.0.0.1', passphrase: null },
    port: 0,
    log: () => {},
    logError: (error) => console.error(error),
    ...options,
  });
  return {
    ...bench,
    folder,
    async call(method, path, body, headers = {}) {
      const response = await fetch(`http://127.0.0.1:${bench.port}${path}`, {
        method,
        headers: { ...(body === undefined || body instanceof FormData ? {} : { 'content-type': 'application/json' }), ...headers },
        ...(body === undefined ? {} : { body: body instanceof FormData ? body : JSON.stringify(body) }),
      });
      const text = await response.text();
      return {
        status: response.status,
        headers: response.headers,
        text,
        json: /json/.test(response.headers.get('content-type') ?? '') ? JSON.parse(text) : null,
      };
    },
    async remove() {
      await bench.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A rig under the test's own hand: it says what the test tells it to. */
export class FakeRig {
  readonly heard: ServerMessage[] = [];
  private constructor(readonly socket: WebSocket) {}

  static async connect(
    port: number,
    options: {
      run?: { runId: string; lastSeq: number; loadPercent: number; latched?: Latch | null };
      headers?: Record<string, string>;
      fastestMs?: number;
      greet?: boolean;
      unit?: string;
      id?: string;
      /** Channels besides the usual four. */
      more?: { key: string; quantity: string; unit: string; byHand?: boolean }[];
      controls?: object[];
      faults?: object[];
      setups?: string[];
    } = {},
  ): Promise<FakeRig> {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/rig`, { headers: options.headers ?? {} });
    const rig = new FakeRig(socket);
    socket.on('message', (data) => rig.heard.push(JSON.parse(String(data)) as ServerMessage));
    await new Promise((resolve, reject) => {
      socket.once('open', resolve);
      socket.once('error', reject);
    });
    if (options.greet !== false) {
      rig.say({
        type: 'hello',
        version: LINK_VERSION,
        rig: {
          id: options.id ?? 'fake',
          name: 'Fake rig',
          simulated: true,
          ...(options.fastestMs ? { fastestMs: options.fastestMs } : {}),
        },
        channels: [
          ...['tc1', 'tc2', 'room', 'throughput'].map((key) => ({ key, quantity: 'temperature', unit: options.unit ?? '°C' })),
          ...(options.more ?? []),
        ].map((channel) => ({ label: channel.key, ...channel })),
        setups: (options.setups ?? ['bare', 'slot-lid']).map((key) => ({ key, label: key })),
        ...(options.controls ? { controls: options.controls } : {}),
        ...(options.faults ? { faults: options.faults } : {}),
        run: options.run ?? null,
      });
      await rig.hears((message) => message.type === 'welcome');
    }
    return rig;
  }

  say(message: unknown): void {
    this.socket.send(typeof message === 'string' ? message : JSON.stringify(message));
  }

  /** Seconds from..to (inclusive) at constant readings. */
  samples(runId: string, seq: number, fromS: number, toS: number, values: Record<string, number | null> = {}): void {
    const tMs = Array.from({ length: toS - fromS + 1 }, (_, i) => (fromS + i) * 1000);
    const all = { tc1: 50, tc2: 48, room: 22, throughput: 6000, ...values };
    this.say({
      type: 'samples',
      runId,
      seq,
      tMs,
      values: Object.fromEntries(Object.entries(all).map(([key, value]) => [key, tMs.map(() => value)])),
    });
  }

  /** What it does, as a rig says it every second. */
  state(runId: string | null, loadPercent: number, latched: Latch | null = null): void {
    this.say({ type: 'state', runId, loadPercent, latched });
  }

  /** @param withinMs how long a test waits at most: a bound and no claim, since a busy machine stands still for seconds */
  async hears(wanted: (message: ServerMessage) => boolean, withinMs = 20_000): Promise<ServerMessage> {
    const until = Date.now() + withinMs;
    while (Date.now() < until) {
      const found = this.heard.find(wanted);
      if (found) return found;
      await new Promise((done) => setTimeout(done, 5));
    }
    throw new Error(`not heard; last was ${JSON.stringify(this.heard.at(-1))}`);
  }

  close(): void {
    this.socket.terminate();
  }
}

/** A study with one mount of its first variant, ready to run. */
export async function mounted(bench: TestBench, body: StudyBody = studyBody()): Promise<{ studyId: string; mountId: string }> {
  const study = await bench.call('POST', '/api/v1/studies', body);
  const mount = await bench.call('POST', `/api/v1/studies/${study.json.id}/mounts`, {
    variantId: body.variants[0]!.id,
    confirmed: cautionsFor(body.family).map((caution) => caution.key),
    note: '',
  });
  return { studyId: study.json.id as string, mountId: mount.json.id as string };
}
