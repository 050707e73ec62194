import type { HandInBody, PracticeMarks } from '@red-ember/contract';
import type { Drawn } from './draw.ts';
import type { True } from './truth.ts';

/** What the learner did besides answering. */
export interface Work {
  /** Lengths of the runs, s. */
  runsS: readonly number[];
  /** Minutes at the mounts, one a mount; null where nobody measured them. */
  handsMin: readonly (number | null)[];
  skippedSteps: number;
  hints: number;
}

/** What a fit takes where nobody measured it, min. */
const MOUNT_MIN = 15;
/** Idle before and cooling after a load, s. */
const AROUND_S = 600;
/** What the simulator's truth is itself in doubt by, from mount to mount, K. */
const TRUTH_K = 0.2;

const hoursOf = (runsS: readonly number[], handsMin: readonly (number | null)[]) =>
  runsS.reduce((sum, s) => sum + s, 0) / 3600 + handsMin.reduce<number>((sum, min) => sum + (min ?? MOUNT_MIN), 0) / 60;

/** Holds an answer against what is true. */
export function mark(answer: HandInBody, drawn: Drawn, truth: True, work: Work): PracticeMarks {
  const planted = drawn.trap ? [drawn.trap] : [];
  const found = planted.filter((trap) => answer.found.includes(trap));
  const { differenceK, plusMinusK } = answer;
  const off = differenceK === null ? null : Math.abs(differenceK - truth.differenceK);
  const doubt = plusMinusK ?? 0;
  const wide = Math.max(3, Math.abs(truth.differenceK));
  return {
    call: answer.call === 'cannot' ? 'held-back' : truth.calls.includes(answer.call) ? 'right' : 'wrong',
    figure: off === null ? null : off > doubt + TRUTH_K ? 'misses' : doubt > wide ? 'too-wide' : 'holds',
    found,
    missed: planted.filter((trap) => !found.includes(trap)),
    imagined: answer.found.filter((trap) => !planted.includes(trap)),
    skippedSteps: work.skippedSteps,
    hints: work.hints,
    hours: hoursOf(work.runsS, work.handsMin),
    goodHours: hoursOf(
      Array.from({ length: drawn.good.runs }, () => truth.loadS + AROUND_S),
      Array.from({ length: drawn.good.mounts }, () => null),
    ),
  };
}
