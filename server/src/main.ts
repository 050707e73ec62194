import { join } from 'node:path';
import { parseArgs } from 'node:util';
import pino from 'pino';
import { startBench } from './bench.ts';
import { DataProblem } from './database/dataProblem.ts';

const root = join(import.meta.dirname, '../..');
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '4500' },
    host: { type: 'string', default: '127.0.0.1' },
    data: { type: 'string', default: join(root, 'data') },
    web: { type: 'string', default: join(root, 'web/dist') },
  },
});

/** What is written belongs to whoever runs the bench. */
process.umask(0o077);
/** Ended for a reason that is still there: whoever looks after the server need not start it again. */
const ANOTHER_START_IS_NO_USE = 78;

const logger = pino({ level: process.env.LOG_LEVEL ?? 'info' });
try {
  const bench = await startBench({
    dataFolder: values.data,
    webFolder: values.web,
    access: { host: values.host, passphrase: process.env.RED_EMBER_PASSPHRASE ?? null },
    port: Number(values.port),
    apart: true,
    log: (text) => logger.info(text),
    logError: (error) => logger.error(error),
    // Whoever looks after the server starts it again.
    lost: () => process.exit(1),
  });
  logger.info(`Listening on http://${values.host}:${bench.port}`);
  // An error that nobody expected must not end the watch, nor leave a load on that it was part of.
  for (const event of ['uncaughtException', 'unhandledRejection'] as const)
    process.on(event, (error: unknown) => {
      logger.error(error);
      bench.services.conductor.distrust(error instanceof Error ? error.message : String(error));
    });
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      void bench.close().then(() => process.exit(0));
    });
  }
} catch (error) {
  const { code } = error as { code?: string };
  if (error instanceof DataProblem) {
    // A sentence for whoever started it, not a line of a log.
    console.error(error.message);
    process.exit(ANOTHER_START_IS_NO_USE);
  }
  logger.error(code === 'EADDRINUSE' ? `Port ${values.port} is in use by another program. Choose another with --port.` : error);
  process.exit(code === 'EADDRINUSE' ? ANOTHER_START_IS_NO_USE : 1);
}
