import { open } from 'node:fs/promises';
import { CsvError, parse } from 'csv-parse';
import { LogProblem } from './cells.ts';
import { encodingOf, textOf } from './encoding.ts';
import { byteRows, QuoteFound } from './byteRows.ts';
import { cellsOf, TextRow, type CellRow } from './cellRow.ts';
import type { Dialect, OpenLog } from './openLog.ts';
import { openJsonLines } from './jsonLines.ts';
import { decimalOf, findShape, moreCellsThanNames } from './shape.ts';

/** No column of a bench log is wider; more is a sign of another kind of file. */
const MOST_COLUMNS = 1000;
const MOST_CELL_BYTES = 1_000_000;
/** In order of preference where two are as regular. */
const DELIMITERS = ['\t', ';', '|', ','];
/** Records among which the header is looked for. */
const HEAD_ROWS = 60;
const BATCH_ROWS = 500;

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
    if (/^\s*\[\s*[[{]/.test(text)) throw new LogProblem('This is JSON in one piece: save it with one object a line.');
    const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '' && !line.startsWith('#'));
    if (lines[0]?.trimStart().startsWith('{')) return { encoding, delimiter: '', plain: false };
    // The last line may be cut where only a part was looked at.
    const delimiter = delimiterOf(lines.slice(0, bytesRead === buffer.length && lines.length > 1 ? -1 : undefined).slice(0, 200));
    if (delimiter === null)
      throw new LogProblem('Only one column was found. Columns must be separated by commas, semicolons, tabs or bars.');
    const ascii = encoding === 'utf-8' || encoding === 'windows-1252';
    return { encoding, delimiter, plain: ascii && !head.includes(34) && !/\r(?!\n|$)/.test(text) };
  } finally {
    await handle.close();
  }
}

/** Streams the records of a delimited file by the rules of CSV. @throws LogProblem where the text breaks them */
async function* quotedRows(path: string, { encoding, delimiter }: Dialect, onBytes?: (bytes: number) => void): AsyncGenerator<TextRow[]> {
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
  let batch: TextRow[] = [];
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { lines: number } }>) {
      if (record.length > MOST_COLUMNS) throw new LogProblem(`Line ${info.lines} has more than ${MOST_COLUMNS} columns.`);
      batch.push(new TextRow(info.lines, record));
      if (batch.length < BATCH_ROWS) continue;
      yield batch;
      batch = [];
    }
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    const { lines = '?' } = error as { lines?: number };
    if (error.code === 'CSV_MAX_RECORD_SIZE') throw new LogProblem(`Line ${lines} is longer than a megabyte: this is not a log.`);
    throw new LogProblem(`Line ${lines} cannot be read as CSV: a quote is opened and not closed, or stands in the wrong place.`);
  }
  if (batch.length > 0) yield batch;
}

/** The first records as texts, and everything after them as it comes. */
async function headOf(
  batches: AsyncGenerator<Iterable<CellRow>>,
): Promise<{ head: TextRow[]; rest: () => AsyncGenerator<Iterable<CellRow>> }> {
  const head: TextRow[] = [];
  let open: Iterator<CellRow> | null = null;
  while (head.length < HEAD_ROWS) {
    if (open === null) {
      const next = await batches.next();
      if (next.done) break;
      open = next.value[Symbol.iterator]();
    }
    const row = open.next();
    if (row.done) open = null;
    else if (row.value.width > MOST_COLUMNS) throw new LogProblem(`Line ${row.value.line} has more than ${MOST_COLUMNS} columns.`);
    else head.push(new TextRow(row.value.line, cellsOf(row.value)));
  }
  async function* rest() {
    const begun = open;
    if (begun) yield { [Symbol.iterator]: () => begun };
    yield* batches;
  }
  return { head, rest };
}

function rowsOf(path: string, dialect: Dialect, onBytes?: (bytes: number) => void): AsyncGenerator<Iterable<CellRow>> {
  if (!dialect.plain) return quotedRows(path, dialect, onBytes);
  return byteRows(path, dialect, { lineBytes: MOST_CELL_BYTES }, onBytes);
}

async function openDelimited(path: string, dialect: Dialect, onBytes?: (bytes: number) => void): Promise<OpenLog> {
  const source = rowsOf(path, dialect, onBytes);
  try {
    return await shaped(source, dialect);
  } catch (error) {
    // What cannot be used is let go of at once: nobody gets to close it.
    await source.return(undefined);
    throw error;
  }
}

/** A log whose header has been found, ready to be read on. */
async function shaped(source: AsyncGenerator<Iterable<CellRow>>, dialect: Dialect): Promise<OpenLog> {
  const { head, rest } = await headOf(source);
  const rows = head.map(({ line, cells }) => ({ line, cells: [...cells] }));
  const shape = findShape(rows);
  const question = moreCellsThanNames(shape, rows, dialect.delimiter);
  if (question !== null) throw new LogProblem(question);
  async function* batches() {
    yield head.slice(shape.dataIndex);
    yield* rest();
  }
  const header = rows.find((row) => row.line === shape.headerLine)?.cells ?? null;
  return {
    ...dialect,
    decimal: decimalOf(dialect.delimiter, rows.slice(shape.dataIndex)),
    shape,
    header,
    batches: batches(),
    close: () => source.return(undefined),
  };
}

/**
 * Opens a log and hands it over: how it is written, where its header stands, and its readings after that. A log without quotes is
 * read byte by byte; where a quote turns up later, the work is begun anew by the rules of CSV.
 *
 * @param work called once, or a second time where a quote turned up
 * @param onBytes told how much of the file has been read
 * @throws LogProblem as sniff, and where the text breaks the rules of CSV or is no JSON
 */
export async function withLog<T>(path: string, work: (log: OpenLog) => Promise<T>, onBytes?: (bytes: number) => void): Promise<T> {
  const dialect = await sniff(path);
  const attempt = async (how: Dialect) => {
    const log = await (how.delimiter === '' ? openJsonLines(path, how, onBytes) : openDelimited(path, how, onBytes));
    try {
      return await work(log);
    } finally {
      await log.close();
    }
  };
  try {
    return await attempt(dialect);
  } catch (error) {
    if (!(error instanceof QuoteFound)) throw error;
    return attempt({ ...dialect, plain: false });
  }
}
