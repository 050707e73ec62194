import WebSocket from 'ws';
import {
  HEARTBEAT_S,
  LINK_VERSION,
  type HelloMessage,
  type LookCommand,
  type LookMessage,
  type RigMessage,
  type ServerMessage,
} from '@red-ember/contract';
import type { Readings, RigSource } from '../source.ts';
import { ActiveRun } from './activeRun.ts';

export interface RigClientOptions {
  /** Address of the server's rig link, ws://host:port/rig. */
  url: string;
  id: string;
  name: string;
  /** The simulated drive where nothing is said. */
  source: RigSource;
  /** Shared secret, needed where the server listens beyond this machine. */
  passphrase?: string;
  log?: (text: string) => void;
}

const TICK_MS = 25;
const RECONNECT_MS = 500;
/** After a refusal there is no hurry. */
const REFUSED_MS = 3000;
/** Samples of a look; a real bench is read once a second. */
const LOOK_SIMULATED = 30;
const LOOK_REAL = 4;

/** A rig as its own process: connects, obeys commands, resends what was not acknowledged. */
export class RigClient {
  private socket: WebSocket | null = null;
  private run: ActiveRun | null = null;
  private timer: NodeJS.Timeout | null = null;
  /** Monotonic: a clock that is set must not take a load off, nor leave it on. */
  private lastTick = performance.now();
  private stateAtMs = 0;
  private refused = false;
  private closed = false;

  private readonly source: RigSource;

  constructor(private readonly options: RigClientOptions) {
    this.source = options.source;
  }

  start(): void {
    this.connect();
    this.lastTick = performance.now();
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  close(): void {
    this.closed = true;
    if (this.timer) clearInterval(this.timer);
    // Nobody watches a load whose rig is gone.
    this.run?.end();
    this.socket?.close();
  }

  private connect(): void {
    if (this.closed) return;
    const headers = this.options.passphrase ? { 'x-passphrase': this.options.passphrase } : {};
    const socket = new WebSocket(this.options.url, { headers });
    this.socket = socket;
    socket.on('open', () => {
      this.send({
        type: 'hello',
        version: LINK_VERSION,
        rig: {
          id: this.options.id,
          name: this.options.name,
          simulated: this.source.simulated,
          ...(this.source.family ? { family: this.source.family } : {}),
          ...(this.source.fastestMs ? { fastestMs: this.source.fastestMs } : {}),
        },
        channels: this.source.channels,
        setups: this.source.setups,
        ...(this.source.controls ? { controls: this.source.controls } : {}),
        ...(this.source.faults ? { faults: this.source.faults } : {}),
        run: this.helloRun(),
      });
    });
    socket.on('message', (data) => this.receive(String(data)));
    socket.on('error', () => {}); // 'close' follows and reconnects
    socket.on('close', () => {
      if (!this.closed) setTimeout(() => this.connect(), this.refused ? REFUSED_MS : RECONNECT_MS);
      this.refused = false;
    });
  }

  private helloRun(): HelloMessage['run'] {
    if (!this.run || this.run.ended) return null;
    const { runId, lastSeq, loadPercent, latched } = this.run;
    return { runId, lastSeq, loadPercent, latched };
  }

  /** Says what it does, not what it was told. */
  private sayState(): void {
    this.stateAtMs = performance.now();
    const run = this.run?.ended ? null : this.run;
    this.send({ type: 'state', runId: run?.runId ?? null, loadPercent: this.run?.loadPercent ?? 0, latched: run?.latched ?? null });
  }

  private send(message: RigMessage): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }

  private receive(text: string): void {
    const message = JSON.parse(text) as ServerMessage;
    switch (message.type) {
      case 'welcome':
        for (const waiting of this.run?.unacknowledged ?? []) this.send(waiting);
        break;
      case 'refused':
        this.refused = true;
        this.options.log?.(`The server refused this rig: ${message.reason}`);
        break;
      case 'ack':
        if (this.run?.runId !== message.runId) break;
        this.run.acknowledge(message.seq, message.events);
        // A bench in time-lapse has waited for this: it need not wait for the next tick too.
        if (this.run.command.timeScale > 1) this.tick();
        break;
      case 'command':
        this.obey(message);
        break;
      case 'beat':
        break;
      default:
        this.options.log?.(`Not understood: ${String((message satisfies never as { type?: unknown }).type)}.`);
    }
  }

  private obey(command: Extract<ServerMessage, { type: 'command' }>): void {
    switch (command.command) {
      case 'start':
        if (this.run?.runId === command.runId) break; // the server asks again after a restart
        this.run?.end();
        this.run = new ActiveRun(command, this.source);
        this.options.log?.(`Run ${command.runId} starts, ${command.timeScale}×.`);
        break;
      case 'load':
        if (this.run?.runId === command.runId) this.run.lease(command.percent, performance.now(), command.forS);
        break;
      case 'rearm':
        if (this.run?.runId === command.runId) this.run.rearm();
        break;
      case 'look':
        void this.look(command);
        return;
      case 'set':
        if (this.run?.runId === command.runId) {
          const trouble = this.run.set(command.control, command.value);
          if (trouble) this.send(trouble);
        }
        break;
      case 'end':
        if (this.run?.runId === command.runId) {
          this.run.end();
          this.options.log?.(`Run ${command.runId} ends.`);
        }
        break;
      default:
        this.notKnown(command);
        return;
    }
    this.sayState();
  }

  /** A server of another version may ask for what this rig does not know: it is not obeyed, and no state says that it was. */
  private notKnown(command: never): void {
    const why = `it knows no command “${String((command as { command?: unknown }).command)}”`;
    this.options.log?.(`Not obeyed: ${why}.`);
    if (this.run && !this.run.ended) this.send(this.run.notDone(why));
  }

  /** Shows what every channel reads without a run: a simulated bench at once, a real one over some seconds. */
  private async look(command: LookCommand): Promise<void> {
    const { simulated, channels } = this.source;
    let readings: Readings;
    try {
      readings = this.source.begin(command);
    } catch (error) {
      this.options.log?.(error instanceof Error ? error.message : String(error));
      return;
    }
    const message: LookMessage = { type: 'look', lookId: command.lookId, tMs: [], values: {} };
    for (let i = 1; i <= (simulated ? LOOK_SIMULATED : LOOK_REAL); i++) {
      if (!simulated) await new Promise((done) => setTimeout(done, 1000));
      const reading = readings.read(1, 0);
      message.tMs.push(1000 * i);
      for (const { key } of channels) (message.values[key] ??= []).push(reading[key] ?? null);
    }
    this.send(message);
  }

  private tick(): void {
    const now = performance.now();
    const passed = now - this.lastTick;
    this.lastTick = now;
    if (now - this.stateAtMs >= 1000 * HEARTBEAT_S) this.sayState();
    const run = this.run;
    if (!run || run.ended) return;
    // Before anything else: a machine that slept wakes up with its load off.
    const removed = run.expire(now);
    if (removed) {
      this.send(removed);
      this.sayState();
      this.options.log?.(removed.text);
    }
    for (const message of run.pass(passed)) this.send(message);
  }
}
