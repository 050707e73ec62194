export { settledWords, toGoInWords } from './settledWords.ts';
export { METHOD_VERSION, reviewRun } from './reviewRun.ts';
export { reviewOfFigures, type GivenFigure, type GivenFigures, type GivenLoad } from './reviewOfFigures.ts';
export {
  DEFAULT_READING_RULES,
  type AirReview,
  type Bound,
  type ChosenWindow,
  type FedSeries,
  type HeatPath,
  type LoadReview,
  type PhaseReading,
  type ReadingRules,
  type RoomReview,
  type RunPhase,
  type RunRecord,
  type RunReview,
  type SpotReview,
  type ThrottleReview,
  type UncountedLoad,
} from './types.ts';
export { eachOutput, OUTPUT_KEYS, type OutputKey, type Outputs } from './outputs.ts';
export { reachWords, type Reach } from './reach.ts';
export { changesWithin, roomOverLoads, type ChangeWithin } from './withinRun.ts';
