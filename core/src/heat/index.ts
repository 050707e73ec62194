export { projectAmbient } from './projectAmbient.ts';
export { padStack, type PadContact, type PadStack, type PadStackInput } from './padStack.ts';
export { partBeneath, type PartBeneathInput } from './partBeneath.ts';
export { recirculation } from './recirculation.ts';
export { thermalResistance } from './thermalResistance.ts';
export { pasteLayer, type PasteLayer } from './pasteLayer.ts';
export { sumOfLevels } from './sumOfLevels.ts';
