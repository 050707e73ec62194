import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';

/** As TextDecoder names them; windows-1252 holds Latin-1. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

export const ENCODING_NAMES: Record<Encoding, string> = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16',
  'windows-1252': 'Latin-1',
};

/** By its byte order mark; without one, UTF-8 where the bytes allow it, else Latin-1, which allows anything. */
export function encodingOf(head: Buffer): Encoding {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le';
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be';
  try {
    // A character may be cut at the end of what was looked at.
    new TextDecoder('utf-8', { fatal: true }).decode(head, { stream: true });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** The file as text, decoded as it is read; every line ends with a line feed, so that lines are counted once. */
export function textOf(path: string, encoding: Encoding, onBytes?: (bytes: number) => void): Readable {
  const decoder = new TextDecoder(encoding);
  async function* decoded() {
    // A carriage return at the end of a chunk waits: its line feed may come with the next.
    let held = '';
    const lines = (text: string, last: boolean) => {
      const whole = held + text;
      held = !last && whole.endsWith('\r') ? '\r' : '';
      return (held ? whole.slice(0, -1) : whole).replace(/\r\n?/g, '\n');
    };
    let bytes = 0;
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
      bytes += chunk.length;
      onBytes?.(bytes);
      yield lines(decoder.decode(chunk, { stream: true }), false);
    }
    yield lines(decoder.decode(), true);
  }
  return Readable.from(decoded(), { objectMode: false, encoding: 'utf8' });
}
