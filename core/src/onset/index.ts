export { findOnset, lookedAtAround, type Around, type Onset } from './findOnset.ts';
export { changesOf, whichFirst, type Change, type Reaction } from './reactions.ts';
