import { exec } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { PassThrough, type Readable } from 'node:stream';
import { CHANNELS, QUANTITIES, roleByName, type Quantity } from '@red-ember/contract';
import { JSON_LINES, keyFrom, type LineReader } from './lines.ts';

/** Where a document is asked for: what a command prints, or what a file holds. */
export type Asked = { command: string } | { file: string };

const LARGEST = 4 * 1024 * 1024;
/** A command that takes longer than this is given up; its next turn tries again. */
const PATIENCE_MS = 4000;

/** All numbers of a document by their way into it: {"chip": {"temp1": {"input": 45}}} gives "chip/temp1/input". A number in quotes counts. */
export function flattened(value: unknown, way = ''): Record<string, number | null> {
  if (typeof value === 'number') return Number.isFinite(value) ? { [way]: value } : {};
  if (typeof value === 'string') {
    const number = value.trim() === '' ? NaN : Number(value);
    return Number.isFinite(number) ? { [way]: number } : {};
  }
  if (typeof value !== 'object' || value === null) return {};
  return Object.assign({}, ...Object.entries(value).map(([key, inner]) => flattened(inner, way === '' ? key : `${way}/${key}`))) as Record<
    string,
    number
  >;
}

/** Names that a kernel gives its sensors, as tools that print them do too: what they read. */
const KERNEL_NAMES: [RegExp, Quantity][] = [
  [/^in\d+(_input)?$/, 'voltage'],
  [/^curr\d+(_input)?$/, 'current'],
  [/^temp\d+/, 'temperature'],
];

/** What a number of a document is, by the last name on its way that says so. */
function quantityOf(way: string): Quantity | null {
  for (const name of way.split('/').reverse()) {
    const kernel = KERNEL_NAMES.find(([pattern]) => pattern.test(name));
    if (kernel) return kernel[1];
    const words = name
      .toLowerCase()
      .replace(/[\s_-]+/g, ' ')
      .replace(/([a-z])(\d)/g, '$1 $2');
    const role = roleByName(words, NONE_TAKEN);
    if (role) return CHANNELS[role].quantity;
  }
  return null;
}
const NONE_TAKEN: ReadonlySet<string> = new Set();

/** Lines of `polled`. */
export const POLLED_LINES: LineReader = {
  read(text) {
    const line = JSON_LINES.read(text);
    return line === null || typeof line === 'string'
      ? line
      : Object.fromEntries(Object.entries(line).map(([way, value]) => [keyFrom(way), value]));
  },
  kindOf(key) {
    const quantity = quantityOf(key);
    return quantity && { quantity, unit: QUANTITIES[quantity].unit ?? 'work' };
  },
  converted: () => false,
};

const documentOf = (asked: Asked): Promise<string> =>
  'file' in asked
    ? readFile(asked.file, 'utf8')
    : new Promise((resolve, reject) => {
        exec(asked.command, { timeout: PATIENCE_MS, maxBuffer: LARGEST }, (error, stdout) =>
          error ? reject(new Error(error.killed ? `no answer in ${PATIENCE_MS / 1000} s` : error.message.split('\n')[0])) : resolve(stdout),
        );
      });

/**
 * A JSON document that is asked for again and again, as lines: one object of numbers a turn. One question at a time; a turn without a
 * document gives no line, so that what was read before grows old by itself. What goes wrong is said once, until it goes well again.
 *
 * @param everyMs from the beginning of one question to that of the next
 */
export function polled(asked: Asked, everyMs: number, log: (text: string) => void = (text) => console.error(text)): Readable {
  const lines = new PassThrough();
  let said: string | null = null;
  let closed = false;
  const turn = async () => {
    const began = performance.now();
    try {
      const numbers = flattened(JSON.parse(await documentOf(asked)));
      if (Object.keys(numbers).length === 0) throw new Error('no number in it');
      said = null;
      lines.write(`${JSON.stringify(numbers)}\n`);
    } catch (error) {
      const problem = error instanceof Error ? error.message : String(error);
      if (problem !== said) log(`${'file' in asked ? asked.file : asked.command}: ${problem}.`);
      said = problem;
    }
    if (!closed) setTimeout(() => void turn(), Math.max(0, everyMs - (performance.now() - began)));
  };
  lines.on('close', () => (closed = true));
  void turn();
  return lines;
}
