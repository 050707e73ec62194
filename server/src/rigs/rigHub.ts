import { randomUUID } from 'node:crypto';
import type { IncomingMessage, Server } from 'node:http';
import { WebSocket, WebSocketServer, type RawData } from 'ws';
import { unreachable } from '@red-ember/core';
import {
  HEARTBEAT_S,
  LINK_VERSION,
  MAX_MESSAGE_BYTES,
  parseRigMessage,
  type EventMessage,
  type HelloMessage,
  type LookCommand,
  type LookMessage,
  type RigStatus,
  type SamplesMessage,
  type ServerMessage,
  type StateMessage,
} from '@red-ember/contract';
import { USUAL_SAMPLE_INTERVAL_MS } from '@red-ember/study';

export interface RigListener {
  rigConnected(rigId: string, hello: HelloMessage): void;
  samplesArrived(rigId: string, message: SamplesMessage): void;
  eventArrived(rigId: string, message: EventMessage): void;
  stateArrived(rigId: string, message: StateMessage): void;
}

interface Rig {
  hello: HelloMessage;
  socket: WebSocket | null;
  /** When it last said something, and when it last showed that its line is alive; ms of the monotonic clock. */
  heardAtMs: number;
  aliveAtMs: number;
  state: { loadPercent: number; atMs: number } | null;
}

/** A real rig reads for four seconds before it answers. */
const LOOK_WAIT_MS = 7000;
/** A line that has not answered for this long is dead, and another rig of its name may take its place. */
const DEAD_MS = 5000;
/** A rig that has been gone for this long, and has no run, is forgotten. */
const FORGET_MS = 15 * 60_000;
/** Garbage is answered with a sentence this often, then the line is closed. */
const PATIENCE = 20;

/** The server's end of the rig link: who is connected, and messages to and fro. */
export class RigHub {
  listener: RigListener | null = null;
  private readonly rigs = new Map<string, Rig>();
  /** Who hears everything that a rig says in place of the listener. */
  private readonly taps = new Map<string, RigListener>();
  private readonly looks = new Map<string, (message: LookMessage) => void>();
  private readonly wss = new WebSocketServer({ noServer: true, maxPayload: MAX_MESSAGE_BYTES });
  private readonly beat = setInterval(() => this.broadcastBeat(), HEARTBEAT_S * 1000);

  constructor(private readonly log: (text: string) => void) {}

  /** @param refuse says why a request may not pass */
  attach(server: Server, refuse: (req: IncomingMessage) => { status: number } | null): void {
    server.on('upgrade', (req, socket, head) => {
      const refusal = req.url === '/rig' ? refuse(req) : { status: 404 };
      if (refusal) {
        socket.end(`HTTP/1.1 ${refusal.status} Refused\r\nConnection: close\r\n\r\n`);
        return;
      }
      this.wss.handleUpgrade(req, socket, head, (ws) => this.welcome(ws));
    });
  }

  list(busyRunOf: (rigId: string) => string | null): RigStatus[] {
    return [...this.rigs.entries()].map(([id, rig]) => ({
      id,
      name: rig.hello.rig.name,
      simulated: rig.hello.rig.simulated,
      family: rig.hello.rig.family ?? null,
      fastestMs: this.fastestMs(id),
      connected: rig.socket !== null,
      busyRunId: busyRunOf(id),
      channels: rig.hello.channels,
      setups: rig.hello.setups,
      controls: rig.hello.controls ?? [],
      faults: rig.hello.faults ?? [],
    }));
  }

  /** From one sample of a rig to the next at its fastest, ms. */
  fastestMs(rigId: string): number {
    return this.rigs.get(rigId)?.hello.rig.fastestMs ?? USUAL_SAMPLE_INTERVAL_MS;
  }

  isConnected(rigId: string): boolean {
    return this.rigs.get(rigId)?.socket != null;
  }

  heardAtMs(rigId: string): number | null {
    return this.rigs.get(rigId)?.heardAtMs ?? null;
  }

  /** What a rig last said of its load; null where it has said nothing since it came. */
  reported(rigId: string): { loadPercent: number; atMs: number } | null {
    return this.rigs.get(rigId)?.state ?? null;
  }

  hello(rigId: string): HelloMessage | null {
    return this.rigs.get(rigId)?.hello ?? null;
  }

  send(rigId: string, message: ServerMessage): void {
    const socket = this.rigs.get(rigId)?.socket;
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(message));
  }

  /**
   * Has everything that a rig says heard by somebody else, until that is over or the rig comes back over another line.
   *
   * @returns ends it
   */
  tap(rigId: string, by: RigListener): () => void {
    this.taps.set(rigId, by);
    return () => {
      if (this.taps.get(rigId) === by) this.taps.delete(rigId);
    };
  }

  private hearerOf(rigId: string): RigListener | null {
    return this.taps.get(rigId) ?? this.listener;
  }

  /** What an idle rig shows; null where it does not answer in time, as older feeders do not. */
  async look(rigId: string, what: Omit<LookCommand, 'type' | 'command' | 'lookId'>): Promise<LookMessage | null> {
    const lookId = randomUUID();
    try {
      return await new Promise((resolve) => {
        const timer = setTimeout(() => resolve(null), LOOK_WAIT_MS);
        this.looks.set(lookId, (message) => {
          clearTimeout(timer);
          resolve(message);
        });
        this.send(rigId, { type: 'command', command: 'look', lookId, ...what });
      });
    } finally {
      this.looks.delete(lookId);
    }
  }

  close(): void {
    clearInterval(this.beat);
    for (const client of this.wss.clients) client.terminate();
    this.wss.close();
  }

  private broadcastBeat(): void {
    const now = performance.now();
    for (const [id, { socket, aliveAtMs }] of this.rigs) {
      if (socket) socket.ping();
      else if (now - aliveAtMs > FORGET_MS) this.rigs.delete(id);
      this.send(id, { type: 'beat' });
    }
  }

  private welcome(socket: WebSocket): void {
    let rigId: string | null = null;
    let strikes = 0;
    const complain = (reason: string) => {
      socket.send(JSON.stringify({ type: 'refused', reason } satisfies ServerMessage));
      if (++strikes >= PATIENCE) socket.close(1008, 'too much that cannot be read');
    };
    socket.on('error', () => socket.terminate());
    socket.on('pong', () => {
      const rig = rigId === null ? undefined : this.rigs.get(rigId);
      if (rig?.socket === socket) rig.aliveAtMs = performance.now();
    });
    const receive = (data: RawData, isBinary: boolean) => {
      const parsed = isBinary
        ? ({ ok: false, reason: 'binary messages are not part of the link' } as const)
        : parseRigMessage(String(data));
      if (!parsed.ok) {
        complain(parsed.reason);
        return;
      }
      const { message } = parsed;
      if (message.type === 'hello') {
        if (message.version !== LINK_VERSION) {
          complain(`this server speaks version ${LINK_VERSION} of the rig link, not ${message.version}`);
          return;
        }
        const now = performance.now();
        const before = this.rigs.get(message.rig.id);
        if (before?.socket && before.socket !== socket) {
          if (now - before.aliveAtMs < DEAD_MS) {
            complain(`another rig called ${message.rig.id} is connected already: give this one another id`);
            socket.close(1008, 'another rig of this id');
            return;
          }
          before.socket.terminate();
        }
        rigId = message.rig.id;
        this.rigs.set(rigId, { hello: message, socket, heardAtMs: now, aliveAtMs: now, state: null });
        this.log(`Rig ${message.rig.name} connected.`);
        this.send(rigId, { type: 'welcome', heartbeatS: HEARTBEAT_S });
        this.taps.get(rigId)?.rigConnected(rigId, message);
        this.taps.delete(rigId);
        this.listener?.rigConnected(rigId, message);
        return;
      }
      if (rigId === null) {
        complain('say hello first');
        return;
      }
      const rig = this.rigs.get(rigId);
      if (rig) rig.heardAtMs = rig.aliveAtMs = performance.now();
      switch (message.type) {
        case 'samples':
          this.hearerOf(rigId)?.samplesArrived(rigId, message);
          break;
        case 'event':
          this.hearerOf(rigId)?.eventArrived(rigId, message);
          break;
        case 'state':
          if (rig) rig.state = { loadPercent: message.loadPercent, atMs: rig.heardAtMs };
          this.hearerOf(rigId)?.stateArrived(rigId, message);
          break;
        case 'look':
          this.looks.get(message.lookId)?.(message);
          break;
        default:
          unreachable(message);
      }
    };
    socket.on('message', (data, isBinary) => {
      try {
        receive(data, isBinary);
      } catch (error) {
        // One message is never the end of the watch over all the others.
        this.log(`A message of ${rigId ?? 'a rig'} could not be handled: ${String(error)}`);
      }
    });
    socket.on('close', () => {
      const rig = rigId === null ? undefined : this.rigs.get(rigId);
      if (rig?.socket !== socket) return;
      rig.socket = null;
      this.log(`Rig ${rig.hello.rig.name} is gone.`);
    });
  }
}
