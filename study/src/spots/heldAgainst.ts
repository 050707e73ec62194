import type { ComponentClass } from '../components.ts';
import type { SpotEntry } from '../definition/look.ts';

/** What a drive's own sensor speaks for: whatever of it gets hot. */
const OF_A_DRIVE: readonly ComponentClass[] = ['drive controller', 'flash'];

/** What a spot is held against, and whether that is on one place with it. */
export interface HeldAgainst {
  ids: string[];
  samePlace: boolean;
}

/**
 * By which spots it is seen whether another one reads low: by the one on the same place where somebody said so; of a part's own sensor,
 * by whatever is attached to a part of its kind. null where there is none.
 */
export function heldAgainst(
  spot: Pick<SpotEntry, 'id' | 'twinOf' | 'method' | 'componentClass'>,
  spots: readonly Pick<SpotEntry, 'id' | 'method' | 'componentClass' | 'byHand'>[],
): HeldAgainst | null {
  if (spot.twinOf !== null) return spots.some(({ id }) => id === spot.twinOf) ? { ids: [spot.twinOf], samePlace: true } : null;
  if (spot.method !== 'own') return null;
  const kinds = spot.componentClass === 'drive sensor' ? OF_A_DRIVE : [spot.componentClass];
  const ids = spots.flatMap(({ id, method, componentClass, byHand }) =>
    id !== spot.id && method === 'attached' && !byHand && kinds.includes(componentClass) ? [id] : [],
  );
  return ids.length === 0 ? null : { ids, samePlace: false };
}
