import { requireNotNegative } from '../errors.ts';

/** One change-over as it went: which factors changed and how long it took. */
export interface ChangeOverMade {
  changed: readonly string[];
  minutes: number;
}

export interface LearnedMinutes {
  minutes: number;
  /** Change-overs it rests on. */
  n: number;
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return sorted.length % 2 === 1 ? sorted[Math.floor(half)]! : (sorted[half - 1]! + sorted[half]!) / 2;
};

/**
 * Minutes that each factor takes to change, from change-overs that were made. Where a factor changed alone its median counts;
 * from the rest, what is known already is taken off, until nothing more can be told apart. The median, since one refit in ten is
 * interrupted by a telephone.
 *
 * @returns by name; a factor that never changed but together with other unknown ones is missing
 * @throws RangeError negative minutes
 */
export function learnChangeOver(made: readonly ChangeOverMade[]): Record<string, LearnedMinutes> {
  for (const { minutes } of made) requireNotNegative(minutes, 'minutes');
  const known: Record<string, LearnedMinutes> = {};
  for (;;) {
    const found = new Map<string, number[]>();
    for (const { changed, minutes } of made) {
      const unknown = changed.filter((name) => !(name in known));
      if (unknown.length !== 1) continue;
      const rest = changed.reduce((sum, name) => sum + (known[name]?.minutes ?? 0), 0);
      found.set(unknown[0]!, [...(found.get(unknown[0]!) ?? []), Math.max(0, minutes - rest)]);
    }
    if (found.size === 0) return known;
    // Those that changed with the fewest others are the surest; they are settled before anything is taken off by them.
    for (const [name, values] of found) known[name] = { minutes: median(values), n: values.length };
  }
}
