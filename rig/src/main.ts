import { parseArgs } from 'node:util';
import { CARD_SOURCE, DRIVE_SOURCE, REGULATOR_SOURCE } from './simulated.ts';
import { kernelSource } from './feeders/kernelSensors.ts';
import { onlyChannels } from './feeders/onlyChannels.ts';
import { JSON_LINES, linesSource } from './feeders/lines.ts';
import { polled, POLLED_LINES, type Asked } from './feeders/polled.ts';
import { printedLines } from './feeders/printed.ts';
import { serialInput } from './feeders/serial.ts';
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
    command: { type: 'string' },
    file: { type: 'string' },
    every: { type: 'string', default: '1' },
    device: { type: 'string' },
    baud: { type: 'string', default: '115200' },
    names: { type: 'string' },
    channel: { type: 'string', multiple: true, default: [] },
  },
});
const onLoad = values['on-load'] === undefined ? {} : { onLoad: values['on-load'] };

const names = values.names === undefined ? null : values.names.split(',').map((name) => name.trim());

/** @throws Error where it was not given */
function needed(option: 'device', example: string): string {
  const value = values[option];
  if (value === undefined) throw new Error(`Say --${option}, ${example}.`);
  return value;
}

/** @throws Error where it is no number between two others */
function number(option: 'baud' | 'every', least: number, most: number): number {
  const value = Number(values[option]);
  if (!(value >= least && value <= most)) throw new Error(`--${option} is a number from ${least} to ${most}.`);
  return value;
}

/** @throws Error where neither or both are given */
function asked(): Asked {
  const { command, file } = values;
  if ((command === undefined) === (file === undefined)) throw new Error('Say either --command or --file.');
  return command === undefined ? { file: file! } : { command };
}

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
  lines: {
    id: 'lines',
    name: 'Readings by lines',
    open: () => linesSource(process.stdin, { ...onLoad, reader: onlyChannels(JSON_LINES, values.channel) }),
  },
  printed: {
    id: 'printed',
    name: 'A logger that prints',
    open: () => linesSource(process.stdin, { ...onLoad, reader: onlyChannels(printedLines(names), values.channel) }),
  },
  serial: {
    id: 'serial',
    name: 'A logger on a serial line',
    open: async () =>
      linesSource(await serialInput(needed('device', 'as --device /dev/ttyUSB0'), number('baud', 300, 4_000_000)), {
        ...onLoad,
        reader: onlyChannels(printedLines(names), values.channel),
      }),
  },
  poll: {
    id: 'poll',
    name: 'Readings that are asked for',
    open: () => {
      const every = 1000 * number('every', 0.1, 4);
      return linesSource(polled(asked(), every), { ...onLoad, reader: onlyChannels(POLLED_LINES, values.channel) });
    },
  },
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
