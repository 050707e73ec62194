import type { SpotBody, StagedLog } from '@red-ember/contract';
import { cellsOf, TextRow } from '../read/cellRow.ts';
import { LogProblem, timeFormatOf } from '../read/cells.ts';
import { ENCODING_NAMES } from '../read/encoding.ts';
import { asBefore, guessColumns, TimeGuess } from './guess.ts';
import { withLog } from '../read/readLog.ts';
import type { OpenLog } from '../read/openLog.ts';
import { spotScan } from './spotScan.ts';
import type { SavedMapping } from '../store.ts';

/** Rows shown to the tester, and looked at to guess what the columns hold. */
const SAMPLE_ROWS = 5;

export interface ScanOptions {
  spots: Pick<SpotBody, 'id' | 'name' | 'channel'>[];
  saved: SavedMapping | null;
}

/** A log looked through once: how it is written, what its columns look like, when the load was on. */
export interface LogScan {
  names: string[];
  units: string[];
  sample: string[][];
  count: number;
  /** `count` is reckoned from the length of lines. */
  about: boolean;
  written: StagedLog['written'];
  guess: StagedLog['guess'];
}

/** What the columns of a log are called. @throws LogProblem as withLog */
export function namesOf(path: string): Promise<string[]> {
  return withLog(path, ({ shape }) => Promise.resolve(shape.names));
}

function startGuess({ shape, decimal }: OpenLog, sample: string[][], { saved, spots }: ScanOptions): TimeGuess {
  const { names, units } = shape;
  const columns = names.map((_, i) => sample.map((cells) => cells[i] ?? ''));
  const seen = () => timeFormatOf(columns[saved!.timeColumn] ?? [], names[saved!.timeColumn] ?? '', decimal);
  const mapped = saved ? asBefore(saved, seen(), spots) : guessColumns(names, units, columns, spots, decimal);
  const guess = new TimeGuess(mapped, decimal);
  sample.forEach((cells, i) => guess.take(new TextRow(i + 1, cells)));
  return guess;
}

/**
 * Looks a log through from end to end.
 *
 * @throws LogProblem as withLog, and where there is a header but no reading
 */
export function scanLog(path: string, options: ScanOptions, onBytes?: (bytes: number) => void): Promise<LogScan> {
  return withLog(path, (log) => scanOpen(log, options), onBytes);
}

/** As `scanLog`, of a long log: only its head and places evenly apart are read, where it is plain enough for that; null where not. */
export function peekLog(path: string, options: ScanOptions): Promise<LogScan | null> {
  return withLog(path, async (log) => {
    if (!log.plain) return null;
    const sample: string[][] = [];
    for await (const batch of log.batches) {
      for (const row of batch) if (sample.length < SAMPLE_ROWS) sample.push(cellsOf(row));
      if (sample.length === SAMPLE_ROWS) break;
    }
    const times = startGuess(log, sample, options);
    const { rowsAbout, load } = await spotScan(path, log, times, log.decimal);
    return { ...shown(log, sample), count: rowsAbout, about: true, guess: { ...times.columns, ...load } };
  });
}

function shown(log: OpenLog, sample: string[][]): Pick<LogScan, 'names' | 'units' | 'sample' | 'written'> {
  const { names, units, headerLine, unitsLine } = log.shape;
  const written = { encoding: ENCODING_NAMES[log.encoding], delimiter: log.delimiter, decimal: log.decimal, headerLine, unitsLine };
  return { names, units, sample, written };
}

async function scanOpen(log: OpenLog, options: ScanOptions): Promise<LogScan> {
  const sample: string[][] = [];
  let times: TimeGuess | null = null;
  let count = 0;
  for await (const batch of log.batches) {
    for (const row of batch) {
      count++;
      if (sample.length < SAMPLE_ROWS) sample.push(cellsOf(row));
      if (sample.length === SAMPLE_ROWS) times ??= startGuess(log, sample, options);
      if (count > SAMPLE_ROWS) times?.take(row);
    }
  }
  if (count === 0) throw new LogProblem('The file has a header but no readings.');
  times ??= startGuess(log, sample, options);
  return { ...shown(log, sample), count, about: false, guess: { ...times.columns, ...times.load() } };
}
