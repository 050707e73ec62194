import { createServer } from 'node:http';
import { createApp, deskHandlers } from '../app.ts';
import { DailyCopy } from '../database/dailyCopy.ts';
import { openDatabase } from '../database/open.ts';
import { Guesses } from '../http/security.ts';
import { createDesk } from '../services.ts';
import type { DeskOptions } from './deskProcess.ts';

/**
 * The desk: everything that reads, judges, imports and keeps studies, in a process of its own with a connection of its own. However
 * long it thinks, and whatever becomes of it, the watch over the load goes on in the other process.
 */
const say = (text: string) => process.send?.({ said: text });
// Whoever started it is gone: nobody will ask any more.
process.on('disconnect', () => process.exit(0));
// Files that are written are their owner's alone.
process.umask(0o077);

/** @param options told by word, since a passphrase in the arguments would stand in every list of processes */
function open({ dataFolder, socket, access }: DeskOptions): void {
  const db = openDatabase(dataFolder);
  const services = createDesk(db, dataFolder);
  services.studies.emptyOldTrash();
  const app = createApp(services, deskHandlers(services), {
    access,
    // The watch has let the request pass already.
    guesses: new Guesses(say),
    webFolder: null,
    logError: (error) => say(error instanceof Error ? (error.stack ?? error.message) : String(error)),
    desk: services,
  });
  const daily = new DailyCopy(db, dataFolder, say);
  void daily.look();
  const server = createServer(app);
  server.listen(socket, () => process.send?.({ ready: true }));
  process.on('SIGTERM', () => {
    services.imports.jobs.close();
    server.closeAllConnections();
    server.close(() => {
      void daily.close().then(() => {
        db.close();
        process.exit(0);
      });
    });
  });
}

process.once('message', open);
