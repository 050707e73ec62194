import type { GivenFigure, GivenFigures, GivenLoad, OutputKey } from '@red-ember/core';
import { toCelsius } from '@red-ember/core';
import type { ColumnMapBody, LogKind } from '@red-ember/contract';
import { shortNames } from '@red-ember/study';
import type { CellRow, Decimal } from '../read/cellRow.ts';
import { isMissing, LogProblem, numberIn, numberOf } from '../read/cells.ts';
import { withLog } from '../read/readLog.ts';

/** A table is no longer than this. */
const MOST_ROWS = 400;
const MOST_STEPS = 24;

/** A run that a table speaks of: at which level each factor stood, and what was found. Spots go by the names of their columns. */
export interface FiguresOfRun {
  levels: { factor: string; level: string }[];
  figures: GivenFigures;
  /** Figures of the study's own, by the columns that hold them. */
  own: { column: number; figure: GivenFigure }[];
}

/** One row of a table. */
interface Row {
  line: number;
  levels: FiguresOfRun['levels'];
  order: number | null;
  swept: { duty: number | null; rpm: number | null };
  load: GivenLoad;
  own: FiguresOfRun['own'];
}

/** Outputs that a column may hold, by its role in a log. */
const OUTPUTS: Partial<Record<ColumnMapBody['role'], OutputKey>> = {
  throughput: 'performance',
  power: 'power',
  fan: 'fan',
  clock: 'clock',
  level: 'noise',
  whine: 'whine',
};

/** The last place that a number is written to: 0.1 of 61.4. */
function stepOf(text: string, decimal: Decimal): number {
  const digits = new RegExp(`\\${decimal}(\\d+)`).exec(text)?.[1]?.length ?? 0;
  return 10 ** -digits;
}

function figureIn(row: CellRow, map: ColumnMapBody, name: string, decimal: Decimal): GivenFigure | null {
  const text = row.text(map.column) ?? '';
  if (isMissing(text)) return null;
  const value = numberIn(row, map.column, name, decimal) * (map.factor ?? 1);
  return { value, step: stepOf(text, decimal) * (map.factor ?? 1) };
}

/** A rise in kelvin is no temperature in kelvin: no part of a bench is as cold as that. */
const COLDEST_K = 200;

function spotIn(row: CellRow, map: ColumnMapBody, name: string, decimal: Decimal): GivenLoad['spots'] {
  const figure = figureIn(row, map, name, decimal);
  if (figure === null) return [];
  const spotId = map.spotName!;
  if (map.unit === 'K' && figure.value < COLDEST_K) return [{ spotId, kind: 'rise', figure }];
  return [{ spotId, kind: 'temperature', figure: { ...figure, value: toCelsius(figure.value, map.unit ?? 'C') } }];
}

/** The place of a row in the order; null where something else stands there, as with a run that was broken off. */
function orderIn(row: CellRow, columns: readonly ColumnMapBody[], decimal: Decimal): number | null {
  const map = columns.find(({ role }) => role === 'order');
  const order = map ? numberOf(row.text(map.column) ?? '', decimal) : NaN;
  return Number.isNaN(order) ? null : order;
}

/** What testers write where a run came to nothing. */
const CAME_TO_NOTHING =
  /^(abort(ed)?|failed|crash(ed)?|stopped|tripped|cut out|broken off|shut ?down|abgebrochen|abgest(ü|ue)rzt|ausgefallen)$/i;

/** Whether any figure may stand in a row: one of a run that was broken off, and says so in place of all of them, holds none. */
const holdsFigures = (row: CellRow, columns: readonly ColumnMapBody[]): boolean =>
  columns.some(({ column, role }) => role === 'spot' && !CAME_TO_NOTHING.test((row.text(column) ?? '').trim()));

function rowOf(
  row: CellRow,
  columns: readonly ColumnMapBody[],
  names: readonly string[],
  decimal: Decimal,
  levelOf: (text: string) => string,
): Row {
  const nameOf = (column: number) => names[column] ?? `column ${column + 1}`;
  const one = (role: ColumnMapBody['role']) => {
    const map = columns.find((candidate) => candidate.role === role);
    return map ? figureIn(row, map, nameOf(map.column), decimal) : null;
  };
  const room = columns.find(({ role }) => role === 'room');
  const air = room ? figureIn(row, room, nameOf(room.column), decimal) : null;
  const outputs: GivenLoad['outputs'] = {};
  for (const [role, key] of Object.entries(OUTPUTS) as [ColumnMapBody['role'], OutputKey][]) {
    const figure = one(role);
    if (figure) outputs[key] = figure;
  }
  return {
    line: row.line,
    levels: columns.flatMap((map) => {
      if (map.role !== 'factor') return [];
      return [{ factor: nameOf(map.column).slice(0, 60), level: levelOf(row.text(map.column) ?? '') || '(empty)' }];
    }),
    order: orderIn(row, columns, decimal),
    swept: { duty: one('duty')?.value ?? null, rpm: one('fan')?.value ?? null },
    load: {
      name: 'As given',
      spots: columns.flatMap((map) => (map.role === 'spot' ? spotIn(row, map, nameOf(map.column), decimal) : [])),
      room: air && { ...air, value: toCelsius(air.value, room!.unit ?? 'C') },
      outputs,
    },
    own: columns.flatMap((map) => {
      const figure = map.role === 'own' ? figureIn(row, map, nameOf(map.column), decimal) : null;
      return figure ? [{ column: map.column, figure }] : [];
    }),
  };
}

/** The steps of a sweep as loads of one run, from the least setting up. @throws LogProblem */
function sweepOf(rows: readonly Row[], noiseFloorDb: number | null): FiguresOfRun {
  const by = rows.every(({ swept }) => swept.duty !== null) ? 'duty' : rows.every(({ swept }) => swept.rpm !== null) ? 'rpm' : null;
  if (by === null) throw new LogProblem('A sweep needs the duty or the speed of the fan in every row: choose the column that holds it.');
  if (rows.length < 2) throw new LogProblem('A sweep needs two rows or more: with one there is nothing between which to read.');
  if (rows.length > MOST_STEPS) throw new LogProblem(`A sweep holds up to ${MOST_STEPS} steps; these are ${rows.length} rows.`);
  const sorted = [...rows].sort((p, q) => p.swept[by]! - q.swept[by]!);
  const twice = sorted.find((row, i) => i > 0 && row.swept[by] === sorted[i - 1]!.swept[by]);
  const unit = by === 'duty' ? '%' : 'rpm';
  if (twice) throw new LogProblem(`Line ${twice.line}: ${twice.swept[by]} ${unit} stands there twice. Keep one row a step, or give each sweep a file of its own.`); // prettier-ignore
  const loads = sorted.map(({ swept, load }) => ({ ...load, name: `Fan, ${swept[by]} ${unit}` }));
  return { levels: [], figures: { loads, noiseFloorDb }, own: [] };
}

/**
 * Reads a table of figures: a sweep as one run with a load a step, anything else as a run a row, in the order in which they were made
 * where a column says it.
 *
 * @param columns what each column holds; spots with names
 * @throws LogProblem with the line and why
 */
export function readFigures(
  path: string,
  kind: Exclude<LogKind, 'trace'>,
  columns: readonly ColumnMapBody[],
  noiseFloorDb: number | null,
): Promise<FiguresOfRun[]> {
  if (!columns.some(({ role }) => role === 'spot')) throw new LogProblem('Choose at least one column that holds a rise or a temperature.');
  return withLog(path, async ({ shape, decimal, batches }) => {
    const rows: Row[] = [];
    const levelOf = shortNames();
    for await (const batch of batches) {
      for (const row of batch) {
        // A hole is no figure: a row without any is left out, as if it had not been measured.
        if (!holdsFigures(row, columns)) continue;
        const read = rowOf(row, columns, shape.names, decimal, levelOf);
        if (read.load.spots.length > 0) rows.push(read);
        if (rows.length > MOST_ROWS) throw new LogProblem(`A table of figures holds up to ${MOST_ROWS} rows.`);
      }
    }
    if (rows.length === 0) throw new LogProblem('No row holds a figure.');
    if (kind === 'sweep') return [sweepOf(rows, noiseFloorDb)];
    const inOrder = rows.every(({ order }) => order !== null) ? [...rows].sort((p, q) => p.order! - q.order!) : rows;
    return inOrder.map(({ levels, load, own }) => ({ levels, figures: { loads: [load], noiseFloorDb }, own }));
  });
}
