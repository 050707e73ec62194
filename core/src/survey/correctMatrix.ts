import { requireFinite } from '../errors.ts';
import { trueSurfaceTemperature } from '../instruments/trueSurfaceTemperature.ts';
import { assertMatrix } from './findHotSpots.ts';

/** A rectangle of cells with its own surface, first and last row and column included. */
export interface EmissivityRegion {
  fromRow: number;
  toRow: number;
  fromColumn: number;
  toColumn: number;
  emissivity: number;
  /** null: the picture's own. */
  reflectedC: number | null;
}

export interface CorrectedMatrix {
  /** °C; NaN where the surface cannot be read. */
  valuesC: number[][];
  /** Cells whose emissivity is too low to be trusted. */
  unreadable: boolean[][];
}

/**
 * Corrects a camera picture for the surfaces in it; the last region over a cell counts.
 *
 * Cells of low emissivity are not guessed: they come back as NaN and marked, so that no hot spot is found on shiny metal.
 *
 * @param matrix as indicated, °C
 * @param base what the camera was set to, and the surface outside all regions
 * @throws RangeError ragged matrix, emissivity outside 0..1
 */
export function correctMatrix(
  matrix: number[][],
  base: { emissivitySet: number; emissivity: number; reflectedC: number },
  regions: readonly EmissivityRegion[],
): CorrectedMatrix {
  const { columns } = assertMatrix(matrix);
  requireFinite(base.reflectedC, 'reflectedC');
  const valuesC: number[][] = [];
  const unreadable: boolean[][] = [];
  matrix.forEach((row, r) => {
    const here = regions.filter((region) => r >= region.fromRow && r <= region.toRow);
    const out = Array.from<number>({ length: columns });
    const marks = Array.from({ length: columns }, () => false);
    row.forEach((indicatedC, c) => {
      const region = here.findLast((candidate) => c >= candidate.fromColumn && c <= candidate.toColumn);
      if (Number.isNaN(indicatedC)) {
        out[c] = NaN;
        return;
      }
      const { valueC, trustworthy } = trueSurfaceTemperature({
        indicatedC,
        emissivitySet: base.emissivitySet,
        emissivity: region?.emissivity ?? base.emissivity,
        reflectedC: region?.reflectedC ?? base.reflectedC,
      });
      out[c] = trustworthy ? valueC : NaN;
      marks[c] = !trustworthy;
    });
    valuesC.push(out);
    unreadable.push(marks);
  });
  return { valuesC, unreadable };
}
