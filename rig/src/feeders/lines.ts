import type { Readable } from 'node:stream';
import { CHANNELS, isRecordedRole, QUANTITIES, type LinkChannel } from '@red-ember/contract';
import type { RigSource } from '../source.ts';
import { boundedLines } from './boundedLines.ts';
import { runOnLoad } from './runOnLoad.ts';

/** What is known by its key; everything else is a temperature. Whose work it counts a line does not say: the study's family does. */
function kindOf(key: string): Pick<LinkChannel, 'quantity' | 'unit'> {
  if (!isRecordedRole(key)) return TEMPERATURE;
  const { quantity } = CHANNELS[key];
  return { quantity, unit: QUANTITIES[quantity].unit ?? 'work' };
}
const TEMPERATURE = { quantity: 'temperature', unit: '°C' } as const;
/** A reading older than this is no reading any more. */
const STALE_MS = 5000;
const MOST_CHANNELS = 64;
const LONGEST_LINE = 65_536;
const TOO_LONG = 'longer than 64 KiB';

type Line = Record<string, number | null>;

/** Numbers and nulls of one line by key; a sentence where it is none. Other fields, such as a time, are left out. */
export function parseLine(text: string): Line | string {
  if (text.length > LONGEST_LINE) return TOO_LONG;
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return 'not JSON';
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return 'not a JSON object';
  const entries = Object.entries(value).filter(
    (entry): entry is [string, number | null] =>
      entry[0] !== '' && entry[0].length <= 60 && (entry[1] === null || (typeof entry[1] === 'number' && Number.isFinite(entry[1]))),
  );
  return entries.length === 0 ? 'without a number' : Object.fromEntries(entries);
}

/**
 * Readings as JSON lines, one object a line: {"tc1": 45.2, "room": 22.1, "power": 61}. The first line names the channels; what
 * later lines leave out is missing, what they add is not recorded. What is older than five seconds is missing too: an old value is
 * never repeated.
 *
 * @returns once the first readable line has come
 * @throws Error where the stream ends before, or names more than 64 channels
 */
export async function linesSource(
  input: Readable,
  options: { onLoad?: string; log?: (text: string) => void; now?: () => number } = {},
): Promise<RigSource> {
  const { log = (text) => console.error(text), now = Date.now } = options;
  let latest: Line = {};
  let latestAt = -Infinity;
  let count = 0;
  const first = await new Promise<Line>((resolve, reject) => {
    const take = (text: string, whole: boolean) => {
      count++;
      if (text.trim() === '') return;
      const line = whole ? parseLine(text) : TOO_LONG;
      if (typeof line === 'string') {
        log(`Line ${count} is left out: ${line}.`);
        return;
      }
      latest = line;
      latestAt = now();
      resolve(line);
    };
    boundedLines(input, LONGEST_LINE, take, () => reject(new Error('The input ended before the first reading.')));
  });
  const keys = Object.keys(first);
  if (keys.length > MOST_CHANNELS) throw new Error(`The first line names ${keys.length} channels; ${MOST_CHANNELS} can be recorded.`);
  return {
    simulated: false,
    channels: keys.map((key) => ({ key, label: key, ...kindOf(key) })),
    setups: [],
    begin: () => ({
      read: () => {
        const stale = now() - latestAt > STALE_MS;
        return Object.fromEntries(keys.map((key) => [key, stale ? null : (latest[key] ?? null)]));
      },
      ...(options.onLoad ? { load: runOnLoad(options.onLoad, log) } : {}),
    }),
  };
}
