import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import { WebSocket, WebSocketServer } from 'ws';
import {
  LINK_VERSION,
  parseRigMessage,
  type EventMessage,
  type HelloMessage,
  type LookCommand,
  type LookMessage,
  type RigStatus,
  type SamplesMessage,
  type ServerMessage,
} from '@red-ember/contract';
import { refuse, type Access } from '../http/security.ts';

export interface RigListener {
  rigConnected(rigId: string, hello: HelloMessage): void;
  samplesArrived(rigId: string, message: SamplesMessage): void;
  eventArrived(rigId: string, message: EventMessage): void;
}

interface Rig {
  hello: HelloMessage;
  socket: WebSocket | null;
  heardAtMs: number;
}

const HEARTBEAT_S = 1;
/** A real rig reads for four seconds before it answers. */
const LOOK_WAIT_MS = 7000;
/** Enough for the largest message the link allows, with room to spare. */
const MAX_MESSAGE_BYTES = 8 * 1024 * 1024;
/** Garbage is answered with a sentence this often, then the line is closed. */
const PATIENCE = 20;

/** The server's end of the rig link: who is connected, and messages to and fro. */
export class RigHub {
  listener: RigListener | null = null;
  private readonly rigs = new Map<string, Rig>();
  private readonly looks = new Map<string, (message: LookMessage) => void>();
  private readonly wss = new WebSocketServer({ noServer: true, maxPayload: MAX_MESSAGE_BYTES });
  private readonly beat = setInterval(() => this.broadcastBeat(), HEARTBEAT_S * 1000);

  constructor(private readonly log: (text: string) => void) {}

  attach(server: Server, access: Access): void {
    server.on('upgrade', (req, socket, head) => {
      const refusal = req.url === '/rig' ? refuse(req.headers, access) : { status: 404, reason: 'unknown address' };
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
      connected: rig.socket !== null,
      busyRunId: busyRunOf(id),
      channels: rig.hello.channels,
      setups: rig.hello.setups,
      controls: rig.hello.controls ?? [],
      faults: rig.hello.faults ?? [],
    }));
  }

  isConnected(rigId: string): boolean {
    return this.rigs.get(rigId)?.socket != null;
  }

  heardAtMs(rigId: string): number | null {
    return this.rigs.get(rigId)?.heardAtMs ?? null;
  }

  hello(rigId: string): HelloMessage | null {
    return this.rigs.get(rigId)?.hello ?? null;
  }

  send(rigId: string, message: ServerMessage): void {
    const socket = this.rigs.get(rigId)?.socket;
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(message));
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
    for (const id of this.rigs.keys()) this.send(id, { type: 'beat' });
  }

  private welcome(socket: WebSocket): void {
    let rigId: string | null = null;
    let strikes = 0;
    const complain = (reason: string) => {
      socket.send(JSON.stringify({ type: 'refused', reason } satisfies ServerMessage));
      if (++strikes >= PATIENCE) socket.close(1008, 'too much that cannot be read');
    };
    socket.on('error', () => socket.terminate());
    socket.on('message', (data, isBinary) => {
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
        rigId = message.rig.id;
        const before = this.rigs.get(rigId);
        if (before?.socket && before.socket !== socket) before.socket.terminate();
        this.rigs.set(rigId, { hello: message, socket, heardAtMs: Date.now() });
        this.log(`Rig ${message.rig.name} connected.`);
        this.send(rigId, { type: 'welcome', heartbeatS: HEARTBEAT_S });
        this.listener?.rigConnected(rigId, message);
        return;
      }
      if (rigId === null) {
        complain('say hello first');
        return;
      }
      const rig = this.rigs.get(rigId);
      if (rig) rig.heardAtMs = Date.now();
      if (message.type === 'samples') this.listener?.samplesArrived(rigId, message);
      else if (message.type === 'event') this.listener?.eventArrived(rigId, message);
      else if (message.type === 'look') this.looks.get(message.lookId)?.(message);
    });
    socket.on('close', () => {
      const rig = rigId === null ? undefined : this.rigs.get(rigId);
      if (rig?.socket !== socket) return;
      rig.socket = null;
      rig.heardAtMs = Date.now();
      this.log(`Rig ${rig.hello.rig.name} is gone.`);
    });
  }
}
