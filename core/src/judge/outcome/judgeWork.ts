import { compareOutcome, OUTCOMES, outcomeKind, ownOutcome } from './outcomes.ts';
import type { JudgedRun, JudgedSide, JudgeRules, KnownOutcome, Throttled, WorkJudgement } from '../types.ts';

function throttled(runs: readonly JudgedRun[]): Throttled {
  const watched = runs.filter((run) => run.review.throttle !== null);
  return {
    runs: watched.filter((run) => run.review.throttle!.timeToFirstS !== null).length,
    of: watched.length,
    watchedMin: watched.length === 0 ? 0 : Math.min(...watched.map((run) => (run.review.loadS ?? 0) / 60)),
  };
}

/** Compares what else was free to move: throughput, noise, clock, and the time until the part throttled (methods §4). */
export function judgeWork(
  a: readonly JudgedRun[],
  b: readonly JudgedRun[],
  { coverage, throughputUnit = '', own = [] }: Pick<JudgeRules, 'coverage' | 'throughputUnit' | 'own'>,
  others: readonly JudgedSide[] = [],
): WorkJudgement {
  const counts = { a: throttled(a), b: throttled(b) };
  const allDid = counts.a.runs === counts.a.of && counts.b.runs === counts.b.of;
  const lone = a.length === 1 || b.length === 1;
  const of = (key: KnownOutcome) => compareOutcome(a, b, OUTCOMES[key], coverage, others);
  const [throughput, noise, clock] = [of('throughput'), of('noise'), of('clock')];
  const timeToThrottle = allDid ? of('time-to-throttle') : null;
  return {
    throughput: throughput?.comparison ?? null,
    noise: noise?.comparison ?? null,
    clock: clock?.comparison ?? null,
    timeToThrottle: timeToThrottle?.comparison ?? null,
    practical: {
      throughput: throughput?.practical ?? null,
      noise: noise?.practical ?? null,
      clock: clock?.practical ?? null,
      timeToThrottle: timeToThrottle?.practical ?? null,
    },
    own: Object.fromEntries(own.map(({ id }) => [id, compareOutcome(a, b, outcomeKind(ownOutcome(id), { own }), coverage, others)])),
    throttled: counts,
    assumed: lone,
    throughputUnit,
  };
}
