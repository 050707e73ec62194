import { join } from 'node:path';
import { parseArgs } from 'node:util';
import pino from 'pino';
import { startBench } from './bench.ts';

const root = join(import.meta.dirname, '../..');
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '4500' },
    host: { type: 'string', default: '127.0.0.1' },
    data: { type: 'string', default: join(root, 'data') },
    web: { type: 'string', default: join(root, 'web/dist') },
  },
});

const logger = pino({ level: process.env.LOG_LEVEL ?? 'info' });
try {
  const bench = await startBench({
    dataFolder: values.data,
    webFolder: values.web,
    access: { host: values.host, passphrase: process.env.RED_EMBER_PASSPHRASE ?? null },
    port: Number(values.port),
    log: (text) => logger.info(text),
    logError: (error) => logger.error(error),
  });
  logger.info(`Listening on http://${values.host}:${bench.port}`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      void bench.close().then(() => process.exit(0));
    });
  }
} catch (error) {
  const { code } = error as { code?: string };
  logger.error(code === 'EADDRINUSE' ? `Port ${values.port} is in use by another program. Choose another with --port.` : error);
  process.exit(1);
}
