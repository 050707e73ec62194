import { createServer } from 'node:http';
import { availableParallelism } from 'node:os';
import { createApp, deskHandlers } from '../app.ts';
import { DailyCopy } from '../database/dailyCopy.ts';
import { openDatabase } from '../database/open.ts';
import { Guesses } from '../http/security.ts';
import { ReviewThreads } from '../readings/beside/reviewer.ts';
import { createDesk } from '../services.ts';
import type { DeskOptions } from './deskProcess.ts';

/**
 * The desk: everything that reads, judges, imports and keeps studies, in a process of its own with a connection of its own. However
 * long it thinks, and whatever becomes of it, the watch over the load goes on in the other process.
 */
/** Threads that read runs at a time; more would wait for the disk. */
const MOST_REVIEWERS = 4;
/** What somebody came for goes before what is to be read anew, ms. */
const SETTLED_IN_MS = 5000;

const say = (text: string) => process.send?.({ said: text });
// Whoever started it is gone: nobody will ask any more.
process.on('disconnect', () => process.exit(0));
// Files that are written are their owner's alone.
process.umask(0o077);

/** @param options told by word, since a passphrase in the arguments would stand in every list of processes */
function open({ dataFolder, socket, access }: DeskOptions): void {
  const db = openDatabase(dataFolder);
  const reviewer = new ReviewThreads(dataFolder, Math.min(MOST_REVIEWERS, availableParallelism()));
  const services = createDesk(db, dataFolder, { reviewer });
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
  server.listen(socket, () => {
    process.send?.({ ready: true });
    // After a new version every run is read anew; whoever looks at a study meanwhile has its runs read first.
    setTimeout(() => void services.readings.catchUp(), SETTLED_IN_MS).unref();
  });
  process.on('SIGTERM', () => {
    services.imports.jobs.close();
    reviewer.close();
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
