import { createInterface } from 'node:readline';
import { LogProblem } from './cells.ts';
import { numbersOneByOne, type CellRow, type Decimal } from './cellRow.ts';
import { textOf } from './encoding.ts';
import type { Dialect, OpenLog } from './openLog.ts';

/** Objects among which the names of columns are looked for: a column may start late, but not that late. */
const HEAD_OBJECTS = 200;
const BATCH_ROWS = 500;
const MOST_COLUMNS = 1000;
const MOST_LINE = 1_000_000;

type Flat = Record<string, unknown>;

/** Values by their names; what stands one level deeper is named with a dot, as in `tc.controller`. */
function flat(object: Flat): Flat {
  return Object.fromEntries(
    Object.entries(object).flatMap(([key, value]) =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.entries(value).map(([inner, deep]): [string, unknown] => [`${key}.${inner}`, deep])
        : [[key, value] as [string, unknown]],
    ),
  );
}

class JsonRow implements CellRow {
  constructor(
    readonly line: number,
    private readonly values: Flat,
    private readonly names: readonly string[],
  ) {}

  get width(): number {
    return this.names.length;
  }

  text(column: number): string | undefined {
    const value = this.values[this.names[column]!];
    return value === undefined || value === null ? '' : typeof value === 'string' ? value.trim() : JSON.stringify(value);
  }

  number(column: number, _decimal: Decimal): number | undefined {
    const value = this.values[this.names[column]!];
    return value === undefined || value === null ? NaN : typeof value === 'number' ? value : undefined;
  }

  numbers(columns: Int32Array, decimal: Decimal, out: Float64Array, odd: Int32Array): number {
    return numbersOneByOne(this, columns, decimal, out, odd);
  }
}

async function* objects(
  path: string,
  { encoding }: Dialect,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<{ line: number; values: Flat }> {
  let line = 0;
  for await (const text of createInterface({ input: textOf(path, encoding, onBytes), crlfDelay: Infinity })) {
    line++;
    const bare = line === 1 ? text.replace(/^\ufeff/, '') : text;
    if (bare.trim() === '' || bare.startsWith('#')) continue;
    if (bare.length > MOST_LINE) throw new LogProblem(`Line ${line} is longer than a megabyte: this is not a log.`);
    let value: unknown;
    try {
      value = JSON.parse(bare);
    } catch {
      throw new LogProblem(`Line ${line} is not JSON: “${bare.slice(0, 40)}”.`);
    }
    if (typeof value !== 'object' || value === null || Array.isArray(value))
      throw new LogProblem(`Line ${line} is not a JSON object such as {"t": 1, "tc1": 45.2}.`);
    yield { line, values: flat(value as Flat) };
  }
}

/** Opens a log of JSON objects, one a line; columns are the names that the first objects use. @throws LogProblem with the line */
export async function openJsonLines(path: string, dialect: Dialect, onBytes?: (bytes: number) => void): Promise<OpenLog> {
  const all = objects(path, dialect, onBytes);
  const head: { line: number; values: Flat }[] = [];
  while (head.length < HEAD_OBJECTS) {
    const next = await all.next();
    if (next.done) break;
    head.push(next.value);
  }
  const names = [...new Set(head.flatMap(({ values }) => Object.keys(values)))];
  if (names.length > MOST_COLUMNS) throw new LogProblem(`The objects hold ${names.length} values; a log has up to ${MOST_COLUMNS}.`);
  async function* batches() {
    yield head.map(({ line, values }) => new JsonRow(line, values, names));
    let batch: JsonRow[] = [];
    for await (const { line, values } of all) {
      batch.push(new JsonRow(line, values, names));
      if (batch.length < BATCH_ROWS) continue;
      yield batch;
      batch = [];
    }
    if (batch.length > 0) yield batch;
  }
  const shape = { names, units: names.map(() => ''), headerLine: null, unitsLine: null, dataIndex: 0 };
  return { ...dialect, decimal: '.', shape, header: null, batches: batches(), close: () => all.return(undefined) };
}
