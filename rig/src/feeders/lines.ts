import type { Readable } from 'node:stream';
import { CHANNELS, isRecordedRole, QUANTITIES, type LinkChannel } from '@red-ember/contract';
import type { RigSource } from '../source.ts';
import { boundedLines } from './boundedLines.ts';
import { runOnLoad } from './runOnLoad.ts';

/** What is known by its key; everything else is a temperature. Whose work it counts a line does not say: the study's family does. */
function kindOf(key: string): Kind {
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

/** Readings of one line by the keys of their channels; null where a channel was not read. */
export type FeedLine = Record<string, number | null>;

/** How the lines of a feed are read. */
export interface LineReader {
  /** @returns a sentence where it could not be read; null where it says nothing, as a line of names */
  read(text: string): FeedLine | string | null;
  /** What a channel reads, as far as its lines have said it; null where they have not. */
  kindOf(key: string): Kind | null;
  /** Its lines said their unit themselves, and its readings are in that of the link. */
  converted(key: string): boolean;
}
export type Kind = Pick<LinkChannel, 'quantity' | 'unit'>;

/** A name as a channel's key: without the signs that the link does not take. */
export const keyFrom = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N} ._/:+%°#()@-]/gu, '')
    .replace(/^[^\p{L}\p{N}]+/u, '')
    .slice(0, 60)
    .trim() || 'reading';

/** Numbers and nulls of one line by key; a sentence where it is none. Other fields, such as a time, are left out. */
export function parseLine(text: string): FeedLine | string {
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

/** JSON objects, one a line; what a channel reads is known by its key alone. */
export const JSON_LINES: LineReader = { read: parseLine, kindOf: () => null, converted: () => false };

/**
 * Readings as lines, JSON objects unless told otherwise, one a line: {"tc1": 45.2, "room": 22.1, "power": 61}. The first line names the channels; what
 * later lines leave out is missing, what they add is not recorded. What is older than five seconds is missing too: an old value is
 * never repeated.
 *
 * @returns once the first readable line has come
 * @throws Error where the stream ends before, or names more than 64 channels
 */
export async function linesSource(
  input: Readable,
  options: { reader?: LineReader; onLoad?: string; log?: (text: string) => void; now?: () => number } = {},
): Promise<RigSource> {
  const { reader = JSON_LINES, log = (text) => console.error(text), now = Date.now } = options;
  let latest: FeedLine = {};
  let latestAt = -Infinity;
  let count = 0;
  const first = await new Promise<FeedLine>((resolve, reject) => {
    const take = (text: string, whole: boolean) => {
      count++;
      if (text.trim() === '') return;
      const line = whole ? reader.read(text) : TOO_LONG;
      if (line === null) return;
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
  if (keys.length > MOST_CHANNELS)
    throw new Error(`There are ${keys.length} readings; ${MOST_CHANNELS} can be recorded: choose with --channel.`);
  return {
    simulated: false,
    channels: keys.map((key) => ({ key, label: key, ...(reader.kindOf(key) ?? kindOf(key)) })),
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
