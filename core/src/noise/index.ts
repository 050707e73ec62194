export { removeBackground } from './removeBackground.ts';
export { sumLevels } from './sumLevels.ts';
