export { atLoad, commonLoads, loadsAsSides } from './atLoad.ts';
export { whereCoolingWent, type Cooling, type CoolingRow, type Freedom } from './cooling.ts';
export { factorView, type EffectInView, type FactorView } from './factorView.ts';
export { carryOfSide, wattsOfSide, fanNeeded, minutesOfLoad, roomOfSide, type LimitedSpot } from './carried.ts';
export { kneeOfSweep, sweptAt, type SweepKnee } from './sweep.ts';
export {
  gatherField,
  inBothAirs,
  meanFigure,
  meanOutcome,
  readingsOf,
  type Field,
  type FieldKey,
  type FieldRun,
  type FieldSide,
} from './field.ts';
export { ladderSteps, type LadderStep, type ThrottleStep } from './ladder.ts';
export { OUTCOMES, type OutcomeKey, type OutcomeKind } from './outcomes.ts';
export { departures, judgeRetest, suspects, type Departure, type Retest, type RetestOutcome, type Suspect } from './outlier.ts';
export { holm, rankField, type RankedSide, type Ranking } from './rank.ts';
export { commonNoise, noiseSweep, type Restatement } from './restate.ts';
export { agreementFinding, biasAtLimit, type TwinAgreement } from './agreementFinding.ts';
export {
  CLAIM_UNITS,
  unitOfClaim,
  judgeClaim,
  type Claim,
  type ClaimAbout,
  type ClaimDirection,
  type ClaimJudgement,
  type ClaimOutcome,
} from './claim.ts';
export { matchSpots, otherStudyFindings, renamedSide, type MatchableSpot } from './otherStudy.ts';
export { judgeWattsClaim, type CarriedWatts } from './claimWatts.ts';
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
  HouseRule,
  HouseRuleKey,
  JudgedSide,
  Origin,
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
