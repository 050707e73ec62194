import { fork, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { request, type IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { handOver, type RequestHandler } from '../http/forward.ts';
import { HttpProblem } from '../http/problems.ts';
import type { Access } from '../http/security.ts';
import type { KnowsMounts, MountKnowledge } from '../preflight/knowledge.ts';

export interface DeskOptions {
  dataFolder: string;
  /** Where it listens: a socket that nobody else on the network reaches. */
  socket: string;
  access: Access;
}

/** A desk that dies is started again after the first, and each time it dies before it was ready later, at most after the second, ms. */
const AGAIN_MS = { first: 200, most: 10_000 };
/** A request that comes while it starts waits for this long at most, ms. */
const READY_WITHIN_MS = 20_000;

/** Addresses of the desk that only this process asks. */
export const DESK_PATHS = { knowledge: '/desk/mounts/:id', tidy: '/desk/runs/:id/tidy' } as const;

/** The desk as its own process: started, looked after, and asked. */
export class DeskProcess implements KnowsMounts {
  private readonly folder = mkdtempSync(join(tmpdir(), 'red-ember-'));
  private readonly socket = process.platform === 'win32' ? `\\\\.\\pipe\\red-ember-${process.pid}` : join(this.folder, 'desk');
  private child: ChildProcess | null = null;
  private ready!: Promise<void>;
  private becomeReady!: () => void;
  private againMs = AGAIN_MS.first;
  private closing = false;

  constructor(
    private readonly options: { dataFolder: string; access: Access },
    private readonly log: (text: string) => void,
  ) {
    this.expect();
    this.start();
  }

  /** From now on whoever asks waits until the next desk says that it is ready. */
  private expect(): void {
    this.ready = new Promise((resolve) => (this.becomeReady = resolve));
  }

  private start(): void {
    rmSync(this.socket, { force: true });
    const { dataFolder, access } = this.options;
    const child = fork(join(import.meta.dirname, 'main.ts'), [], {
      execArgv: ['--import', 'tsx'],
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    this.child = child;
    child.send({ dataFolder, access, socket: this.socket } satisfies DeskOptions);
    child.on('error', (error) => this.log(`The desk: ${error.message}`));
    child.on('message', (message: { ready?: boolean; said?: string }) => {
      if (message.said !== undefined) this.log(message.said);
      if (!message.ready) return;
      this.againMs = AGAIN_MS.first;
      this.becomeReady();
    });
    child.on('exit', (code, signal) => {
      if (this.closing || this.child !== child) return;
      this.expect();
      this.log(`The desk ended (${signal ?? code}) and is started again. Runs are not touched by it.`);
      setTimeout(() => this.closing || this.start(), this.againMs);
      this.againMs = Math.min(AGAIN_MS.most, 2 * this.againMs);
    });
  }

  /** The process that is at work now; for those who want to see it die. */
  get pid(): number | undefined {
    return this.child?.pid;
  }

  private async waited(): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_resolve, reject) => {
      timer = setTimeout(() => reject(away()), READY_WITHIN_MS);
    });
    await Promise.race([this.ready, late]).finally(() => clearTimeout(timer));
  }

  /** Hands a request on to it; waits where it is just being started. @throws HttpProblem 503 where it does not come */
  readonly forward: RequestHandler = (req, res, next) => {
    const hand = (failed: () => void) =>
      void this.waited().then(() => (res.closed || res.destroyed ? undefined : handOver(this.socket, req, res, failed)), next);
    const reads = req.method === 'GET' || req.method === 'HEAD';
    // What only reads is asked once more of the desk that is started in its place; what changes something may have changed it.
    hand(() => (reads ? void setTimeout(() => hand(() => next(away())), AGAIN_MS.first) : next(away())));
  };

  async ofMount(mountId: string): Promise<MountKnowledge> {
    return JSON.parse(await this.ask('GET', DESK_PATHS.knowledge.replace(':id', encodeURIComponent(mountId)))) as MountKnowledge;
  }

  /** Has the small pieces of a run joined, whenever the desk gets to it. */
  tidy(runId: string): void {
    this.ask('POST', DESK_PATHS.tidy.replace(':id', encodeURIComponent(runId))).catch(() => this.log(`Run ${runId} was not tidied.`));
  }

  private async ask(method: string, path: string): Promise<string> {
    await this.waited();
    return new Promise((resolve, reject) => {
      const asked = request({ socketPath: this.socket, method, path, headers: { host: 'localhost' }, agent: false }, (answer) => {
        void textOf(answer).then((text) => (answer.statusCode === 200 ? resolve(text) : reject(away())), reject);
      });
      asked.on('error', () => reject(away()));
      asked.end();
    });
  }

  async close(): Promise<void> {
    this.closing = true;
    const { child } = this;
    if (child && child.exitCode === null && child.signalCode === null) {
      const gone = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      const late = setTimeout(() => child.kill('SIGKILL'), 3000);
      await gone;
      clearTimeout(late);
    }
    rmSync(this.folder, { recursive: true, force: true });
  }
}

const away = () =>
  new HttpProblem(
    503,
    'Not now',
    'The part of the server that reads and judges is being started again. Ask once more; runs are not touched.',
  );

async function textOf(answer: IncomingMessage): Promise<string> {
  let text = '';
  answer.setEncoding('utf8');
  for await (const part of answer) text += String(part);
  return text;
}
