export { fitApproach, type ApproachFit, type ApproachOptions } from './fitApproach.ts';
export { assessSettling, type Settling } from './assessSettling.ts';
export { timeToLimit } from './timeToLimit.ts';
export { boundSettling, type BoundedSettling } from './boundSettling.ts';
export { LONGEST_TAU_S, remainingAt, type Remaining } from './remaining.ts';
