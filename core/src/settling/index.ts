export { fitApproach, type ApproachFit, type ApproachOptions } from './fitApproach.ts';
export { assessSettling, type Settling } from './assessSettling.ts';
export { timeToLimit } from './timeToLimit.ts';
