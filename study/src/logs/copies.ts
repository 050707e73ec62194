/** A file among others, as far as it tells copies from one another. */
export interface MaybeCopy {
  /** The same for the same readings. */
  content: string;
  /** It says of itself that it is one. */
  copy: boolean;
  /** Somebody has left it aside. */
  aside: boolean;
}

/**
 * Of several files with the same readings one is used: the one that is not called a copy, and of those the first.
 *
 * @returns the place of the one that goes before file i; null where that is used itself
 */
export function usedInstead(all: readonly MaybeCopy[], i: number): number | null {
  const same = all.flatMap((file, k) => (file.content === all[i]!.content && !file.aside ? [k] : []));
  const [best] = same.sort((p, q) => Number(all[p]!.copy) - Number(all[q]!.copy) || p - q);
  return best === undefined || best === i ? null : best;
}
