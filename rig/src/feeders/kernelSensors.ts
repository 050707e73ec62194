import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { LinkChannel } from '@red-ember/contract';
import type { RigSource } from '../source.ts';
import { runOnLoad } from './runOnLoad.ts';

/** Files of the kernel's hardware monitoring class, by their beginning: what they hold, and how their whole numbers are scaled. */
const KINDS: { prefix: string; endings: string[]; quantity: LinkChannel['quantity']; unit: string; scale: number }[] = [
  { prefix: 'temp', endings: ['input'], quantity: 'temperature', unit: '°C', scale: 1e-3 },
  { prefix: 'fan', endings: ['input'], quantity: 'rotation', unit: 'rpm', scale: 1 },
  // Some chips average by themselves and offer no momentary value.
  { prefix: 'power', endings: ['average', 'input'], quantity: 'power', unit: 'W', scale: 1e-6 },
];

export interface KernelSensor extends LinkChannel {
  file: string;
  scale: number;
}

function line(path: string): string | null {
  try {
    return readFileSync(path, 'utf8').trim();
  } catch {
    return null;
  }
}

const listing = (folder: string): string[] => {
  try {
    return readdirSync(folder).sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  } catch {
    return [];
  }
};

/**
 * Temperatures, fans and powers that a kernel sensor tree offers (the documented files of the hwmon class: tempN_input in
 * millidegrees Celsius, fanN_input in revolutions a minute, powerN_average and powerN_input in microwatts, *_label).
 *
 * @param tree usually /sys/class/hwmon
 * @returns keys are "chip/temp1"; a second chip of the same name is "chip-2". Empty where there is no such tree.
 */
export function findSensors(tree: string): KernelSensor[] {
  const seen = new Map<string, number>();
  return listing(tree)
    .filter((folder) => folder.startsWith('hwmon'))
    .flatMap((folder) => {
      const name = line(join(tree, folder, 'name')) || folder;
      const count = (seen.get(name) ?? 0) + 1;
      seen.set(name, count);
      const chip = count === 1 ? name : `${name}-${count}`;
      const files = listing(join(tree, folder));
      return KINDS.flatMap(({ prefix, endings, quantity, unit, scale }) => {
        const numbers = [
          ...new Set(files.flatMap((file) => new RegExp(`^${prefix}(\\d+)_(?:${endings.join('|')})$`).exec(file)?.[1] ?? [])),
        ];
        return numbers.map((n): KernelSensor => {
          const ending = endings.find((candidate) => files.includes(`${prefix}${n}_${candidate}`))!;
          const label = line(join(tree, folder, `${prefix}${n}_label`));
          return {
            key: `${chip}/${prefix}${n}`,
            label: `${chip}, ${label || `${prefix} ${n}`}`,
            quantity,
            unit,
            file: join(tree, folder, `${prefix}${n}_${ending}`),
            scale,
          };
        });
      });
    });
}

/** One reading; null where the file is gone, the chip does not answer, or what it says is no number. */
export function readSensor(sensor: Pick<KernelSensor, 'file' | 'scale'>): number | null {
  const text = line(sensor.file);
  return text !== null && /^-?\d+$/.test(text) ? Number(text) * sensor.scale : null;
}

/**
 * The machine's own sensors as a rig.
 *
 * @param room key of the sensor that reads the room; it is offered as `room` as well
 * @param onLoad command that applies the load, see runOnLoad
 * @throws Error where the tree holds no sensor, or none with the key of the room
 */
export function kernelSource(tree: string, options: { room?: string; onLoad?: string } = {}): RigSource {
  const sensors = findSensors(tree);
  if (sensors.length === 0) throw new Error(`No sensors under ${tree}.`);
  const room = options.room === undefined ? null : sensors.find((sensor) => sensor.key === options.room);
  if (room === undefined) throw new Error(`No sensor ${options.room}; there are ${sensors.map((sensor) => sensor.key).join(', ')}.`);
  const all = room ? [...sensors, { ...room, key: 'room', label: `Room, by ${room.label}` }] : sensors;
  return {
    simulated: false,
    // The kernel answers at once; most chips behind it measure a few times a second.
    fastestMs: 100,
    channels: all.map(({ key, label, quantity, unit }) => ({ key, label, quantity, unit })),
    setups: [],
    begin: () => ({
      read: () => Object.fromEntries(all.map((sensor) => [sensor.key, readSensor(sensor)])),
      ...(options.onLoad ? { load: runOnLoad(options.onLoad) } : {}),
    }),
  };
}
