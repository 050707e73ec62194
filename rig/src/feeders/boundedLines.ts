import { StringDecoder } from 'node:string_decoder';
import type { Readable } from 'node:stream';

/**
 * Calls back with every line of a stream, without its end. Of a line longer than `most` characters nothing is kept but the first of them,
 * however long it goes on: a program that never ends its line must not fill the memory of the one that watches a load.
 *
 * @param onLine `whole` false where the line was cut off
 */
export function boundedLines(input: Readable, most: number, onLine: (text: string, whole: boolean) => void, onEnd: () => void): void {
  const decoder = new StringDecoder('utf8');
  let line = '';
  let whole = true;
  const take = (text: string) => {
    const room = most - line.length;
    if (text.length > room) whole = false;
    line += text.slice(0, Math.max(0, room));
  };
  input.on('data', (part: Buffer | string) => {
    const pieces = (typeof part === 'string' ? part : decoder.write(part)).split('\n');
    pieces.forEach((piece, i) => {
      take(piece);
      if (i === pieces.length - 1) return;
      const done = line.endsWith('\r') ? line.slice(0, -1) : line;
      const cut = !whole;
      line = '';
      whole = true;
      onLine(done, !cut);
    });
  });
  input.on('end', () => {
    if (line !== '') onLine(line, whole);
    onEnd();
  });
}
