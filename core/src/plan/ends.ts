/** What is always run before, and after, everything else; null where nothing is. */
export interface Ends {
  first: string | null;
  last: string | null;
}

/**
 * Which runs must come before which so that the first variant's runs begin the plan and the last one's end it, for `orderRuns`.
 *
 * @param variantIds variant of each run, shape [runs]
 * @returns pairs [before, after] of indices of runs
 * @throws RangeError one variant as both
 */
export function endsPrecedence(variantIds: readonly string[], { first, last }: Ends): [number, number][] {
  if (first !== null && first === last) throw new RangeError('one variant cannot be both first and last');
  return variantIds.flatMap((a, i) =>
    variantIds.flatMap((b, j): [number, number][] => (a !== b && (a === first || b === last) && b !== first && a !== last ? [[i, j]] : [])),
  );
}

/** Whether an order has the first variant's runs at its beginning and the last one's at its end. */
export function keepsEnds(variantIds: readonly string[], { first, last }: Ends): boolean {
  const opened = variantIds.findIndex((id) => id !== first);
  const closed = variantIds.findLastIndex((id) => id !== last);
  return (
    (first === null || opened < 0 || !variantIds.slice(opened).includes(first)) &&
    (last === null || closed < 0 || !variantIds.slice(0, closed + 1).includes(last))
  );
}
