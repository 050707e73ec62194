import { contours } from 'd3-contour';
import { correctMatrix, findHotSpots, registerPicture, type CorrectedMatrix, type HotSpot, type Registration } from '@red-ember/core';
import type { SpotBody, Survey, SurveyBody } from '@red-ember/contract';

/** A hot spot as a place for a thermocouple. */
export interface Proposal {
  name: string;
  componentClass: SpotBody['componentClass'] | null;
  place: string;
  /** On the map; null while the picture is not laid over it. */
  at: { xMm: number; yMm: number } | null;
}

export interface ReadPicture {
  corrected: CorrectedMatrix;
  minC: number;
  maxC: number;
  spots: HotSpot[];
  /** null until two different places are known in both. */
  registration: Registration | null;
  /** Why it cannot be read as it is said to be; null where it can. */
  sentence: string | null;
}

const MOST_SPOTS = 12;

/** Everything that is worked out of a picture: temperatures corrected for the surfaces, hot spots, and how it lies on the map. */
export function readPicture(survey: Survey, said: SurveyBody): ReadPicture {
  const matrix = survey.matrix.map((row) => row.map((value) => value ?? NaN));
  let corrected: CorrectedMatrix;
  let sentence: string | null = null;
  try {
    corrected = correctMatrix(matrix, said, said.regions);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    sentence = `Shown as indicated, not corrected: ${error.message}.`;
    corrected = { valuesC: matrix, unreadable: matrix.map((row) => row.map(() => false)) };
  }
  const values = corrected.valuesC.flat().filter((value) => !Number.isNaN(value));
  const extreme = (pick: (p: number, q: number) => number, start: number) => values.reduce((p, q) => pick(p, q), start);
  const [a, b] = said.references;
  let registration: Registration | null = null;
  try {
    registration = a && b ? registerPicture(a, b, said.mirrored) : null;
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
  }
  return {
    corrected,
    minC: extreme(Math.min, Infinity),
    maxC: extreme(Math.max, -Infinity),
    spots:
      values.length > 0 && said.minProminenceK >= 0
        ? findHotSpots(corrected.valuesC, { minProminenceK: said.minProminenceK, maxSpots: MOST_SPOTS })
        : [],
    registration,
    sentence,
  };
}

export interface ContourLine {
  levelC: number;
  /** SVG path in cells. */
  path: string;
  /** Where its label stands, in cells: somewhere on the longest ring. */
  label: { column: number; row: number } | null;
}

type Cell = { column: number; row: number };

/** The point of a ring that lies furthest from everything that is written or marked already. */
function freest(ring: number[][], taken: Cell[], rows: number, columns: number): Cell {
  const inside = ring.filter(([x, y]) => x! > 0.06 * columns && x! < 0.9 * columns && y! > 0.08 * rows && y! < 0.96 * rows);
  const points = inside.length > 0 ? inside : ring;
  const step = Math.max(1, Math.floor(points.length / 24));
  let best: Cell = { column: points[0]![0]!, row: points[0]![1]! };
  let room = -1;
  for (let i = 0; i < points.length; i += step) {
    const at = { column: points[i]![0]!, row: points[i]![1]! };
    // Labels are about three times as wide as high.
    const nearest = Math.min(Infinity, ...taken.map((other) => Math.hypot((at.column - other.column) / 3, at.row - other.row)));
    if (nearest > room) [best, room] = [at, nearest];
  }
  return best;
}

/** Lines of equal temperature at round steps, about six of them; their labels keep clear of each other and of the marks. */
export function contourLines({ corrected, minC, maxC, spots }: ReadPicture, marks: readonly Cell[]): ContourLine[] {
  if (!(maxC > minC)) return [];
  const rows = corrected.valuesC.length;
  const columns = corrected.valuesC[0]!.length;
  const step = [1, 2, 5, 10, 20, 50].find((candidate) => (maxC - minC) / candidate <= 7) ?? 100;
  const levels: number[] = [];
  for (let level = Math.ceil(minC / step) * step; level < maxC; level += step) levels.push(level);
  // Places that cannot be read count as cold here, so that a line runs around them instead of through them.
  const flat = corrected.valuesC.flat().map((value) => (Number.isNaN(value) ? minC : value));
  const taken: Cell[] = [...marks, ...spots];
  return contours()
    .size([columns, rows])
    .thresholds(levels)(flat)
    .map((shape) => {
      const rings = shape.coordinates.flat();
      const longest = [...rings].sort((p, q) => q.length - p.length)[0];
      const label = longest && longest.length > 12 ? freest(longest, taken, rows, columns) : null;
      if (label) taken.push(label);
      return {
        levelC: shape.value,
        path: rings.map((ring) => `M${ring.map(([x, y]) => `${x!.toFixed(2)},${y!.toFixed(2)}`).join('L')}Z`).join(''),
        label,
      };
    });
}
