import { createServer, type Server } from 'node:http';
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

/** Opens the data, picks up unfinished runs and listens. @throws Error damaged data, or an open address without passphrase */
export async function startBench(options: BenchOptions): Promise<RunningBench> {
  assertSafeToListen(options.access);
  const db = openDatabase(options.dataFolder);
  const services = createServices(db, options.dataFolder, options.log);
  services.studies.emptyOldTrash();
  services.conductor.resume();
  const server = createServer(createApp(services, options));
  services.rigs.attach(server, options.access);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, options.access.host, resolve);
  });
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
      db.close();
    },
  };
}
