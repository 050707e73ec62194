export {
  areaMm2,
  mapProblems,
  overlap,
  partAt,
  snapToPart,
  type BoardMap,
  type Face,
  type MapCover,
  type MapPad,
  type MapPart,
  type MapPlacement,
  type MapProblem,
  type Rect,
} from './boardMap.ts';
export { coverageOf, type Coverage, type CoveredPart, type Meeting, type PartHeat } from './coverage.ts';
export { fitCheck, type Envelope, type FitFinding, type MapZone } from './fitCheck.ts';
export { PAD_THICKNESSES_MM, padForAll, pasteAlone, unserved, type PadAdvice, type PadChoice, type PartUnderSink } from './padForAll.ts';
