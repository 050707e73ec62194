import { InsufficientDataError, requireNotNegative } from '../errors.ts';

export interface HotSpot {
  row: number;
  column: number;
  temperatureC: number;
  prominenceK: number;
}

/**
 * Checks that rows are equally long and cells are numbers or missing.
 *
 * @throws InsufficientDataError no cells
 * @throws RangeError ragged rows, infinite cells
 */
export function assertMatrix(matrix: readonly (readonly number[])[]): { rows: number; columns: number } {
  const rows = matrix.length;
  const columns = matrix[0]?.length ?? 0;
  if (rows === 0 || columns === 0) throw new InsufficientDataError('the temperature matrix is empty');
  matrix.forEach((row, r) => {
    if (row.length !== columns) throw new RangeError(`row ${r + 1} has ${row.length} values, the first has ${columns}`);
    row.forEach((value, c) => {
      if (typeof value !== 'number' || value === Infinity || value === -Infinity)
        throw new RangeError(`row ${r + 1}, column ${c + 1} is not a finite number`);
    });
  });
  return { rows, columns };
}

/**
 * Local maxima of a temperature picture that stand out from their surroundings, hottest first.
 *
 * A peak's prominence is how far one must go down from it before a higher one can be reached, over eight neighbours; that of the
 * hottest is measured from the coldest cell. Found by flooding from the top: cells join the basin of the highest neighbour, and
 * where two basins meet, the lower peak has its prominence. A plateau is one spot, at its first cell in reading order.
 *
 * @param matrix °C, [row][column]; NaN cells are left out and are no neighbours
 * @param opts.minProminenceK default 1
 * @param opts.maxSpots default all
 * @throws InsufficientDataError an empty matrix, or one without a usable cell
 * @throws RangeError ragged rows, infinite cells, negative minProminenceK, maxSpots not a whole number above zero
 */
export function findHotSpots(matrix: number[][], opts: { minProminenceK?: number; maxSpots?: number } = {}): HotSpot[] {
  const { minProminenceK = 1, maxSpots } = opts;
  requireNotNegative(minProminenceK, 'minProminenceK');
  if (maxSpots !== undefined && (!Number.isInteger(maxSpots) || maxSpots < 1))
    throw new RangeError(`maxSpots must be a whole number above zero, got ${maxSpots}`);
  const { rows, columns } = assertMatrix(matrix);
  const value = (cell: number) => matrix[Math.floor(cell / columns)]![cell % columns]!;
  const order: number[] = [];
  for (let cell = 0; cell < rows * columns; cell++) if (!Number.isNaN(value(cell))) order.push(cell);
  if (order.length === 0) throw new InsufficientDataError('the temperature matrix has no usable cell');
  // Equal cells in reading order, so that a plateau is born at its first one.
  order.sort((p, q) => value(q) - value(p) || p - q);
  const coldest = value(order[order.length - 1]!);

  const parent = new Int32Array(rows * columns).fill(-1); // −1: not flooded yet; the root of a basin is its peak
  const rootOf = (cell: number): number => {
    let root = cell;
    while (parent[root] !== root) root = parent[root]!;
    for (let at = cell; parent[at] !== root;) [at, parent[at]] = [parent[at]!, root];
    return root;
  };
  const higher = (p: number, q: number) => value(p) > value(q) || (value(p) === value(q) && p < q);
  const prominence = new Map<number, number>();
  for (const cell of order) {
    parent[cell] = cell;
    const [r, c] = [Math.floor(cell / columns), cell % columns];
    for (let i = Math.max(0, r - 1); i <= Math.min(rows - 1, r + 1); i++) {
      for (let j = Math.max(0, c - 1); j <= Math.min(columns - 1, c + 1); j++) {
        const neighbour = i * columns + j;
        if (neighbour === cell || parent[neighbour] === -1) continue;
        const [a, b] = [rootOf(cell), rootOf(neighbour)];
        if (a === b) continue;
        const [winner, loser] = higher(a, b) ? [a, b] : [b, a];
        if (loser !== cell) prominence.set(loser, value(loser) - value(cell));
        parent[loser] = winner;
      }
    }
  }
  for (const cell of order) if (parent[cell] === cell) prominence.set(cell, value(cell) - coldest);
  const spots = [...prominence]
    .filter(([, prominenceK]) => prominenceK > 0 && prominenceK >= minProminenceK)
    .map(([cell, prominenceK]) => ({ cell, prominenceK }))
    .sort((p, q) => value(q.cell) - value(p.cell) || p.cell - q.cell)
    .map(({ cell, prominenceK }) => ({
      row: Math.floor(cell / columns),
      column: cell % columns,
      temperatureC: value(cell),
      prominenceK,
    }));
  return spots.slice(0, maxSpots ?? spots.length);
}
