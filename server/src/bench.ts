import { createServer, type Server } from 'node:http';
import { DailyCopy } from './database/dailyCopy.ts';
import { holdFolder } from './database/folderLease.ts';
import { openDatabase } from './database/open.ts';
import { createApp } from './app.ts';
import { assertSafeToListen, type Access } from './http/security.ts';
import { createServices, type Services } from './services.ts';

export interface BenchOptions {
  dataFolder: string;
  webFolder: string | null;
  access: Access;
  /** 0 picks a free one. */
  port: number;
  log: (text: string) => void;
  logError: (error: unknown) => void;
}

export interface RunningBench {
  services: Services;
  server: Server;
  port: number;
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
  const daily = new DailyCopy(db, options.dataFolder, options.log);
  const services = createServices(db, options.dataFolder, options.log);
  services.studies.emptyOldTrash();
  services.conductor.resume();
  const server = createServer(createApp(services, options));
  services.rigs.attach(server, options.access);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, options.access.host, resolve);
  });
  void daily.look();
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : options.port;
  return {
    services,
    server,
    port,
    async close() {
      services.close();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await daily.close();
      db.close();
      letGo();
    },
  };
}
