export { AGAIN, withIntervention, withInterruption, withMoreTime, withPause } from './alterRecipe.ts';
export { BLIND_BEYOND_HOLD_S, BlindWatch, isPlausible } from './blindWatch.ts';
export { ClockWatch, type ClockOff } from './clockWatch.ts';
export { CutOutWatch, type ArmedLimit, type CutOut } from './cutOut.ts';
export { handValue, type HandValue } from './handValue.ts';
export { sampleGaps, whereLoadsDiffer, type LineEntry, type LineKind, type LoadDifference } from './lineRecord.ts';
export { ABSENT_S, loadAbsences, loadWasThere, type LoadWitnesses } from './loadPresence.ts';
export { phaseInWords, WAITS_FOR } from './phaseInWords.ts';
export { phasesOf, type PlannedPhase } from './plannedPhases.ts';
export { preflight, type PreflightCheck, type PreflightInput, type UsualSpeed, type PreflightKey } from './preflight.ts';
export {
  DEFAULT_SETTLED_RULE,
  endOfWait,
  PHASE_END_MODES,
  READ_WITHIN_K,
  waitedEnough,
  marksDue,
  phaseEnd,
  forSettling,
  recipeLengthS,
  settlingNow,
  settlingTrace,
  type ControlSetting,
  type PhaseEnd,
  type PhaseEndMode,
  type PhaseKind,
  type RecipePhase,
  type SettledRule,
} from './recipe.ts';
export { heldNow } from './heldNow.ts';
export { liveFigures, type LiveFigures, type LiveInput, type LiveLock, type LiveSpot } from './liveFigures.ts';
