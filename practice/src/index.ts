export { draw, drawOf, plantedIn, plantedWords, type Drawn } from './draw.ts';
export { bodyOfExercise, exerciseOf, EXERCISES, type Exercise, type Thing } from './exercises.ts';
export { mark, type Work } from './mark.ts';
export { TRAP_WORDS, type Trap } from './traps.ts';
export { isKnown, truthOf, type True } from './truth.ts';
