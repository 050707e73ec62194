import { requireNotNegative, requirePositive } from '../errors.ts';

export interface ListedPart {
  id: string;
  /** Pieces, or applications of paste, on one mount. */
  quantity: number;
  /** It is taken off whole and put on again. */
  reusable: boolean;
  /** For one piece; of paste, for one gram. */
  price: number;
  /** Grams in one application of paste; null for everything that is counted in pieces. */
  gramsEach: number | null;
  /** Mounts of the plan that need it fresh. */
  mounts: number;
}

export interface PartsLine {
  id: string;
  /** Pieces or applications, the spare ones among them. */
  pieces: number;
  spare: number;
  grams: number | null;
  cost: number;
}

/**
 * What a plan needs: reusable parts once, consumables once a mount, and spare ones for mounts that go wrong. Parts that no mount
 * needs are left out.
 *
 * @param spareMounts further mounts that consumables are kept for, whole number
 * @throws RangeError a negative quantity, price or number of mounts; grams not above zero
 */
export function partsList(parts: readonly ListedPart[], spareMounts: number): { lines: PartsLine[]; cost: number } {
  requireNotNegative(spareMounts, 'spareMounts');
  const lines = parts
    .filter((part) => part.mounts > 0)
    .map((part): PartsLine => {
      for (const key of ['quantity', 'price', 'mounts'] as const) requireNotNegative(part[key], `${part.id}: ${key}`);
      if (part.gramsEach !== null) requirePositive(part.gramsEach, `${part.id}: gramsEach`);
      const spare = part.reusable ? 0 : part.quantity * spareMounts;
      const pieces = (part.reusable ? part.quantity : part.quantity * part.mounts) + spare;
      const grams = part.gramsEach === null ? null : part.gramsEach * pieces;
      return { id: part.id, pieces, spare, grams, cost: (grams ?? pieces) * part.price };
    });
  return { lines, cost: lines.reduce((sum, line) => sum + line.cost, 0) };
}
