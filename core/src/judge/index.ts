export type * from './types.ts';

export { atLoad, commonLoads, loadsAsSides } from './figure/atLoad.ts';
export { figureOf } from './figure/figureOf.ts';
export { HOTTEST_SPOT_ID, hottestSpot } from './figure/hottest.ts';
export { commonNoise, noiseSweep } from './figure/restate.ts';
export { ASSUMED_REPEATABILITY, scatterFor } from './figure/scatter.ts';

export { agreementFinding, biasAtLimit, type TwinAgreement } from './fair/agreementFinding.ts';
export { mayBeCalled } from './fair/mayBeCalled.ts';
export { matchSpots, otherStudyFindings, renamedSide, type MatchableSpot } from './fair/otherStudy.ts';
export { OF_TEMPERATURE, sortOut } from './fair/sortOut.ts';
export { idledBeside, LIMITER_WORDS, runFindings, uncountedWords } from './fair/runFindings.ts';

export { whereCoolingWent } from './outcome/cooling.ts';
export { OUTCOMES, outcomeKeys, outcomeKind, ownIdOf, ownOutcome, workDone, type OutcomeKind } from './outcome/outcomes.ts';

export { adviceWords, likelyWords } from './pair/advice.ts';
export { callOf, callWords, namesASide, type CallWords } from './pair/call.ts';
export { judgePair } from './pair/judgePair.ts';
export { movedFigures, saidOfSpots, type FigureBefore, type JudgedFigures } from './pair/moved.ts';
export { verdictSentence, type Segment } from './pair/sentence.ts';

export {
  CLAIM_UNITS,
  judgeClaim,
  unitOfClaim,
  type Claim,
  type ClaimAbout,
  type ClaimDirection,
  type ClaimJudgement,
  type ClaimOutcome,
} from './claim/claim.ts';
export { judgeWattsClaim, type CarriedWatts } from './claim/claimWatts.ts';
export { judgePrediction, type Prediction, type PredictionOutcome } from './claim/prediction.ts';
export { predictionRecord, type PredictionRecord } from './claim/record.ts';

export { carryOfSide, fanNeeded, minutesOfLoad, roomOfSide, wattsOfSide, type LimitedSpot } from './lineUp/carried.ts';
export { factorView, type EffectInView, type FactorView } from './lineUp/factorView.ts';
export { ladderSteps, type LadderStep, type ThrottleStep } from './lineUp/ladder.ts';
export {
  blockedBetween,
  inBothAirs,
  lineUp,
  meanFigure,
  meanOutcome,
  readingsOf,
  type LineUp,
  type LineUpKey,
  type LineUpRun,
  type LineUpSide,
} from './lineUp/lineUp.ts';
export {
  departures,
  judgeRetest,
  retestsByHand,
  suspects,
  unrecorded,
  type Departure,
  type Retest,
  type RetestOutcome,
  type Suspect,
  type Unrecorded,
} from './lineUp/outlier.ts';
export { rankLineUp, type RankedPair, type RankedSide, type Ranking } from './lineUp/rank.ts';
export { kneeOfSweep, sweptAt, type SweepKnee } from './lineUp/sweep.ts';
export { nextActs, type ActCosts, type NextAct, type NextActs } from './next/nextActs.ts';
export { learnDrift } from './figure/drift.ts';
export { FIRST_LOOK, FIRST_LOOKS, lookedAt, type Looked } from './figure/looked.ts';
