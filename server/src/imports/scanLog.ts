import type { SpotBody, StagedLog } from '@red-ember/contract';
import { LogProblem, timeFormatOf } from './cells.ts';
import { ENCODING_NAMES } from './encoding.ts';
import { asBefore, guessColumns, TimeGuess } from './guess.ts';
import { openLog, type OpenLog } from './readLog.ts';
import type { SavedMapping } from './store.ts';

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
  written: StagedLog['written'];
  guess: StagedLog['guess'];
}

/** What the columns of a log are called. @throws LogProblem as openLog */
export async function namesOf(path: string): Promise<string[]> {
  const { shape, rows } = await openLog(path);
  await rows.return(undefined);
  return shape.names;
}

function startGuess({ shape, decimal }: OpenLog, sample: string[][], { saved, spots }: ScanOptions): TimeGuess {
  const { names, units } = shape;
  const columns = names.map((_, i) => sample.map((cells) => cells[i] ?? ''));
  const seen = () => timeFormatOf(columns[saved!.timeColumn] ?? [], names[saved!.timeColumn] ?? '', decimal);
  const mapped = saved ? asBefore(saved, seen(), spots) : guessColumns(names, units, columns, spots, decimal);
  const guess = new TimeGuess(mapped, decimal);
  sample.forEach((cells, i) => guess.take(cells, i + 1));
  return guess;
}

/**
 * Looks a log through from end to end.
 *
 * @throws LogProblem as openLog, and where there is a header but no reading
 */
export async function scanLog(path: string, options: ScanOptions, onBytes?: (bytes: number) => void): Promise<LogScan> {
  const log = await openLog(path, onBytes);
  const sample: string[][] = [];
  let times: TimeGuess | null = null;
  let count = 0;
  for await (const { line, cells } of log.rows) {
    count++;
    if (sample.length < SAMPLE_ROWS) sample.push(cells);
    if (sample.length === SAMPLE_ROWS) times ??= startGuess(log, sample, options);
    if (count > SAMPLE_ROWS) times?.take(cells, line);
  }
  if (count === 0) throw new LogProblem('The file has a header but no readings.');
  times ??= startGuess(log, sample, options);
  const { names, units, headerLine, unitsLine } = log.shape;
  return {
    names,
    units,
    sample,
    count,
    written: { encoding: ENCODING_NAMES[log.encoding], delimiter: log.delimiter, decimal: log.decimal, headerLine, unitsLine },
    guess: { ...times.columns, ...times.load() },
  };
}
