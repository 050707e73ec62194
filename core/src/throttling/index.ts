export { findThrottling, type Limiter, type ThrottleEpisode, type ThrottleInput, type ThrottleReport } from './findThrottling.ts';
