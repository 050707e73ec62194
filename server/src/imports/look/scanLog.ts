import { drawable } from '@red-ember/core';
import type { LogGuess, LogTrace, StagedLog } from '@red-ember/contract';
import { namesOfFiles } from '@red-ember/study';
import { cellsOf, TextRow, type CellRow } from '../read/cellRow.ts';
import { LogProblem } from '../read/cells.ts';
import { ENCODING_NAMES } from '../read/encoding.ts';
import type { OpenLog } from '../read/openLog.ts';
import { withLog } from '../read/readLog.ts';
import { ColumnScan } from './columnScan.ts';
import type { Staged } from '../staging.ts';
import { levelOf } from './levels.ts';
import type { LogHead } from './logHead.ts';
import { guessLog, guessTime, type Beside } from './guess.ts';

/** Rows shown to the tester. */
const SAMPLE_ROWS = 5;
/** Rows looked at to guess how times and units are written. */
const HEAD_ROWS = 40;
/** Points of each trace, and traces, that are kept for drawing. */
const DRAWN = 400;
const MOST_DRAWN = 24;

export interface ScanOptions extends Beside {
  /** Names of files that were put down beside this one. */
  siblings: readonly string[];
}

/** A log looked through once: how it is written, what its columns look like, what it went through. */
export interface LogScan extends Pick<StagedLog, 'kind' | 'rows' | 'written' | 'doubts'> {
  names: string[];
  units: string[];
  sample: string[][];
  guess: LogGuess;
  /** The same for the same readings. */
  content: string;
  levels: Staged['levels'];
  trace: LogTrace;
}

/** What the columns of a log are called. @throws LogProblem as withLog */
export function namesOf(path: string): Promise<string[]> {
  return withLog(path, ({ shape }) => Promise.resolve(shape.names));
}

/**
 * Looks a log through from end to end, in memory that does not grow with it.
 *
 * @throws LogProblem as withLog, and where there is a header but no reading
 */
export function scanLog(path: string, options: ScanOptions, onBytes?: (bytes: number) => void): Promise<LogScan> {
  return withLog(path, (log) => scanOpen(log, options), onBytes);
}

/** The head of a log, and all of its rows as texts or as they come. */
async function scanOpen(log: OpenLog, options: ScanOptions): Promise<LogScan> {
  const { names, units, headerLine, unitsLine } = log.shape;
  const head: CellRow[] = [];
  const cells: string[][] = [];
  let scan: ColumnScan | null = null;
  let time: ReturnType<typeof guessTime> = null;
  let rows = 0;
  const samples = () => names.map((_, i) => cells.map((row) => row[i] ?? ''));
  const begin = () => {
    time = guessTime({ names, units, samples: samples(), decimal: log.decimal }, options.saved);
    scan = new ColumnScan(names.length, time?.spec ?? null, log.decimal);
    for (const row of head) scan.take(row);
    return scan;
  };
  for await (const batch of log.batches) {
    for (const row of batch) {
      rows++;
      if (scan === null) {
        const texts = cellsOf(row);
        cells.push(texts);
        head.push(new TextRow(row.line, texts));
        if (head.length === HEAD_ROWS) begin();
      } else (scan as ColumnScan).take(row);
    }
  }
  if (rows === 0) throw new LogProblem('The file has a header but no readings.');
  const seen = (scan ?? begin()).end();
  const logHead: LogHead = { names, units, samples: samples(), decimal: log.decimal };
  const { kind, guess, doubts } = guessLog(logHead, time, seen, rows, options);
  const name = namesOfFiles([options.fileName, ...options.siblings])[0]!;
  if (name.remark !== '') doubts.unshift(`The name says “${name.remark}”.`);
  return {
    names,
    units,
    sample: cells.slice(0, SAMPLE_ROWS),
    rows,
    written: { encoding: ENCODING_NAMES[log.encoding], delimiter: log.delimiter, decimal: log.decimal, headerLine, unitsLine },
    kind,
    guess: { ...guess, variant: name.variant, mount: name.mount },
    doubts,
    content: seen.content,
    levels: {
      steps: seen.columns.map(({ step }) => ({ step })),
      duty: levelOf(seen, guess.columns, guess.phases, 'duty'),
      fan: levelOf(seen, guess.columns, guess.phases, 'fan'),
      room: levelOf(seen, guess.columns, guess.phases, 'room'),
      power: levelOf(seen, guess.columns, guess.phases, 'power'),
    },
    trace: {
      lengthS: seen.lengthS,
      series: guess.columns
        .filter(({ role }) => role !== 'mark')
        .slice(0, MOST_DRAWN)
        .map(({ column }) => ({ column, ...drawable(seen.signal(column), DRAWN) })),
    },
  };
}
