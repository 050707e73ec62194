import { requireNotNegative, requirePositive } from '../errors.ts';

export type TypeBShape = 'rectangular' | 'triangular' | 'normal';

/**
 * Half-width of stated bounds to a standard uncertainty (type B evaluation).
 *
 * @param halfWidth unit of the quantity, not negative
 * @param shape rectangular a/√3, triangular a/√6, normal: the half-width is `k` sigma
 * @param k coverage factor of a normal statement, default 2
 * @throws RangeError negative half-width, k not above zero, unknown shape
 * @see JCGM 100:2008, 4.3
 */
export function typeB(halfWidth: number, shape: TypeBShape, k = 2): number {
  requireNotNegative(halfWidth, 'halfWidth');
  requirePositive(k, 'k');
  switch (shape) {
    case 'rectangular':
      return halfWidth / Math.sqrt(3);
    case 'triangular':
      return halfWidth / Math.sqrt(6);
    case 'normal':
      return halfWidth / k;
    default:
      throw new RangeError(`unknown shape ${String(shape)}`);
  }
}
