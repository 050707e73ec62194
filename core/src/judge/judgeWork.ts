import { InsufficientDataError } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import { compare, type Comparison } from '../uncertainty/compare.ts';
import type { JudgedRun, Throttled, WorkJudgement } from './types.ts';

function compareOrNull(a: Estimate[], b: Estimate[], coverage: number): Comparison | null {
  try {
    return compare({ a, b, practicalK: 0, coverage });
  } catch (error) {
    if (error instanceof InsufficientDataError) return null; // a side without two runs has no scatter of its own
    throw error;
  }
}

function throttled(runs: readonly JudgedRun[]): Throttled {
  const watched = runs.filter((run) => run.review.throttle !== null);
  return {
    runs: watched.filter((run) => run.review.throttle!.timeToFirstS !== null).length,
    of: watched.length,
    watchedMin: watched.length === 0 ? 0 : Math.min(...watched.map((run) => (run.review.loadS ?? 0) / 60)),
  };
}

/** Compares what else was free to move: throughput, and the time until the part throttled (methods §4). */
export function judgeWork(a: readonly JudgedRun[], b: readonly JudgedRun[], coverage: number): WorkJudgement {
  const throughput = (runs: readonly JudgedRun[]) => runs.flatMap((run) => run.review.performance ?? []);
  const minutes = (runs: readonly JudgedRun[]) =>
    runs.flatMap((run): Estimate[] => {
      const first = run.review.throttle?.timeToFirstS;
      return first == null ? [] : [{ value: first / 60, u: 0, dof: Infinity }];
    });
  const counts = { a: throttled(a), b: throttled(b) };
  const allDid = counts.a.runs === counts.a.of && counts.b.runs === counts.b.of;
  return {
    throughput: compareOrNull(throughput(a), throughput(b), coverage),
    timeToThrottle: allDid ? compareOrNull(minutes(a), minutes(b), coverage) : null,
    throttled: counts,
  };
}
