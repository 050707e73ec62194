import { open } from 'node:fs/promises';
import { MOST_DIGITS, TENS, type CellRow, type Decimal } from './cellRow.ts';
import { LogProblem } from './cells.ts';
import type { Encoding } from './encoding.ts';

/** A quote was met: the text must be read by the rules of CSV. */
export class QuoteFound extends Error {}

const CHUNK_BYTES = 1 << 20;
const [LF, CR, SPACE, QUOTE, HASH, PLUS, MINUS, POINT, COMMA, ZERO, NINE] = [10, 13, 32, 34, 35, 43, 45, 46, 44, 48, 57];
/** Columns whose places are remembered within a line. */
const REMEMBERED = 1024;

/**
 * One line as a stretch of the file's bytes; the same object stands for every line in turn. Cells are found when they are asked
 * for: what nobody wants of a line is not looked at.
 */
class ByteRow implements CellRow {
  line = 0;
  private bytes = new Uint8Array(0);
  private from = 0;
  private end = 0;
  private at = 0;
  private text8 = Buffer.alloc(0);
  private readonly wanted = new Int32Array(1);
  private readonly found = new Float64Array(1);
  private readonly odd = new Int32Array(1);
  /** Where the odd cells of a line begin, and of which line that is. */
  private readonly starts = new Int32Array(REMEMBERED);
  private readonly startsOf = new Int32Array(REMEMBERED).fill(-1);

  constructor(
    private readonly separator: number,
    private readonly decoder: TextDecoder,
  ) {}

  set(bytes: Uint8Array<ArrayBuffer>, from: number, end: number, line: number): void {
    if (bytes !== this.bytes) {
      this.bytes = bytes;
      this.text8 = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    }
    this.from = from;
    this.end = end;
    this.line = line;
  }

  get width(): number {
    let width = 1;
    for (let i = this.from; i < this.end; i++) if (this.bytes[i] === this.separator) width++;
    return width;
  }

  /** Leaves the start of a cell in `at`; false beyond the last. */
  private seek(column: number): boolean {
    const { bytes, end, separator } = this;
    if (column < REMEMBERED && this.startsOf[column] === this.line) {
      this.at = this.starts[column]!;
      return true;
    }
    let at = this.from;
    for (let passed = 0; passed < column; passed++) {
      while (at < end && bytes[at] !== separator) at++;
      if (at >= end) return false;
      at++;
    }
    this.at = at;
    return true;
  }

  text(column: number): string | undefined {
    if (!this.seek(column)) return undefined;
    const { bytes, end, separator } = this;
    let stop = this.at;
    let all = 0;
    while (stop < end && bytes[stop] !== separator) all |= bytes[stop++]!;
    // Below 128 all encodings that come here are one, and this is a fraction of the decoder's work.
    const text = all < 128 ? this.text8.toString('latin1', this.at, stop) : this.decoder.decode(bytes.subarray(this.at, stop));
    return text.trim();
  }

  number(column: number, decimal: Decimal): number | undefined {
    this.wanted[0] = column;
    return this.numbers(this.wanted, decimal, this.found, this.odd) === 0 ? this.found[0] : undefined;
  }

  /** As `numberOfDigits`, on bytes. */
  numbers(columns: Int32Array, decimal: Decimal, out: Float64Array, odd: Int32Array): number {
    const { bytes, end, separator } = this;
    const mark = decimal === ',' ? COMMA : POINT;
    let count = 0;
    // Where the mark separates cells as well, nothing is plain.
    if (mark === separator) {
      for (; count < columns.length; count++) odd[count] = count;
      return count;
    }
    let column = 0;
    let at = this.from;
    for (let k = 0; k < columns.length; k++) {
      const wanted = columns[k]!;
      while (column < wanted && at < end) {
        while (at < end && bytes[at] !== separator) at++;
        // Behind a separator at the end of the line there is one more cell, an empty one.
        if (at >= end) break;
        at++;
        column++;
      }
      if (column < wanted) {
        for (; k < columns.length; k++) odd[count++] = k;
        return count;
      }
      const start = at;
      while (at < end && bytes[at] === SPACE) at++;
      let byte = at < end ? bytes[at]! : separator;
      if (byte === separator) {
        out[k] = NaN;
        continue;
      }
      let negative = false;
      if (byte === MINUS || byte === PLUS) {
        negative = byte === MINUS;
        byte = ++at < end ? bytes[at]! : separator;
      }
      let digits = 0;
      let seen = 0;
      let after = 0;
      for (;;) {
        if (byte >= ZERO && byte <= NINE) {
          digits = digits * 10 + (byte - ZERO);
          seen++;
        } else if (byte === mark && after === 0) after = seen + 1;
        else break;
        byte = ++at < end ? bytes[at]! : separator;
      }
      while (at < end && bytes[at] === SPACE) at++;
      if (seen === 0 || seen > MOST_DIGITS || (at < end && bytes[at] !== separator)) {
        odd[count++] = k;
        if (wanted < REMEMBERED) {
          this.starts[wanted] = start;
          this.startsOf[wanted] = this.line;
        }
        continue;
      }
      const value = after === 0 ? digits : digits / TENS[seen + 1 - after]!;
      out[k] = negative ? -value : value;
    }
    return count;
  }
}

/**
 * The records of a delimited file whose text needs no rules: no quotes, ASCII delimiters, one record a line. Several times as
 * fast as a parser that knows all of CSV, which is what a log of eight hours at ten samples a second needs; anything else is left
 * to that parser. Lines that are empty or begin with # are left out, but counted.
 *
 * @returns batches of rows, each row valid until the next is taken
 * @throws QuoteFound a quote, anywhere; LogProblem a line longer than a log has
 */
export async function* byteRows(
  path: string,
  { encoding, delimiter }: { encoding: Encoding; delimiter: string },
  most: { lineBytes: number },
  onBytes?: (bytes: number) => void,
): AsyncGenerator<Iterable<CellRow>> {
  const row = new ByteRow(delimiter.charCodeAt(0), new TextDecoder(encoding));
  let line = 0;

  function* rowsIn(bytes: Uint8Array<ArrayBuffer>, start: number, to: number): Generator<CellRow> {
    let from = start;
    while (from < to) {
      let next = bytes.indexOf(LF, from);
      if (next < 0 || next >= to) next = to;
      line++;
      let end = next;
      if (end > from && bytes[end - 1] === CR) end--;
      let filled = from;
      while (filled < end && bytes[filled] === SPACE) filled++;
      if (filled < end && bytes[from] !== HASH) {
        row.set(bytes, from, end, line);
        yield row;
      }
      from = next + 1;
    }
  }

  const handle = await open(path);
  try {
    // One buffer for the whole file: what is left of the last line moves to its front.
    let bytes = new Uint8Array(CHUNK_BYTES);
    let held = 0;
    let read = 0;
    for (;;) {
      if (held > most.lineBytes) throw new LogProblem(`Line ${line + 1} is longer than a megabyte: this is not a log.`);
      if (bytes.length - held < CHUNK_BYTES / 2) {
        const larger = new Uint8Array(2 * bytes.length);
        larger.set(bytes.subarray(0, held));
        bytes = larger;
      }
      const { bytesRead } = await handle.read(bytes, held, bytes.length - held);
      // A byte order mark is no part of the first name.
      const first = read === 0 && bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
      read += bytesRead;
      onBytes?.(read);
      const end = held + bytesRead;
      const fresh = bytes.subarray(held, end);
      if (fresh.includes(QUOTE)) throw new QuoteFound();
      const whole = bytesRead === 0 ? end : held + fresh.lastIndexOf(LF) + 1;
      const from = Math.min(first, whole);
      if (whole > held || bytesRead === 0) yield rowsIn(bytes, from, whole);
      const done = whole > held || bytesRead === 0 ? whole : first;
      bytes.copyWithin(0, done, end);
      held = end - done;
      if (bytesRead === 0) return;
    }
  } finally {
    await handle.close();
  }
}
