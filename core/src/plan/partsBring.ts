import { requireNotNegative } from '../errors.ts';
import { sumLevels } from '../noise/sumLevels.ts';

export interface BroughtPart {
  quantity: number;
  weightG: number;
  /** Of one piece, dB(A); null where it makes no sound or nobody measured. */
  noiseDb: number | null;
}

/**
 * What parts bring together: weights add, sound levels add as powers, each piece for itself.
 *
 * @returns noiseDb null where no level is known
 * @throws RangeError a negative quantity or weight
 */
export function partsBring(parts: readonly BroughtPart[]): { weightG: number; noiseDb: number | null } {
  for (const part of parts) {
    requireNotNegative(part.quantity, 'quantity');
    requireNotNegative(part.weightG, 'weightG');
  }
  const levels = parts.flatMap(({ noiseDb, quantity }) => (noiseDb === null ? [] : Array.from({ length: quantity }, () => noiseDb)));
  return {
    weightG: parts.reduce((sum, part) => sum + part.weightG * part.quantity, 0),
    noiseDb: levels.length === 0 ? null : sumLevels(levels),
  };
}
