import { createServer, type Server } from 'node:http';
import { setTimeout as delay } from 'node:timers/promises';
import type { RestoreOutcome } from '@red-ember/contract';
import type { Reopen } from './backups/service.ts';
import { putInPlace } from './database/backup.ts';
import { DailyCopy } from './database/dailyCopy.ts';
import { holdFolder } from './database/folderLease.ts';
import { openDatabase } from './database/open.ts';
import { createApp, handlersOf, watchHandlers } from './app.ts';
import { DeskProcess } from './desk/deskProcess.ts';
import { assertSafeToListen, Guesses, refuseFrom, type Access } from './http/security.ts';
import { createServices, type Services } from './services.ts';

export interface BenchOptions {
  dataFolder: string;
  webFolder: string | null;
  access: Access;
  /** 0 picks a free one. */
  port: number;
  log: (text: string) => void;
  logError: (error: unknown) => void;
  /** Reads and judges in a process of its own, so that the watch over the load is never held up; together where nothing is said. */
  apart?: boolean;
  /** The bench was closed for a restore and cannot be opened again. */
  lost?: () => void;
}

export interface RunningBench {
  services: Services;
  server: Server;
  port: number;
  /** The process that reads and judges; null where it is this one. */
  desk: DeskProcess | null;
  close(): Promise<void>;
}

/** A restore begins so long after it was answered, and an address that is not free yet is tried again after so long, ms. */
const WAIT_MS = { answered: 200, address: 500 };
const ADDRESS_TRIES = 20;

/**
 * Opens the data, picks up unfinished runs and listens. It can close them and open others in their place, on the same address.
 *
 * @throws DataProblem damaged data, or data that another process holds
 * @throws Error an open address without passphrase
 */
export async function startBench(options: BenchOptions): Promise<RunningBench> {
  assertSafeToListen(options.access);
  const letGo = holdFolder(options.dataFolder, 'a Red Ember server');
  let open: RunningBench;
  let closing = false;
  /** The restore under way: whoever closes the bench waits for it. */
  let restoring: Promise<void> = Promise.resolve();

  const restore = async (copy: { id: string; file: string }) => {
    await delay(WAIT_MS.answered);
    if (closing) return;
    const { port } = open;
    let restored: RestoreOutcome = { backupId: copy.id, at: new Date().toISOString(), ok: false, sentence: '' };
    // Whoever was quicker has the bench: nothing is closed over a load.
    if (open.services.conductor.measuring() || open.services.rehearsals.goesOn()) return;
    await open.close();
    try {
      const { studies, aside } = await putInPlace(copy.file, options.dataFolder);
      const there = aside === null ? '' : ' What was there before is kept among the copies.';
      restored = { ...restored, ok: true, sentence: `The bench holds ${studies === 1 ? 'one study' : `${studies} studies`} now.${there}` };
    } catch (error) {
      options.logError(error);
      restored = { ...restored, sentence: `The copy was not brought back, and the bench is as it was: ${(error as Error).message}` };
    }
    options.log(restored.sentence);
    for (let tries = 1; ; tries++) {
      try {
        open = await listening({ ...options, port }, reopen, restored);
        return;
      } catch (error) {
        if ((error as { code?: string }).code !== 'EADDRINUSE' || tries === ADDRESS_TRIES) throw error;
        await delay(WAIT_MS.address);
      }
    }
  };
  const reopen: Reopen = (copy) => {
    restoring = restoring
      .then(() => restore(copy))
      .catch((error: unknown) => {
        options.logError(error);
        options.lost?.();
      });
  };

  try {
    open = await listening(options, reopen, null);
  } catch (error) {
    letGo();
    throw error;
  }
  return {
    get services() {
      return open.services;
    },
    get server() {
      return open.server;
    },
    get port() {
      return open.port;
    },
    get desk() {
      return open.desk;
    },
    async close() {
      closing = true;
      await restoring;
      await open.close();
      letGo();
    },
  };
}

async function listening(options: BenchOptions, reopen: Reopen, restored: RestoreOutcome | null): Promise<RunningBench> {
  const db = openDatabase(options.dataFolder);
  // Whoever has the time makes the copy of the day: the desk, where there is one.
  const daily = options.apart ? null : new DailyCopy(db, options.dataFolder, options.log);
  const desk = options.apart ? new DeskProcess(options, options.log) : null;
  const services = createServices(db, options.dataFolder, options.log, { apart: desk, reopen, restored, host: options.access.host });
  if (!desk) services.studies.emptyOldTrash();
  services.conductor.resume();
  const guesses = new Guesses(options.log);
  const app = desk
    ? createApp(services, watchHandlers(services), { ...options, guesses, forward: desk.forward })
    : createApp(services, handlersOf(services), { ...options, guesses });
  const server = createServer(app);
  services.rigs.attach(server, (req) => refuseFrom(req, options.access, guesses));
  const end = async () => {
    await daily?.close();
    await desk?.close();
    db.close();
  };
  try {
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(options.port, options.access.host, resolve);
    });
  } catch (error) {
    services.close();
    await end();
    throw error;
  }
  void daily?.look();
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : options.port;
  return {
    services,
    server,
    port,
    desk,
    async close() {
      services.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await end();
    },
  };
}
