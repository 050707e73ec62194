export { removeBackground } from './removeBackground.ts';
export { sumLevels } from './sumLevels.ts';
export { sweepAt, type SweepPoint } from './sweepAt.ts';
