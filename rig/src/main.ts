import { parseArgs } from 'node:util';
import { CARD_SOURCE, DRIVE_SOURCE, REGULATOR_SOURCE } from './simulated.ts';
import { kernelSource } from './feeders/kernelSensors.ts';
import { linesSource } from './feeders/lines.ts';
import { RigClient } from './link/rigClient.ts';
import type { RigSource } from './source.ts';

const { values } = parseArgs({
  options: {
    url: { type: 'string', default: 'ws://127.0.0.1:4500/rig' },
    source: { type: 'string', default: 'simulated' },
    id: { type: 'string' },
    name: { type: 'string' },
    tree: { type: 'string', default: '/sys/class/hwmon' },
    room: { type: 'string' },
    'on-load': { type: 'string' },
  },
});
const onLoad = values['on-load'] === undefined ? {} : { onLoad: values['on-load'] };

interface Source {
  id: string;
  name: string;
  open: () => RigSource | Promise<RigSource>;
}

/** The simulated benches, one a family of parts. */
const SIMULATED: Record<string, Source> = {
  drive: { id: 'bench-1', name: 'Simulated drive bench', open: () => DRIVE_SOURCE },
  card: { id: 'bench-2', name: 'Simulated card bench', open: () => CARD_SOURCE },
  regulator: { id: 'bench-3', name: 'Simulated board bench', open: () => REGULATOR_SOURCE },
};

/** Where readings come from, with the id and name a rig goes by unless told otherwise. */
const SOURCES: Record<string, Source> = {
  ...SIMULATED,
  kernel: {
    id: 'kernel-sensors',
    name: 'Sensors of this machine',
    open: () => kernelSource(values.tree, { ...onLoad, ...(values.room === undefined ? {} : { room: values.room }) }),
  },
  lines: { id: 'lines', name: 'Readings by lines', open: () => linesSource(process.stdin, onLoad) },
};

const one = SOURCES[values.source];
const chosen = values.source === 'simulated' ? Object.values(SIMULATED) : one ? [one] : [];
if (chosen.length === 0) {
  console.error(`There is no source ${values.source}; choose simulated, ${Object.keys(SOURCES).join(', ')}.`);
  process.exit(2);
}
const passphrase = process.env.RED_EMBER_PASSPHRASE;
try {
  const clients: RigClient[] = [];
  for (const { id, name, open } of chosen)
    clients.push(
      new RigClient({
        url: values.url,
        id: (chosen.length === 1 && values.id) || id,
        name: (chosen.length === 1 && values.name) || name,
        source: await open(),
        ...(passphrase ? { passphrase } : {}),
        log: (text) => console.log(text),
      }),
    );
  for (const client of clients) client.start();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      for (const client of clients) client.close();
      process.exit(0);
    });
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
}
