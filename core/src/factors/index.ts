export { aliasesOf, type Factor, type Levels } from './aliases.ts';
export { anovaOneWay, type AnovaRow } from './anovaOneWay.ts';
export { combinations, countCombinations, ladder, MOST_COMBINATIONS, type Impossible } from './combine.ts';
export { fewestForMainEffects, fractionOf, type Fraction } from './fraction.ts';
export { fitMainEffects, type FittedEffect, type MainEffectsFit } from './fitMainEffects.ts';
export { factorEffects, type FactorialResult } from './factorEffects.ts';
