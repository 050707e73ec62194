import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { parse } from 'csv-parse';

/** A log that cannot be read, with a sentence that says where and why. */
export class LogProblem extends Error {}

/** One record with the line it starts on, from 1. */
export interface LogRow {
  line: number;
  cells: string[];
}

const MISSING = /^(|n\/?a|nan|null|none|-+|\.+|\?)$/i;
/** No column of a bench log is wider; more is a sign of another kind of file. */
const MOST_COLUMNS = 300;
const MOST_CELL_BYTES = 1_000_000;

/**
 * Looks at the first bytes and says what the file is not.
 *
 * @returns the delimiter found
 * @throws LogProblem empty, binary, web page
 */
export async function sniff(path: string): Promise<{ delimiter: string }> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(65_536), 0, 65_536, 0);
    const head = buffer.subarray(0, bytesRead);
    if (bytesRead === 0) throw new LogProblem('The file is empty.');
    if (head.includes(0)) throw new LogProblem('This is not a text file: it holds NUL bytes. Export the log as CSV in UTF-8.');
    const text = head.toString('utf8').replace(/^\uFEFF/, '');
    if (/^\s*<(!doctype|html|\?xml)/i.test(text)) throw new LogProblem('This is a web page, not a log: save the data itself as CSV.');
    const line = text.split(/\r?\n/).find((candidate) => candidate.trim() !== '') ?? '';
    const counts = [',', ';', '\t'].map((delimiter) => ({ delimiter, count: line.split(delimiter).length - 1 }));
    const best = counts.sort((a, b) => b.count - a.count)[0]!;
    if (best.count === 0)
      throw new LogProblem('Only one column was found in line 1. Columns must be separated by commas, semicolons or tabs.');
    return { delimiter: best.delimiter };
  } finally {
    await handle.close();
  }
}

/** Streams the records of a delimited file. @throws LogProblem where the text breaks the rules of CSV */
export async function* rows(path: string, delimiter: string): AsyncGenerator<LogRow> {
  const parser = createReadStream(path).pipe(
    parse({
      delimiter,
      bom: true,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      max_record_size: MOST_CELL_BYTES,
    }),
  );
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { lines: number } }>) {
      if (record.length > MOST_COLUMNS)
        throw new LogProblem(`Line ${info.lines} has ${record.length} columns; a log has up to ${MOST_COLUMNS}.`);
      yield { line: info.lines, cells: record };
    }
  } catch (error) {
    if (error instanceof LogProblem) throw error;
    const { lines, code } = error as { lines?: number; code?: string };
    if (code === 'CSV_MAX_RECORD_SIZE') throw new LogProblem(`Line ${lines ?? '?'} is longer than a megabyte: this is not a log.`);
    if (code?.startsWith('CSV_'))
      throw new LogProblem(`Line ${lines ?? '?'} cannot be read as CSV: a quote is opened and not closed, or stands in the wrong place.`);
    throw error;
  }
}

/** A reading, NaN where the log says there is none. @throws LogProblem with line and column */
export function readNumber(cell: string | undefined, line: number, column: string): number {
  const text = (cell ?? '').trim();
  if (MISSING.test(text)) return NaN;
  const value = Number(text);
  if (!Number.isFinite(value)) throw new LogProblem(`Line ${line}, ${column}: “${text.slice(0, 30)}” is not a number.`);
  if (Math.abs(value) > 1e6) throw new LogProblem(`Line ${line}, ${column}: ${text.slice(0, 30)} is beyond anything a bench reads.`);
  return value;
}

const ISO = /^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d([.,]\d+)?)?(Z|[+-]\d\d:?\d\d)?$/;

/** A time in seconds on the log's own scale. @throws LogProblem with the line */
export function readTime(cell: string | undefined, format: 'elapsed-s' | 'iso', line: number): number {
  const text = (cell ?? '').trim();
  if (format === 'elapsed-s') {
    const value = text === '' ? NaN : Number(text);
    if (!Number.isFinite(value)) throw new LogProblem(`Line ${line}: “${text.slice(0, 30)}” is not a time in seconds.`);
    return value;
  }
  const normal = text.replace(',', '.').replace(' ', 'T');
  // Without an offset only differences matter, so any fixed one will do.
  const ms = ISO.test(text) ? Date.parse(/(Z|[+-]\d\d:?\d\d)$/.test(normal) ? normal : `${normal}Z`) : NaN;
  if (Number.isNaN(ms))
    throw new LogProblem(`Line ${line}: “${text.slice(0, 30)}” is not an ISO date and time such as 2026-03-01T14:05:00.`);
  return ms / 1000;
}
