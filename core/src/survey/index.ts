export { correctMatrix, type CorrectedMatrix, type EmissivityRegion } from './correctMatrix.ts';
export { findHotSpots, type HotSpot } from './findHotSpots.ts';
export { MatrixProblem, parseMatrix } from './parseMatrix.ts';
export { registerPicture, type ReferencePoint, type Registration } from './registration.ts';
