export { CutOutWatch, type ArmedLimit, type CutOut } from './cutOut.ts';
export {
  DEFAULT_SETTLED_RULE,
  phaseEnd,
  recipeLengthS,
  settlingTrace,
  type PhaseEnd,
  type PhaseEndMode,
  type PhaseKind,
  type RecipePhase,
  type SettledRule,
} from './recipe.ts';
