import type { Run, Study } from '@red-ember/contract';

/** A lock that a channel of the run watches, with the value held for its part. */
export interface WatchedLock {
  name: string;
  unit: string;
  value: number;
  tolerance: number;
  key: string;
}

export function watchedLocks(run: Pick<Run, 'variantId' | 'channels'>, study: Study): WatchedLock[] {
  const subjectId = study.variants.find((variant) => variant.id === run.variantId)?.subjectId;
  return study.locks.flatMap((lock) => {
    const channel = run.channels.find((candidate) => candidate.key === lock.channel || candidate.role === lock.channel);
    const value = Number(lock.overrides.find((override) => override.subjectId === subjectId)?.value ?? lock.value);
    if (!channel || channel.role === 'hand' || lock.tolerance === null || !Number.isFinite(value)) return [];
    return [{ name: lock.name, unit: lock.unit, value, tolerance: lock.tolerance, key: channel.key }];
  });
}

/** What a part is given to do is no limit of its own: a lock that is one says so in its name. */
const LIMIT = /\b(cap|limit|ceiling)\b/i;

/** Power that the part would not go beyond by itself, W, of locks that are watched; null where none is said to be such a limit. */
export const powerLimitOf = (locks: readonly WatchedLock[], channels: Run['channels']): number | null => {
  const key = channels.find((channel) => channel.role === 'power')?.key;
  return locks.find((lock) => lock.key === key && LIMIT.test(lock.name))?.value ?? null;
};

/** The same of a run and the study that it belongs to. */
export const powerLimit = (run: Pick<Run, 'variantId' | 'channels'>, study: Study): number | null =>
  powerLimitOf(watchedLocks(run, study), run.channels);
