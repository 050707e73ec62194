export { findThrottling, type Limiter, type ThrottleEpisode, type ThrottleInput, type ThrottleReport } from './findThrottling.ts';
export { findLosses, type Loss, type LossInput, type LossReport } from './findLosses.ts';
export type { HeldBy } from './whyHeld.ts';
export { cloudOf, heldBackIn, onceUp, type HeldBack } from './heldBack.ts';
