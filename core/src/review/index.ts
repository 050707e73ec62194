export {
  DEFAULT_READING_RULES,
  METHOD_VERSION,
  reviewRun,
  type LoadReview,
  type Bound,
  type PhaseReading,
  type ReadingRules,
  type RoomReview,
  type RunPhase,
  type RunRecord,
  type RunReview,
  type SpotReview,
} from './reviewRun.ts';
