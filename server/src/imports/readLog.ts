import { open } from 'node:fs/promises';
import { CsvError, parse } from 'csv-parse';
import { LogProblem, type Decimal } from './cells.ts';
import { encodingOf, textOf, type Encoding } from './encoding.ts';
import { decimalOf, findShape, type LogRow, type LogShape } from './shape.ts';

/** How a log is written. */
export interface Dialect {
  encoding: Encoding;
  delimiter: string;
}

/** A log with its header found: how it is written, and its readings, row by row. */
export interface OpenLog extends Dialect {
  decimal: Decimal;
  shape: LogShape;
  /** The cells of the header row, where it has one. */
  header: string[] | null;
  rows: AsyncGenerator<LogRow>;
}

/** No column of a bench log is wider; more is a sign of another kind of file. */
const MOST_COLUMNS = 300;
const MOST_CELL_BYTES = 1_000_000;
/** In order of preference where two are as regular. */
const DELIMITERS = ['\t', ';', '|', ','];
/** Records among which the header is looked for. */
const HEAD_ROWS = 60;

/** The delimiter that stands as often in most lines. */
function delimiterOf(lines: readonly string[]): string | null {
  const scored = DELIMITERS.map((delimiter) => {
    const counts = new Map<number, number>();
    for (const line of lines) {
      const count = line.split(delimiter).length - 1;
      if (count > 0) counts.set(count, (counts.get(count) ?? 0) + 1);
    }
    return { delimiter, regular: Math.max(0, ...counts.values()) };
  });
  const best = scored.reduce((a, b) => (b.regular > a.regular ? b : a));
  return best.regular > 0 ? best.delimiter : null;
}

/**
 * Looks at the first bytes and says how the file is written, or what it is not.
 *
 * @throws LogProblem empty, binary, web page, one column
 */
export async function sniff(path: string): Promise<Dialect> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(65_536), 0, 65_536, 0);
    const head = buffer.subarray(0, bytesRead);
    if (bytesRead === 0) throw new LogProblem('The file is empty.');
    const encoding = encodingOf(head);
    if (!encoding.startsWith('utf-16') && head.includes(0))
      throw new LogProblem('This is not a text file: it holds NUL bytes. Export the log as CSV.');
    const text = new TextDecoder(encoding).decode(head);
    if (/^\s*<(!doctype|html|\?xml)/i.test(text)) throw new LogProblem('This is a web page, not a log: save the data itself as CSV.');
    const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '' && !line.startsWith('#'));
    // The last line may be cut where only a part was looked at.
    const delimiter = delimiterOf(lines.slice(0, bytesRead === buffer.length && lines.length > 1 ? -1 : undefined).slice(0, 200));
    if (delimiter === null)
      throw new LogProblem('Only one column was found. Columns must be separated by commas, semicolons, tabs or bars.');
    return { encoding, delimiter };
  } finally {
    await handle.close();
  }
}

/** Streams the records of a delimited file. @throws LogProblem where the text breaks the rules of CSV */
async function* records(path: string, { encoding, delimiter }: Dialect, onBytes?: (bytes: number) => void): AsyncGenerator<LogRow> {
  const parser = textOf(path, encoding, onBytes).pipe(
    parse({
      delimiter,
      bom: true,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      comment: '#',
      comment_no_infix: true,
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
    if (!(error instanceof CsvError)) throw error;
    const { lines = '?' } = error as { lines?: number };
    if (error.code === 'CSV_MAX_RECORD_SIZE') throw new LogProblem(`Line ${lines} is longer than a megabyte: this is not a log.`);
    throw new LogProblem(`Line ${lines} cannot be read as CSV: a quote is opened and not closed, or stands in the wrong place.`);
  }
}

/**
 * Opens a log: how it is written, where its header stands, and its readings after that.
 *
 * @param onBytes told how much of the file has been read
 * @throws LogProblem as sniff, and where the text breaks the rules of CSV
 */
export async function openLog(path: string, onBytes?: (bytes: number) => void): Promise<OpenLog> {
  const dialect = await sniff(path);
  const all = records(path, dialect, onBytes);
  const head: LogRow[] = [];
  while (head.length < HEAD_ROWS) {
    const next = await all.next();
    if (next.done) break;
    head.push(next.value);
  }
  const shape = findShape(head);
  const first = head.slice(shape.dataIndex);
  async function* rows() {
    yield* first;
    yield* all;
  }
  const header = head.find((row) => row.line === shape.headerLine)?.cells ?? null;
  return { ...dialect, decimal: decimalOf(dialect.delimiter, first), shape, header, rows: rows() };
}
