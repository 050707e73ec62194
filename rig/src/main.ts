import { parseArgs } from 'node:util';
import { DRIVE_SOURCE } from './drive/driveSource.ts';
import { kernelSource } from './feeders/kernelSensors.ts';
import { linesSource } from './feeders/lines.ts';
import { RigClient } from './link/rigClient.ts';
import type { RigSource } from './source.ts';

const { values } = parseArgs({
  options: {
    url: { type: 'string', default: 'ws://127.0.0.1:4500/rig' },
    source: { type: 'string', default: 'drive' },
    id: { type: 'string' },
    name: { type: 'string' },
    tree: { type: 'string', default: '/sys/class/hwmon' },
    room: { type: 'string' },
    'on-load': { type: 'string' },
  },
});
const onLoad = values['on-load'] === undefined ? {} : { onLoad: values['on-load'] };

/** Where readings come from, with the id and name a rig goes by unless told otherwise. */
const SOURCES: Record<string, { id: string; name: string; open: () => RigSource | Promise<RigSource> }> = {
  drive: { id: 'bench-1', name: 'Simulated bench', open: () => DRIVE_SOURCE },
  kernel: {
    id: 'kernel-sensors',
    name: 'Sensors of this machine',
    open: () => kernelSource(values.tree, { ...onLoad, ...(values.room === undefined ? {} : { room: values.room }) }),
  },
  lines: { id: 'lines', name: 'Readings by lines', open: () => linesSource(process.stdin, onLoad) },
};

const chosen = SOURCES[values.source];
if (!chosen) {
  console.error(`There is no source ${values.source}; choose ${Object.keys(SOURCES).join(', ')}.`);
  process.exit(2);
}
const passphrase = process.env.RED_EMBER_PASSPHRASE;
try {
  const client = new RigClient({
    url: values.url,
    id: values.id ?? chosen.id,
    name: values.name ?? chosen.name,
    source: await chosen.open(),
    ...(passphrase ? { passphrase } : {}),
    log: (text) => console.log(text),
  });
  client.start();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      client.close();
      process.exit(0);
    });
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
