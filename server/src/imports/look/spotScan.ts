import { open, type FileHandle } from 'node:fs/promises';
import { LogProblem, numberIn, timeOf } from '../read/cells.ts';
import type { Decimal } from '../read/cellRow.ts';
import { TextRow } from '../read/cellRow.ts';
import { guessLoad, type TimeGuess } from './guess.ts';

/** A longer log is not read from end to end only to be shown: places evenly apart tell what it holds. */
const PLACES = 96;
const PEEK_BYTES = 8192;

interface Point {
  t: number;
  work: number;
  byte: number;
}

export interface SpotScan {
  /** By the mean length of a line. */
  rowsAbout: number;
  load: { loadStartS: number; loadEndS: number; lengthS: number };
}

/** Reads lines of a plain delimited log here and there. */
class Peeker {
  private readonly decoder: TextDecoder;

  constructor(
    private readonly handle: FileHandle,
    private readonly dialect: { encoding: string; delimiter: string },
    private readonly guess: TimeGuess,
    private readonly decimal: Decimal,
  ) {
    this.decoder = new TextDecoder(dialect.encoding);
  }

  /** Whole lines that begin in [from, to), with where each begins. */
  async lines(from: number, to: number): Promise<{ text: string; byte: number }[]> {
    const { buffer, bytesRead } = await this.handle.read(Buffer.alloc(to - from), 0, to - from, from);
    const lines: { text: string; byte: number }[] = [];
    let at = from === 0 ? 0 : buffer.indexOf(10) + 1;
    for (;;) {
      const end = buffer.indexOf(10, at);
      if (end < 0 || end >= bytesRead) return lines;
      lines.push({ text: this.decoder.decode(buffer.subarray(at, end)), byte: from + at });
      at = end + 1;
    }
  }

  /** Time and work of a line; null where it holds none. */
  point({ text, byte }: { text: string; byte: number }): Point | null {
    const row = new TextRow(0, text.replace(/\r$/, '').split(this.dialect.delimiter).map((cell) => cell.trim())); // prettier-ignore
    const { timeColumn, timeFormat } = this.guess.columns;
    try {
      const work = this.guess.workColumn === null ? 0 : numberIn(row, this.guess.workColumn, '', this.decimal) || 0;
      return { t: timeOf(row, timeColumn, timeFormat, this.decimal), work, byte };
    } catch (error) {
      if (error instanceof LogProblem) return null;
      throw error;
    }
  }

  /** The first line at or after a byte, and how long the lines around it are. */
  async at(byte: number): Promise<{ point: Point | null; lineBytes: number }> {
    const found = await this.lines(byte, byte + PEEK_BYTES);
    const span = found.length > 1 ? (found.at(-1)!.byte - found[0]!.byte) / (found.length - 1) : NaN;
    return { point: found.map((line) => this.point(line)).find((point) => point !== null) ?? null, lineBytes: span };
  }

  async between(from: number, to: number): Promise<Point[]> {
    return (await this.lines(from, Math.min(to + PEEK_BYTES, from + 16 * 1024 * 1024))).flatMap((line) => this.point(line) ?? []);
  }
}

/**
 * What a long log holds, from places evenly apart; where the load began and ended is then read line by line. The import itself
 * reads every line and says what is wrong with it.
 */
export async function spotScan(
  path: string,
  dialect: { encoding: string; delimiter: string },
  guess: TimeGuess,
  decimal: Decimal,
): Promise<SpotScan> {
  const handle = await open(path);
  try {
    const { size } = await handle.stat();
    const peeker = new Peeker(handle, dialect, guess, decimal);
    const places = await Promise.all(Array.from({ length: PLACES }, (_, k) => peeker.at(Math.floor((k * size) / PLACES))));
    const tail = await peeker.between(Math.max(0, size - PEEK_BYTES), size);
    const points = [...places.flatMap(({ point }) => point ?? []), ...tail.slice(-1)];
    const lengths = places.flatMap(({ lineBytes }) => (Number.isFinite(lineBytes) ? [lineBytes] : []));
    const rowsAbout = Math.round(size / (lengths.reduce((sum, bytes) => sum + bytes, 0) / Math.max(1, lengths.length)));
    const startS = points[0]?.t ?? 0;
    const lengthS = Math.max(0, (points.at(-1)?.t ?? 0) - startS);
    const rough = guessLoad(points.map((point) => point.t), points.map((point) => point.work)); // prettier-ignore
    if (!rough) return { rowsAbout, load: { loadStartS: 0, loadEndS: lengthS, lengthS } };
    const largest = points.reduce((most, point) => Math.max(most, point.work), 0);
    const first = points.findIndex((point) => point.work > largest / 2);
    const last = points.findLastIndex((point) => point.work > largest / 10);
    const before = await peeker.between(points[Math.max(0, first - 1)]!.byte, points[first]!.byte);
    const after = await peeker.between(points[last]!.byte, points[Math.min(points.length - 1, last + 1)]!.byte);
    const begun = before.find((point) => point.work > largest / 2)?.t ?? rough.loadStartS;
    const stopped = after.findLastIndex((point) => point.work > largest / 10);
    const ended = after[stopped + 1]?.t ?? rough.loadEndS;
    return { rowsAbout, load: { loadStartS: begun - startS, loadEndS: ended - startS, lengthS } };
  } finally {
    await handle.close();
  }
}
