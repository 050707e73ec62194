/** Where a reading was not done yet: the true change reaches at least, or at most, as far as the one that was read. */
export type Reach = 'at-least' | 'at-most';

/** Said before an amount: “at least ”; nothing where it stands as it was read. */
export function reachWords(reach: Reach | null): string {
  switch (reach) {
    case 'at-least':
      return 'at least ';
    case 'at-most':
      return 'at most ';
    case null:
      return '';
  }
}
