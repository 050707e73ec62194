export { agreementFinding, biasAtLimit, type TwinAgreement } from './agreementFinding.ts';
export {
  CLAIM_UNITS,
  judgeClaim,
  type Claim,
  type ClaimAbout,
  type ClaimDirection,
  type ClaimJudgement,
  type ClaimOutcome,
} from './claim.ts';
export { HOTTEST_SPOT_ID, hottestSpot } from './hottest.ts';
export { movedFigures, type FigureBefore, type JudgedFigures } from './moved.ts';
export { ASSUMED_REPEATABILITY, figureOf, judgePair, type JudgeInput } from './judgePair.ts';
export { judgePrediction, type Prediction, type PredictionOutcome } from './prediction.ts';
export { predictionRecord, type PredictionRecord } from './record.ts';
export { runFindings } from './runFindings.ts';
export { verdictSentence, type Segment } from './sentence.ts';
export type {
  Disposition,
  FairnessCheck,
  Figure,
  Finding,
  JudgedRun,
  JudgedSide,
  JudgedSpot,
  JudgeRules,
  LeftOut,
  PairJudgement,
  ReportingBasis,
  Severity,
  SideFigure,
  SpotJudgement,
  Throttled,
  WorkJudgement,
} from './types.ts';
