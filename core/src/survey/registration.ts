import { requireFinite } from '../errors.ts';

/** One place seen in both: cell of the picture, millimetres on the map. */
export interface ReferencePoint {
  row: number;
  column: number;
  xMm: number;
  yMm: number;
}

export interface Registration {
  toMap(row: number, column: number): { xMm: number; yMm: number };
  toPicture(xMm: number, yMm: number): { row: number; column: number };
  /** Millimetres a cell covers. */
  mmPerCell: number;
  /** Of the picture against the map, degrees. */
  turnedDeg: number;
}

/**
 * Lays a picture over the map by two places seen in both: shift, turn and one scale. A picture taken from behind is mirrored first.
 *
 * @throws RangeError the two places coincide in the picture or on the map
 */
export function registerPicture(a: ReferencePoint, b: ReferencePoint, mirrored = false): Registration {
  for (const point of [a, b]) for (const [name, value] of Object.entries(point)) requireFinite(value, name);
  const flip = mirrored ? -1 : 1;
  const [du, dv] = [flip * (b.column - a.column), b.row - a.row];
  const [dx, dy] = [b.xMm - a.xMm, b.yMm - a.yMm];
  const square = du * du + dv * dv;
  if (square === 0) throw new RangeError('the two reference points are one place in the picture');
  if (dx === 0 && dy === 0) throw new RangeError('the two reference points are one place on the map');
  // Multiplication of complex numbers: (dx + i·dy) = (p + i·q)(du + i·dv).
  const p = (dx * du + dy * dv) / square;
  const q = (dy * du - dx * dv) / square;
  const scale = p * p + q * q;
  return {
    toMap(row, column) {
      const [u, v] = [flip * (column - a.column), row - a.row];
      return { xMm: a.xMm + p * u - q * v, yMm: a.yMm + q * u + p * v };
    },
    toPicture(xMm, yMm) {
      const [x, y] = [xMm - a.xMm, yMm - a.yMm];
      return { row: a.row + (p * y - q * x) / scale, column: a.column + flip * ((p * x + q * y) / scale) };
    },
    mmPerCell: Math.sqrt(scale),
    turnedDeg: (Math.atan2(q, p) * 180) / Math.PI,
  };
}
