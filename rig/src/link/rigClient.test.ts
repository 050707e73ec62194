import { DRIVE_SOURCE } from '../simulated.ts';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { WebSocketServer, type WebSocket } from 'ws';
import { LINK_VERSION, type HelloMessage, type RigMessage, type SamplesMessage, type ServerMessage } from '@red-ember/contract';
import { RigClient } from './rigClient.ts';

/** The server's end under the test's own hand. */
class FakeServer {
  readonly heard: RigMessage[] = [];
  socket: WebSocket | null = null;
  private wss: WebSocketServer;

  constructor(port = 0) {
    this.wss = new WebSocketServer({ port, host: '127.0.0.1' });
    this.wss.on('connection', (socket) => {
      this.socket = socket;
      socket.on('message', (data) => this.heard.push(JSON.parse(String(data)) as RigMessage));
    });
  }

  get port(): number {
    return (this.wss.address() as { port: number } | null)?.port ?? 0;
  }

  say(message: ServerMessage): void {
    this.socket!.send(JSON.stringify(message));
  }

  samples(): SamplesMessage[] {
    return this.heard.filter((message): message is SamplesMessage => message.type === 'samples');
  }

  async until(done: () => boolean, withinMs = 9000): Promise<void> {
    const end = Date.now() + withinMs;
    while (!done()) {
      if (Date.now() > end) throw new Error(`waited in vain; heard ${this.heard.map((message) => message.type).join(', ')}`);
      await new Promise((next) => setTimeout(next, 10));
    }
  }

  async close(): Promise<void> {
    for (const client of this.wss.clients) client.terminate();
    await new Promise((done) => this.wss.close(done));
  }
}

const start = (timeScale: number): ServerMessage => ({
  type: 'command',
  command: 'start',
  runId: 'r1',
  setup: 'bare',
  seed: 1,
  mountSeed: 1,
  timeScale,
  sampleIntervalMs: 1000,
  armed: [],
});

let server: FakeServer;
let client: RigClient;
beforeEach(async () => {
  server = new FakeServer();
  await server.until(() => server.port > 0);
  client = new RigClient({ url: `ws://127.0.0.1:${server.port}/rig`, id: 'bench-1', name: 'Simulated bench', source: DRIVE_SOURCE });
  client.start();
  await server.until(() => server.heard.length > 0);
});
afterEach(async () => {
  client.close();
  await server.close();
});

describe('the rig process', () => {
  it('says what it is and what it can do', () => {
    const hello = server.heard[0] as HelloMessage;
    expect(hello).toMatchObject({ type: 'hello', version: LINK_VERSION, rig: { id: 'bench-1', simulated: true }, run: null });
    expect(hello.channels.map((channel) => channel.key)).toEqual([
      'tc1',
      'tc2',
      'tc3',
      'own',
      'room',
      'throughput',
      'power',
      'utilisation',
      'duty',
      'fan',
      'level',
    ]);
    expect(hello.controls!.map((control) => control.key)).toEqual(['fan-duty']);
    expect(hello.setups.map((setup) => setup.key)).toContain('slot-lid');
  });

  it('obeys the load and stops at the end', async () => {
    server.say({ type: 'welcome', heartbeatS: 1 });
    server.say(start(60));
    server.say({ type: 'command', command: 'load', runId: 'r1', percent: 100, forS: 5 });
    await server.until(() => server.samples().length >= 1);
    expect(server.samples()[0]!.values.throughput!.at(-1)).toBeGreaterThan(5000);
    server.say({ type: 'command', command: 'load', runId: 'another', percent: 0, forS: 5 });
    server.say({ type: 'ack', runId: 'r1', seq: server.samples().at(-1)!.seq });
    await server.until(() => server.samples().length >= 2);
    expect(server.samples().at(-1)!.values.throughput!.at(-1)).toBeGreaterThan(5000);
    server.say({ type: 'command', command: 'end', runId: 'r1' });
    await server.until(() => server.heard.some((message) => message.type === 'state' && message.runId === null));
    const count = server.samples().length;
    await new Promise((done) => setTimeout(done, 200));
    expect(server.samples().length).toBe(count);
  });

  it('says of a command that it does not know that it did not obey, and of none that it did', async () => {
    server.say({ type: 'welcome', heartbeatS: 1 });
    server.say(start(60));
    await server.until(() => server.samples().length >= 1);
    const states = () => server.heard.filter((message) => message.type === 'state').length;
    const before = states();
    server.say({ type: 'command', command: 'spin', runId: 'r1' } as never);
    await server.until(() => server.heard.some((message) => message.type === 'event'));
    expect(server.heard.find((message) => message.type === 'event')).toMatchObject({
      kind: 'note',
      text: 'The rig could not do it: it knows no command “spin”.',
    });
    expect(states()).toBe(before);
  });

  it('comes back after the server was gone, names its run and sends again what nobody acknowledged', async () => {
    server.say({ type: 'welcome', heartbeatS: 1 });
    server.say(start(60));
    await server.until(() => server.samples().length >= 1);
    server.say({ type: 'ack', runId: 'r1', seq: 1 });
    await server.until(() => server.samples().length >= 2);
    const { port } = server;
    await server.close();
    server = new FakeServer(port);
    await server.until(() => server.heard.length > 0);
    expect(server.heard[0]).toMatchObject({ type: 'hello', run: { runId: 'r1' } });
    server.say({ type: 'welcome', heartbeatS: 1 });
    await server.until(() => server.samples().length >= 1);
    const seqs = server.samples().map((message) => message.seq);
    expect(seqs[0]).toBe(2);
    expect(seqs).toEqual([...new Set(seqs)].sort((a, b) => a - b));
  });

  it('ignores a start that it has had already', async () => {
    server.say({ type: 'welcome', heartbeatS: 1 });
    server.say(start(60));
    await server.until(() => server.samples().length >= 1);
    server.say(start(60));
    server.say({ type: 'ack', runId: 'r1', seq: 1 });
    await server.until(() => server.samples().length >= 2);
    expect(server.samples().at(-1)!.seq).toBe(2);
    expect(server.samples().at(-1)!.tMs[0]).toBeGreaterThan(server.samples()[0]!.tMs.at(-1)!);
  });

  it('removes the load by itself when nobody says it again for five seconds, though beats and acknowledgements go on', async () => {
    server.say({ type: 'welcome', heartbeatS: 1 });
    server.say(start(1));
    server.say({ type: 'command', command: 'load', runId: 'r1', percent: 100, forS: 5 });
    await server.until(() => server.samples().some((message) => message.values.utilisation!.at(-1)! > 90));
    const beat = setInterval(() => server.say({ type: 'beat' }), 500);
    await server.until(() => server.samples().at(-1)!.values.utilisation!.at(-1) === 0, 9000);
    clearInterval(beat);
    const event = server.heard.find((message) => message.type === 'event');
    expect(event).toMatchObject({ kind: 'load-removed', id: expect.any(String) });
    expect(server.heard.findLast((message) => message.type === 'state')).toMatchObject({
      loadPercent: 0,
      latched: { kind: 'load-removed' },
    });
    const removedAfter = server.samples().at(-1)!.tMs.at(-1)! / 1000;
    expect(removedAfter).toBeGreaterThanOrEqual(5);
    expect(removedAfter).toBeLessThan(9);
  });
});
