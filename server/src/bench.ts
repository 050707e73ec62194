import { createServer, type Server } from 'node:http';
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
}

export interface RunningBench {
  services: Services;
  server: Server;
  port: number;
  /** The process that reads and judges; null where it is this one. */
  desk: DeskProcess | null;
  close(): Promise<void>;
}

/**
 * Opens the data, picks up unfinished runs and listens.
 *
 * @throws DataProblem damaged data, or data that another process holds
 * @throws Error an open address without passphrase
 */
export async function startBench(options: BenchOptions): Promise<RunningBench> {
  assertSafeToListen(options.access);
  const letGo = holdFolder(options.dataFolder, 'a Red Ember server');
  try {
    return await listening(options, letGo);
  } catch (error) {
    letGo();
    throw error;
  }
}

async function listening(options: BenchOptions, letGo: () => void): Promise<RunningBench> {
  const db = openDatabase(options.dataFolder);
  // Whoever has the time makes the copy of the day: the desk, where there is one.
  const daily = options.apart ? null : new DailyCopy(db, options.dataFolder, options.log);
  const desk = options.apart ? new DeskProcess(options, options.log) : null;
  const services = createServices(db, options.dataFolder, options.log, desk);
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
      letGo();
    },
  };
}
