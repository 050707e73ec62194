export { typeB, type TypeBShape } from './typeB.ts';
export { combineUncertainty, type UncertaintyBudget, type UncertaintyComponent } from './combineUncertainty.ts';
export { compare, type Comparison, type CompareInput, type Verdict } from './compare.ts';
export { detectableDifference } from './detectableDifference.ts';
export { repeatsNeeded, type RepeatsInput } from './repeatsNeeded.ts';
export { pooledRepeatability } from './pooledRepeatability.ts';
export { holm } from './holm.ts';
export { repeatsToShowAlike, type AlikeInput } from './repeatsToShowAlike.ts';
export { MOST_LOOKS, type StoppingRule } from './looks.ts';
